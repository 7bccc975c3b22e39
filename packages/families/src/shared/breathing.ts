// What first and second stages of breathing regulators share: who may turn anything, why one is on the bench, and what relieves its line.
import type { ObserveStep } from '@firm-needle/core/procedure';
import type { Hurts } from '@firm-needle/core/script';
import type { Names, Steps } from '../define/index.js';
import { psi } from './units.js';

export const BREATHING_PERMIT = {
  id: 'breathing',
  title: 'Breathing regulators: trained and authorised by the maker',
} as const;

/** @param rebuilt what it is called once it was taken apart: nothing was there to be found then */
export const breathingOccasions = (rebuilt: string) =>
  [
    { id: 'service', title: 'In service', found: true },
    { id: 'new', title: 'New: if it is out, back to its seller first', found: true },
    { id: 'rebuilt', title: rebuilt, found: false },
  ] as const;

/** Nothing that is under more than this is coupled, uncoupled or opened, Pa. */
export const UNDER_PRESSURE = psi(10);

/** What hurts at a line that people breathe from, whatever stage hangs on it. @param open positions in which its supply is open */
export const lineHurts = (open: readonly number[]): readonly Hurts[] => [
  {
    deed: 'supply',
    to: open,
    while: { relief: [0] },
    text: 'Supply was opened with nothing in the line to relieve it.',
  },
  {
    deed: 'relief',
    while: { bleed: [0] },
    over: ['ip', UNDER_PRESSURE],
    text: 'The relief was coupled to a line under pressure.',
  },
];

/** No supply before something in its line can open: asked, never taken for granted. */
export const whatRelieves = <N extends Names>(
  s: Pick<Steps<N>, 'observe'>,
  answers: Readonly<Record<string, string>>,
  face: {
    readonly cautions: readonly N['caution'][];
    readonly hands: { readonly [H in N['handle']]?: number };
  },
): ObserveStep => {
  const inline = { relief: 'inline' };
  return s.observe(
    'relief',
    'What opens if the seat fails?',
    'Couple up, spare ports blanked, bleed shut. What opens if the seat fails?',
    {
      ...Object.fromEntries(
        Object.entries(answers).map(([code, title], i) => [
          code,
          { title, sets: inline, ...(i === 0 ? { advised: true } : {}) },
        ]),
      ),
      nothing: 'Nothing',
    } as Parameters<typeof s.observe>[3],
    {
      ...face,
      sets: { line: 'closed' },
      needed: true,
      why: 'Not one that is being turned, not one behind a shut-off, not one that shuts harder with pressure.',
    } as Parameters<typeof s.observe>[4],
  );
};
