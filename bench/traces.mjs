// Whole traces: what ten million samples cost beside plain passes over them, and how well events of every kind are found.
import { execFileSync } from 'node:child_process';
import { closeSync, mkdtempSync, openSync, rmSync, writeFileSync, writeSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { ROOT } from '../bin/lib/tools.mjs';
import { round } from './technician.mjs';

const median = (list) => [...list].sort((a, b) => a - b)[Math.floor(list.length / 2)];
const time = (work) => {
  const from = performance.now();
  work();
  return performance.now() - from;
};

export async function traceFigures(core, traces = 1000) {
  const { SIGNALS } = await import(join(ROOT, 'packages/core/dist/trace/testing.js'));
  const { scoreOf } = await import(join(ROOT, 'packages/core/dist/trace/scoring.js'));
  return {
    cost: costOf(core),
    memory: memoryOf(),
    files: filesOf(),
    events: eventsOf(core, SIGNALS, scoreOf, traces),
  };
}

/** A saw with noise: a pump's cycles, one a minute and a half, at twenty samples a second. */
function costOf(core, n = 1e7) {
  const t = new Float64Array(n);
  const p = new Float64Array(n);
  let noise = 1;
  for (let i = 0; i < n; i++) {
    t[i] = i / 20;
    const phase = (i / 1800) % 1;
    noise = (noise * 16807) % 2147483647;
    p[i] =
      280000 + 140000 * (phase < 0.4 ? phase / 0.4 : (1 - phase) / 0.6) + (noise / 2147483647 - 0.5) * 1500;
  }
  const samples = { t, p, states: {} };
  let sum = 0;
  const plain = median(
    Array.from({ length: 5 }, () =>
      time(() => {
        for (let i = 0; i < n; i++) sum += p[i];
      }),
    ),
  );
  const pyramid = median(Array.from({ length: 3 }, () => time(() => core.buildPyramid(p))));
  core.analyse({ t: t.subarray(0, 2e5), p: p.subarray(0, 2e5), states: {} }, 'cycles');
  const analysis = median(Array.from({ length: 3 }, () => time(() => core.analyse(samples, 'cycles'))));
  const built = core.buildPyramid(p);
  const firstPicture = time(() => core.columnsOf(t, p, core.buildPyramid(p), 0, n / 20, 1280));
  const frames = Array.from({ length: 200 }, (_, k) => {
    const span = (n / 20) * 0.97 ** k;
    return time(() => core.columnsOf(t, p, built, (n / 20 - span) / 2, (n / 20 + span) / 2, 1280));
  }).sort((a, b) => a - b);
  return {
    samples: n,
    plainSum_ns: round((plain / n) * 1e6),
    pyramid_ns: round((pyramid / n) * 1e6),
    analysis_ns: round((analysis / n) * 1e6),
    overPlainSum: round(analysis / plain),
    overPyramid: round(analysis / pyramid),
    firstPicture_ms: round(firstPicture),
    picture1280_p95_ms: round(frames[Math.floor(frames.length * 0.95)]),
    findPeaks_ns: round(findPeaks(p, n)),
    overFindPeaks: round(analysis / ((findPeaks(p, n) * n) / 1e6)),
    sum: sum > 0,
  };
}

/** SciPy's find_peaks on the same array, prominence half the differential; ns a sample. */
function findPeaks(p, n) {
  const dir = mkdtempSync(join(tmpdir(), 'fn-peaks-'));
  const path = join(dir, 'p.bin');
  writeFileSync(path, new Uint8Array(p.buffer));
  const code = `
import sys, time, numpy as np
from scipy.signal import find_peaks
p = np.fromfile(sys.argv[1])
best = 1e9
for _ in range(3):
    a = time.perf_counter(); find_peaks(p, prominence=70000); best = min(best, time.perf_counter() - a)
print(best)`;
  const seconds = Number(execFileSync('/usr/bin/python3', ['-c', code, path], { encoding: 'utf8' }));
  rmSync(dir, { recursive: true });
  return (seconds / n) * 1e9;
}

/** Peak memory of analysing ten million samples over that of their times and pressures, in a process of its own. */
function memoryOf(n = 1e7) {
  const code = `
    const core = await import(${JSON.stringify(join(ROOT, 'packages/core/dist/trace/index.js'))});
    const { readFileSync } = await import('node:fs');
    const peak = () => Number(/VmHWM:\\s+(\\d+)/.exec(readFileSync('/proc/self/status', 'utf8'))[1]);
    const before = peak();
    const t = new Float64Array(${n}), p = new Float64Array(${n});
    for (let i = 0; i < ${n}; i++) { const x = (i / 1800) % 1; t[i] = i / 20; p[i] = 3e5 + 1e5 * (x < 0.4 ? x / 0.4 : (1 - x) / 0.6) + (i * 7919 % 101); }
    const pyramid = core.buildPyramid(p);
    core.analyse({ t, p, states: {} }, 'cycles', 101325, pyramid);
    console.log(peak() - before);`;
  const kB = Number(
    execFileSync(process.execPath, ['--input-type=module', '-e', code], { encoding: 'utf8' }),
  );
  return {
    samples: n,
    peak_MB: round(kB / 1024),
    overSamples: round((kB * 1024) / (16 * n)),
    bound: '<= 2.5',
  };
}

/** A file of 100 MB: the command line's CPU beside that of pandas' reader (Debian's python3-pandas, where it is there), in one run. */
export function filesOf(MB = 100) {
  const dir = mkdtempSync(join(tmpdir(), 'fn-files-'));
  const path = join(dir, 'large.csv');
  let noise = 1;
  let i = 0;
  let size = 0;
  const file = openSync(path, 'w');
  writeSync(file, 't_s,p_psi\n');
  while (size < MB * 1e6) {
    let text = '';
    for (let k = 0; k < 50_000; k++, i++) {
      noise = (noise * 16807) % 2147483647;
      text += `${(i / 10).toFixed(1)},${(50 + 8 * Math.sin(i / 300) + (noise / 2147483647 - 0.5) * 0.2).toFixed(2)}\n`;
    }
    size += writeSync(file, text);
  }
  closeSync(file);
  const args = ['bench/files.py', process.execPath, join(ROOT, 'packages/cli/dist/main.js'), path];
  const c = JSON.parse(execFileSync('/usr/bin/python3', args, { cwd: ROOT, encoding: 'utf8' }));
  rmSync(dir, { recursive: true });
  return {
    MB: round(size / 1e6),
    rows: i,
    ...c,
    overPandas: c.pandas ? round(c.file.cpu_s / c.pandas.cpu_s) : 'pandas is not there',
    overStdin: round(c.file.cpu_s / c.stdin.cpu_s),
    bound: '<= 3 x pandas, <= 1.1 x stdin',
  };
}

function eventsOf(core, SIGNALS, scoreOf, traces) {
  const psi = core.toCanonical(1, 'psi');
  const scale = { unloader: 10 * psi, cracking: psi / 554 };
  const levels = {
    quiet: { rate_hz: 20, noise: 0.01, step: 0.01 },
    ordinary: { rate_hz: 10, noise: 0.05, step: 0.1, hammer: true },
    noisy: { rate_hz: 10, noise: 0.3, step: 0.5, hammer: true },
  };
  const table = {};
  for (const kind of Object.keys(SIGNALS))
    for (const [name, o] of Object.entries(levels)) {
      const k = scale[kind] ?? psi;
      let [truth, found, matched, covered] = [0, 0, 0, 0];
      const errors = [];
      for (let seed = 1; seed <= traces; seed++) {
        const signal = SIGNALS[kind]({ seed, ...o, noise: o.noise * k, step: o.step * k });
        const a = core.expectOk(core.analyse(signal.samples, signal.kind));
        const s = scoreOf(signal, a.events);
        truth += s.truth;
        found += s.found;
        matched += s.matched;
        covered += s.covered;
        errors.push(...s.errors.map((e) => e / (o.step * k)));
      }
      const [recall, precision] = [matched / truth, matched / Math.max(1, found)];
      table[`${kind}, ${name}`] = {
        recall: round(recall, 4),
        precision: round(precision, 4),
        f1: round((2 * recall * precision) / (recall + precision), 4),
        biasSteps: round(errors.reduce((a, b) => a + b, 0) / errors.length),
        rmsSteps: round(Math.sqrt(errors.reduce((a, b) => a + b * b, 0) / errors.length)),
        covered: round(covered / matched),
      };
    }
  return { traces, table };
}
