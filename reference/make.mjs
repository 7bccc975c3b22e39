#!/usr/bin/env node
// Makes the committed reference values anew: node reference/make.mjs. Needs Debian's units, python3-fluids and python3-scipy.
import { execFileSync } from 'node:child_process';
import { writeFileSync } from 'node:fs';
import { budgetsNow, cornersNow, creepNow, slopesNow } from './drawn.mjs';
import { AHEAD_DAYS, LIVES } from './lives.mjs';

export * from './drawn.mjs';

const ask = (command, args) => execFileSync(command, args, { encoding: 'utf8' }).trim();
const python = (code) => ask('/usr/bin/python3', ['-c', code]);
const keep = (name, data) =>
  writeFileSync(new URL(`values/${name}.json`, import.meta.url), `${JSON.stringify(data, null, 2)}\n`);

/** Our unit on the left, GNU Units' spelling on the right. */
export const UNITS = {
  Pa: 'Pa',
  hPa: 'hPa',
  kPa: 'kPa',
  MPa: 'MPa',
  mbar: 'mbar',
  bar: 'bar',
  psi: 'psi',
  'ozf/in2': 'ounce force/in^2',
  inH2O: 'inH2O',
  mmH2O: 'mmH2O',
  cmH2O: 'cm water',
  micron: '1e-3 mmHg',
  ftH2O: 'ft water',
  inHg: 'inHg',
  mmHg: 'mmHg',
  'kgf/cm2': 'kgf/cm^2',
  atm: 'atm',
  L: 'L',
  galUS: 'usgallon',
  'L/min': 'L/min',
  gpm: 'usgallon/min',
  'm3/h': 'm^3/hour',
  cfm: 'ft^3/min',
  ft3: 'ft^3',
  'Btu/h': 'btu_IT/hour',
  'Btu/ft3': 'btu_IT/ft^3',
  'MJ/m3': 'MJ/m^3',
  in: 'inch',
  ft: 'ft',
  min: 'min',
  h: 'hour',
};
const BASE = {
  volume: 'm^3',
  flow: 'm^3/s',
  length: 'm',
  time: 's',
  pressure: 'Pa',
  power: 'W',
  heating: 'J/m^3',
};
const dimensionOf = (id) =>
  ['L', 'galUS', 'ft3'].includes(id)
    ? 'volume'
    : id === 'Btu/h'
      ? 'power'
      : ['Btu/ft3', 'MJ/m3'].includes(id)
        ? 'heating'
        : ['L/min', 'gpm', 'm3/h', 'cfm'].includes(id)
          ? 'flow'
          : ['in', 'ft'].includes(id)
            ? 'length'
            : ['min', 'h'].includes(id)
              ? 'time'
              : 'pressure';

export function unitsNow() {
  const values = {};
  for (const [id, spelled] of Object.entries(UNITS))
    values[id] = Number(ask('units', ['-t', '-d', '14', spelled, BASE[dimensionOf(id)]]));
  return values;
}
/** Every pressure unit in every other, asked in one run: `psi>bar` is what one psi is in bar. */
export function pairsNow() {
  const ids = Object.keys(UNITS).filter((id) => dimensionOf(id) === 'pressure');
  const pairs = ids.flatMap((from) => ids.filter((to) => to !== from).map((to) => [from, to]));
  const asked = pairs.map(([from, to]) => `${UNITS[from]}\n${UNITS[to]}`).join('\n');
  const lines = execFileSync('units', ['-t', '-q', '-d', '14'], { encoding: 'utf8', input: `${asked}\n` })
    .trim()
    .split('\n');
  return Object.fromEntries(pairs.map(([from, to], i) => [`${from}>${to}`, Number(lines[i])]));
}
export const ALTITUDES = [-100, 0, 84, 500, 1120, 1609, 3000, 8000];
export const atmosphereNow = () =>
  JSON.parse(
    python(
      `import json; from fluids.atmosphere import ATMOSPHERE_1976 as A; print(json.dumps({str(h): A(h).P for h in ${JSON.stringify(ALTITUDES)}}))`,
    ),
  );
export const DOFS = [4, 5, 8, 10, 20, 50, 200];
export const coverageNow = () =>
  JSON.parse(
    python(
      `import json; from scipy.stats import t, norm; p = norm.cdf(2); print(json.dumps({str(v): float(t.ppf(p, v)) for v in ${JSON.stringify(DOFS)}}))`,
    ),
  );
