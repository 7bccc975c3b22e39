import type { Drawing } from '@firm-needle/core/family';
import { drawn, line, pipe, round } from '../define/index.js';
import { parts } from './parts.js';

/** A second stage cut open, its hose from the left, a tee with a suction gauge at its mouth. */
export const drawing = (): Drawing =>
  drawn(parts, {
    title: 'Second stage, its side open',
    seen: 'seen from its side, the hose from the left',
    outline: [
      round(92, 60, 34),
      line([66, 38], [118, 38]),
      pipe([4, 60], [62, 60]),
      line([76, 60], [104, 44]),
      pipe([92, 94], [92, 104], [124, 104], [124, 96]),
    ],
    parts: [
      {
        id: 'supply',
        glyph: 'cock',
        at: [10, 60],
        title: 'Supply',
        label: [4, 78],
        anchor: 'start',
        handles: ['supply'],
      },
      {
        id: 'gauge',
        glyph: 'gauge',
        at: [34, 46],
        title: 'Line',
        label: [34, 30],
        anchor: 'middle',
        slots: ['ip'],
      },
      {
        id: 'bleed',
        glyph: 'port',
        at: [34, 66],
        title: 'Relief, bleed',
        label: [34, 92],
        anchor: 'middle',
        handles: ['relief', 'bleed'],
      },
      {
        id: 'orifice',
        glyph: 'screw',
        at: [62, 60],
        title: 'Orifice',
        label: [60, 80],
        anchor: 'middle',
        adjusters: ['orifice'],
        handles: ['tool'],
      },
      {
        id: 'nut',
        glyph: 'nut',
        at: [82, 58],
        title: 'Lever nut',
        label: [88, 76],
        anchor: 'start',
        adjusters: ['nut'],
        handles: ['side', 'case'],
      },
      {
        id: 'purge',
        glyph: 'button',
        at: [92, 30],
        title: 'Purge',
        label: [92, 16],
        anchor: 'middle',
        handles: ['purge', 'thumb'],
      },
      {
        id: 'suction',
        glyph: 'gauge',
        at: [140, 84],
        title: 'Suction',
        label: [156, 66],
        anchor: 'end',
        slots: ['suction'],
        handles: ['shutoff'],
      },
      {
        id: 'draw',
        glyph: 'port',
        at: [92, 106],
        title: 'Mouth',
        label: [84, 112],
        anchor: 'end',
        handles: ['draw'],
      },
    ],
  });
