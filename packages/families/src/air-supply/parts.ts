import { two } from '@firm-needle/core/rig';
import type { Plan } from '@firm-needle/core/procedure';
import { defineParts } from '../define/index.js';
import * as reckoned from './reckoned.js';
import { psi } from '../shared/units.js';

export { psi };

/** What a wall regulator needs across it at such a flow, where its plate does not say, Pa [assumed]. */
export const LEAST_ACROSS = psi(10);
/** What a regulator at the gun needs beside the hose [assumed]. */
export const OVER_GUN = psi(5);
/** How far a wall setting stands over the least, where nobody gave it [assumed]. */
export const USUAL_OVER = psi(12);
/** Gun, either side; standing over flowing; fall at rest a minute; starts an hour [all assumed]. */
export const GUN_HALF = psi(2);
export const MOST_RISE = psi(15);
export const MOST_FALL = psi(1);
export const MOST_STARTS = 10;
/** What cooling still makes a tank fall in the minute after it rested, Pa [assumed; reckoned 0.2 to 0.9 psi]. */
export const COOLING = psi(0.6);
/** Cut-out stays under this part of the relief; a turn never brings it nearer. */
export const OF_RELIEF = 0.9;
/** A pump that makes less than this part of its plate is worn [assumed]. */
export const WEAK = 0.7;
/** Couplers and kinks take this much more than the hose before it is said [assumed]. */
export const MORE_THAN_HOSE = psi(5);
/** Nobody turns one of them oftener in a job [assumed]; above what the tank holds the first turns show nothing. */
export const MOST_MOVES = 7;
/** Rests so long, then it is watched for a minute, s. */
export const RESTS_S = 240;
export const WATCH_S = 60;

export type Plain = Pick<Plan, 'variant' | 'school'>;
/** A regulator at the gun holds, whatever the wall does. */
export const atGun = ({ variant }: Plain): boolean => variant === 'regulator';
/** The wall alone sets the gun. */
export const byWall = ({ variant, school }: Plain): boolean => school === 'wall' || variant === 'none';

const tank = {
  slot: 'tank',
  cycles: 2,
  from: 10,
  to: 400,
  sd: 0.8,
  dof: 10,
  caught: 0.5,
  step: 0.5,
} as const;
const wall = { slot: 'wall', cycles: 2, from: 5, to: 300, sd: 0.6, dof: 10, step: 0.5 } as const;
const gun = { slot: 'gun', cycles: 2, from: 2, to: 200, sd: 0.4, dof: 10, step: 0.1 } as const;
const knob = {
  ways: ['clockwise', 'counter-clockwise'],
  tool: 'fingers',
  underPressure: true,
  backlash: 0.05,
  step: 1 / 8,
  largest: 2,
} as const;
const nut = {
  ways: ['clockwise', 'counter-clockwise'],
  seenFrom: 'seen from its top',
  tool: '3/8 in nut driver',
  spread: 0.6,
  backlash: 0.05,
  step: 1 / 4,
  largest: 2,
} as const;

