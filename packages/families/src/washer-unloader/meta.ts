import type { FamilyMeta } from '@firm-needle/core/family';

export const washerUnloaderMeta: FamilyMeta = {
  id: 'washer-unloader',
  title: 'Washer unloader',
  version: 1,
  what: 'The pressure-trapping unloader of a pressure washer: one screw, two outcomes.',
  trace: { kind: 'unloader' },
};
