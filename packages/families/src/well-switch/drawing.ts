import type { Drawing } from '@firm-needle/core/family';
import { box, drawn, line, pipe, spring } from '../define/index.js';
import { onWaterMain, waterMain } from '../shared/waterMain.js';
import { parts } from './parts.js';

/** A pump switch on the tank tee, its cover off, and the tank with its air valve. */
export const drawing = (): Drawing =>
  drawn(parts, {
    title: 'Pump switch, cover off, at the tank tee',
    seen: 'seen from its front',
    outline: [
      box(16, 78, 62, 6),
      box(50, 40, 28, 38),
      line([57, 46], [57, 72]),
      line([64, 46], [64, 72]),
      line([71, 46], [71, 72]),
      spring(27, 48, 78),
      spring(42, 62, 78, 3.5),
      pipe([40, 84], [40, 100]),
      ...waterMain,
    ],
    parts: [
      {
        id: 'range',
        glyph: 'nut',
        at: [27, 42],
        title: 'Range nut',
        label: [20, 29],
        anchor: 'middle',
        adjusters: ['range'],
      },
      {
        id: 'differential',
        glyph: 'nut',
        at: [42, 57],
        title: 'Differential nut',
        label: [38, 34],
        anchor: 'start',
        adjusters: ['differential'],
      },
      {
        id: 'power',
        glyph: 'switch',
        at: [90, 24],
        title: 'Disconnect',
        label: [90, 12],
        anchor: 'middle',
        handles: ['power'],
      },
      {
        id: 'gauge',
        glyph: 'gauge',
        at: [62, 92],
        title: 'Water gauge',
        label: [74, 91],
        anchor: 'start',
        slots: ['system'],
        handles: ['gauge'],
      },
      ...onWaterMain('Tap'),
    ],
  });
