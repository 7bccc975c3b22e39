// Every reading, each in the one state of cock, burner, fan and tubing in which it means something.
import type { JobView, Node, Phase, Plan, Step } from '@firm-needle/core/procedure';
import { branch } from '@firm-needle/core/procedure';
import { read, s, switchesOf, untripped, type SwitchSetting } from './parts.js';
import * as now from './state.js';

const SUPPLY = 0;
const AFTER = 1;
const WATER = { title: 'It changes as the tubing is moved', before: true } as const;

export const atRest = (key: string, phase: Phase, title: string): Node =>
  s.read(
    key,
    'static',
    title,
    phase === 'found'
      ? 'Nothing burning: read the supply once it stands.'
      : 'Burner off. After a minute, read the supply once it stands.',
    {
      phase,
      cautions: ['gas'],
      needs: { gas: 'on' },
      sets: { burner: 'off' },
      hands: { cock: 1, burner: 0, bleed: 0, bulb: 0, input: SUPPLY, fan: 0, tube: 0, meter: 0 },
      instead: {
        creeps: {
          title: 'It rises on for a minute: cock shut',
          withPressure: true,
          before: true,
          sets: { gas: 'shut' },
        },
        water: WATER,
      },
    },
  );

export const fire = (key: string, phase: Phase, title: string): Node =>
  s.read(key, 'supplyFlow', title, 'Stand aside, start it by the book, full fire. Read the supply.', {
    phase,
    cautions: ['fire'],
    needs: { gas: 'on' },
    sets: { burner: 'on' },
    hands: {
      power: 1,
      fan: 0,
      tube: 0,
      bleed: 0,
      bulb: 0,
      cock: 1,
      valve: 0,
      stage: 0,
      burner: 1,
      input: SUPPLY,
      meter: 0,
    },
    instead: {
      'no-light': {
        title: 'It does not light: cock shut',
        before: true,
        sets: { burner: 'off', gas: 'shut' },
      },
    },
  });

export const manifold = (key: string, phase: Phase, title: string): Node =>
  s.read(key, 'manifold', title, 'Same fire: read after the regulator.', {
    phase,
    cautions: ['fire'],
    needs: { burner: 'on' },
    hands: { burner: 1, stage: 0, input: AFTER, bulb: 0, dial: 0, meter: 0 },
    why: 'With nothing burning it is the lock-up that stands there.',
    instead: { slow: { title: 'It swings, or takes over ten seconds', before: true } },
  });

/** What swings is a regulator that cannot breathe: seen to before it is read again, or turned. */
export const clearVent = (key: 'vent-clear' | 'set-vent-clear'): Node =>
  s.confirm(key, 'Vent cleared', 'Burner off. Clear the vent of its regulator.', {
    cautions: ['fire'],
    sets: { burner: 'off' },
    hands: { burner: 0, vent: 1 },
  });

export const lowFire = (key: string, phase: Phase): Node =>
  s.read(key, 'lowFire', 'Manifold, low fire', 'Low fire: read after the regulator.', {
    phase,
    cautions: ['fire'],
    needs: { burner: 'on' },
    hands: { burner: 1, stage: 1, input: AFTER, bulb: 0, meter: 0 },
  });

/** Where it stands behind the safety valves, the tap is empty as soon as they shut. */
export const lockUp = (plan: Plan, key: string, phase: Phase, title: string): Node => {
  const behind = read(plan).choice.lockTap === 'behind';
  return s.read(
    key,
    'lockUp',
    title,
    behind
      ? 'As it burns, shut the firing valve. Catch the highest before the safeguard acts, then reset by the book.'
      : 'Stop the burner. Catch the highest after the regulator, then watch a minute more.',
    {
      phase,
      cautions: behind ? ['fire', 'gas'] : ['fire'],
      needs: { burner: 'on' },
      sets: { burner: 'off' },
      hands: { stage: 0, input: AFTER, bulb: 0, meter: 0, ...(behind ? { valve: 1 } : { burner: 0 }) },
      instead: {
        creeps: {
          title: 'It rises on: cock shut',
          withPressure: true,
          before: true,
          sets: { gas: 'shut' },
        },
      },
    },
  );
};

export const airNormal = (key: string, phase: Phase): Node =>
  s.read(
    key,
    'airNormal',
    'Air, normal',
    'Gas shut, the fan alone. Tee at the combustion air switch: read across it.',
    {
      phase,
      cautions: ['air', 'moving'],
      needs: { gas: 'shut' },
      hands: { power: 1, burner: 0, cock: 0, bulb: 0, bleed: 0, fan: 1, tube: 1, let: 0, meter: 0 },
      instead: { water: WATER },
    },
  );

