import type { Drawing } from '@firm-needle/core/family';
import type { Plan } from '@firm-needle/core/procedure';
import { box, drawn, pipe } from '../define/index.js';
import { hasManifold, parts, switchesOf } from './parts.js';

/** A gas train from its cock to the burner, with the switches that a plan has. */
export const drawing = (plan: Plan): Drawing =>
  drawn(parts, {
    title: plan.variant === 'furnace' ? 'Furnace valve and burner' : 'Gas train and burner',
    seen: 'seen from its front, gas from left to right',
    outline: [
      pipe([4, 78], [136, 78]),
      box(136, 52, 20, 38),
      box(32, 70, 16, 16),
      ...(hasManifold(plan) ? [box(78, 68, 22, 20)] : []),
    ],
    parts: [
      {
        id: 'cock',
        glyph: 'cock',
        at: [16, 78],
        title: 'Gas cock',
        label: [2, 94],
        anchor: 'start',
        handles: ['cock'],
      },
      {
        id: 'supply',
        glyph: 'screw',
        at: [40, 64],
        title: 'Supply screw',
        label: [36, 52],
        anchor: 'middle',
        adjusters: ['supply'],
      },
      ...(hasManifold(plan)
        ? ([
            {
              id: 'appliance',
              glyph: 'screw',
              at: [89, 62],
              title: 'Appliance screw',
              label: [92, 52],
              anchor: 'middle',
              adjusters: ['appliance'],
              handles: ['vent'],
            },
          ] as const)
        : []),
      {
        id: 'manometer',
        glyph: 'gauge',
        at: [62, 98],
        title: 'Manometer, ports',
        label: [62, 115],
        anchor: 'middle',
        slots: ['gas'],
        handles: ['ports', 'input', 'bleed', 'bulb', 'blown'],
      },
      ...(switchesOf(plan).length > 0
        ? ([
            {
              id: 'low',
              glyph: 'dial',
              at: [62, 64],
              title: 'Low gas',
              label: [62, 42],
              anchor: 'middle',
              adjusters: ['lowDial'],
            },
            {
              id: 'high',
              glyph: 'dial',
              at: [121, 64],
              title: 'High gas',
              label: [127, 42],
              anchor: 'middle',
              adjusters: ['highDial'],
            },
            {
              id: 'air',
              glyph: 'dial',
              at: [44, 22],
              title: 'Combustion air',
              label: [40, 8],
              anchor: 'middle',
              adjusters: ['airDial'],
            },
            {
              id: 'main',
              glyph: 'dial',
              at: [82, 22],
              title: 'Main air',
              label: [84, 8],
              anchor: 'middle',
              adjusters: ['mainDial'],
            },
            {
              id: 'air-gauge',
              glyph: 'gauge',
              at: [14, 30],
              title: 'Air manometer',
              label: [2, 17],
              anchor: 'start',
              slots: ['air'],
              handles: ['tube', 'let'],
            },
          ] as const)
        : []),
      {
        id: 'valve',
        glyph: 'cock',
        at: [124, 78],
        title: 'Firing valve',
        label: [116, 96],
        anchor: 'middle',
        handles: ['valve'],
      },
      {
        id: 'burner',
        glyph: 'motor',
        at: [146, 78],
        title: 'Burner',
        label: [146, 104],
        anchor: 'middle',
        handles: ['burner', 'stage'],
      },
      {
        id: 'fan',
        glyph: 'fan',
        at: [112, 20],
        title: 'Fan',
        label: [112, 8],
        anchor: 'middle',
        handles: ['fan'],
      },
      {
        id: 'power',
        glyph: 'switch',
        at: [142, 24],
        title: 'Disconnect',
        label: [140, 10],
        anchor: 'middle',
        handles: ['power'],
      },
      {
        id: 'dial',
        glyph: 'display',
        at: [18, 106],
        title: 'Meter',
        label: [18, 118],
        anchor: 'middle',
        handles: ['dial'],
      },
    ],
  });
