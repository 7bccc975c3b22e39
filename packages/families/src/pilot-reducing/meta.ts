import type { FamilyMeta } from '@firm-needle/core/family';

export const pilotReducingMeta: FamilyMeta = {
  id: 'pilot-reducing',
  title: 'Pilot-operated reducing valve',
  version: 1,
  what: 'A pilot-operated pressure-reducing valve: set only under flow, proved when the draw is shut.',
  trace: { kind: 'levels', title: 'Reducing valve' },
};