/** The change between visits on the years between, through nothing at none: SciPy's own fit, its covariance, its t. */
export const livesNow = () =>
  JSON.parse(
    python(`
import json
from datetime import date
import numpy as np
from scipy.optimize import curve_fit
from scipy.stats import t, norm
out = {}
for name, visits in json.loads(${JSON.stringify(JSON.stringify(LIVES))}).items():
    days = [date.fromisoformat(v[0]).toordinal() for v in visits]
    years = np.diff(days) / 365.25
    change = np.array([visits[i + 1][1] - visits[i][2] for i in range(len(visits) - 1)])
    (rate,), cov = curve_fit(lambda x, b: b * x, years, change, p0=[0.1])
    rest = change - rate * years
    noise = float(rest @ rest) / (len(change) - 1)
    k = t.ppf(norm.cdf(2), len(change) - 1)
    out[name + ' rate'] = float(rate)
    out[name + ' error'] = float(np.sqrt(cov[0][0]))
    for ahead in ${JSON.stringify(AHEAD_DAYS)}:
        x = ahead / 365.25
        out[name + ' value ' + str(ahead)] = float(visits[-1][2] + rate * x)
        out[name + ' half ' + str(ahead)] = float(k * np.sqrt(noise + x * x * cov[0][0]))
print(json.dumps(out))
`),
  );
export const TAILS = [0, 0.5, 1, 2, 3, 3.719, 4.5, 6, 8];
export const tailsNow = () =>
  JSON.parse(
    python(
      `import json; from scipy.stats import norm; print(json.dumps({str(z): float(norm.sf(z)) for z in ${JSON.stringify(TAILS)}}))`,
    ),
  );

export const STEAM_K = [280, 300, 373.15, 382, 395, 450, 600, 640];
export const steamNow = () =>
  JSON.parse(
    python(
      `import json; from iapws.iapws97 import _PSat_T as P; print(json.dumps({str(T): P(T) * 1e6 for T in ${JSON.stringify(STEAM_K)}}))`,
    ),
  );
export const STEAM_PA = [102000, 110000, 150000, 204754, 1e6];
export const boilingNow = () =>
  JSON.parse(
    python(
      `import json; from iapws.iapws97 import _TSat_P as T; print(json.dumps({str(p): T(p / 1e6) for p in ${JSON.stringify(STEAM_PA)}}))`,
    ),
  );
export const COLUMN_C = [4, 10, 15.5556, 20, 30, 60, 90];
export const densityNow = () =>
  JSON.parse(
    python(
      `import json; from iapws import IAPWS97 as W; print(json.dumps({str(t): W(T=t + 273.15, P=0.101325).rho for t in ${JSON.stringify(COLUMN_C)}}))`,
    ),
  );

export const FRICTION = ['500 0', '5000 0', '34000 0', '1e5 1e-4', '1e6 0.002', '2e7 0.03'];
export const frictionNow = () =>
  JSON.parse(
    python(
      `import json; from fluids.friction import friction_factor as f; print(json.dumps({k: float(f(Re=float(k.split()[0]), eD=float(k.split()[1]))) for k in ${JSON.stringify(FRICTION)}}))`,
    ),
  );
/** Flow in L/min, bore and roughness in mm, length in m. */
export const RUNS = ['15.1 9.5 0 15', '30 12.7 0 30', '400 77.9 0.045 100', '4000 154 0.26 250'];
export const runsNow = () =>
  JSON.parse(
    python(
      `import json; from fluids import one_phase_dP as dP; print(json.dumps({k: float((lambda q, d, e, l: dP(m=q / 60000 * 998.2, rho=998.2, mu=1.002e-3, D=d / 1000, roughness=e / 1000, L=l))(*map(float, k.split()))) for k in ${JSON.stringify(RUNS)}}))`,
    ),
  );

