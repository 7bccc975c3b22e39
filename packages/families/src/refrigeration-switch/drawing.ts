import type { Drawing } from '@firm-needle/core/family';
import type { Plan } from '@firm-needle/core/procedure';
import { box, drawn, line, pipe } from '../define/index.js';
import { hasHigh, hasLow, parts } from './parts.js';

/** The pressure switch with its spindles, cover off; the sides that a plan has not are not drawn. */
export const drawing = (plan: Plan): Drawing =>
  drawn(parts, {
    title: 'Pressure switch, cover off, and its system',
    seen: 'seen from its front',
    outline: [
      box(30, 26, 76, 42),
      line([68, 30], [68, 64]),
      ...(hasLow(plan) ? [pipe([46, 68], [46, 98])] : []),
      ...(hasHigh(plan) ? [pipe([92, 68], [92, 98])] : []),
      pipe([6, 98], [154, 98]),
    ],
    parts: [
      ...(hasLow(plan)
        ? ([
            {
              id: 'range',
              glyph: 'screw',
              at: [40, 20],
              title: 'Low start',
              label: [18, 9],
              anchor: 'middle',
              adjusters: ['range'],
            },
            {
              id: 'diff',
              glyph: 'screw',
              at: [58, 20],
              title: 'Low differential',
              label: [68, 9],
              anchor: 'middle',
              adjusters: ['diff'],
            },
            {
              id: 'low',
              glyph: 'gauge',
              at: [24, 84],
              title: 'Suction gauge',
              label: [4, 70],
              anchor: 'start',
              slots: ['low'],
              handles: ['hoses'],
            },
          ] as const)
        : []),
      ...(hasHigh(plan)
        ? ([
            {
              id: 'high',
              glyph: 'screw',
              at: [92, 20],
              title: 'High stop',
              label: [118, 13],
              anchor: 'middle',
              adjusters: ['high'],
            },
            {
              id: 'high-gauge',
              glyph: 'gauge',
              at: [114, 84],
              title: 'Discharge gauge',
              label: [114, 70],
              anchor: 'middle',
              slots: ['high'],
              handles: ['hoses'],
            },
          ] as const)
        : []),
      {
        id: 'plates',
        glyph: 'port',
        at: [68, 26],
        title: 'Locking plates',
        label: [68, 40],
        anchor: 'middle',
        handles: ['plates', 'pointers'],
      },
      {
        id: 'knobs',
        glyph: 'button',
        at: [80, 58],
        title: 'Reset knob',
        label: [82, 50],
        anchor: 'middle',
        handles: ['knobs'],
      },
      {
        id: 'tube',
        glyph: 'port',
        at: [46, 84],
        title: 'Switch tube',
        label: [54, 82],
        anchor: 'start',
        handles: ['tube', 'port', 'nitrogen'],
      },
      {
        id: 'liquid',
        glyph: 'cock',
        at: [16, 98],
        title: 'Liquid valve',
        label: [22, 113],
        anchor: 'middle',
        handles: ['liquid'],
      },
      {
        id: 'power',
        glyph: 'motor',
        at: [68, 98],
        title: 'Compressor',
        label: [70, 116],
        anchor: 'middle',
        handles: ['power'],
      },
      {
        id: 'fan',
        glyph: 'fan',
        at: [140, 98],
        title: 'Condenser fan',
        label: [132, 116],
        anchor: 'middle',
        handles: ['fan'],
      },
    ],
  });
