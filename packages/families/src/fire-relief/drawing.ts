import type { Drawing } from '@firm-needle/core/family';
import { drawn, line, pipe, round, box } from '../define/index.js';
import { parts } from './parts.js';

/** A fire pump, its main relief with the pilot on top, and the test header. */
export const drawing = (): Drawing =>
  drawn(parts, {
    title: 'Fire pump and its main relief',
    seen: 'seen from the pump’s front',
    outline: [
      pipe([4, 98], [156, 98]),
      round(34, 90, 15),
      pipe([92, 98], [92, 80]),
      round(92, 70, 11),
      pipe([103, 70], [122, 70], [122, 84]),
      line([116, 86], [128, 86]),
      pipe([92, 59], [92, 46]),
      box(82, 34, 20, 12),
    ],
    parts: [
      {
        id: 'pilot',
        glyph: 'screw',
        at: [92, 27],
        title: 'Pilot screw',
        label: [92, 14],
        anchor: 'middle',
        adjusters: ['pilot'],
      },
      {
        id: 'pump',
        glyph: 'motor',
        at: [34, 90],
        title: 'Pump',
        label: [34, 70],
        anchor: 'middle',
        handles: ['pump'],
        adjusters: ['speed'],
      },
      {
        id: 'suction',
        glyph: 'gauge',
        at: [12, 84],
        title: 'Suction gauge',
        label: [2, 114],
        anchor: 'start',
        slots: ['suction'],
        handles: ['gauges'],
      },
      {
        id: 'system',
        glyph: 'gauge',
        at: [68, 84],
        title: 'System gauge',
        label: [84, 114],
        anchor: 'middle',
        slots: ['system'],
        handles: ['gauges', 'at'],
      },
      {
        id: 'sensing',
        glyph: 'port',
        at: [76, 52],
        title: 'Sensing line',
        label: [68, 52],
        anchor: 'end',
        handles: ['sensing'],
      },
      {
        id: 'header',
        glyph: 'cock',
        at: [146, 98],
        title: 'Test header',
        label: [140, 114],
        anchor: 'middle',
        handles: ['header'],
      },
    ],
  });
