import type { FamilyMeta } from '@firm-needle/core/family';

export const refrigerationSwitchMeta: FamilyMeta = {
  id: 'refrigeration-switch',
  title: 'Refrigeration switch',
  version: 1,
  what: 'Low- and high-pressure switches of a refrigeration system: when the compressor stops, starts, and is held off.',
  trace: { kind: 'clicks' },
};
