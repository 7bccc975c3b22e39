// How a file of the corpus is written: one signal, its clock and its columns, and what must come of it.
import { seeded } from '../../rig/random.js';

/** What must come of a file. */
export type Expected =
  | { readonly refused: string }
  | {
      /** Rows read. */
      readonly n: number;
      /** From the first to the last, s. */
      readonly span: number;
      /** The first pressure, Pa gauge at 101 325 Pa. */
      readonly first: number;
      /** Of the pressures as a whole, Pa. */
      readonly mean: number;
      /** What must be said of it. */
      readonly says?: readonly string[];
      readonly lost?: number;
    };

export interface CorpusFile {
  readonly name: string;
  readonly bytes: Uint8Array;
  readonly expected: Expected;
}

export const N = 90;
export const DT = 10;
export const PSI = 6894.757293168361;
export const AIR = 101325;
export const two = (n: number): string => String(n).padStart(2, '0');

/** The signal, psi gauge, to a hundredth. */
function signal(seed: number): readonly number[] {
  const random = seeded(seed);
  return Array.from(
    { length: N },
    (_, i) => Math.round(100 * (50 + 8 * Math.sin(i / 7) + 0.1 * random.normal())) / 100,
  );
}

const PSIS = signal(7);

export interface Form {
  readonly heading?: readonly string[];
  /** The cells of a row. */
  readonly row: (i: number, psi: number) => readonly (string | number)[];
  readonly before?: readonly string[];
  readonly after?: readonly string[];
  readonly delimiter?: string;
  readonly end?: string;
  readonly order?: (rows: readonly string[]) => readonly string[];
}

export const text = ({
  heading,
  row,
  before = [],
  after = [],
  delimiter = ',',
  end = '\n',
  order = (r) => r,
}: Form): string =>
  [
    ...before,
    ...(heading ? [heading.join(delimiter)] : []),
    ...order(PSIS.map((p, i) => row(i, p).join(delimiter))),
    ...after,
  ].join(end) + end;

/** What the signal is where a unit of its own scale is written in its place: value × Pa, over the air or not. */
export const as = (
  pa: number,
  over: Partial<Exclude<Expected, { refused: string }>> = {},
  shift = 0,
): Expected => ({
  n: N,
  span: (N - 1) * DT,
  first: (PSIS[0] ?? 0) * pa + shift,
  mean: (PSIS.reduce((a, b) => a + b, 0) / N) * pa + shift,
  ...over,
});
export const usual = (over: Partial<Exclude<Expected, { refused: string }>> = {}): Expected => as(PSI, over);
export const at = (i: number, from = 0): string => {
  const s = from + i * DT;
  return `${two(Math.floor(s / 3600) % 24)}:${two(Math.floor(s / 60) % 60)}:${two(s % 60)}`;
};
export const twelve = (i: number, from: number): readonly [string, string] => {
  const s = from + i * DT;
  const h = Math.floor(s / 3600) % 24;
  return [
    `${h % 12 === 0 ? 12 : h % 12}:${two(Math.floor(s / 60) % 60)}:${two(s % 60)}`,
    h < 12 ? 'AM' : 'PM',
  ];
};
export const NOON = 11 * 3600 + 55 * 60;

/** A file by its name, how it is written, and what must come of it. */
export type Named = readonly [name: string, form: Form, expected: Expected];
