import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { saturated } from '../advisor/index.js';
import { expectOk, type Result } from '../result.js';
import {
  analyse,
  buildPyramid,
  columnsOf,
  extent,
  grainOf,
  guessColumns,
  SampleStore,
  TableReader,
  unitOfHeading,
} from './index.js';
import { seeded } from '../rig/random.js';
import { scoreOf } from './scoring.js';
import { SIGNALS, type SignalOptions } from './testing.js';

const PSI = 6894.757293168361;
const code = (r: Result<unknown>): string => (r.ok ? 'ok' : r.refusal.code);

describe('clicks', () => {
  // Driven until the click, it goes on past by 300 Pa; and falls on by as much while it starts again.
  const p: number[] = [];
  const contact: number[] = [];
  for (let i = 0, at = 5000, on = 1, carried = 0; i < 6000; i++) {
    if (on === 1 && at >= 9000) [on, carried] = [0, 60];
    if (on === 0 && at <= 5000) [on, carried] = [1, 60];
    at += (carried-- > 0 ? (on === 1 ? -1 : 1) : on === 1 ? 1 : -1) * 5;
    p.push(at);
    contact.push(on);
  }
  const samples = (states: Readonly<Record<string, number[]>>) => ({
    t: Float64Array.from(p, (_, i) => i / 10),
    p: Float64Array.from(p),
    states: Object.fromEntries(Object.entries(states).map(([k, v]) => [k, Float64Array.from(v)])),
  });

  it('are where the contact acted, and not where the pressure turned', () => {
    const { figures } = expectOk(analyse(samples({ contact }), 'clicks'));
    expect(Math.abs((figures['cutOut']?.value ?? NaN) - 9000)).toBeLessThan(20);
    expect(Math.abs((figures['cutIn']?.value ?? NaN) - 5000)).toBeLessThan(20);
    // The turns lie 300 Pa beyond, which is what a trace without its contact would say.
    const turns = expectOk(analyse(samples({}), 'cycles')).figures;
    expect((turns['cutOut']?.value ?? NaN) - 9000).toBeGreaterThan(200);
  });

  it('are refused without it, with what to do', () => {
    const r = analyse(samples({}), 'clicks');
    expect(r).toMatchObject({ ok: false, refusal: { code: 'contact-missing', where: 'contact' } });
  });
});

describe('pyramid', () => {
  it('gives the lowest and highest of any stretch, as looking at every sample does', () => {
    fc.assert(
      fc.property(
        fc.array(fc.double({ min: -1e6, max: 1e6, noNaN: true }), { minLength: 1, maxLength: 700 }),
        fc.nat(700),
        fc.nat(700),
        (list, a, b) => {
          const p = Float64Array.from(list);
          const [from, to] = [Math.min(a, b), Math.min(Math.max(a, b), list.length)];
          const part = list.slice(from, to);
          expect(extent(p, buildPyramid(p), from, to)).toEqual([Math.min(...part), Math.max(...part)]);
        },
      ),
    );
  });

  it('never loses a spike when zoomed out', () => {
    const n = 100_000;
    const t = Float64Array.from({ length: n }, (_, i) => i / 10);
    const p = new Float64Array(n).fill(5);
    p[77_777] = 900;
    const columns = columnsOf(t, p, buildPyramid(p), 0, n / 10, 640);
    expect(Math.max(...columns)).toBe(900);
    expect(columns.filter((x) => x === 900)).toHaveLength(1);
  });
});

describe('what a trace is made of', () => {
  it('finds its noise, its step and its rate', () => {
    const s = SIGNALS['cycles']?.({ seed: 3, rate_hz: 10, noise: 0.3 * PSI, step: 0.5 * PSI });
    const g = grainOf(s?.samples.t ?? new Float64Array(), s?.samples.p ?? new Float64Array());
    expect(g.step / PSI).toBeCloseTo(0.5, 2);
    expect(g.dt).toBeCloseTo(0.1, 6);
    expect(g.sd / PSI).toBeGreaterThan(0.25);
    expect(g.sd / PSI).toBeLessThan(0.5);
  });
});

