import type { FamilyMeta } from '@firm-needle/core/family';

export const spaFlowSwitchMeta: FamilyMeta = {
  id: 'spa-flow-switch',
  title: 'Spa heater flow switch',
  version: 1,
  what: 'The switch that closes when the pump makes pressure in a spa heater, set by a wheel without a scale.',
};
