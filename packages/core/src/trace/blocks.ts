import { accept, refuse, type Result } from '../result.js';
import type { Samples } from './samples.js';

/** Samples of one stored block; the last may hold fewer. */
export const BLOCK_SAMPLES = 1 << 15;
/** Most blocks of one stored trace: some sixty million samples. */
export const MOST_BLOCKS = 1831;

/** How many blocks a trace is stored in. */
export const blocksOf = (samples: number): number => Math.ceil(samples / BLOCK_SAMPLES);

/**
 * One block of a trace as bytes: samples and channels (counts, little-endian), then column after column: times, pressures,
 * channels in the order of their names. A column is the doubles' first bytes, then their second, and so on. Compressing is the caller's.
 */
export function encodeBlock(samples: Samples, block: number): Uint8Array {
  const from = block * BLOCK_SAMPLES;
  const to = Math.min(samples.p.length, from + BLOCK_SAMPLES);
  const columns = [
    samples.t,
    samples.p,
    ...Object.keys(samples.states)
      .sort()
      .map((c) => samples.states[c] ?? new Float64Array()),
  ];
  const n = Math.max(0, to - from);
  const bytes = new Uint8Array(8 + n * 8 * columns.length);
  const view = new DataView(bytes.buffer);
  view.setUint32(0, n, true);
  view.setUint32(4, columns.length, true);
  // Byte planes: the high bytes of neighbours are alike, and stand side by side they compress far better.
  const scratch = new DataView(new ArrayBuffer(8));
  columns.forEach((column, c) => {
    const base = 8 + c * n * 8;
    for (let i = 0; i < n; i++) {
      scratch.setFloat64(0, column[from + i] ?? NaN, false);
      for (let b = 0; b < 8; b++) bytes[base + b * n + i] = scratch.getUint8(b);
    }
  });
  return bytes;
}

/**
 * The samples of a block's bytes.
 * @param channels names of its state channels
 * @returns a refusal where the bytes are no such block
 */
export function decodeBlock(bytes: Uint8Array, channels: readonly string[]): Result<Samples> {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const n = bytes.length >= 8 ? view.getUint32(0, true) : 0;
  const columns = bytes.length >= 8 ? view.getUint32(4, true) : 0;
  if (n < 1 || n > BLOCK_SAMPLES || columns !== channels.length + 2 || bytes.length !== 8 + n * 8 * columns)
    return refuse('block-broken', 'These bytes are no block of this trace.', {
      bound: `1 to ${BLOCK_SAMPLES} samples of ${channels.length + 2} columns`,
      remedy: 'Send the block again.',
    });
  const scratch = new DataView(new ArrayBuffer(8));
  const column = (c: number): Float64Array => {
    const base = 8 + c * n * 8;
    const out = new Float64Array(n);
    for (let i = 0; i < n; i++) {
      for (let b = 0; b < 8; b++) scratch.setUint8(b, bytes[base + b * n + i] ?? 0);
      out[i] = scratch.getFloat64(0, false);
    }
    return out;
  };
  const names = [...channels].sort();
  return accept({
    t: column(0),
    p: column(1),
    states: Object.fromEntries(names.map((name, i) => [name, column(i + 2)])),
  });
}