describe('a switch above the precharge', () => {
  it('cuts in where the emptied tank lets the pressure fall, which is no slam', () => {
    const store = new SampleStore();
    const noise = seeded(4);
    for (let i = 0; i < 24000; i++) {
      const t = i / 10;
      const x = t % 240;
      // Down to 41 with water, at once to 36 without, back to 41 as the pump starts, up to 61.
      const p =
        x < 120
          ? 61 - x / 6
          : x < 120.4
            ? 41 - (x - 120) * 12.5
            : x < 121
              ? 36 + (x - 120.4) * 8.33
              : 41 + (x - 121) / 6;
      store.push(t, (Math.round(p * 10 + noise.normal() * 0.5) / 10) * PSI);
    }
    const a = expectOk(analyse(store.take(), 'cycles'));
    expect((a.figures['cutIn']?.value ?? 0) / PSI).toBeGreaterThan(34.5);
    expect((a.figures['cutIn']?.value ?? 0) / PSI).toBeLessThan(37.5);
    expect(a.events.filter((e) => e.kind === 'cutIn')).toHaveLength(10);
  });
});

describe('events of every kind of trace, on signals that share nothing with the rigs', () => {
  const ordinary: Omit<SignalOptions, 'seed'> = { rate_hz: 10, noise: 0.05, step: 0.1 };
  const scale: Readonly<Record<string, number>> = { unloader: 10 * PSI, cracking: 12.45 };
  const run = (kind: string, o: Omit<SignalOptions, 'seed'>, seeds = 12) => {
    const k = scale[kind] ?? PSI;
    let [truth, found, matched, covered] = [0, 0, 0, 0];
    const misses: number[] = [];
    for (let seed = 1; seed <= seeds; seed++) {
      const signal = SIGNALS[kind]?.({ seed, ...o, noise: o.noise * k, step: o.step * k });
      if (!signal) throw new Error(kind);
      const a = expectOk(analyse(signal.samples, signal.kind));
      const s = scoreOf(signal, a.events);
      truth += s.truth;
      found += s.found;
      matched += s.matched;
      covered += s.covered;
      for (const [name, value] of Object.entries(signal.figures)) {
        const f = a.figures[name];
        if (f) misses.push(Math.abs(f.value - value) / Math.max(f.u, 1e-9));
      }
    }
    return { recall: matched / truth, precision: matched / found, covered: covered / matched, misses };
  };

  it.each(['cycles', 'unloader', 'dips', 'cracking', 'relief'])('%s, ordinary noise', (kind) => {
    const r = run(kind, ordinary);
    expect(r.recall).toBeGreaterThan(0.97);
    expect(r.precision).toBeGreaterThan(0.97);
    expect(r.covered).toBeGreaterThan(0.85);
  });

  it.each([
    ['hammer', { rate_hz: 20, noise: 0.05, step: 0.1, hammer: true }],
    ['a sample every five seconds', { rate_hz: 0.2, noise: 0.05, step: 0.1 }],
    ['a contact beside it', { rate_hz: 2, noise: 0.1, step: 0.1, channel: true }],
  ])('cycles, %s', (_, o) => {
    const r = run('cycles', o);
    expect(r.recall).toBeGreaterThan(0.97);
    expect(r.precision).toBeGreaterThan(0.97);
  });

  it('does not report a turn that fell where no samples are', () => {
    const r = run('cycles', { ...ordinary, rate_hz: 5, gaps: 0.06 });
    expect(r.recall).toBeGreaterThan(0.97);
    expect(r.precision).toBeGreaterThan(0.9);
  });

  it('levels: flowing, lock-up, creep and hunting, within what it says it knows', () => {
    const r = run('levels', ordinary);
    expect(r.misses.filter((m) => m > 3).length / r.misses.length).toBeLessThan(0.05);
  });

  it('has nothing to say where nothing happens, and refuses what is no trace', () => {
    const flat = new SampleStore();
    for (let i = 0; i < 500; i++) flat.push(i / 10, 3e5 + (i % 3) * 20);
    const a = expectOk(analyse(flat.take(), 'cycles'));
    expect([a.events, a.figures, a.cycles]).toEqual([[], {}, []]);
    expect(a.nothing).toBeDefined();
    const short = new SampleStore();
    for (let i = 0; i < 3; i++) short.push(i, 1);
    expect(code(analyse(short.take(), 'cycles'))).toBe('trace-short');
  });
});

