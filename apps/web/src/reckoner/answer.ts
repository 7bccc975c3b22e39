import { showWithUnit } from '@firm-needle/core/quantity';
import { type Result, accept } from '@firm-needle/core/result';

/** One line of an answer; the first is the one that matters. */
export interface AnswerLine {
  readonly label: string;
  readonly value: string;
}

export interface Field {
  readonly id: string;
  readonly label: string;
  readonly start: string;
  readonly hint?: string;
  readonly options?: readonly { readonly value: string; readonly title: string }[];
}
/** A sum of the trade: what goes in as text, what comes out as lines, and where it comes from. */
export interface Sum {
  readonly id: string;
  readonly title: string;
  readonly fields: readonly Field[];
  readonly source: string;
  answer(inputs: Readonly<Record<string, string>>): Result<readonly AnswerLine[]>;
}
export const line = (label: string, value: string): AnswerLine => ({ label, value });
export const pressure = (pa: number, step = 0.1): string =>
  `${showWithUnit(pa, { unit: 'psi', step })}, ${showWithUnit(pa, { unit: 'kPa', step })}`;
/** Enough digits for the size of a number: four that count. */
export function sized(value: number): string {
  const size = Math.abs(value);
  if (size === 0) return '0';
  const text = size >= 1e6 || size < 1e-3 ? value.toExponential(3) : String(Number(value.toPrecision(5)));
  return text.replace('-', '−');
}
/** Runs steps that may each be refused, as if they were plain values. */
export function reckon<T>(work: (must: <V>(r: Result<V>) => V) => T): Result<T> {
  class Refused extends Error {
    constructor(readonly result: Result<never>) {
      super();
    }
  }
  try {
    return accept(
      work((r) => {
        if (r.ok) return r.value;
        throw new Refused(r);
      }),
    );
  } catch (e) {
    if (e instanceof Refused) return e.result;
    throw e;
  }
}
