/** Lowest and highest of every `BASE` samples, and of every `FAN` of those, and so on: a spike never disappears when zoomed out. */
export interface Pyramid {
  readonly length: number;
  /** Per level, pairs of low and high; level k covers BASE·FAN^k samples each. */
  readonly levels: readonly Float64Array[];
  /** Whether all samples are numbers. */
  readonly numbers: boolean;
}

export const BASE = 32;
export const FAN = 4;

/** Build the pyramid of some samples: linear time, a twelfth of their memory. */
export function buildPyramid(p: Float64Array): Pyramid {
  const levels = [new Float64Array(Math.ceil(p.length / BASE) * 2)];
  const numbers = fillFrom(levels, p, 0);
  return { length: p.length, levels, numbers };
}

/**
 * A pyramid over samples that were appended to: only what the new ones touch is looked at again.
 * @param p all samples, those of `before` first
 */
export function growPyramid(before: Pyramid, p: Float64Array): Pyramid {
  const blocks = Math.ceil(p.length / BASE);
  const old = before.levels[0];
  const first = new Float64Array(blocks * 2);
  if (old) first.set(old);
  const levels = [first, ...before.levels.slice(1)];
  const numbers = fillFrom(levels, p, Math.floor(before.length / BASE));
  return { length: p.length, levels, numbers: numbers && before.numbers };
}

/**
 * Fills the lowest level from a block on, and every level above it from what that touches.
 * @returns whether all samples from there on are numbers
 */
function fillFrom(levels: Float64Array[], p: Float64Array, block: number): boolean {
  const first = levels[0] ?? new Float64Array();
  // Nothing times anything that is no number is none.
  let nothing = 0;
  let blocks = first.length / 2;
  for (let b = block; b < blocks; b++) {
    const end = Math.min(p.length, (b + 1) * BASE);
    let low = Infinity;
    let high = -Infinity;
    for (let i = b * BASE; i < end; i++) {
      const x = p[i] as number;
      if (x < low) low = x;
      if (x > high) high = x;
      nothing += x * 0;
    }
    first[b * 2] = low;
    first[b * 2 + 1] = high;
  }
  let below = first;
  let from = block;
  for (let k = 1; blocks > FAN; k++) {
    const n = Math.ceil(blocks / FAN);
    const level = new Float64Array(n * 2);
    from = Math.floor(from / FAN);
    const old = levels[k];
    if (old) level.set(old.subarray(0, from * 2));
    for (let b = from; b < n; b++) {
      let low = Infinity;
      let high = -Infinity;
      for (let i = b * FAN; i < Math.min(blocks, (b + 1) * FAN); i++) {
        low = Math.min(low, below[i * 2] as number);
        high = Math.max(high, below[i * 2 + 1] as number);
      }
      level[b * 2] = low;
      level[b * 2 + 1] = high;
    }
    levels[k] = level;
    below = level;
    blocks = n;
  }
  return nothing === 0;
}

/**
 * Lowest and highest of the samples from `from` up to `to` (indexes).
 * @returns [Infinity, −Infinity] for an empty stretch
 */
export function extent(p: Float64Array, pyramid: Pyramid, from: number, to: number): [number, number] {
  let low = Infinity;
  let high = -Infinity;
  let i = Math.max(0, from);
  const end = Math.min(p.length, to);
  while (i < end) {
    // The largest block that begins here and ends in time.
    let size = 1;
    let level = -1;
    let next = BASE;
    for (let k = 0; k < pyramid.levels.length && i % next === 0 && i + next <= end; k++) {
      size = next;
      level = k;
      next *= FAN;
    }
    if (level < 0) {
      const x = p[i] as number;
      if (x < low) low = x;
      if (x > high) high = x;
    } else {
      const pair = pyramid.levels[level];
      const b = (i / size) * 2;
      low = Math.min(low, pair?.[b] ?? Infinity);
      high = Math.max(high, pair?.[b + 1] ?? -Infinity);
    }
    i += size;
  }
  return [low, high];
}

/**
 * What a picture `columns` wide needs of a stretch of time: low and high of every column, NaN where no sample fell.
 * Time is proportional to the columns, not to the samples.
 */
export function columnsOf(
  t: Float64Array,
  p: Float64Array,
  pyramid: Pyramid,
  from: number,
  to: number,
  columns: number,
): Float64Array {
  const out = new Float64Array(columns * 2).fill(NaN);
  const width = (to - from) / columns;
  let i = lowerBound(t, from, 0);
  for (let c = 0; c < columns; c++) {
    const end = lowerBound(t, from + width * (c + 1), i);
    if (end > i) {
      const [low, high] = extent(p, pyramid, i, end);
      out[c * 2] = low;
      out[c * 2 + 1] = high;
    }
    i = end;
  }
  return out;
}

/** First index at or after `from` whose time is at or after `time`; gallops, for it is usually near. */
function lowerBound(t: Float64Array, time: number, from: number): number {
  let step = 1;
  let high = from;
  while (high < t.length && (t[high] as number) < time) {
    from = high + 1;
    high += step;
    step *= 2;
  }
  let low = from;
  high = Math.min(high, t.length);
  while (low < high) {
    const middle = (low + high) >> 1;
    if ((t[middle] as number) < time) low = middle + 1;
    else high = middle;
  }
  return low;
}
