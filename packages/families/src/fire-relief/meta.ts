import type { FamilyMeta } from '@firm-needle/core/family';

export const fireReliefMeta: FamilyMeta = {
  id: 'fire-relief',
  title: 'Fire pump relief valve',
  version: 1,
  what: 'A pilot-operated pressure relief valve on a fire pump: found by its own discharge, set by count.',
  trace: { kind: 'relief', title: 'Fire pump relief' },
};
