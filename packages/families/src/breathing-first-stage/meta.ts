import type { FamilyMeta } from '@firm-needle/core/family';

export const breathingFirstStageMeta: FamilyMeta = {
  id: 'breathing-first-stage',
  title: 'First stage',
  version: 1,
  what: 'The first stage of a breathing regulator: read at low and at full supply, adjusted only bled, watched for creep.',
  trace: { kind: 'dips', title: 'First stage' },
};
