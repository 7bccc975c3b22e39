import { accept, refuse, type Result } from '../result.js';

const G0 = 9.80665;

/**
 * Density of air-free water at one atmosphere, kg/m³ (Kell, 1975; from memory, checked against IAPWS in `reference/`).
 * @param t_C 0 to 100 °C
 * @example expectOk(waterDensity(20)) // 998.2
 */
export function waterDensity(t_C: number): Result<number> {
  if (!(t_C >= 0 && t_C <= 100))
    return refuse('temperature-outside', `Water at ${t_C} °C is not a liquid at one atmosphere.`, {
      bound: '0 to 100 °C',
      remedy: 'Check the temperature and its unit.',
    });
  const t = t_C;
  const top =
    999.83952 +
    t * (16.945176 + t * (-7.9870401e-3 + t * (-46.170461e-6 + t * (105.56302e-9 - t * 280.54253e-12))));
  return accept(top / (1 + 16.87985e-3 * t));
}

/**
 * What a column of water of one conventional unit is truly worth at a temperature: multiply a column reading by this.
 * @example expectOk(columnFactor(20)) // 0.9982: 1 inH2O reads 248.64 Pa and not 249.09
 */
export function columnFactor(t_C: number): Result<number> {
  const rho = waterDensity(t_C);
  return rho.ok ? accept(rho.value / 1000) : rho;
}

/**
 * Head of water: pressure added per height, Pa.
 * @param height_m how far the gauge is below the point of interest (positive: it reads high)
 * @param t_C water temperature, default 20 °C
 */
export function waterHead(height_m: number, t_C = 20): Result<number> {
  const rho = waterDensity(t_C);
  return rho.ok ? accept(rho.value * G0 * height_m) : rho;
}

/** Coefficients of the saturation line, IAPWS-IF97 region 4 (from memory, checked against python3-iapws in `reference/`). */
const N = [
  0.11670521452767e4, -0.72421316703206e6, -0.17073846940092e2, 0.1202082470247e5, -0.32325550322333e7,
  0.1491510861353e2, -0.48232657361591e4, 0.40511340542057e6, -0.23855557567849, 0.65017534844798e3,
] as const;

const outside = (what: string): Result<never> =>
  refuse('saturation-outside', `${what} is off the saturation line of water.`, {
    bound: '273.15 to 647.096 K; 611.2 Pa to 22.064 MPa absolute',
    remedy: 'Check the value, and whether the pressure is gauge or absolute.',
  });

/** Saturation pressure of water, Pa absolute, at T K. IAPWS-IF97, equation 30. */
export function waterSaturationPressure(T: number): Result<number> {
  if (!(T >= 273.15 && T <= 647.096)) return outside(`${T} K`);
  const v = T + N[8] / (T - N[9]);
  const A = v * v + N[0] * v + N[1];
  const B = N[2] * v * v + N[3] * v + N[4];
  const C = N[5] * v * v + N[6] * v + N[7];
  return accept(1e6 * ((2 * C) / (-B + Math.sqrt(B * B - 4 * A * C))) ** 4);
}

/** Saturation temperature of water, K, at p Pa absolute. IAPWS-IF97, equation 31. */
export function waterSaturationTemperature(p: number): Result<number> {
  if (!(p >= 611.213 && p <= 22.064e6)) return outside(`${p} Pa absolute`);
  const b = (p / 1e6) ** 0.25;
  const E = b * b + N[2] * b + N[5];
  const F = N[0] * b * b + N[3] * b + N[6];
  const G = N[1] * b * b + N[4] * b + N[7];
  const D = (2 * G) / (-F - Math.sqrt(F * F - 4 * E * G));
  return accept((N[9] + D - Math.sqrt((N[9] + D) ** 2 - 4 * (N[8] + N[9] * D))) / 2);
}
