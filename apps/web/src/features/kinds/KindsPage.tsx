import { draftOf, makePlan, type Drawing, type Family } from '@firm-needle/core/family';
import { families, loadFamily } from '@firm-needle/families';
import type { Problem, Site } from '@firm-needle/contract';
import Button from '@mui/material/Button';
import { useState } from 'react';
import { Link, useNavigate, useSearchParams } from 'react-router';
import { v7 as uuid } from 'uuid';
import { useSaveControlMutation, useSaveEquipmentMutation, useSitesQuery } from '../../store/api.ts';
import { useKeepNew } from '../../store/keep.ts';
import { DeviceDrawing } from '../../ui/drawing/DeviceDrawing.tsx';
import { RecordDialog, type FieldSpec, type Fields } from '../../ui/RecordDialog.tsx';
import { Failed, Loading, problemOf } from '../../ui/States.tsx';
import { useLoaded } from '../../ui/useLoaded.ts';
import './kinds.css';

/** A kind of control with its drawing. */
interface Kind {
  readonly family: Family;
  readonly drawing: Drawing;
}

/** Every kind that can be chosen: what is a gauge is entered with the gauges. */
async function allKinds(): Promise<readonly Kind[]> {
  const all = await Promise.all(
    families()
      .filter((f) => !f.subject)
      .map((f) => loadFamily(f.id)),
  );
  return all.map((family) => ({
    family,
    drawing: family.drawing(makePlan(family, draftOf(family, family.variants[0]?.id ?? '', {}))),
  }));
}

/** Which kind of control it is, by a small drawing of each; then its name, and where it stands. */
export function KindsPage() {
  const kinds = useLoaded(allKinds, 'kinds');
  const sites = useSitesQuery();
  const [params] = useSearchParams();
  const [chosen, setChosen] = useState<Family>();
  if (!kinds || sites.isLoading) return <Loading what="the kinds of control" />;
  if (!sites.data) return <Failed problem={problemOf(sites.error)} retry={() => void sites.refetch()} />;
  const place = placeOf(sites.data.items, params.get('equipment'), params.get('site'));
  return (
    <>
      <div className="page-head">
        <h1>What kind of control is it?</h1>
        <span className="soft">{place.said}</span>
      </div>
      {chosen && (
        <NewControl
          family={chosen}
          place={place}
          sites={sites.data.items}
          onClose={() => setChosen(undefined)}
        />
      )}
      <ul className="kinds">
        {kinds.map(({ family, drawing }) => (
          <li key={family.meta.id}>
            <button type="button" className="kind" onClick={() => setChosen(family)}>
              <DeviceDrawing drawing={drawing} lit={[]} said="" />
              <strong>{family.meta.title}</strong>
              <span className="soft">{family.meta.what}</span>
            </button>
          </li>
        ))}
      </ul>
      <p className="soft">
        A test gauge of your own is entered under <Link to="/gauges">Gauges</Link>.
      </p>
    </>
  );
}

interface Place {
  readonly site: Site | undefined;
  readonly equipment: string | undefined;
  readonly said: string;
}

function placeOf(sites: readonly Site[], equipmentId: string | null, siteId: string | null): Place {
  const site =
    sites.find((s) => s.equipment.some((e) => e.id === equipmentId)) ?? sites.find((s) => s.id === siteId);
  const equipment = site?.equipment.find((e) => e.id === equipmentId);
  return { site, equipment: equipment?.id, said: [site?.name, equipment?.name].filter(Boolean).join(' · ') };
}

const NEW = 'new';

/** Its name, and the equipment it is on, which may be new as well; works with no signal. */
function NewControl({
  family,
  place,
  sites,
  onClose,
}: {
  family: Family;
  place: Place;
  sites: readonly Site[];
  onClose: () => void;
}) {
  const navigate = useNavigate();
  const [saveControl] = useSaveControlMutation();
  const [saveEquipment] = useSaveEquipmentMutation();
  const keepNew = useKeepNew();
  const [ids] = useState(() => ({ control: uuid(), equipment: uuid() }));
  const shown = place.site ? [place.site] : sites;
  const options = [
    ...shown.flatMap((s) =>
      s.equipment.map((e) => [e.id, place.site ? e.name : `${s.name} · ${e.name}`] as const),
    ),
    ...(place.site ? ([[NEW, 'other equipment, named below']] as const) : []),
  ];
  const fields: readonly FieldSpec<Fields>[] = [
    { name: 'name', label: 'Name of the control', needed: 'Type what it is called there.', wide: true },
    { name: 'equipment', label: 'On', kind: options, needed: 'Choose what it stands on.', wide: true },
    ...(place.site ? [{ name: 'other', label: 'Name of the other equipment', wide: true }] : []),
  ];
  const keep = async (f: Fields): Promise<Problem | undefined> => {
    const other = (f['other'] ?? '').trim();
    const isNew = f['equipment'] === NEW;
    if (isNew && other === '') return wrong('other', 'Type what the other equipment is called.');
    const equipmentId = isNew ? ids.equipment : (f['equipment'] ?? '');
    if (isNew && place.site) {
      const body = { version: 1, siteId: place.site.id, name: other };
      const problem = await keepNew(`/equipment/${ids.equipment}`, body, () =>
        saveEquipment({ id: ids.equipment, body }),
      );
      if (problem) return problem;
    }
    const body = { version: 1, equipmentId, name: (f['name'] ?? '').trim(), family: family.meta.id };
    const problem = await keepNew(`/controls/${ids.control}`, body, () =>
      saveControl({ id: ids.control, body }),
    );
    if (!problem) void navigate(`/controls/${ids.control}`);
    return problem;
  };
  if (options.length === 0)
    return (
      <p className="caution" role="alert">
        <strong>There is no equipment to put it on.</strong>{' '}
        <Link to="/sites">Enter a site and its equipment first.</Link>{' '}
        <Button size="small" onClick={onClose}>
          Back
        </Button>
      </p>
    );
  return (
    <RecordDialog
      title={family.meta.title}
      fields={fields}
      values={{
        name: '',
        equipment: place.equipment ?? (place.site && options.length === 1 ? NEW : ''),
        other: '',
      }}
      version={0}
      onKeep={keep}
      keep="Go on to its plate"
      onClose={onClose}
    />
  );
}

const wrong = (field: string, message: string): Problem => ({
  status: 422,
  code: 'not-valid',
  detail: message,
  errors: [{ field, message }],
});
