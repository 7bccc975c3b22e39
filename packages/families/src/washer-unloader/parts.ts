import type { Plan } from '@firm-needle/core/procedure';
import { darcyLoss } from '@firm-needle/core/reckon';
import { two } from '@firm-needle/core/rig';
import { defineParts } from '../define/index.js';
import { psi } from '../shared/units.js';

export { psi };

/** Lost in a foot of hose whose bore nobody knows, and in a coil, with water moving [common practice, no source]. */
const HOSE_PER_M = psi(1) / 0.3048;
const COIL = psi(75);
const COIL_DOUBT = psi(50);
/** What fittings, curls and the real bore leave open of what is reckoned, and a coil's plate of its own figure. */
const RECKONED_DOUBT = 0.2;
/** The narrowest hose that a washer has, m: what the loss may be at most where the bore is not known. */
const NARROWEST = 0.25 * 0.0254;

/** Pressure lost between the pump head and the gauge with the trigger pulled, Pa; none when nothing moves. */
export interface Loss {
  readonly value: number;
  /** Half-width of what it may be otherwise. */
  readonly half: number;
  readonly because: string;
}

/** By the bore of the hose where it is known [Darcy and Weisbach], else by the rule of a pound a foot, which may be far off. */
export function lossOver({ variant, plate }: Pick<Plan, 'variant' | 'plate'>): Loss {
  if (variant === 'at-head') return { value: 0, half: 0, because: 'the gauge sits at the pump head' };
  const length = plate['hose']?.value ?? 0;
  const flow = plate['flow']?.value ?? 0;
  const bore = plate['hoseBore']?.value;
  const along = (d: number): number => {
    const loss = darcyLoss({ flow, bore: d, length });
    return loss.ok ? loss.value : 0;
  };
  const rule = length * HOSE_PER_M;
  const [hose, half, because] =
    bore === undefined
      ? [rule, Math.max(rule, along(NARROWEST) - rule), 'about 1 psi a foot of hose; its bore says how much']
      : [along(bore), RECKONED_DOUBT * along(bore), 'by the bore of the hose, smooth, all of the flow'];
  if (variant !== 'at-gun-coil') return { value: hose, half, because };
  const coil = plate['coil']?.value;
  return {
    value: hose + (coil ?? COIL),
    half: half + (coil === undefined ? COIL_DOUBT : RECKONED_DOUBT * coil),
    because: `${because}; ${coil === undefined ? 'about 75 psi for the coil' : 'the coil by its plate'}`,
  };
}

/** The loss to reckon with, Pa. */
export const lossOf = (plan: Pick<Plan, 'variant' | 'plate'>): number => lossOver(plan).value;

/** Trapped over working: usual, and the most before it is backed off; more than that much is diagnosed first [common practice]. */
export const USUAL_SPIKE = psi(350);
export const MOST_SPIKE = psi(400);
export const DIAGNOSE_SPIKE = psi(500);
export const LEAST_SPIKE = psi(100);
/** Half the band that a working pressure is set in. */
export const HALF_BAND = psi(75);
/** A gauge reaches at least this many times the pump's rating [common practice]. */
export const GAUGE_FACTOR = 1.2;

const reading = { slot: 'test', step: 1, from: 100, to: 10_000, sd: 12, dof: 10 } as const;

