import type { FamilyMeta } from '@firm-needle/core/family';

export const wellSwitchMeta: FamilyMeta = {
  id: 'well-switch',
  title: 'Well pump switch and tank',
  version: 1,
  what: 'A pressure switch that starts and stops a well pump, and the air charge of its tank.',
  trace: { kind: 'cycles' },
};
