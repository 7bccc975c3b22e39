import { MOST } from '@firm-needle/core/formats';
import type { Problem, SiteControl } from '@firm-needle/contract';
import { useSaveControlMutation } from '../../store/api.ts';
import { retiredApart } from '../../ui/Meanwhile.tsx';
import { RecordDialog, type FieldSpec, type Fields } from '../../ui/RecordDialog.tsx';
import { problemOf } from '../../ui/States.tsx';
import { Retire } from './Retire.tsx';
import { controlFields, controlForm, INTERVAL_FIELDS } from './words.ts';

const FIELDS: readonly FieldSpec<Fields>[] = [
  { name: 'name', label: 'Name of the control', needed: 'Type what it is called there.', wide: true },
  { name: 'story', label: 'What to know of it', most: MOST.lines, wide: true },
  ...INTERVAL_FIELDS,
];

/** A control's name, its equipment, and when it comes round again. */
export function ControlDialog({
  control,
  equipmentId,
  places,
  onClose,
}: {
  control: SiteControl;
  equipmentId: string;
  /** Equipment of the same site that it can be moved to. */
  places: readonly { readonly id: string; readonly name: string }[];
  onClose: () => void;
}) {
  const [save] = useSaveControlMutation();
  const keep = async (f: Fields, version: number, retired = control.retired): Promise<Problem | undefined> =>
    problemOf(
      (
        await save({
          id: control.id,
          body: controlForm(f, {
            equipmentId: f['equipment'] || equipmentId,
            family: control.family,
            version,
            retired,
          }),
        })
      ).error,
    );
  const values = (c: SiteControl & { readonly equipmentId?: string }): Fields => ({
    ...controlFields(c),
    equipment: c.equipmentId ?? equipmentId,
  });
  return (
    <RecordDialog
      title={control.name}
      fields={[
        ...FIELDS,
        { name: 'equipment', label: 'On', kind: places.map((p) => [p.id, p.name] as const), wide: true },
      ]}
      values={values(control)}
      version={control.version}
      onKeep={(f, version, taken) => keep(f, version, (taken as SiteControl | undefined)?.retired)}
      beside={(current) => retiredApart(control.retired, (current as SiteControl).retired)}
      shown={(current) => {
        const now = current as SiteControl | undefined;
        return now && { values: values(now), version: now.version };
      }}
      keep="Keep the control"
      onClose={onClose}
      acts={
        <Retire
          of={control}
          what="it"
          onRetire={(r) => keep(values(control), control.version + 1, r)}
          done={onClose}
        />
      }
    />
  );
}
