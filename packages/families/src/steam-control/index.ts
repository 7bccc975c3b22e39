import { defineFamily } from '../define/index.js';
import { drawing } from './drawing.js';
import { findings, recommend, unproved } from './findings.js';
import { steamControlMeta } from './meta.js';
import { ounces, parts, psi } from './parts.js';
import { check, figures, ladder, limits, never, worst } from './plan.js';
import { steamControlRig } from './rig.js';
import { walk } from './walk.js';

const pounds = { cutOut: psi(1.5), cutIn: psi(0.5), differential: psi(1) };

/** The pressure control of a low-pressure steam boiler. */
export const family = defineFamily(steamControlMeta, parts, {
  variants: [
    { id: 'sub', title: 'Subtractive: main is cut-out', values: pounds },
    { id: 'add', title: 'Additive: main is cut-in', values: pounds },
    {
      id: 'ounce',
      title: 'In ounces: vapor, vacuum',
      values: { cutOut: ounces(10), cutIn: ounces(4), differential: ounces(6) },
    },
    {
      id: 'limit',
      title: 'Limit with a reset button',
      values: { cutOut: psi(5), cutIn: 0, differential: psi(5) },
    },
  ],
  variantsAre: 'How its scales are marked',
  schools: [
    {
      id: 'pump',
      title: 'By hand pump',
      because:
        'On a running boiler the heat in the metal carries it past: turning points are not the settings.',
      pins: [],
    },
    {
      id: 'boiler',
      title: 'On the running boiler',
      because: 'Only where it cannot come off; each point is read at the click.',
      pins: [],
    },
  ],
  occasions: [
    { id: 'service', title: 'In service', found: true },
    { id: 'new', title: 'New', found: false },
  ],
  permits: [{ id: 'mains', title: 'May work on mains enclosures' }],
  relations: [{ terms: { cutOut: 1, cutIn: -1, differential: -1 }, equals: 0, hard: true }],
  ceiling: 'the limit control or the safety valve',
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
  unitOf: (plan, setting) =>
    plan.variant === 'ounce' ? 'ozf/in2' : (parts.settings.find((s) => s.id === setting)?.unit ?? 'psi'),
  ends: { set: 'Both points landed, proved, and seen on the boiler.', left: 'It acts where it should.' },
  rig: steamControlRig,
});
