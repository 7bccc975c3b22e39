import type {
  EquipmentForm,
  Site,
  SiteControl,
  SiteEquipment,
  SiteForm,
  ControlForm,
} from '@firm-needle/contract';
import { ALTITUDE_M, INTERVAL_MONTHS, MOST, YEAR_MADE } from '@firm-needle/core/formats';
import { unitsOf } from '@firm-needle/core/quantity';
import { typedLine, typedNumber, type FieldSpec, type Fields } from '../../ui/RecordDialog.tsx';

export const UNITS: readonly (readonly [string, string])[] = [
  ['', 'as each setting is usually read'],
  ...unitsOf('pressure')
    .filter((u) => !u.kind)
    .map((u) => [u.id, u.symbol ?? u.id] as const),
];

export type SiteFields = Fields;
export const SITE_FIELDS: readonly FieldSpec<SiteFields>[] = [
  { name: 'name', label: 'Name of the site', needed: 'Type the name that the firm knows it by.' },
  { name: 'customer', label: 'Customer' },
  { name: 'address', label: 'Address', kind: 'lines', most: MOST.lines },
  { name: 'contact', label: 'Contact', most: MOST.contact },
  {
    name: 'altitude_m',
    label: 'Height above the sea, m',
    kind: 'number',
    ...ALTITUDE_M,
    needed: 'Type it: air weighs less up a hill, and gauges read by it.',
    hint: 'air weighs less up a hill',
  },
  { name: 'access', label: 'How to get in', kind: 'lines', most: MOST.lines },
  {
    name: 'hazards',
    label: 'Hazards there',
    kind: 'lines',
    most: MOST.lines,
    hint: 'read before every visit',
  },
  { name: 'unit', label: 'Customer’s unit of pressure', kind: UNITS },
  { name: 'notes', label: 'Notes', kind: 'lines', most: MOST.notes },
];
export const siteFields = (s: Site | undefined): SiteFields => ({
  name: s?.name ?? '',
  altitude_m: s ? String(s.altitude_m) : '',
  customer: s?.customer ?? '',
  address: s?.address ?? '',
  contact: s?.contact ?? '',
  access: s?.access ?? '',
  hazards: s?.hazards ?? '',
  unit: s?.unit ?? '',
  notes: s?.notes ?? '',
});
export const siteForm = (f: Fields, version: number, retired = false): SiteForm => ({
  version,
  name: (f['name'] ?? '').trim(),
  altitude_m: typedNumber(f['altitude_m']) ?? 0,
  customer: typedLine(f['customer']),
  address: typedLine(f['address']),
  contact: typedLine(f['contact']),
  access: typedLine(f['access']),
  hazards: typedLine(f['hazards']),
  unit: typedLine(f['unit']),
  notes: typedLine(f['notes']),
  retired,
});

export const EQUIPMENT_FIELDS: readonly FieldSpec<Fields>[] = [
  { name: 'name', label: 'Name of the equipment', needed: 'Type what it is called there.', wide: true },
  { name: 'maker', label: 'Maker, from its plate', most: MOST.plate },
  { name: 'model', label: 'Model', most: MOST.plate },
  { name: 'serial', label: 'Serial', most: MOST.plate },
  { name: 'made', label: 'Year', kind: 'number', ...YEAR_MADE },
  { name: 'notes', label: 'Notes', kind: 'lines', most: MOST.notes },
];
export const equipmentFields = (e: SiteEquipment | undefined): Fields => ({
  name: e?.name ?? '',
  maker: e?.maker ?? '',
  model: e?.model ?? '',
  serial: e?.serial ?? '',
  made: e?.made ? String(e.made) : '',
  notes: e?.notes ?? '',
});
export const equipmentForm = (
  f: Fields,
  siteId: string,
  version: number,
  retired = false,
): EquipmentForm => ({
  version,
  siteId,
  name: (f['name'] ?? '').trim(),
  maker: typedLine(f['maker']),
  model: typedLine(f['model']),
  serial: typedLine(f['serial']),
  made: typedNumber(f['made']),
  notes: typedLine(f['notes']),
  retired,
});

/** When a control comes round again; its kind and its place are not changed here. */
export const INTERVAL_FIELDS: readonly FieldSpec<Fields>[] = [
  {
    name: 'months',
    label: 'Months between checks',
    kind: 'number',
    ...INTERVAL_MONTHS,
    hint: 'empty: twelve',
  },
  { name: 'customerDay', label: 'Day the customer asked for', kind: 'day' },
  {
    name: 'lawMonths',
    label: 'Months set by law or insurer',
    kind: 'number',
    ...INTERVAL_MONTHS,
    hint: 'if any',
  },
  { name: 'lawBy', label: 'By whom' },
];
export const controlFields = (c: Omit<SiteControl, 'id'> | undefined): Fields => ({
  name: c?.name ?? '',
  story: c?.story ?? '',
  months: c?.months ? String(c.months) : '',
  customerDay: c?.customerDay ?? '',
  lawMonths: c?.lawMonths ? String(c.lawMonths) : '',
  lawBy: c?.lawBy ?? '',
});
export const controlForm = (
  f: Fields,
  of: {
    readonly equipmentId: string;
    readonly family: string;
    readonly version: number;
    readonly retired?: boolean;
  },
): ControlForm => ({
  ...of,
  name: (f['name'] ?? '').trim(),
  story: typedLine(f['story']),
  months: typedNumber(f['months']),
  customerDay: typedLine(f['customerDay']),
  lawMonths: typedNumber(f['lawMonths']),
  lawBy: typedLine(f['lawBy']),
});
