import { showWithUnit } from '../quantity/index.js';
import { accept, refuse, type Result } from '../result.js';
import { waterSaturationPressure, waterSaturationTemperature } from './water.js';

/** One line of ln(p/pc) = (Tc/T) Σ n·θ^t, θ = 1 − T/Tc. */
interface Line {
  readonly n: readonly number[];
  readonly t: readonly number[];
}

interface Ancillary {
  readonly Tc: number;
  readonly pc: number;
  readonly bubble: Line;
  /** Where liquid and vapour lines differ. */
  readonly dew?: Line;
}

/** A fluid with its saturation line and where that may be believed, K. */
export interface Fluid {
  readonly id: string;
  readonly title: string;
  readonly lower_K: number;
  readonly upper_K: number;
  readonly source: string;
}

const F = (f: number): number => ((f - 32) * 5) / 9 + 273.15;

const REFRIGERANTS: readonly (Fluid & { readonly line: Ancillary })[] = [
  {
    id: 'R410A',
    title: 'R-410A',
    lower_K: F(-40),
    upper_K: 344,
    source: 'published pseudo-pure equation of 2003, from memory; checked at five chart values',
    line: {
      Tc: 344.494,
      pc: 4901.2e3,
      bubble: { n: [-7.2818, 2.5093, -3.2695, -2.8022], t: [1, 1.8, 2.4, 4.9] },
      dew: { n: [-7.4411, 1.9883, -2.4925, -3.2633], t: [1, 1.6, 2.4, 5] },
    },
  },
  {
    id: 'R134a',
    title: 'R-134a',
    lower_K: F(-40),
    upper_K: 374,
    source:
      'published standard formulation of 1994, from memory; checked at four chart values and the boiling point',
    line: {
      Tc: 374.18,
      pc: 4056.29e3,
      bubble: { n: [-7.686556, 2.311791, -2.039554, -3.583758], t: [1, 1.5, 2, 4] },
    },
  },
  {
    id: 'R22',
    title: 'R-22',
    // A rough fit: good to 1 % between these and refused outside.
    lower_K: F(30),
    upper_K: F(120),
    source: 'rough fit to chart values, 1 % from 30 to 120 °F; checked at three of them',
    line: { Tc: 369.295, pc: 4990e3, bubble: { n: [-7.1, 1.8, -1.9, -2.9], t: [1, 1.5, 2.3, 4.3] } },
  },
];

const WATER: Fluid = {
  id: 'water',
  title: 'Water (steam)',
  lower_K: 273.15,
  upper_K: 647.096,
  source: 'IAPWS-IF97',
};

/** Every fluid whose saturation line is known here. */
export const fluids = (): readonly Fluid[] => [...REFRIGERANTS, WATER];

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

/** Slope of the bubble line, Pa/K: what a thermometer's doubt is worth in pressure. */
export function saturationSlope(fluid: string, T: number): Result<number> {
  const [a, b] = [saturationPressure(fluid, T - 0.05), saturationPressure(fluid, T + 0.05)];
  if (!a.ok) return a;
  if (!b.ok) return b;
  return accept((b.value.bubble - a.value.bubble) / 0.1);
}

/** A thermometer's two readings: on the cylinder's surface and in the air beside it, °C, with its own doubt. */
export interface SpanCheckInput {
  readonly fluid: string;
  readonly surface_C: readonly number[];
  readonly air_C: number;
  readonly thermometer_C: number;
  /** Ambient, Pa absolute. */
  readonly ambient: number;
  /** What the gauge shows, zero taken off, gauge Pa; and its expanded uncertainty. */
  readonly shown: number;
  readonly U: number;
}

export interface SpanCheck {
  /** Gauge Pa. */
  readonly expected: number;
  /** Expanded uncertainty of the expected pressure: temperature doubt × slope. */
  readonly U: number;
  readonly agrees: boolean;
  readonly because: string;
  readonly warnings: readonly string[];
}

/** Air and surface may differ by this before the temperature is doubted more, K [common practice, no source]. */
const AIR_DIFFERS = 1;
/** Repeated surface readings within this are settled, K. */
const SETTLED = 0.3;

/**
 * Span of a gauge against a saturated refrigerant at rest.
 * Says "agrees within", never "correct": the thermometer's doubt times the slope is part of it.
 * @returns a refusal where the cylinder is not at rest (surface readings differ) or the fluid is not known there
 */
export function spanCheck(i: SpanCheckInput): Result<SpanCheck> {
  if (i.surface_C.length < 2)
    return refuse('not-settled', 'One surface reading cannot show that the cylinder is at rest.', {
      remedy: 'Read the surface again after a few minutes.',
    });
  const spread = Math.max(...i.surface_C) - Math.min(...i.surface_C);
  if (spread > SETTLED)
    return refuse(
      'not-settled',
      `The cylinder is not at rest: its surface changed by ${spread.toFixed(1)} °C.`,
      {
        bound: `${SETTLED} °C between readings`,
        remedy: 'Leave it in a steady place and read again.',
      },
    );
  const T = i.surface_C.reduce((a, b) => a + b, 0) / i.surface_C.length + 273.15;
  const p = saturationPressure(i.fluid, T);
  if (!p.ok) return p;
  const slope = saturationSlope(i.fluid, T);
  if (!slope.ok) return slope;
  const gap = Math.abs(i.air_C - (T - 273.15));
  const warnings: string[] = [];
  if (gap > AIR_DIFFERS)
    warnings.push(
      `The air differs by ${gap.toFixed(1)} °C from the cylinder: the cylinder’s temperature is used, and doubted more.`,
    );
  const doubt = Math.hypot(i.thermometer_C, gap > AIR_DIFFERS ? gap / 2 : 0);
  const expected = p.value.bubble - i.ambient;
  const U = doubt * slope.value;
  const miss = i.shown - expected;
  const room = Math.hypot(U, i.U);
  const agrees = Math.abs(miss) <= room;
  const psi = (pa: number): string => showWithUnit(pa, { unit: 'psi', step: 0.1 });
  return accept({
    expected,
    U,
    agrees,
    warnings,
    because: agrees
      ? `It shows ${psi(i.shown)}; ${psi(expected)} ± ${psi(U)} is expected: agrees within ${psi(room)}.`
      : `It shows ${psi(i.shown)}; ${psi(expected)} ± ${psi(U)} is expected: off by ${psi(miss)}.`,
  });
}
