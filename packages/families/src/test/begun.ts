// A job of a pump switch that was begun, and how it is seen some minutes later.
import { FoldedJob } from '@firm-needle/core/procedure';
import { HandLog, planOf, startedOf } from '../testing.js';
import { family as wellSwitch } from '../well-switch/index.js';

export const view = (h: HandLog, minutesLater = 0, device = 'tablet'): FoldedJob =>
  new FoldedJob(wellSwitch, h.log.state, {
    wall: new Date(Date.UTC(2030, 0, 1, 8, h.minute + minutesLater)).toISOString(),
    device,
  });

export const procedure = wellSwitch.procedure(planOf());

export function begun(): HandLog {
  const h = new HandLog();
  h.add(startedOf(planOf()));
  return h;
}
