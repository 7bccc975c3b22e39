import type { Variant } from '@firm-needle/core/family';
import { defineFamily } from '../define/index.js';
import { drawing } from './drawing.js';
import { MAINS } from '../shared/tank.js';
import { findings, recommend, unproved } from './findings.js';
import { wellSwitchMeta } from './meta.js';
import { parts, PRECHARGE_UNDER, psi } from './parts.js';
import { check, figures, ladder, limits, never, worst } from './plan.js';
import { wellSwitchRig } from './rig.js';
import { walk } from './walk.js';

const pair = (low: number, high: number, title: string): Variant => ({
  id: `${low}-${high}`,
  title,
  values: { cutIn: psi(low), cutOut: psi(high), differential: psi(high - low) },
});

/** The well pump pressure switch and its tank. */
export const family = defineFamily(wellSwitchMeta, parts, {
  variants: [
    pair(40, 60, '40/60, the usual pair'),
    pair(30, 50, '30/50'),
    pair(20, 40, '20/40, older jet pumps'),
    pair(50, 70, '50/70, on request'),
  ],
  variantsAre: 'Usual pair',
  schools: [
    {
      id: 'leave-differential',
      title: 'Leave the differential',
      because: 'The factory differential keeps the run time and the maker’s cover.',
      pins: ['differential'],
    },
    {
      id: 'set-both',
      title: 'Set both points',
      because: 'Each point is set on its own nut; the run time must still pass.',
      pins: [],
    },
  ],
  permits: MAINS,
  relations: [
    { terms: { cutOut: 1, cutIn: -1, differential: -1 }, equals: 0, hard: true },
    { terms: { cutIn: 1, precharge: -1 }, equals: PRECHARGE_UNDER, hard: false },
  ],
  ceiling: 'where the relief may open',
  stopsAlso: 'a drip from the relief',
  limits,
  never,
  worst,
  check,
  figures,
  ladder,
  drawing,
  walk,
  findings,
  unproved,
  recommend,
  ends: { set: 'Every setting landed and was proved.', left: 'Everything stands inside its limits.' },
  replaceSays: (f) => `${f.message} ${f.remedy ?? ''}`.trim(),
  rig: wellSwitchRig,
});
