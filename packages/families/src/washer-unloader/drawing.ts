import type { Drawing } from '@firm-needle/core/family';
import { box, drawn, line, pipe, spring } from '../define/index.js';
import { parts } from './parts.js';

/** An unloader on the pump’s head: its handle with the spring under it, the gauge, and the gun. */
export const drawing = (): Drawing =>
  drawn(parts, {
    title: 'Unloader, gauge and gun',
    seen: 'seen from the pump’s side',
    outline: [
      box(10, 76, 34, 30),
      pipe([44, 92], [138, 92]),
      box(56, 80, 20, 24),
      spring(66, 46, 80),
      line([138, 92], [154, 84]),
      line([138, 92], [134, 108]),
    ],
    parts: [
      {
        id: 'handle',
        glyph: 'knob',
        at: [66, 38],
        title: 'Unloader handle',
        label: [66, 22],
        anchor: 'middle',
        adjusters: ['handle'],
      },
      {
        id: 'engine',
        glyph: 'motor',
        at: [27, 91],
        title: 'Engine and pump',
        label: [32, 70],
        anchor: 'middle',
        handles: ['engine'],
      },
      {
        id: 'test',
        glyph: 'gauge',
        at: [98, 78],
        title: 'Test gauge',
        label: [98, 62],
        anchor: 'middle',
        slots: ['test'],
      },
      {
        id: 'trigger',
        glyph: 'lever',
        at: [128, 92],
        title: 'Trigger',
        label: [118, 112],
        anchor: 'middle',
        handles: ['trigger'],
      },
      {
        id: 'nozzle',
        glyph: 'port',
        at: [152, 84],
        title: 'Nozzle',
        label: [156, 72],
        anchor: 'end',
        handles: ['nozzle'],
      },
    ],
  });
