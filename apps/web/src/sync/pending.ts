// Records that were made on this device and wait to be sent, as the server would answer them.
import type {
  Control,
  ControlForm,
  ControlPhoto,
  ControlPhotoForm,
  EquipmentForm,
  Site,
  SiteControl,
  SiteEquipment,
  SiteForm,
} from '@firm-needle/contract';
import type { Plan } from '@firm-needle/core/procedure';
import { familyExists } from '@firm-needle/families';
import { inOrderMade, withDb, type KeptPut } from './db.ts';

type Put = Pick<KeptPut, 'path' | 'body'>;

/** Requests that wait, in the order they were made; none where this device cannot read what it keeps: lists are shown all the same. */
export const waiting = (): Promise<readonly KeptPut[]> =>
  withDb((db) => db.getAll('puts')).then(inOrderMade, () => []);

const record = <F>(puts: readonly Put[], of: string): readonly { readonly id: string; readonly form: F }[] =>
  puts.flatMap(({ path, body }) => {
    const id = new RegExp(`^/${of}/([\\da-f-]{36})$`).exec(path)?.[1];
    return id ? [{ id, form: body as F }] : [];
  });

const siteOf = (id: string, f: SiteForm): Site => ({
  id,
  name: f.name,
  altitude_m: f.altitude_m,
  notes: f.notes ?? null,
  customer: f.customer ?? null,
  address: f.address ?? null,
  contact: f.contact ?? null,
  access: f.access ?? null,
  hazards: f.hazards ?? null,
  unit: f.unit ?? null,
  version: f.version,
  retired: f.retired ?? false,
  equipment: [],
});

const equipmentOf = (id: string, f: EquipmentForm): SiteEquipment => ({
  id,
  name: f.name,
  notes: f.notes ?? null,
  maker: f.maker ?? null,
  model: f.model ?? null,
  serial: f.serial ?? null,
  made: f.made ?? null,
  version: f.version,
  retired: f.retired ?? false,
  controls: [],
});

const controlOf = (id: string, f: ControlForm): SiteControl => ({
  id,
  name: f.name,
  family: f.family,
  due: f.customerDay ?? null,
  story: f.story ?? null,
  months: f.months ?? null,
  lawMonths: f.lawMonths ?? null,
  lawBy: f.lawBy ?? null,
  customerDay: f.customerDay ?? null,
  version: f.version,
  retired: f.retired ?? false,
});

const placed = <T extends { readonly id: string }>(all: readonly T[], one: T): readonly T[] =>
  all.some((x) => x.id === one.id) ? all : [...all, one];

/** The sites as they were last answered, with what waits here put in its place. */
export function withWaiting(sites: readonly Site[], puts: readonly Put[]): readonly Site[] {
  let out = sites;
  for (const { id, form } of record<SiteForm>(puts, 'sites')) out = placed(out, siteOf(id, form));
  for (const { id, form } of record<EquipmentForm>(puts, 'equipment'))
    out = out.map((s) =>
      s.id === form.siteId ? { ...s, equipment: placed(s.equipment, equipmentOf(id, form)) } : s,
    );
  for (const { id, form } of record<ControlForm>(puts, 'controls'))
    out = out.map((s) => ({
      ...s,
      equipment: s.equipment.map((e) =>
        e.id === form.equipmentId ? { ...e, controls: placed(e.controls, controlOf(id, form)) } : e,
      ),
    }));
  return [...out].sort((a, b) => a.name.localeCompare(b.name));
}

/** The newest plan of a control that waits here. */
function planOf(puts: readonly Put[], id: string): Plan | null {
  const plans = puts.filter((p) => p.path.startsWith(`/controls/${id}/plans/`));
  const last = plans.at(-1)?.body as { version: number; plan: Plan } | undefined;
  return last ? { ...last.plan, version: last.version } : null;
}

/** A control that was made here and that the server has not seen; undefined where none waits under that id. */
export function waitingControl(
  id: string,
  sites: readonly Site[],
  puts: readonly Put[],
): Control | undefined {
  const found = record<ControlForm>(puts, 'controls').find((r) => r.id === id);
  if (!found) return undefined;
  for (const site of withWaiting(sites, puts))
    for (const equipment of site.equipment) {
      const control = equipment.controls.find((c) => c.id === id);
      if (!control) continue;
      return {
        ...control,
        available: familyExists(control.family),
        reasons: [],
        equipment: { id: equipment.id, name: equipment.name, notes: equipment.notes },
        site: { id: site.id, name: site.name, altitude_m: site.altitude_m },
        gauge: null,
        plan: planOf(puts, id),
        links: [],
        device: null,
        jobs: [],
      };
    }
  return undefined;
}

/** A control's photos with those that were added or taken away here and wait to be sent. */
export function withWaitingPhotos(
  known: readonly ControlPhoto[],
  control: string,
  puts: readonly KeptPut[],
): readonly ControlPhoto[] {
  const own = record<ControlPhotoForm>(puts, `controls/${control}/photos`);
  const added = own.flatMap(({ id, form: { removed, ...photo } }) =>
    removed || known.some((p) => p.id === id)
      ? []
      : [{ ...photo, id, job: null, at: new Date().toISOString() }],
  );
  const gone = new Set(own.filter((p) => p.form.removed).map((p) => p.id));
  return [...added, ...known.filter((p) => !gone.has(p.id))];
}
