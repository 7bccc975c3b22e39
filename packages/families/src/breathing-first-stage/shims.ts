// Which pack to build: of the shims at hand never more than three, the nearest to what is wanted, in one opening.
import type { JobView } from '@firm-needle/core/procedure';
import { MOST_SHIMS, read } from './parts.js';

const SHIMS = ['shim1', 'shim2', 'shim3', 'shim4', 'shim5', 'shim6'] as const;
/** Metres in the hand unit: a hundredth of a millimetre. */
const HUNDREDTH = 1e-5;

/** Every pack of at most three of some shims, with its thickness; none is a pack too. */
export function packsOf<T>(
  shims: readonly T[],
  thick: (shim: T) => number,
): readonly { readonly of: readonly T[]; readonly thick: number }[] {
  let packs: { of: readonly T[]; thick: number }[] = [{ of: [], thick: 0 }];
  for (const shim of shims)
    packs = [
      ...packs,
      ...packs
        .filter((p) => p.of.length < MOST_SHIMS)
        .map((p) => ({ of: [...p.of, shim], thick: p.thick + thick(shim) })),
    ];
  return packs;
}

export interface Pack {
  /** Each shim in it, hundredths of a millimetre. */
  readonly of: readonly number[];
  /** To add to what is inside now, hundredths of a millimetre. */
  readonly by: number;
}

const hundredths = (metres: number): number => Math.round(metres / HUNDREDTH);

/** What is inside now, hundredths of a millimetre. */
export const inside = (job: JobView): number =>
  hundredths(read(job.plan).plate.pack ?? 0) + job.netTurns('pack');

/**
 * The pack nearest to what the advisor wants, of the shims at hand; undefined where none is nearer than what is inside.
 * A thinner one is preferred to one that is as far on the other side.
 */
export function bestPack(job: JobView): Pack | undefined {
  const advice = job.advice('pack');
  if (advice.stop !== null) return undefined;
  const { plate } = read(job.plan);
  const shims = SHIMS.flatMap((id) => (plate[id] === undefined ? [] : [hundredths(plate[id])]));
  const wanted = advice.turns;
  const now = inside(job);
  const [best] = packsOf(shims, (x) => x)
    .map((p) => ({ of: p.of, by: p.thick - now }))
    .filter((p) => p.by !== 0 && Math.abs(p.by - wanted) < Math.abs(wanted))
    .sort(
      (a, b) => Math.abs(a.by - wanted) - Math.abs(b.by - wanted) || a.by - b.by || a.of.length - b.of.length,
    );
  return best;
}

/** A pack in words: `0.45 mm: 0.25 and 0.20`. */
export const sayPack = ({ of }: Pack): string => {
  const mm = (x: number): string => (x / 100).toFixed(2);
  if (of.length === 0) return 'none at all';
  const all = of.toSorted((a, b) => b - a).map(mm);
  return `${mm(of.reduce((a, b) => a + b, 0))} mm${all.length > 1 ? `: ${all.join(' and ')}` : ', one shim'}`;
};
