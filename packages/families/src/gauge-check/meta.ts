import type { FamilyMeta } from '@firm-needle/core/family';

export const gaugeCheckMeta: FamilyMeta = {
  id: 'gauge-check',
  title: 'Test gauge',
  version: 1,
  what: 'A test gauge: its zero, and its span against a saturated refrigerant, a better gauge or a water column.',
  subject: 'gauge',
};
