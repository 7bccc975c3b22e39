import type { FamilyMeta } from '@firm-needle/core/family';

export const breathingSecondStageMeta: FamilyMeta = {
  id: 'breathing-second-stage',
  title: 'Second stage',
  version: 1,
  what: 'The second stage of a breathing regulator: its first stage proved first, then the suction at which it opens.',
  trace: { kind: 'cracking', title: 'Second stage' },
};