export const parts = defineParts({
  plate: {
    receiver: { title: 'Receiver', unit: 'galUS', from: 1, to: 2000, required: true },
    relief: { title: 'Relief opens', unit: 'psi', from: 30, to: 500, required: true },
    need: {
      title: 'Gun needs, flowing',
      unit: 'psi',
      from: 5,
      to: 150,
      required: true,
      hint: 'at its inlet, trigger held',
    },
    rating: { title: 'Weakest of hose, coupler, gun', unit: 'psi', from: 30, to: 500, required: true },
    uses: { title: 'Gun uses', unit: 'cfm', from: 0.5, to: 60, hint: 'free air, at its need' },
    hose: { title: 'Hose', unit: 'ft', from: 1, to: 400 },
    bore: { title: 'Bore of the hose', unit: 'in', from: 0.1, to: 2 },
    fad: { title: 'Compressor delivers', unit: 'cfm', from: 0.5, to: 300, hint: 'free air, by its plate' },
    leastDiff: {
      title: 'Least across the wall regulator',
      unit: 'psi',
      from: 1,
      to: 40,
      hint: '10 psi where nobody says',
    },
    starts: { title: 'Starts allowed', unit: '1/h', from: 2, to: 60, hint: 'commonly 10' },
  },
  choices: {
    switch: {
      title: 'Its pressure switch',
      options: { find: 'Found, and left', set: 'Set, with a reason' },
    },
    pattern: {
      title: 'Spray pattern',
      options: { 'not-asked': 'Not asked', asked: 'A painter tries it' },
    },
  },
  slots: {
    gun: { title: 'Test gauge at the gun inlet', medium: 'air' },
    wall: { title: 'Gauge at the wall regulator', medium: 'air' },
    tank: { title: 'Gauge on the tank', medium: 'air' },
  },
  settings: {
    cutIn: { ...tank, title: 'Cut-in', short: 'in', catch: 'starts', givable: true },
    cutOut: { ...tank, title: 'Cut-out', short: 'out', catch: 'stops', givable: true },
    gunFlow: { ...gun, title: 'Gun, flowing', short: 'gun', givable: true, open: reckoned.followed },
    wallFlow: { ...wall, title: 'Wall, flowing', short: 'wall', givable: true },
    wallLock: { ...wall, title: 'Wall, standing', short: 'stands', cycles: 1 },
    sustained: { ...tank, title: 'Held at the trigger', short: 'held', catch: 'low', cycles: 1 },
    gunOpen: { ...gun, title: 'Gun, its control wide open', short: 'open', cycles: 1 },
    wallOpen: { ...wall, title: 'Wall, the gun wide open', short: 'wall open', cycles: 1 },
    pumpUp: {
      title: 'Pump-up',
      short: 'up',
      slot: 'tank',
      unit: 's',
      from: 1,
      to: 3600,
      had: 'timing',
      timed: 'cutOut',
      spoilt: { trigger: 'released', bleeding: 'yes' },
      sd: 2,
      cycles: 1,
    },
    recovery: {
      title: 'Recovery, trigger let go',
      short: 'recovers',
      slot: 'tank',
      unit: 's',
      from: 1,
      to: 3600,
      had: 'timing',
      timed: 'cutOut',
      since: { trigger: 'released' },
      spoilt: { bleeding: 'yes' },
      sd: 3,
      cycles: 1,
    },
    starts: {
      title: 'Starts, at most',
      short: 'starts',
      slot: '',
      unit: '1/h',
      from: 0,
      to: 600,
      had: 'derived',
      sd: 0.2,
      cycles: 1,
      derive: reckoned.starts,
    },
  },
  screws: {
    wall: {
      ...knob,
      title: 'Wall knob',
      seenFrom: 'seen from its end',
      perTurn: 8,
      spread: 0.6,
      moves: { wallFlow: [1, 0], wallLock: [1, 0.05], gunFlow: [0.1, 0.1] },
      aims: ['wallFlow'],
    },
    wallAlone: {
      ...knob,
      title: 'Wall knob',
      seenFrom: 'seen from its end',
      perTurn: 8,
      spread: 0.6,
      moves: { gunFlow: [1, 0], wallFlow: [1, 0.15], wallLock: [1, 0.15] },
      aims: (plan) => [byWall(plan) ? 'gunFlow' : 'wallFlow'],
    },
    gun: {
      ...knob,
      title: 'Gun regulator knob',
      seenFrom: 'seen from its end',
      perTurn: 6,
      spread: 0.6,
      moves: { gunFlow: [1, 0] },
    },
    valve: {
      ...knob,
      title: 'Gun valve',
      seenFrom: 'seen from its end',
      // Clockwise shuts it: the gun gets less.
      perTurn: -10,
      spread: 0.7,
      moves: { gunFlow: [1, 0] },
    },
    range: {
      ...nut,
      title: 'Range nut',
      perTurn: 5,
      moves: { cutIn: [1, 0], cutOut: [1, 0.1] },
      aims: ['cutIn'],
    },
    diff: { ...nut, title: 'Differential nut', perTurn: 4, moves: { cutOut: [1, 0] } },
  },
  cautions: {
    stored: {
      title: 'Stored air',
      text: 'Shut off and bleed before a joint is loosened. Face away from a knob that is turned up. Never over the weakest rating.',
    },
    hose: { title: 'Hose whip', text: 'Never part a charged hose. Bleed it, and hold its end.' },
    relief: {
      title: 'Relief',
      text: 'Never plugged, never raised, never used to stop a motor. Motor off at its first hiss, then the switch is lowered.',
    },
    fumes: {
      title: 'Spray and fire',
      text: 'Air only here. With paint: booth, mask, no spark. Never at skin; blow-off under 30 psi.',
    },
    noise: { title: 'Ears and eyes', text: 'Covered while air moves.' },
    moving: { title: 'It starts by itself', text: 'Guard on, hands out.' },
    live: {
      title: 'Mains under the cover',
      text: 'Lock off, try below cut-in, cover off as if live, prove dead: tester, terminals, tester. The tank stays charged.',
    },
    manual: {
      title: 'Book and vessel rules first',
      text: 'The maker’s book and the rules for pressure vessels stand above this app.',
    },
  },
  handles: {
    power: { title: 'Compressor', positions: two('Locked off', 'On') },
    drain: { title: 'Drain', positions: two('Shut', 'Open a little') },
    trigger: { title: 'Trigger', positions: two('Released', 'Held') },
    wide: { title: 'Gun control', positions: two('As set', 'Wide open') },
    fitted: { title: 'Test gauge', positions: two('Off, open to air', 'At the gun') },
  },
  facts: {
    cautions: {
      read: {
        title: 'Cautions read',
        say: 'Read the cautions again before going on.',
        cautions: ['stored', 'hose', 'relief', 'fumes', 'noise', 'moving', 'live', 'manual'],
      },
    },
    power: {
      on: {
        title: 'Motor on',
        say: 'Take the lock off, motor on.',
        cautions: ['moving'],
        hands: { power: 1 },
      },
      off: {
        title: 'Locked off, tried',
        say: 'Lock the motor off, then let the tank under cut-in: it must not start.',
        cautions: ['live'],
        hands: { power: 0 },
      },
      dead: {
        title: 'Locked off, proved dead',
        say: 'Lock the motor off and try it below cut-in. Cover off as if live, then prove dead: tester, terminals, tester.',
        cautions: ['live'],
        hands: { power: 0 },
      },
    },
    trigger: {
      held: {
        title: 'Trigger held',
        say: 'Hold the trigger, no paint, the gun at its highest use.',
        cautions: ['fumes', 'noise'],
        hands: { trigger: 1 },
      },
      released: { title: 'Trigger released', say: 'Let go of the trigger.', hands: { trigger: 0 } },
    },
    control: {
      wide: {
        title: 'Gun control wide open',
        say: 'Mark the gun control, and open it wide.',
        hands: { wide: 1 },
      },
      marked: { title: 'Gun control at its mark', say: 'Gun control back to its mark.', hands: { wide: 0 } },
    },
    bleeding: {
      yes: { title: 'Air let out', say: 'Let air out slowly.', cautions: ['noise'], hands: { drain: 1 } },
      no: { title: 'Drain shut', say: 'Shut the drain.', hands: { drain: 0 } },
    },
  },
});
export const { steps: s, read } = parts;