/** Free air in cfm, bore in inches, length in ft, inlet in psi gauge, ambient in Pa. */
export const HOSES = [
  '12 0.375 50 70 101325',
  '12 0.5 50 70 101325',
  '9 0.3125 25 60 101325',
  '14 0.375 100 85 89000',
  '6 0.25 25 70 101325',
];
export const hosesNow = () =>
  JSON.parse(
    python(`
import json, math
from fluids import isothermal_gas, friction_factor
def loss(q, d, l, p, a):
    R = 287.05 * 293.15
    m = q * 0.3048**3 / 60 * a / R; D = d * 0.0254; P1 = p * 6894.757293168361 + a
    fd = friction_factor(Re=4 * m / (math.pi * D * 1.81e-5), eD=1e-5 / D)
    return P1 - isothermal_gas(rho=P1 / R, fd=fd, P1=P1, L=l * 0.3048, D=D, m=m)
print(json.dumps({k: loss(*map(float, k.split())) for k in ${JSON.stringify(HOSES)}}))`),
  );

export const fishersNow = () =>
  JSON.parse(
    python(
      `import json; from scipy.stats import f; print(json.dumps({f'{m} {v}': float(f.ppf(0.95, m, v)) for v in range(1, 6) for m in range(1, 9)}))`,
    ),
  );

if (process.argv[1] === new URL(import.meta.url).pathname) {
  keep('units', {
    source: 'GNU Units (Debian: units)',
    command: 'units -t -d 14 UNIT Pa',
    values: unitsNow(),
  });
  keep('pairs', {
    source: 'GNU Units (Debian: units)',
    command: 'units -t -q -d 14, one pair after another',
    values: pairsNow(),
  });
  keep('atmosphere', {
    source: 'python3-fluids ATMOSPHERE_1976',
    command: 'ATMOSPHERE_1976(h).P',
    values: atmosphereNow(),
  });
  keep('coverage', {
    source: 'SciPy scipy.stats.t',
    command: 't.ppf(norm.cdf(2), dof)',
    values: coverageNow(),
  });
  keep('lives', {
    source: 'SciPy scipy.optimize.curve_fit and scipy.stats.t',
    command: 'curve_fit(lambda x, b: b * x, years, change); t.ppf(norm.cdf(2), n - 1)',
    values: livesNow(),
  });
  keep('friction', {
    source: 'python3-fluids, friction factor of Darcy by Colebrook and White',
    command: 'friction_factor(Re=, eD=)',
    values: frictionNow(),
  });
  keep('runs', {
    source: 'python3-fluids, pressure lost in a run of pipe, Pa: flow L/min, bore mm, roughness mm, length m',
    command: 'one_phase_dP(m=, rho=998.2, mu=1.002e-3, D=, roughness=, L=)',
    values: runsNow(),
  });
  keep('hoses', {
    source: 'python3-fluids, isothermal_gas and friction_factor; Pa lost in a hose',
    command:
      'isothermal_gas(rho=P1/RT, fd=, P1=, L=, D=, m=) with free air at the ambient pressure and 20 °C, eD = 1e-5/D',
    values: hosesNow(),
  });
  keep('corners', {
    source: 'SciPy scipy.signal.find_peaks, scipy.optimize.curve_fit',
    command: 'curve_fit of a + b(t - tau) + c max(0, t - tau) about every peak of prominence 69 kPa; s, Pa',
    values: cornersNow(),
  });
  keep('slopes', {
    source: 'SciPy scipy.stats.linregress',
    command: 'slope of the samples before and after the corner, Pa/s',
    values: slopesNow(),
  });
  keep('creep', {
    source: 'SciPy scipy.stats.linregress',
    command: 'mean slope of the samples between the purges of signal.mjs, Pa/s',
    values: creepNow(),
  });
  keep('steam', {
    source: 'python3-iapws, saturation pressure, Pa absolute',
    command: '_PSat_T(T)',
    values: steamNow(),
  });
  keep('boiling', {
    source: 'python3-iapws, saturation temperature, K',
    command: '_TSat_P(p)',
    values: boilingNow(),
  });
  keep('density', {
    source: 'python3-iapws, density at one atmosphere, kg/m³',
    command: 'IAPWS97(T=, P=0.101325).rho',
    values: densityNow(),
  });
  keep('budgets', {
    source: 'NumPy, 400 000 draws (JCGM 101)',
    command: 'quantile(abs(error), 0.9545) of the cases in budgets.mjs, psi',
    values: budgetsNow(),
  });
  keep('fishers', {
    source: 'SciPy scipy.stats.f, by degrees of freedom of the sample and of the usual variance',
    command: 'f.ppf(0.95, m, v)',
    values: fishersNow(),
  });
  keep('tails', { source: 'SciPy scipy.stats.norm', command: 'norm.sf(z)', values: tailsNow() });
}
