import { families } from '@firm-needle/families';
import { symbolOf } from '@firm-needle/core/quantity';
import type { Site, SiteControl, SiteEquipment } from '@firm-needle/contract';
import Button from '@mui/material/Button';
import { format, parseISO } from 'date-fns';
import { useRef, useState } from 'react';
import { Link, useNavigate, useParams } from 'react-router';
import { v7 as uuid } from 'uuid';
import {
  useCopyControlMutation,
  useCopySiteMutation,
  useRetiredSitesQuery,
  useSitesQuery,
} from '../../store/api.ts';
import { useMe } from '../../store/me.ts';
import { Empty, Failed, Loading, problemOf } from '../../ui/States.tsx';
import { ControlDialog } from './ControlDialog.tsx';
import { EquipmentDialog } from './EquipmentDialog.tsx';
import { SitePapers } from './SitePapers.tsx';
import { SiteDialog } from './SiteDialog.tsx';
import './sites.css';

const kinds = new Map(families().map((f) => [f.id, f]));

type Editing =
  | { readonly what: 'site' }
  | { readonly what: 'equipment'; readonly equipment?: SiteEquipment }
  | { readonly what: 'control'; readonly control: SiteControl; readonly equipment: SiteEquipment };

/** One site: who it belongs to, how to get in, what is there, and everything that can be entered of it. */
export function SitePage() {
  const { id = '' } = useParams();
  const sites = useSitesQuery();
  const listed = sites.data?.items.find((s) => s.id === id);
  const [all, setAll] = useState(false);
  const retired = useRetiredSitesQuery(undefined, { skip: !sites.data || (listed !== undefined && !all) });
  const whole = retired.data?.items.find((s) => s.id === id);
  const site = all ? (whole ?? listed) : (listed ?? whole);
  if (sites.isLoading || (!listed && retired.isLoading)) return <Loading what="the site" />;
  if (!sites.data) return <Failed problem={problemOf(sites.error)} retry={() => void sites.refetch()} />;
  if (!site)
    return (
      <Empty>
        There is no such site here. <Link to="/sites">All sites</Link>
      </Empty>
    );
  return (
    <>
      <TheSite key={site.id} site={site} />
      {!site.retired && (
        <p>
          <Button variant="text" size="small" onClick={() => setAll(!all)}>
            {all ? 'Hide what was retired' : 'Show what was retired, too'}
          </Button>
        </p>
      )}
    </>
  );
}

