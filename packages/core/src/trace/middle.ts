/** Median of the samples in some stretches (indexes), from at most some thousands of them. */
export function middleLevel(p: Float64Array, stretches: readonly { from: number; to: number }[]): number {
  const all = stretches.reduce((n, s) => n + Math.max(0, s.to - s.from), 0);
  const stride = Math.max(1, Math.floor(all / 20000));
  const list: number[] = [];
  for (const s of stretches) for (let i = s.from; i < s.to; i += stride) list.push(p[i] ?? NaN);
  list.sort((a, b) => a - b);
  return list[list.length >> 1] ?? NaN;
}
