// What is done over and over on a spa: a speed, the meter, all off, the wheel.
import {
  until,
  type JobView,
  type Node,
  type Phase,
  type Plan,
  type Seek,
  type Words,
} from '@firm-needle/core/procedure';
import type { AnswersOf, FaceOf, NamesIn } from '../define/index.js';
import { HIGH_FOR_S, MOST_CLICKS, opensWithin, s, type parts } from './parts.js';
import * as now from './state.js';

type Names = NamesIn<typeof parts>;

export const CLOSES = { channel: 'contact', to: 1, title: 'It closes' } as const;
export const OPENS = { channel: 'contact', to: 0, title: 'It opens' } as const;
/** Settled at a speed before the meter is read, s. */
const SETTLED_S = 5;

export const CAUSES: AnswersOf<Names> = {
  filter: { title: 'Filter was dirty: cleaned', sets: { filter: 'clean' } },
  valve: { title: 'A valve was not open: opened', sets: { valves: 'open' } },
  air: { title: 'Air or low water: filled and primed', sets: { primed: 'yes' } },
};

/** More than one thing may be wrong at once: asked until all is in order. */
export const flowInOrder = (key: string): Node =>
  until(
    (j) => now.answerAt(j, key) === 'good',
    [
      s.observe(
        key,
        'Water, valves, filter',
        (j) =>
          now.answerAt(j, key) === undefined
            ? 'Before the switch is blamed: valves open, water level up, filter clean or out, pump primed?'
            : 'And the rest: valves open, water level up, filter clean or out, pump primed?',
        { good: { title: 'All in order', advised: true }, ...CAUSES },
        { why: 'A switch that opens for want of flow does its work.' },
      ),
    ],
  );

export const run = (key: string, speed: 'low' | 'off', say: string): Node =>
  s.confirm(key, speed === 'low' ? 'Low speed' : 'Pumps off', say, {
    cautions: ['enclosure'],
    needs: { lead: 'off', power: 'on' },
    sets: { pump: speed },
    hands: { pump: speed === 'low' ? 1 : 0 },
  });

export const meter = (
  key: string,
  title: string,
  say: string,
  phase: Phase,
  face: FaceOf<Names> & { readonly seconds?: number } = {},
): Node =>
  s.observe(
    key,
    title,
    say,
    { closed: 'Closed: continuity', open: 'Open' },
    {
      phase,
      seconds: SETTLED_S,
      cautions: ['enclosure'],
      needs: { lead: 'off', power: 'on' },
      sets: { pump: 'low' },
      hands: { pump: 1 },
      ...face,
    },
  );

export const high = (key: string, phase: Phase): Node =>
  meter(
    key,
    'High speed',
    'High speed for ten seconds, then read the meter: it must still be closed.',
    phase,
    { seconds: HIGH_FOR_S, sets: { pump: 'high' }, hands: { pump: 2 } },
  );

export function stopAll(key: string, phase: Phase, { plate }: Plan): Node {
  const limit_s = opensWithin(plate);
  return s.observe(
    key,
    'Opens in time',
    'Stop all pumps and start the stopwatch in one movement; stop it when the meter opens.',
    { opened: 'It opened', stays: 'It stays closed' },
    {
      phase,
      why: `It must be open ${limit_s} s after the last pump stops.`,
      needs: { lead: 'off' },
      sets: { pump: 'off' },
      stopwatch: { ...OPENS, limit_s, start: 'All pumps off', hands: { pump: 0 }, most_s: 5 * limit_s },
    },
  );
}

/** The wheel, with the cover off and its lead on the meter. */
export const wheel = (
  key: string,
  title: string,
  say: string,
  pump: 'low' | 'off' | undefined,
  how: { readonly seek?: Seek; readonly amount?: (job: JobView) => number; readonly why?: Words },
): Node =>
  s.turn(key, 'wheel', title, say, {
    cautions: ['enclosure'],
    permit: 'mains',
    needs: { lead: 'off', ...(pump ? { pump } : {}) },
    tools: pump ? ['small screwdriver', 'meter'] : ['small screwdriver'],
    ...how,
  });

export const seek = (
  key: string,
  way: 1 | -1,
  signal: Pick<Seek, 'channel' | 'to' | 'title'>,
  say: string,
  pump: 'low' | 'off',
): Node =>
  wheel(key, way > 0 ? 'Clockwise' : 'Counter-clockwise', say, pump, {
    seek: { ...signal, way, most: MOST_CLICKS, ended: 'End of the wheel, nothing' },
  });
