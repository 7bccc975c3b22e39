import type { FamilyMeta } from '@firm-needle/core/family';

export const steamControlMeta: FamilyMeta = {
  id: 'steam-control',
  title: 'Steam boiler control',
  version: 1,
  what: 'A pressure control that stops and starts the burner of a low-pressure steam boiler, or a limit with a reset button.',
  trace: { kind: 'clicks' },
};