const NEVER = 'It never opens';
interface Tripped {
  readonly key: string;
  readonly title: string;
  readonly say: string;
  readonly hands: (plan: Plan) => NonNullable<Parameters<typeof s.read>[4]>['hands'];
  readonly rising?: true;
  readonly air?: true;
}
/** Which input shows what a gas switch feels. */
export const input = (plan: Plan, tap: 'lowTap' | 'highTap'): number =>
  read(plan).choice[tap] === 'before' ? SUPPLY : AFTER;
const TRIPPED: Readonly<Record<SwitchSetting, Tripped>> = {
  lowGas: {
    key: 'low-gas',
    title: 'low gas',
    say: 'Cock open, then shut; the bulb if its contact stands open. Bleed slowly outside; read as it opens.',
    hands: (plan) => ({
      power: 1,
      burner: 0,
      cock: 0,
      bulb: 0,
      fan: 0,
      tube: 0,
      bleed: 1,
      input: input(plan, 'lowTap'),
      meter: 1,
    }),
  },
  highGas: {
    key: 'high-gas',
    title: 'high gas',
    say: 'Bulb on the tee: raise slowly, read as its contact opens. Let down, press its reset.',
    hands: (plan) => ({
      power: 1,
      burner: 0,
      cock: 0,
      bleed: 0,
      fan: 0,
      tube: 0,
      bulb: 1,
      input: input(plan, 'highTap'),
      meter: 2,
    }),
    rising: true,
  },
  airTrip: {
    key: 'air-trip',
    title: 'combustion air',
    say: 'Let its tube down slowly at the tee; read as its contact opens.',
    hands: () => ({ power: 1, burner: 0, cock: 0, bulb: 0, bleed: 0, fan: 1, tube: 1, let: 1, meter: 3 }),
    air: true,
  },
  mainTrip: {
    key: 'main-trip',
    title: 'main air',
    say: 'The same at the main air switch: its tube down slowly; read as it opens.',
    hands: () => ({ power: 1, burner: 0, cock: 0, bulb: 0, bleed: 0, fan: 1, tube: 2, let: 1, meter: 4 }),
    air: true,
  },
};

/** A switch is tripped by its pressure; its dial is not touched. */
export const trip = (plan: Plan, prefix: string, phase: Phase, setting: SwitchSetting): Node => {
  const { key, title, say, hands, rising, air } = TRIPPED[setting];
  return s.read(`${prefix}-${key}`, setting, `${phase === 'found' ? 'As found' : 'As left'}: ${title}`, say, {
    phase,
    cautions: air ? ['air', 'moving'] : rising ? ['ports'] : ['gas'],
    needs: { burner: 'off' },
    sets: { gas: 'shut' },
    hands: hands(plan) ?? {},
    ...(rising ? { watched: true } : {}),
    instead: {
      never: {
        title: rising ? `${NEVER}, up to the stop-at` : `${NEVER}, down to nothing`,
        withPressure: true,
        bounds: { setting, side: rising ? 'above' : 'below' },
      },
      'not-made': {
        title: air ? 'Not made with its fan on' : 'Open already, as it stands',
        before: true,
      },
    },
  });
};

/** How many trips a switch has had before one of these is asked for. */
const BEFORE = { found: 0, second: 1, third: 2, set: 0, more: 0 } as const;

/** Trips that are still due, in the order in which they are walked; none once one of them never opens. */
export const trips = (
  plan: Plan,
  prefix: keyof typeof BEFORE,
  phase: Phase,
  which: readonly SwitchSetting[],
): readonly Node[] =>
  switchesOf(plan)
    .filter((x) => which.includes(x) && !untripped(plan, x))
    .map((x) =>
      branch(
        (j: JobView) => j.readings(x).length >= BEFORE[prefix] && now.tripDue(j, x),
        [trip(plan, prefix, phase, x)],
      ),
    );

/** With one input, what is read of the gas needs the tubing on the tap that it is read at: it is moved first. */
export const onItsTap = (step: Step): Step =>
  (step.kind === 'read' ? step.slot === 'gas' : step.kind === 'observe' && step.watches === 'gas') &&
  step.hands?.['input'] !== undefined
    ? { ...step, needs: { ...step.needs, tubing: step.hands['input'] === SUPPLY ? 'supply' : 'after' } }
    : step;
