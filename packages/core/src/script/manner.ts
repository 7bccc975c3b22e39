import { shownStep, type Gauge } from '../gauge/index.js';
import { skippable, type AsTyped, type Step } from '../procedure/index.js';
import { decimalsFor, toCanonical } from '../quantity/index.js';
import { seeded } from '../rig/index.js';

/** How a technician's hands and eyes do what the procedure asks for. */
export interface Manner {
  /** What is turned where so much was meant, hand units; what was meant is what is written down. */
  turns(meant: number, clicks: boolean): number;
  /** What is written down of what a gauge shows. @param others what the gauges in the other places show */
  reads(shown: AsTyped, gauge: Gauge, others: readonly AsTyped[]): AsTyped;
  /** Whether a step is passed over that may be. */
  skips(step: Step): boolean;
  /** So many seconds after which a reading is taken though it is not firm; undefined where it is waited for. */
  hurries(): number | undefined;
  /** Whether an entry is made twice. */
  doubles(): boolean;
}

/** Does what is asked, and reads what is shown. */
export const careful: Manner = {
  turns: (meant) => meant,
  reads: (shown) => shown,
  skips: () => false,
  hurries: () => undefined,
  doubles: () => false,
};

/** What may go wrong with hands and eyes. */
export type Clumsiness = 'misreads' | 'overturns' | 'skips' | 'wrong-gauge' | 'early' | 'twice';
export const CLUMSINESS: readonly Clumsiness[] = [
  'misreads',
  'overturns',
  'skips',
  'wrong-gauge',
  'early',
  'twice',
];

/** Every turn goes so much too far. */
const TOO_FAR = 0.3;
/** How often each of the others happens. */
const OFTEN: Readonly<Record<Exclude<Clumsiness, 'overturns'>, number>> = {
  misreads: 0.1,
  skips: 0.1,
  'wrong-gauge': 0.05,
  early: 0.1,
  twice: 0.05,
};

/** Somebody with cold hands, in a hurry, in bad light. Deterministic in the seed. */
export function clumsy(how: readonly Clumsiness[], seed: number): Manner {
  const random = seeded(seed);
  const happens = (what: Exclude<Clumsiness, 'overturns'>): boolean =>
    how.includes(what) && random.next() < OFTEN[what];
  return {
    turns: (meant, clicks) =>
      !how.includes('overturns')
        ? meant
        : // A click is felt: it is one too many at most.
          clicks
          ? meant + Math.sign(meant) * Math.min(1, Math.round(Math.abs(meant) * TOO_FAR))
          : meant * (1 + TOO_FAR),
    reads(shown, gauge, others) {
      if (happens('wrong-gauge')) {
        // Another gauge of the job, or one that has nothing to do with it.
        const other = others[Math.floor(random.next() * others.length)];
        return other ?? off(shown, gauge, shown.value * 0.25 * (2 * random.next() - 1));
      }
      // One division beside it, or the next numeral.
      const divisions = random.next() < 0.8 ? 1 : 5;
      return happens('misreads')
        ? off(
            shown,
            gauge,
            (random.next() < 0.5 ? -1 : 1) *
              divisions *
              (toCanonical(gauge.division, gauge.unit) - toCanonical(0, gauge.unit)),
          )
        : shown;
    },
    skips: (step) => skippable(step) && happens('skips'),
    hurries: () => (happens('early') ? 1 + 3 * random.next() : undefined),
    doubles: () => happens('twice'),
  };
}

/** A reading so many Pa beside what is shown, as it would be typed. */
function off(shown: AsTyped, gauge: Gauge, by: number): AsTyped {
  const per = toCanonical(1, gauge.unit) - toCanonical(0, gauge.unit);
  const typed = Math.min(gauge.upper, Math.max(gauge.lower, Number(shown.text) + by / per));
  const text = typed.toFixed(decimalsFor(shownStep(gauge)));
  return { text, unit: shown.unit, value: toCanonical(Number(text), shown.unit) };
}
