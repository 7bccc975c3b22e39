import type { Drawing } from '@firm-needle/core/family';
import type { Plan } from '@firm-needle/core/procedure';
import { box, drawn, line, pipe, round, spring } from '../define/index.js';
import { isIndustrial, isPiston, parts } from './parts.js';

/** A first stage on its bottle, its hose to a gauge with a bleed, a relief in the line. */
export const drawing = (plan: Pick<Plan, 'variant'>): Drawing =>
  drawn(parts, {
    title: isIndustrial(plan) ? 'Cylinder regulator: not for breathing' : 'First stage on its bench',
    seen: 'seen from its side, gas from left to right',
    outline: [
      box(4, 66, 26, 50),
      pipe([17, 66], [17, 54], [46, 54]),
      box(46, 42, 34, 24),
      box(50, 20, 26, 22),
      ...(isPiston(plan) ? [line([63, 42], [63, 60]), line([54, 46], [72, 46])] : [spring(63, 24, 40)]),
      pipe([80, 54], [146, 54]),
      round(63, 54, 6),
    ],
    parts: [
      {
        id: 'adjuster',
        glyph: isPiston(plan) ? 'stem' : isIndustrial(plan) ? 'knob' : 'screw',
        at: [63, 14],
        title: isPiston(plan) ? 'Shim pack' : isIndustrial(plan) ? 'Knob' : 'Spring screw',
        label: [74, 12],
        anchor: 'start',
        adjusters: ['screw', 'pack'],
        handles: ['cap', 'knob'],
      },
      {
        id: 'supply',
        glyph: 'cock',
        at: [17, 60],
        title: 'Supply',
        label: [4, 46],
        anchor: 'start',
        handles: ['supply', 'valve'],
      },
      {
        id: 'relief',
        glyph: 'port',
        at: [92, 54],
        title: 'Relief',
        label: [92, 70],
        anchor: 'middle',
        handles: ['relief', 'joints'],
      },
      {
        id: 'gauge',
        glyph: 'gauge',
        at: [118, 40],
        title: 'Gauge',
        label: [118, 24],
        anchor: 'middle',
        slots: ['ip', 'outlet'],
      },
      {
        id: 'bleed',
        glyph: 'cock',
        at: [118, 66],
        title: 'Bleed',
        label: [118, 82],
        anchor: 'middle',
        handles: ['bleed'],
      },
      {
        id: 'purge',
        glyph: 'button',
        at: [146, 54],
        title: isIndustrial(plan) ? 'Cock' : 'Purge',
        label: [156, 70],
        anchor: 'end',
        handles: ['purge', 'cock'],
      },
    ],
  });