describe('a logger’s table', () => {
  const map = (...rows: string[]) => guessColumns(rows.map((r) => r.split(';')));

  it.each([
    ['t_s;p_psi', 'psi'],
    ['Time;pressure (kPa)', 'kPa'],
    ['time;bar', 'bar'],
    ['elapsed;Pressure [inH2O]', 'inH2O'],
  ])('knows its columns by %s', (heading, unit) => {
    expect(expectOk(map(heading, '0;1', '1;2'))).toMatchObject({
      time: { index: 0 },
      pressure: { index: 1, unit },
    });
    expect(unitOfHeading(heading.split(';')[1] ?? '')).toBe(unit);
  });

  it('finds channels, other orders, milliseconds and absolute pressures', () => {
    const m = expectOk(map('contact;p_bara;t (ms)', '0;2,01325;0', '1;2,01325;100'));
    expect(m).toMatchObject({ time: { index: 2, seconds: 1e-3 }, decimal: ',', states: { contact: 0 } });
    const reader = new TableReader(m);
    reader.row(['0', '2,01325', '0'], 2);
    reader.row(['1', '2,11325', '100'], 3);
    const { samples } = reader.done();
    expect([...samples.t]).toEqual([0, 0.1]);
    expect(samples.p[0]).toBeCloseTo(1e5, 3);
    expect([...(samples.states['contact'] ?? [])]).toEqual([0, 1]);
  });

  it('takes a flow in the unit its heading names, and sums no flow without one', () => {
    const cycle = (i: number): number => (i % 200 < 80 ? 40 + (i % 200) / 4 : 60 - ((i % 200) - 80) / 6);
    const figures = (heading: string) => {
      const first = [heading, `0;${cycle(0)};6`, `1;${cycle(1)};6`].map((r) => r.split(';'));
      const reader = new TableReader(expectOk(guessColumns(first)));
      for (let i = 0; i < 1200; i++) reader.row([String(i), String(cycle(i)), '6'], i + 2);
      return expectOk(analyse(reader.done().samples, 'cycles')).figures;
    };
    // Six litres a minute for the two minutes between cut-out and cut-in.
    expect(figures('t_s;p_psi;flow (L/min)')['drawdown']?.value).toBeCloseTo(0.012, 3);
    expect(figures('t_s;p_psi;flow')['drawdown']).toBeUndefined();
  });

  it('tells of a bad line by its number and goes on', () => {
    const reader = new TableReader(expectOk(map('t_s;p_psi', '0;1', '1;2')));
    ['0;1', '1;NaN', '1;2', '1;3', '0.5;4', ';5', '3;', '4;6'].forEach((r, i) =>
      reader.row(r.split(';'), i + 2),
    );
    const { samples, problems } = reader.done();
    expect([...samples.t]).toEqual([0, 1, 4]);
    expect(problems.map((p) => p.line)).toEqual([3, 5, 6, 7, 8]);
  });
});

describe('saturation of a screw', () => {
  const step = (turns: number, before: number, after: number) => ({ turns, before, after });
  it('is a turn that gives far less than the ones before, the same way', () => {
    expect(saturated([step(1, 40, 44), step(1, 44, 48), step(1, 48, 48.4)], 0.2)).toBe(true);
    expect(saturated([step(1, 40, 44), step(1, 44, 48), step(1, 48, 51)], 0.2)).toBe(false);
    expect(saturated([step(1, 40, 44), step(-1, 44, 43.5)], 0.2)).toBe(false);
    expect(saturated([step(1, 40, 40.1)], 0.2)).toBe(false);
  });
});