function TheSite({ site }: { site: Site }) {
  const may = useMe().role !== 'reader';
  const navigate = useNavigate();
  const [editing, setEditing] = useState<Editing>();
  const [copySite, copied] = useCopySiteMutation();
  const [copyControl, second] = useCopyControlMutation();
  const close = (): void => setEditing(undefined);
  // One copy a press, and one press at a time.
  const copying = useRef(false);
  const once = async (work: () => Promise<void>): Promise<void> => {
    if (copying.current) return;
    copying.current = true;
    await work();
    copying.current = false;
  };
  const copy = async (): Promise<void> => {
    const id = uuid();
    const done = await copySite({ id, body: { from: site.id, name: `${site.name} (copy)`.slice(0, 120) } });
    if (done.data) void navigate(`/sites/${id}`);
  };
  const twice = async (c: SiteControl): Promise<void> => {
    await copyControl({ id: uuid(), body: { from: c.id, name: `${c.name} 2`.slice(0, 120) } });
  };
  const problem = problemOf(copied.error) ?? problemOf(second.error);
  return (
    <>
      <div className="page-head">
        <h1>{site.name}</h1>
        <span className="soft">
          {[site.customer, `${site.altitude_m} m`, site.unit && symbolOf(site.unit)]
            .filter(Boolean)
            .join(' · ')}
          {site.retired && <strong> · retired</strong>}
        </span>
        <span className="grow" />
        <SitePapers site={site.id} />
        {may && (
          <>
            <Button onClick={() => setEditing({ what: 'site' })}>Change</Button>
            <Button onClick={() => void once(copy)} disabled={copied.isLoading}>
              Copy its set-up
            </Button>
          </>
        )}
      </div>
      {problem && (
        <p className="caution" role="alert">
          <strong>{problem.detail}</strong> {problem.remedy}
        </p>
      )}
      {site.hazards && (
        <p className="caution">
          <strong>Hazards there.</strong> {site.hazards}
        </p>
      )}
      <dl className="site-facts">
        <Fact title="Address" text={site.address} />
        <Fact title="Contact" text={site.contact} />
        <Fact title="How to get in" text={site.access} />
        <Fact title="Notes" text={site.notes} />
      </dl>
      {site.equipment.length === 0 && (
        <Empty>
          Nothing is entered here yet. Begin with the equipment: the boiler, the well, the compressor. Then
          its controls.
        </Empty>
      )}
      {site.equipment.map((e) => (
        <section key={e.id} className="equipment" aria-label={e.name}>
          <header>
            <h2>{e.name}</h2>
            <span className="soft">
              {[e.maker, e.model, e.serial && `serial ${e.serial}`, e.made].filter(Boolean).join(' · ')}
              {e.retired && <strong> · retired</strong>}
            </span>
            <span className="grow" />
            {may && (
              <Button
                size="small"
                variant="text"
                onClick={() => setEditing({ what: 'equipment', equipment: e })}
              >
                Change
              </Button>
            )}
          </header>
          {e.notes && <p className="soft site-notes">{e.notes}</p>}
          <ul>
            {e.controls.map((c) => (
              <ControlRow
                key={c.id}
                control={c}
                {...(may && !kinds.get(c.family)?.subject
                  ? {
                      onChange: () => setEditing({ what: 'control', control: c, equipment: e }),
                      onCopy: () => void once(() => twice(c)),
                    }
                  : {})}
              />
            ))}
          </ul>
          {may && !e.retired && (
            <p className="equipment-add">
              <Link to={`/new-control?equipment=${e.id}`}>New control on it</Link>
            </p>
          )}
        </section>
      ))}
      {may && <Button onClick={() => setEditing({ what: 'equipment' })}>New equipment</Button>}
      {editing?.what === 'site' && <SiteDialog site={site} onClose={close} />}
      {editing?.what === 'equipment' && (
        <EquipmentDialog site={site.id} equipment={editing.equipment} onClose={close} />
      )}
      {editing?.what === 'control' && (
        <ControlDialog
          control={editing.control}
          equipmentId={editing.equipment.id}
          places={site.equipment.filter((e) => !e.retired || e.id === editing.equipment.id)}
          onClose={close}
        />
      )}
    </>
  );
}

function Fact({ title, text }: { title: string; text: string | null }) {
  if (!text) return null;
  return (
    <div>
      <dt>{title}</dt>
      <dd>{text}</dd>
    </div>
  );
}

function ControlRow({
  control: c,
  onChange,
  onCopy,
}: {
  control: SiteControl;
  onChange?: () => void;
  onCopy?: () => void;
}) {
  const kind = kinds.get(c.family);
  return (
    <li>
      <span>
        {kind ? <Link to={`/controls/${c.id}`}>{c.name}</Link> : c.name}
        <span className="soft"> · {kind?.title ?? 'not in this version yet'}</span>
        {c.retired && <strong> · retired</strong>}
      </span>
      <span className="control-acts">
        {c.due && <span className="soft">due {format(parseISO(c.due), 'd MMM yyyy')}</span>}
        {kind && (
          <Link to={`/controls/${c.id}/life`} aria-label={`Life of ${c.name}`}>
            Life
          </Link>
        )}
        {onChange && (
          <Button size="small" variant="text" onClick={onChange} aria-label={`Change ${c.name}`}>
            Change
          </Button>
        )}
        {onCopy && (
          <Button size="small" variant="text" onClick={onCopy} aria-label={`Another like it: ${c.name}`}>
            Another like it
          </Button>
        )}
      </span>
    </li>
  );
}
