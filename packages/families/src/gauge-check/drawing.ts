import type { Drawing } from '@firm-needle/core/family';
import { box, drawn, pipe, round } from '../define/index.js';
import { parts } from './parts.js';

/** The gauge under test beside what it is held against: a cylinder with its thermometer, or a pump with the better gauge. */
export const drawing = (): Drawing =>
  drawn(parts, {
    title: 'Gauge under test, and what it is held against',
    seen: 'seen from the bench’s front',
    outline: [
      pipe([30, 70], [30, 92], [146, 92]),
      box(100, 40, 28, 46),
      round(114, 40, 8),
      box(6, 104, 148, 6),
    ],
    parts: [
      {
        id: 'test',
        glyph: 'gauge',
        at: [30, 58],
        title: 'Gauge under test',
        label: [30, 40],
        anchor: 'middle',
        slots: ['test'],
        handles: ['port'],
      },
      {
        id: 'reference',
        glyph: 'gauge',
        at: [70, 76],
        title: 'The better gauge',
        label: [70, 60],
        anchor: 'middle',
        slots: ['reference'],
      },
      {
        id: 'valve',
        glyph: 'cock',
        at: [114, 92],
        title: 'Cylinder valve',
        label: [114, 101],
        anchor: 'middle',
        handles: ['valve'],
      },
      {
        id: 'place',
        glyph: 'port',
        at: [114, 64],
        title: 'Cylinder, upright',
        label: [114, 26],
        anchor: 'middle',
        handles: ['place'],
      },
      {
        id: 'probe',
        glyph: 'stem',
        at: [136, 72],
        title: 'Thermometer',
        label: [156, 60],
        anchor: 'end',
        slots: ['thermometer'],
        handles: ['probe'],
      },
      {
        id: 'pump',
        glyph: 'lever',
        at: [146, 92],
        title: 'Pump',
        label: [156, 80],
        anchor: 'end',
        handles: ['pump'],
      },
    ],
  });
