// What NumPy and SciPy make of the signals and of the cases that the product is given too.
import { execFileSync } from 'node:child_process';
import { BUDGETS, HALF, LIMIT } from './budgets.mjs';
import { purges, REACH, signal } from './signal.mjs';

const PEAKS = `
import json, sys, numpy as np
from scipy.signal import find_peaks
from scipy.optimize import curve_fit
from scipy.stats import linregress
d = json.load(sys.stdin)
t, p, reach = np.array(d['t']), np.array(d['p']), d['reach']
hinge = lambda x, tau, a, b, c: a + b * (x - tau) + c * np.maximum(0, x - tau)
out = {}
for sign, name in ((1, 'high'), (-1, 'low')):
    peaks, _ = find_peaks(sign * p, prominence=69000)
    for k, i in enumerate(peaks):
        if i < reach or i + reach >= len(p): continue
        x, y = t[i - reach : i + reach + 1], p[i - reach : i + reach + 1]
        fit, _ = curve_fit(hinge, x, y, p0=[t[i], p[i], sign * 2000, -sign * 4000])
        on = x < fit[0]
        out[f'{name} {k}'] = [i, fit[0], fit[1], linregress(x[on], y[on]).slope, linregress(x[~on], y[~on]).slope]
print(json.dumps({k: [float(v) for v in vs] for k, vs in out.items()}))
`;
/** Of every peak that SciPy finds: its sample, the time and the pressure where two lines meet there, and their slopes. */
function peaksNow() {
  const input = JSON.stringify({ ...signal(), reach: REACH });
  return JSON.parse(execFileSync('/usr/bin/python3', ['-c', PEAKS], { encoding: 'utf8', input }));
}
const peaksAs = (names) =>
  Object.fromEntries(
    Object.entries(peaksNow()).flatMap(([peak, values]) =>
      names.map(([name, i]) => [`${peak} ${name}`, values[i]]),
    ),
  );
export const cornersNow = () =>
  peaksAs([
    ['t', 1],
    ['p', 2],
  ]);
export const slopesNow = () =>
  peaksAs([
    ['before', 3],
    ['after', 4],
  ]);

const CREPT = `
import json, sys
from scipy.stats import linregress
d = json.load(sys.stdin)
fits = [linregress(d['t'][a:b], d['p'][a:b]) for a, b in d['rests']]
print(json.dumps({'creep': sum(f.slope for f in fits) / len(fits)}))
`;
/** The mean slope of what stands between purges, Pa/s. */
export const creepNow = () =>
  JSON.parse(
    execFileSync('/usr/bin/python3', ['-c', CREPT], { encoding: 'utf8', input: JSON.stringify(purges()) }),
  );

const DRAWN = `
import json, sys, numpy as np
d = json.load(sys.stdin)
N, L, h = 400000, d['limit'], d['half']
rng = np.random.default_rng(20300102)
even = lambda half: rng.uniform(-half, half, N)
out = {}
for name, c in d['cases'].items():
    n, sd = c['n'], c['sd']
    # One reading of the figure: its own rounding, and the scatter of its mean.
    own = lambda: even(h) + rng.normal(0, sd, (N, n)).mean(1)
    if 'checked' in c:
        # What the check left open at its points, and a bend between them that nobody saw.
        k = c['checked']
        dial = rng.normal(0, k['u'], N) + even(L / 4 * min(1, 2 * k['gap']) * 4 * k['w'] * (1 - k['w']))
    else:
        dial = even(L)
    zero = even(h)
    if 'drift' in c:
        # It moved from one check to the next at a pace of its own, sooner or later.
        pace = np.exp(rng.uniform(-np.log(4), np.log(4), N))
        zero = zero + c['drift'] * (c['f'] ** pace - c['f'])
    error = dial + zero + own()
    if 'apart' in c:
        # A dial's error changes along its scale: by some part of its limit, and between rising and falling.
        other = dial + L * (2 * c['apart'] * rng.uniform(-1, 1, N) + 0.15 * rng.uniform(-1, 1, N))
        error = error - (other + zero + own())
    out[name] = float(np.quantile(np.abs(error - 0), 0.9545))
print(json.dumps(out))
`;
/** Half-width that holds 95.45 % of the errors, psi, of measurements drawn by NumPy. */
export const budgetsNow = () =>
  JSON.parse(
    execFileSync('/usr/bin/python3', ['-c', DRAWN], {
      encoding: 'utf8',
      input: JSON.stringify({ cases: BUDGETS, limit: LIMIT, half: HALF }),
    }),
  );
