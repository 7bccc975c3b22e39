import { gauge, toAbsolute, type AbsolutePressure, type PressureKind } from '../quantity/index.js';
import { accept, refuse, type Result } from '../result.js';
import type { Ancillary, Line, Fluid } from './fluids.js';
import { REFRIGERANTS, WATER, fluids } from './fluids.js';
import { waterSaturationPressure, waterSaturationTemperature } from './water.js';

/** Saturation pressures of a fluid at one temperature, Pa absolute; bubble and dew are one for a pure fluid. */
export interface Saturation {
  readonly bubble: number;
  readonly dew: number;
}

const along = (a: Ancillary, line: Line, T: number): number => {
  const theta = 1 - T / a.Tc;
  const sum = line.n.reduce((s, n, i) => s + n * theta ** (line.t[i] ?? 1), 0);
  return a.pc * Math.exp((a.Tc / T) * sum);
};

const fluidOf = (id: string): Result<Fluid & { readonly line?: Ancillary }> => {
  const name = id.toUpperCase().replace(/[-\s]/g, '');
  const found =
    REFRIGERANTS.find((r) => r.id.toUpperCase() === name) ??
    (name === 'WATER' || name === 'STEAM' ? WATER : undefined);
  return found
    ? accept(found)
    : refuse('fluid-unknown', `"${id}" is not a fluid this app has checked values for.`, {
        bound: fluids()
          .map((f) => f.title)
          .join(', '),
        remedy: 'Use the chart on the cylinder.',
      });
};

/**
 * Saturation pressures at a temperature.
 * @param T K; refused outside the range in which the equation was checked, and above critical
 * @returns Pa absolute
 */
export function saturationPressure(fluid: string, T: number): Result<Saturation> {
  const f = fluidOf(fluid);
  if (!f.ok) return f;
  const { lower_K, upper_K, title, line } = f.value;
  if (!(T >= lower_K && T <= upper_K))
    return refuse(
      T > (line?.Tc ?? Infinity) ? 'above-critical' : 'temperature-outside',
      `${(T - 273.15).toFixed(1)} °C is outside what is known of ${title}.`,
      {
        bound: `${(lower_K - 273.15).toFixed(0)} to ${(upper_K - 273.15).toFixed(0)} °C`,
        remedy: 'Check the temperature and its unit, or use the chart on the cylinder.',
      },
    );
  if (!line) {
    const p = waterSaturationPressure(T);
    return p.ok ? accept({ bubble: p.value, dew: p.value }) : p;
  }
  const bubble = along(line, line.bubble, T);
  return accept({ bubble, dew: line.dew ? along(line, line.dew, T) : bubble });
}

/**
 * Saturation temperature at a pressure, by bisection on the bubble line (or the dew line).
 * @param p Pa absolute
 * @returns K
 */
export function saturationTemperature(
  fluid: string,
  p: number,
  side: 'bubble' | 'dew' = 'bubble',
): Result<number> {
  const f = fluidOf(fluid);
  if (!f.ok) return f;
  if (!(p > 0))
    return refuse('below-vacuum', `${Math.round(p)} Pa absolute is at or below vacuum.`, {
      remedy: 'Check whether it was meant as gauge pressure.',
    });
  if (!f.value.line) return waterSaturationTemperature(p);
  let low = f.value.lower_K;
  let high = f.value.upper_K;
  const at = (T: number): number => {
    const s = saturationPressure(fluid, T);
    return s.ok ? s.value[side] : NaN;
  };
  if (p < at(low) || p > at(high))
    return refuse(
      'pressure-outside',
      `${(p / 1e5).toFixed(2)} bar absolute is outside what is known of ${f.value.title}.`,
      {
        bound: `${(at(low) / 1e5).toFixed(2)} to ${(at(high) / 1e5).toFixed(2)} bar absolute`,
        remedy: 'Check the pressure, its unit, and whether it is gauge or absolute.',
      },
    );
  while (high - low > 1e-7) {
    const middle = (low + high) / 2;
    if (at(middle) < p) low = middle;
    else high = middle;
  }
  return accept((low + high) / 2);
}

/**
 * Saturation temperature at a pressure of a stated kind.
 * @param p Pa, gauge or absolute as `kind` says
 * @param ambient Pa absolute, for a gauge pressure
 * @returns K; refused for a difference, which stands on no known pressure
 */
export function saturationTemperatureAt(
  fluid: string,
  p: number,
  kind: PressureKind,
  ambient: AbsolutePressure,
  side: 'bubble' | 'dew' = 'bubble',
): Result<number> {
  if (kind === 'difference')
    return refuse('wrong-kind', 'A pressure difference has no saturation temperature.', {
      remedy: 'Type what a gauge shows (psi, bar), or an absolute pressure (psia, bara).',
    });
  if (kind === 'absolute') return saturationTemperature(fluid, p, side);
  const absolute = toAbsolute(gauge(p), ambient);
  return absolute.ok ? saturationTemperature(fluid, absolute.value, side) : absolute;
}

/** Slope of the bubble line, Pa/K: what a thermometer's doubt is worth in pressure. */
export function saturationSlope(fluid: string, T: number): Result<number> {
  const [a, b] = [saturationPressure(fluid, T - 0.05), saturationPressure(fluid, T + 0.05)];
  if (!a.ok) return a;
  if (!b.ok) return b;
  return accept((b.value.bubble - a.value.bubble) / 0.1);
}
