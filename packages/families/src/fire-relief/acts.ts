import type { Node, JobView, Phase } from '@firm-needle/core/procedure';
import type { NamesIn } from '../define/parts.js';
import type { FaceOf } from '../define/steps.js';
import { type parts, s } from './parts.js';

type Names = NamesIn<typeof parts>;
/** So far is sought, turns: down until it opens, up until it closes. */
const MOST_DOWN = 5;
const MOST_UP = 1.5;
/** What a movement of the pilot takes to show at the outlet, s [common practice, no source]. */
export const SETTLES_S = 4;
export const WATCH_S = 60;
export const RUNS = { channel: 'discharge', to: 1, title: 'Water runs' } as const;
const DRY = { channel: 'discharge', to: 0, title: 'It stops' } as const;
export const running = { impairment: 'given', path: 'clear', pump: 'churn' } as const;
/** The phase of a turn of the search: it finds, and sets nothing. */
export const SEARCH = { phase: undefined } as const;
/** The pilot moved a little at a time until the outlet says something. */
export const edge = (
  key: string,
  title: string,
  say: string,
  way: 1 | -1,
  by: number,
  cautions: FaceOf<Names>['cautions'] = ['hammer'],
): Node =>
  s.turn(key, 'pilot', title, say, {
    ...SEARCH,
    cautions,
    needs: running,
    seek: {
      ...(way < 0 ? RUNS : DRY),
      way,
      by,
      most: way < 0 ? MOST_DOWN : MOST_UP,
      settles_s: SETTLES_S,
      ended: way < 0 ? 'End of the screw, still dry' : 'One and a half turns, still running',
    },
  });

export const turnBy = (
  key: string,
  title: string,
  say: string,
  why: string,
  amount: (job: JobView) => number,
  face: FaceOf<Names> & { readonly toMark?: boolean } = {},
): Node => s.turn(key, 'pilot', title, say, { ...SEARCH, why, cautions: ['hammer'], amount, ...face });

export const readSystem = (
  key: string,
  setting: 'churn' | 'closes' | 'closesDrawn' | 'runs',
  title: string,
  say: string,
  phase: Phase = 'found',
): Node =>
  s.read(key, setting, title, say, {
    phase,
    needs: { impairment: 'given', gauges: 'on' },
    // What a turn does here, and where it opens, is reckoned from these.
    ...(setting === 'churn' ? {} : { needed: true }),
  });

export const dry = (key: string, title: string, say: string, why: string, seconds = 10): Node =>
  s.observe(
    key,
    title,
    say,
    { dry: { title: 'Dry', advised: true }, runs: 'Water runs' },
    { why, seconds, cautions: ['discharge'] },
  );
