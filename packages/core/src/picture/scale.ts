import type { LadderPart } from '../family/index.js';

/** A vertical scale: canonical values to pixels, zero at the top. */
export interface Scale {
  readonly lower: number;
  readonly upper: number;
  readonly top: number;
  readonly bottom: number;
  y(value: number): number;
  value(y: number): number;
}

export function makeScale(lower: number, upper: number, top: number, bottom: number): Scale {
  const k = (bottom - top) / (upper - lower);
  return {
    lower,
    upper,
    top,
    bottom,
    y: (v) => bottom - (v - lower) * k,
    value: (y) => lower + (bottom - y) / k,
  };
}

/** Ticks at round values of the unit: numbered ones and the fine ones between. */
export function ticksOf(
  scale: Scale,
  factor: number,
): { readonly value: number; readonly major: boolean; readonly text: string }[] {
  const span = (scale.upper - scale.lower) / factor;
  const raw = span / Math.max(4, Math.floor((scale.bottom - scale.top) / 46));
  const power = 10 ** Math.floor(Math.log10(raw));
  const step = [1, 2, 5, 10].map((m) => m * power).find((s) => s >= raw) ?? 10 * power;
  const minor = step / (step / power === 2 ? 2 : 5);
  const out: { value: number; major: boolean; text: string }[] = [];
  const first = Math.ceil(scale.lower / factor / minor);
  const last = Math.floor(scale.upper / factor / minor);
  for (let i = first; i <= last; i++) {
    const v = i * minor;
    const major = Math.abs(v / step - Math.round(v / step)) < 1e-6;
    out.push({ value: v * factor, major, text: String(Number(v.toFixed(6))).replace('-', '−') });
  }
  return out;
}

/** The part of the scale that everything on the ladder needs, with some air. */
export function domainOf(
  parts: readonly LadderPart[],
  values: readonly number[],
  factor: number,
): { lower: number; upper: number } {
  const all: number[] = [...values];
  for (const p of parts) {
    if (p.part === 'mark') all.push(p.value);
    else if (p.part === 'bracket') all.push(p.from, p.to);
    else if (p.part === 'band' || p.part === 'window') all.push(p.lower, p.upper);
    else if (p.part === 'spine' && p.drawn) all.push(p.lower, p.upper);
  }
  // Of what is forbidden above, the nearest must be in sight; what is forbidden below begins at its upper edge.
  const zones = parts.filter((p) => p.part === 'zone');
  const above = zones.flatMap((z) => (z.below ? [] : [z.lower]));
  if (above.length > 0) all.push(Math.min(...above));
  for (const z of zones) if (z.below) all.push(z.lower);
  const low = Math.min(...all);
  const high = Math.max(...all);
  const air = Math.max((high - low) * 0.14, Math.min(factor, 0.05 * Math.abs(high) || factor));
  // Nothing is drawn below zero unless something stands there.
  return { lower: low < 0 ? low - air * 0.6 : Math.max(0, low - air * 1.4), upper: high + air };
}

/**
 * Labels moved apart so that none covers another, as little as possible and in their order: least squares with a gap between
 * neighbours, by pooling those that collide.
 * @param stands where the things stand that are labelled, in pixels: their order is kept, whatever places their labels want
 */
export function apart(
  wanted: readonly number[],
  gap: number,
  top: number,
  bottom: number,
  stands: readonly number[] = wanted,
): number[] {
  const order = wanted.map((y, i) => ({ y, i, at: stands[i] ?? y })).sort((a, b) => a.at - b.at || a.y - b.y);
  // With the gaps taken out, the places must only not decrease; colliding neighbours share their mean.
  const pools: { sum: number; n: number }[] = [];
  order.forEach(({ y }, k) => {
    pools.push({ sum: y - k * gap, n: 1 });
    for (;;) {
      const last = pools.at(-1);
      const before = pools.at(-2);
      if (!last || !before || before.sum / before.n <= last.sum / last.n) break;
      pools.splice(-2, 2, { sum: before.sum + last.sum, n: before.n + last.n });
    }
  });
  const room = Math.max(top, bottom - (order.length - 1) * gap);
  const places = pools.flatMap(({ sum, n }) => Array<number>(n).fill(Math.min(room, Math.max(top, sum / n))));
  const out: number[] = [];
  order.forEach((o, k) => (out[o.i] = (places[k] ?? o.y) + k * gap));
  return out;
}
