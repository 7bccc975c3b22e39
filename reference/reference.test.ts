import { describe, expect, it } from '@jest/globals';
import { spawnSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { upperTail } from '@firm-needle/core/advisor';
import { coverageFactor, F95 } from '@firm-needle/core/gauge';
import { daysAfter, foundOn, settingDrift } from '@firm-needle/core/history';
import { ambientAt, convert, toCanonical } from '@firm-needle/core/quantity';
import {
  airHoseLoss,
  darcyLoss,
  fluids,
  frictionFactor,
  saturationPressure,
  saturationTemperature,
  waterDensity,
  waterSaturationPressure,
  waterSaturationTemperature,
} from '@firm-needle/core/reckon';
import { expectOk } from '@firm-needle/core/result';
import { analyse, kneeAt, type Knee } from '@firm-needle/core/trace';
import { LIVES } from './lives.mjs';
import { purges, REACH, signal } from './signal.mjs';

interface Kept {
  readonly source: string;
  readonly command: string;
  readonly values: Readonly<Record<string, number>>;
}
const ROOT = process.cwd();
const kept = (name: string): Kept =>
  JSON.parse(readFileSync(join(ROOT, `reference/values/${name}.json`), 'utf8')) as Kept;

/** The values asked anew of the tool itself; undefined where it is not installed. */
function live(name: string, call: string): Readonly<Record<string, number>> | undefined {
  const r = spawnSync(
    process.execPath,
    [
      '--input-type=module',
      '-e',
      `import('${join(ROOT, 'reference/make.mjs')}').then((m) => console.log(JSON.stringify(m.${call}())))`,
    ],
    { encoding: 'utf8' },
  );
  return r.status === 0 ? (JSON.parse(r.stdout) as Record<string, number>) : undefined;
}

const { t, p } = signal();
const samples = { t: Float64Array.from(t), p: Float64Array.from(p), states: {} };
const rests = purges();
const purged = { t: Float64Array.from(rests.t), p: Float64Array.from(rests.p), states: {} };

/** Our own meeting of two lines about the sample nearest to where SciPy's met. */
function cornerOf(peak: string): Knee {
  const at = Math.round((kept('corners').values[`${peak} t`] ?? 0) * 10);
  const knee = kneeAt(samples.t, samples.p, at, at - REACH, at + REACH + 1, 300);
  if (!knee) throw new Error(peak);
  return knee;
}
const partsOf = (key: string): [Knee, string] => [
  cornerOf(key.slice(0, key.lastIndexOf(' '))),
  key.slice(key.lastIndexOf(' ') + 1),
];

/** Our own drift of the same visits. */
function livedOurs(key: string): number {
  const [name = '', what = '', ahead = ''] = key.split(' ');
  const visits = LIVES[name] ?? [];
  const drift = settingDrift(visits.map(([day, found, left]) => ({ day, found, left })));
  if (!drift) throw new Error(key);
  if (what === 'rate') return drift.perYear;
  if (what === 'error') return drift.error ?? NaN;
  const then = foundOn(drift, daysAfter(drift.from.day, Number(ahead)));
  return what === 'value' ? then.value : (then.half ?? NaN);
}

const CASES = [
  {
    name: 'corners',
    call: 'cornersNow',
    ours: (key: string) => {
      const [knee, part] = partsOf(key);
      return part === 't' ? knee.t : knee.p;
    },
    within: 5e-4,
  },
  {
    name: 'creep',
    call: 'creepNow',
    // Ours fits a little more or less of each rest than was cut out for theirs.
    ours: () => expectOk(analyse(purged, 'dips')).figures['creepRate']?.value ?? NaN,
    within: 0.03,
  },
  {
    name: 'slopes',
    call: 'slopesNow',
    ours: (key: string) => {
      const [knee, part] = partsOf(key);
      return part === 'before' ? knee.before : knee.after;
    },
    within: 0.02,
  },
  { name: 'units', call: 'unitsNow', ours: (id: string) => toCanonical(1, id), within: 1e-9 },
  {
    name: 'pairs',
    call: 'pairsNow',
    ours: (pair: string) => {
      const [from = '', to = ''] = pair.split('>');
      return convert(1, from, to);
    },
    within: 1e-9,
  },
  {
    name: 'atmosphere',
    call: 'atmosphereNow',
    ours: (h: string) => expectOk(ambientAt(Number(h))),
    within: 2e-5,
  },
  // The Cornish–Fisher series is good to half a percent from four degrees of freedom up.
  { name: 'coverage', call: 'coverageNow', ours: (v: string) => coverageFactor(Number(v)), within: 5e-3 },
  // Three and four degrees of freedom: of the factor's table and its series.
  { name: 'lives', call: 'livesNow', ours: livedOurs, within: 5e-3 },
  { name: 'tails', call: 'tailsNow', ours: (z: string) => upperTail(Number(z)), within: 2e-3 },
  {
    name: 'fishers',
    call: 'fishersNow',
    ours: (key: string) => {
      const [m = 0, v = 0] = key.split(' ').map(Number);
      return F95[v - 1]?.[m - 1] ?? NaN;
    },
    within: 1e-5,
  },
  {
    name: 'steam',
    call: 'steamNow',
    ours: (T: string) => expectOk(waterSaturationPressure(Number(T))),
    within: 1e-9,
  },
  {
    name: 'boiling',
    call: 'boilingNow',
    ours: (p: string) => expectOk(waterSaturationTemperature(Number(p))),
    within: 1e-9,
  },
  {
    name: 'friction',
    call: 'frictionNow',
    ours: (key: string) => {
      const [reynolds = 0, relative = 0] = key.split(' ').map(Number);
      return frictionFactor(reynolds, relative);
    },
    within: 1e-9,
  },
  {
    name: 'runs',
    call: 'runsNow',
    ours: (key: string) => {
      const [flow = 0, bore = 0, rough = 0, length = 0] = key.split(' ').map(Number);
      return expectOk(darcyLoss({ flow: flow / 60000, bore: bore / 1000, length }, rough / 1000));
    },
    within: 1e-9,
  },
  {
    name: 'hoses',
    call: 'hosesNow',
    ours: (key: string) => {
      const [flow = 0, bore = 0, length = 0, inlet = 0, ambient = 0] = key.split(' ').map(Number);
      const run = {
        flow: toCanonical(flow, 'cfm'),
        bore: toCanonical(bore, 'in'),
        length: toCanonical(length, 'ft'),
      };
      return expectOk(airHoseLoss(run, toCanonical(inlet, 'psi'), ambient));
    },
    within: 1e-6,
  },
  {
    name: 'density',
    call: 'densityNow',
    ours: (t: string) => expectOk(waterDensity(Number(t))),
    within: 1e-4,
  },
] as const;

/** What is found by iteration differs in its last digits from machine to machine. */
const AGAIN: Readonly<Record<string, number>> = { corners: 1e-6, slopes: 1e-6, lives: 1e-6 };

describe.each(CASES)('$name, against a library of others', ({ name, call, ours, within }) => {
  const { values } = kept(name);

  it.each(Object.entries(values))('%s', (key, theirs) => {
    expect(Math.abs(ours(key) - theirs)).toBeLessThanOrEqual(within * Math.abs(theirs));
  });

  it('the kept values are what the tool says today, where it is installed', () => {
    const today = live(name, call);
    if (today === undefined) {
      // In CI the tools are installed by the test command; there their absence is a failure.
      expect(process.env['CI']).toBeUndefined();
      return;
    }
    for (const [key, v] of Object.entries(values))
      expect(Math.abs((today[key] ?? NaN) - v)).toBeLessThanOrEqual((AGAIN[name] ?? 1e-9) * Math.abs(v));
  });
});

describe('events of a trace, against the peaks that SciPy finds in the same array', () => {
  const theirs = Object.entries(kept('corners').values).filter(([key]) => key.endsWith(' t'));
  const found = expectOk(analyse(samples, 'cycles')).events;

  it('finds as many', () => {
    expect(found).toHaveLength(theirs.length);
    expect(theirs.length).toBeGreaterThan(8);
  });

  it.each(theirs)('%s', (_, time) => {
    expect(Math.min(...found.map((e) => Math.abs(e.t - time)))).toBeLessThan(0.15);
  });
});

describe('saturation lines, bubble and dew apart, against an open property library', () => {
  // The library is no package of this machine: its values are kept, with its version.
  const { values } = JSON.parse(readFileSync(join(ROOT, 'reference/values/saturation.json'), 'utf8')) as {
    values: Readonly<Record<string, readonly (readonly [number, number, number])[]>>;
  };
  const known = (fluid: string) => fluids().find((f) => f.id === fluid);

  it('has every refrigerant that is known here', () => {
    const ours = fluids().flatMap((f) => (f.id === 'water' ? [] : [f.id]));
    expect(ours.filter((f) => !(f in values))).toEqual([]);
    expect(Object.keys(values)).toHaveLength(14);
  });

  it.each(Object.entries(values))('%s', (fluid, points) => {
    const { lower_K = NaN, upper_K = NaN, tolerance = NaN } = known(fluid) ?? {};
    let held = 0;
    for (const [t, bubble, dew] of points) {
      const T = t + 273.15;
      if (T < lower_K || T > upper_K) continue;
      held++;
      const ours = expectOk(saturationPressure(fluid, T));
      expect(Math.abs(ours.bubble / bubble - 1)).toBeLessThan(Math.min(0.005, tolerance));
      expect(Math.abs(ours.dew / dew - 1)).toBeLessThan(Math.min(0.005, tolerance));
      // At the very ends the pressure of the library may lie just outside.
      if (T - lower_K > 1 && upper_K - T > 1)
        expect(Math.abs(expectOk(saturationTemperature(fluid, dew, 'dew')) - T)).toBeLessThan(0.15);
    }
    expect(held).toBeGreaterThan(15);
  });
});
