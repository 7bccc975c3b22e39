import type { FamilyMeta } from '@firm-needle/core/family';

export const wellDriveMeta: FamilyMeta = {
  id: 'well-drive',
  title: 'Constant-pressure pump drive',
  version: 1,
  what: 'A drive that holds one pressure by the pump’s speed, and the small tank beside it.',
  trace: { kind: 'cycles', title: 'Constant-pressure drive' },
};
