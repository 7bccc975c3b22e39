import { refuse, accept, type Result } from '../result.js';

/** Accuracy by ASME B40.100 grade or EN 837-1 class, or as a stated percentage of span. */
export type AccuracyClass =
  | { readonly standard: 'B40.100'; readonly grade: B40Grade }
  | { readonly standard: 'EN 837-1'; readonly class: number }
  | { readonly standard: 'stated'; readonly percentOfSpan: number };

export type B40Grade = '4A' | '3A' | '2A' | '1A' | 'A' | 'B' | 'C' | 'D';

/** Percent of span: [middle half, outside it]. ASME B40.100 (from memory). */
const B40: Readonly<Record<B40Grade, readonly [number, number]>> = {
  '4A': [0.1, 0.1],
  '3A': [0.25, 0.25],
  '2A': [0.5, 0.5],
  '1A': [1, 1],
  A: [1, 2],
  B: [2, 3],
  C: [3, 4],
  D: [5, 5],
};

/** EN 837-1 accuracy classes, percent of span. */
export const EN837_CLASSES: readonly number[] = [0.1, 0.25, 0.6, 1, 1.6, 2.5, 4];

/** The class named by a text such as `B`, `2A`, `1.6`, or a refusal that lists what there is. */
export function parseAccuracyClass(text: string): Result<AccuracyClass> {
  const t = text
    .trim()
    .toUpperCase()
    .replace(/^(GRADE|CLASS|KL\.?|CL\.?)\s*/, '');
  if (t in B40) return accept({ standard: 'B40.100', grade: t as B40Grade });
  const n = Number(t.replace(',', '.'));
  if (EN837_CLASSES.includes(n)) return accept({ standard: 'EN 837-1', class: n });
  return refuse('class-unknown', `"${text}" is neither a B40.100 grade nor an EN 837-1 class.`, {
    bound: `${Object.keys(B40).join(', ')}; ${EN837_CLASSES.join(', ')}`,
    remedy: 'Read the class from the dial, or state the accuracy in percent of span.',
  });
}

/**
 * Largest permitted error of a gauge at a reading.
 * @param at reading in the gauge's own unit
 * @param lower,upper ends of the scale in the same unit
 * @returns the limit of error in that unit
 */
export function errorLimit(c: AccuracyClass, at: number, lower: number, upper: number): number {
  const span = upper - lower;
  switch (c.standard) {
    case 'EN 837-1':
      return (c.class / 100) * span;
    case 'stated':
      return (c.percentOfSpan / 100) * span;
    case 'B40.100': {
      const [middle, outside] = B40[c.grade];
      const inMiddle = at >= lower + span / 4 && at <= upper - span / 4;
      return ((inMiddle ? middle : outside) / 100) * span;
    }
  }
}

/** `grade B` or `class 1.6`, as it stands on the sheet. */
export function classText(c: AccuracyClass): string {
  if (c.standard === 'B40.100') return `grade ${c.grade} (B40.100)`;
  if (c.standard === 'EN 837-1') return `class ${c.class} (EN 837-1)`;
  return `${c.percentOfSpan} % of span`;
}
