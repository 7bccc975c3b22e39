/** One line of ln(p/pc) = (Tc/T) Σ n·θ^t, θ = 1 − T/Tc. */
export interface Line {
  readonly n: readonly number[];
  readonly t: readonly number[];
}
export interface Ancillary {
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
  /** How far the equation may be from the charts it was checked against, as a part of the pressure. */
  readonly tolerance: number;
}
const F = (f: number): number => ((f - 32) * 5) / 9 + 273.15;
const C = (c: number): number => c + 273.15;
const PSEUDO_PURE =
  'published pseudo-pure equation of 2003, from memory; bubble and dew apart, within 0.01 % of an open property library';
const OWN_FIT =
  'no published line at hand: our own fit to every second value of an open property library, checked at the others to 0.15 %';
export const REFRIGERANTS: readonly (Fluid & { readonly line: Ancillary })[] = [
  {
    id: 'R410A',
    title: 'R-410A',
    lower_K: F(-40),
    upper_K: 344,
    tolerance: 0.002,
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
    tolerance: 0.002,
    source:
      'published standard formulation of 1994, from memory; checked at four chart values and the boiling point',
    line: {
      Tc: 374.18,
      pc: 4056.29e3,
      bubble: { n: [-7.686556, 2.311791, -2.039554, -3.583758], t: [1, 1.5, 2, 4] },
    },
  },
  {
    id: 'R32',
    title: 'R-32',
    lower_K: 221,
    upper_K: 351,
    tolerance: 0.002,
    source: 'published standard formulation, from memory; checked at five table values and the boiling point',
    line: {
      Tc: 351.255,
      pc: 5782e3,
      bubble: { n: [-7.4883, 1.9697, -1.7496, -4.0224, 1.5209], t: [1, 1.5, 2.2, 4.8, 6.2] },
    },
  },
  {
    id: 'R290',
    title: 'R-290 (propane)',
    lower_K: F(-60),
    upper_K: 369,
    tolerance: 0.002,
    source:
      'published reference equation of 2009, from memory; checked at five table values and the boiling point',
    line: {
      Tc: 369.89,
      pc: 4251.2e3,
      bubble: { n: [-6.7722, 1.6938, -1.3341, -3.1876, 0.94937], t: [1, 1.5, 2.2, 4.8, 6.2] },
    },
  },
  {
    id: 'R744',
    title: 'R-744 (carbon dioxide)',
    lower_K: 216.59,
    upper_K: 304,
    tolerance: 0.002,
    source:
      'published reference equation of 1996, from memory; checked at five table values and the triple point',
    line: {
      Tc: 304.1282,
      pc: 7377.3e3,
      bubble: { n: [-7.0602087, 1.9391218, -1.6463597, -3.2995634], t: [1, 1.5, 2, 4] },
    },
  },
  {
    id: 'R404A',
    title: 'R-404A',
    lower_K: C(-50),
    upper_K: 345,
    tolerance: 0.002,
    source: PSEUDO_PURE,
    line: {
      Tc: 345.27,
      pc: 3734.8e3,
      bubble: { n: [0.061067, -6.5646, -3.6162, -3.9771], t: [0.54, 0.965, 3.7, 9] },
      dew: { n: [-0.00026863, -6.5757, -4.1802, -7.9102], t: [0.1, 0.972, 3.8, 9] },
    },
  },
  {
    id: 'R507A',
    title: 'R-507A',
    lower_K: C(-50),
    upper_K: 343,
    tolerance: 0.002,
    source: PSEUDO_PURE,
    line: {
      Tc: 343.765,
      pc: 3704.9e3,
      bubble: { n: [-7.4853, 2.0115, -2.0141, -3.7763], t: [1, 1.5, 2.2, 4.6] },
      dew: { n: [-7.5459, 2.338, -2.237, -4.1535], t: [1, 1.5, 2.1, 4.7] },
    },
  },
  {
    id: 'R407C',
    title: 'R-407C',
    lower_K: C(-50),
    upper_K: 359,
    tolerance: 0.002,
    source: PSEUDO_PURE,
    line: {
      Tc: 359.345,
      pc: 4631.7e3,
      bubble: { n: [0.48722, -6.6959, -1.4165, -2.5109], t: [0.54, 0.925, 2.7, 4.7] },
      dew: { n: [-0.086077, -6.6364, -2.4648, -3.4776], t: [0.4, 0.965, 3.1, 5] },
    },
  },
  {
    id: 'R448A',
    title: 'R-448A',
    lower_K: C(-50),
    upper_K: C(60),
    tolerance: 0.002,
    source: OWN_FIT,
    line: {
      Tc: 356.81,
      pc: 4675e3,
      bubble: { n: [-6.2927, -0.7298, 0.7861, -7.8213], t: [1, 1.5, 2.5, 5] },
      dew: { n: [-8.7694, 4.5163, -5.7202, 1.4882], t: [1, 1.5, 2.5, 5] },
    },
  },
  {
    id: 'R449A',
    title: 'R-449A',
    lower_K: C(-50),
    upper_K: C(60),
    tolerance: 0.002,
    source: OWN_FIT,
    line: {
      Tc: 357,
      pc: 4662e3,
      bubble: { n: [-6.5227, -0.11, -0.0465, -6.2306], t: [1, 1.5, 2.5, 5] },
      dew: { n: [-8.8208, 4.7452, -6.0212, 2.1268], t: [1, 1.5, 2.5, 5] },
    },
  },
  {
    id: 'R22',
    title: 'R-22',
    lower_K: C(-50),
    upper_K: 369,
    tolerance: 0.005,
    source:
      'published equation of the saturation line, from memory; within 0.45 % at −50 °C and 0.1 % above −20 °C',
    line: {
      Tc: 369.295,
      pc: 4990e3,
      bubble: { n: [-7.078, 1.7211, -1.6379, -3.7952], t: [1, 1.5, 2.2, 4.8] },
    },
  },
  {
    id: 'R1234yf',
    title: 'R-1234yf',
    lower_K: C(-45),
    upper_K: 367,
    tolerance: 0.005,
    source:
      'published equation of the saturation line, from memory; within 0.4 % at −45 °C and 0.1 % above −25 °C',
    line: {
      Tc: 367.85,
      pc: 3382.2e3,
      bubble: { n: [-7.4697, 2.7915, -2.1312, -2.9531], t: [1, 1.5, 1.8, 3.8] },
    },
  },
  {
    id: 'R600a',
    title: 'R-600a (isobutane)',
    lower_K: C(-50),
    upper_K: C(65),
    tolerance: 0.002,
    source: OWN_FIT,
    line: {
      Tc: 407.81,
      pc: 3629e3,
      bubble: { n: [-6.8902, 1.511, -1.6691, -2.7117], t: [1, 1.5, 2.5, 5] },
    },
  },
  {
    id: 'R717',
    title: 'R-717 (ammonia)',
    lower_K: C(-50),
    upper_K: 405,
    tolerance: 0.002,
    source: 'published equation of the saturation line, from memory; within 0.2 % at −50 °C',
    line: {
      Tc: 405.4,
      pc: 11333e3,
      bubble: { n: [-7.0993, -2.433, 8.7591, -6.4091, -2.1185], t: [1, 1.5, 1.7, 1.95, 4.2] },
    },
  },
];
export const WATER: Fluid = {
  id: 'water',
  title: 'Water (steam)',
  lower_K: 273.15,
  upper_K: 647.096,
  tolerance: 0.0005,
  source: 'IAPWS-IF97',
};
/** Every fluid whose saturation line is known here. */
export const fluids = (): readonly Fluid[] => [...REFRIGERANTS, WATER];
