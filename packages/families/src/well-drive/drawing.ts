import type { Drawing } from '@firm-needle/core/family';
import { box, drawn, line } from '../define/index.js';
import { onWaterMain, waterMain } from '../shared/waterMain.js';
import { parts } from './parts.js';

/** A drive on the wall, its keys and its pressure sensor, and the small tank. */
export const drawing = (): Drawing =>
  drawn(parts, {
    title: 'Drive, sensor and tank',
    seen: 'seen from its front',
    outline: [box(24, 16, 54, 56), line([51, 72], [51, 88]), ...waterMain],
    parts: [
      {
        id: 'keys',
        glyph: 'display',
        at: [51, 34],
        title: 'Keys and display',
        label: [40, 10],
        anchor: 'middle',
        adjusters: ['keys'],
      },
      {
        id: 'power',
        glyph: 'switch',
        at: [98, 32],
        title: 'Disconnect',
        label: [98, 18],
        anchor: 'middle',
        handles: ['power'],
      },
      {
        id: 'sensor',
        glyph: 'port',
        at: [51, 92],
        title: 'Sensor line',
        label: [44, 84],
        anchor: 'end',
        handles: ['bleed'],
      },
      {
        id: 'gauge',
        glyph: 'gauge',
        at: [74, 90],
        title: 'Water gauge',
        label: [83, 90],
        anchor: 'start',
        slots: ['system'],
        handles: ['gauge'],
      },
      ...onWaterMain('Taps'),
    ],
  });
