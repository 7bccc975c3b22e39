import type { FamilyMeta } from '@firm-needle/core/family';

export const airSupplyMeta: FamilyMeta = {
  id: 'air-supply',
  title: 'Air supply',
  version: 1,
  what: 'A compressor’s tank, the regulator at its wall and the gun at the end of its hose: what each holds while it sprays.',
  trace: { kind: 'air' },
};
