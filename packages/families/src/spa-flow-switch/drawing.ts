import type { Drawing } from '@firm-needle/core/family';
import { box, drawn, pipe, round } from '../define/index.js';
import { parts } from './parts.js';

/** A pressure switch on a heater, with filter and pump before it. */
export const drawing = (): Drawing =>
  drawn(parts, {
    title: 'Pressure switch on the heater',
    seen: 'seen from its front',
    outline: [
      pipe([6, 92], [154, 92]),
      box(64, 70, 56, 44),
      box(78, 34, 28, 26),
      pipe([92, 60], [92, 70]),
      round(28, 72, 13),
    ],
    parts: [
      {
        id: 'wheel',
        glyph: 'wheel',
        at: [92, 42],
        title: 'Wheel',
        label: [92, 26],
        anchor: 'middle',
        adjusters: ['wheel'],
      },
      {
        id: 'power',
        glyph: 'switch',
        at: [142, 26],
        title: 'Power',
        label: [142, 14],
        anchor: 'middle',
        handles: ['power'],
      },
      {
        id: 'filter',
        glyph: 'port',
        at: [28, 72],
        title: 'Filter',
        label: [28, 54],
        anchor: 'middle',
        handles: ['filter'],
      },
      {
        id: 'pump',
        glyph: 'motor',
        at: [50, 92],
        title: 'Pump',
        label: [50, 108],
        anchor: 'middle',
        handles: ['pump'],
      },
      {
        id: 'valves',
        glyph: 'cock',
        at: [136, 92],
        title: 'Valves',
        label: [136, 108],
        anchor: 'middle',
        handles: ['valves'],
      },
      {
        id: 'prime',
        glyph: 'button',
        at: [50, 74],
        title: 'Bleed',
        label: [58, 66],
        anchor: 'middle',
        handles: ['prime'],
      },
    ],
  });
