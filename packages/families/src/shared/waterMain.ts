import { pipe, round } from '../define/index.js';

/** The pipe from the well to the house, and the tank that stands on it. */
export const waterMain = [pipe([6, 100], [154, 100]), round(128, 66, 18), pipe([128, 84], [128, 100])];

/** What is on that pipe and on its tank, whatever runs the pump. */
export const onWaterMain = (taps: string) =>
  [
    {
      id: 'drain',
      glyph: 'cock',
      at: [18, 100],
      title: 'Drain',
      label: [18, 114],
      anchor: 'middle',
      handles: ['drain'],
    },
    {
      id: 'house',
      glyph: 'cock',
      at: [100, 100],
      title: 'House valve',
      label: [96, 114],
      anchor: 'middle',
      handles: ['house'],
    },
    {
      id: 'tap',
      glyph: 'cock',
      at: [148, 100],
      title: taps,
      label: [148, 114],
      anchor: 'middle',
      handles: ['tap'],
    },
    {
      id: 'air',
      glyph: 'stem',
      at: [128, 44],
      title: 'Air valve',
      label: [128, 33],
      anchor: 'middle',
      adjusters: ['air'],
      slots: ['air'],
      handles: ['airGauge'],
    },
  ] as const;