export const parts = defineParts({
  choices: {
    port: {
      title: 'Gauge port',
      options: { after: 'After the unloader’s check', before: 'Before its check' },
    },
    bypass: {
      title: 'Bypass returns',
      options: { low: 'To inlet or tank', other: 'Somewhere under pressure' },
    },
  },
  plate: {
    rating: { title: 'Pump rated', unit: 'psi', from: 200, to: 10_000, required: true },
    flow: { title: 'Pump flow', unit: 'gpm', from: 0.3, to: 40, required: true },
    nozzle: {
      title: 'Nozzle, flow at 4000 psi',
      unit: 'gpm',
      from: 0.3,
      to: 60,
      required: true,
      hint: 'the number on it, at 4000 psi',
    },
    weakest: { title: 'Weakest part rated', unit: 'psi', from: 200, to: 15_000, required: true },
    hose: { title: 'Hose to the gauge', unit: 'ft', from: 0, to: 600 },
    hoseBore: { title: 'Bore of the hose', unit: 'in', from: 0.125, to: 2 },
    coil: { title: 'Lost in the coil', unit: 'psi', from: 50, to: 200 },
    springMost: { title: 'Unloader spring up to', unit: 'psi', from: 200, to: 15_000 },
  },
  slots: { test: { title: 'Test gauge', medium: 'water' } },
  settings: {
    head: { ...reading, title: 'Working, at the pump head', short: 'head', had: 'relation', givable: true },
    working: { ...reading, title: 'Working, at the gauge', short: 'work', cycles: 2 },
    trapped: { ...reading, title: 'Trapped', short: 'trap', cycles: 2, to: 15_000 },
    spike: {
      ...reading,
      title: 'Trapped over working',
      short: 'spike',
      had: 'relation',
      givable: true,
      from: 0,
      to: 2000,
    },
  },
  screws: {
    handle: {
      title: 'Unloader handle',
      ways: ['clockwise', 'counter-clockwise'],
      seenFrom: 'seen from the handle’s own end',
      tool: 'wrench for the lock nut',
      // About 600 psi a turn far from the knee, 400 near it [common practice, no source]: wide, learned on site.
      perTurn: 550,
      spread: 0.35,
      backlash: 0.05,
      moves: { working: [1, 0.05], trapped: [1, 0.1] },
      aims: ['working'],
      step: 1 / 8,
      largest: 1,
      // Past the knee all of it goes into the spike.
      strict: true,
      underPressure: true,
    },
  },
  cautions: {
    injection: {
      title: 'The jet goes through skin',
      text: 'Never a hand or a foot before the nozzle. An injection looks small and is an emergency: hospital at once.',
    },
    trapped: {
      title: 'Pressure stays when the engine stops',
      text: 'Engine off, then pull the trigger until nothing comes, before a gauge, plug, hose or nozzle is touched.',
    },
    bypass: {
      title: 'A few minutes in bypass, no longer',
      text: 'With the trigger released the water goes round and heats. Pull it, or stop the engine.',
    },
    ratings: {
      title: 'The spike counts, not the working pressure',
      text: 'What is trapped stands on pump, hose, gun and gauge: it stays below the weakest of them.',
    },
    body: {
      title: 'Eyes, ears, feet, air',
      text: 'Goggles, ear protection and boots. No engine indoors. The burner of a heated machine is off.',
    },
    manual: {
      title: 'The maker’s word comes first',
      text: 'Where the manual of pump or unloader says otherwise, follow it.',
    },
  },
  handles: {
    engine: { title: 'Engine', positions: two('Off', 'On') },
    trigger: { title: 'Trigger', positions: two('Released', 'Pulled') },
    nozzle: { title: 'Nozzle', positions: two('Off', 'Fitted') },
  },
  facts: {
    cautions: { read: { title: 'Cautions read', say: 'Read the cautions.' } },
    engine: {
      on: {
        title: 'Engine running',
        say: 'Water on, trigger pulled, start the engine.',
        cautions: ['injection', 'body'],
        hands: { engine: 1, trigger: 1 },
      },
      off: {
        title: 'Engine off, pressure released',
        say: 'Stop the engine and pull the trigger until nothing comes.',
        cautions: ['trapped'],
        hands: { engine: 0, trigger: 1 },
      },
    },
    trigger: {
      released: { title: 'Trigger released', say: 'Release the trigger.', hands: { trigger: 0 } },
      pulled: { title: 'Trigger pulled', say: 'Pull the trigger and hold it.', hands: { trigger: 1 } },
    },
    nozzle: {
      fitted: {
        title: 'Nozzle fitted',
        say: 'Engine off and pressure released, then fit the nozzle.',
        hands: { nozzle: 1 },
      },
    },
    flushed: { yes: { title: 'Flushed', say: 'Run it without a nozzle until the water is clear.' } },
  },
});
export const { steps: s, read } = parts;
