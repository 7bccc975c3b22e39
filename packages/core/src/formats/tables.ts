// The columns of a table that sites, equipment and controls are read in from, by what each of them tells of.

export const SITE_COLUMNS = [
  'customer',
  'address',
  'contact',
  'access',
  'hazards',
  'altitude_m',
  'unit',
] as const;
export const EQUIPMENT_COLUMNS = ['maker', 'model', 'serial', 'made'] as const;
export const CONTROL_COLUMNS = ['kind', 'story', 'months', 'law_months', 'law_by', 'customer_day'] as const;

/** All of them, in the order in which they are named; only `site` must be there. */
export const TABLE_COLUMNS = [
  'site',
  ...SITE_COLUMNS,
  'equipment',
  ...EQUIPMENT_COLUMNS,
  'control',
  ...CONTROL_COLUMNS,
] as const;

export type TableColumn = (typeof TABLE_COLUMNS)[number];
