import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { expectOk } from '../result.js';
import {
  analyse,
  AsciiGauge,
  BLOCK_SAMPLES,
  blocksOf,
  buildPyramid,
  decodeBlock,
  encodeBlock,
  growPyramid,
  TraceStream,
  withCorrections,
  type Samples,
} from './index.js';
import { cycleSignal, reliefSignal } from './testing.js';

const PSI = 6894.757293168361;
const ordinary = { rate_hz: 10, noise: 0.05 * PSI, step: 0.1 * PSI };

describe('a trace that is still being recorded', () => {
  const signal = cycleSignal({ seed: 5, ...ordinary, channel: true });
  const stream = new TraceStream('cycles', ['contact']);
  const { t, p, states } = signal.samples;
  const contact = states['contact'] ?? new Float64Array();
  const seen: number[] = [];

  it('says in the end what the same samples say as a file', () => {
    for (let i = 0; i < t.length; i++) {
      expect(stream.push(t[i] ?? 0, p[i] ?? 0, { contact: contact[i] ?? 0 })).toBe(true);
      if (i % 1500 === 1499) seen.push(expectOk(stream.read()).events.length);
    }
    expect(stream.length).toBe(t.length);
    const [live, file] = [expectOk(stream.read()), expectOk(analyse(signal.samples, 'cycles'))];
    expect(live.events).toEqual(file.events);
    expect(live.figures).toEqual(file.figures);
  });

  it('finds more as more is recorded, and takes nothing back', () => {
    expect(seen.length).toBeGreaterThan(3);
    expect([...seen].sort((a, b) => a - b)).toEqual(seen);
  });

  it('leaves out a sample whose time does not go on, or that is no number', () => {
    expect(stream.push(t[0] ?? 0, 1)).toBe(false);
    expect(stream.push(1e9, NaN)).toBe(false);
    expect(stream.length).toBe(t.length);
  });

  it('lets go of its older half where it grows too long', () => {
    const short = new TraceStream('cycles', [], 101325, 400);
    for (let i = 0; i < 1000; i++) short.push(i, Math.sin(i / 20));
    expect(short.length).toBeLessThanOrEqual(400);
    expect(short.samples().t[short.length - 1]).toBe(999);
    expect(expectOk(short.read()).samples).toBe(short.length);
  });

  it('grows a pyramid to what building it whole gives', () => {
    fc.assert(
      fc.property(
        fc.array(fc.double({ min: -1e6, max: 1e6, noNaN: true }), { minLength: 1, maxLength: 900 }),
        fc.nat(900),
        (list, cut) => {
          const whole = Float64Array.from(list);
          const part = buildPyramid(whole.slice(0, Math.min(cut, list.length)));
          expect(growPyramid(part, whole)).toEqual(buildPyramid(whole));
        },
      ),
    );
  });
});

describe('a serial gauge', () => {
  it('is read however its bytes are cut up', () => {
    const text = '43.2 psi\r\n43.3 psi\r\n-0.1 psi\r\n';
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 1, max: 6 }), { minLength: 1, maxLength: 40 }), (cuts) => {
        const gauge = new AsciiGauge('bar');
        const got: number[] = [];
        let at = 0;
        for (let i = 0; at < text.length; i++) {
          const next = at + (cuts[i % cuts.length] ?? 1);
          got.push(...gauge.push(text.slice(at, next)).map((s) => s.p / PSI));
          at = next;
        }
        expect(got.map((x) => x.toFixed(4))).toEqual(['43.2000', '43.3000', '-0.1000']);
      }),
    );
  });

  it.each([
    ['P=+0043.2', 'psi', 43.2 * PSI],
    ['1;2,5;bar', 'psi', 2.5e5],
    ['12 0.35 MPa', 'psi', 350000],
    ['201.325 kPa', 'psi', 201325],
    ['16.0 psia', 'psi', 16 * PSI - 101325],
    ['4.5e1', 'kPa', 45000],
  ])('reads %s', (line, unit, p) => {
    expect(new AsciiGauge(unit).push(`${line}\n`)[0]?.p).toBeCloseTo(p, 3);
  });

  it('counts lines that hold no pressure and goes on', () => {
    const gauge = new AsciiGauge('psi');
    expect(gauge.push('READY\n\n12.0\nERR\n')).toHaveLength(1);
    expect(gauge.skipped).toBe(2);
    expect(gauge.push('x'.repeat(5000))).toEqual([]);
    expect(gauge.push('\n13\n')).toHaveLength(1);
  });
});

describe('what a person says of an event', () => {
  const signal = reliefSignal({ seed: 7, ...ordinary });
  const found = expectOk(analyse(signal.samples, 'relief'));
  const first = found.events.find((e) => e.kind === 'opening');
  if (!first) throw new Error('no opening');

  it('moves it, keeps what was found beside it, and makes the figures anew', () => {
    const moved = withCorrections(found, [
      { kind: 'opening', found_s: first.t, t: first.t + 1, p: first.p + 1000, u: 0, why: 'the needle stuck' },
    ]);
    expect(moved.events).toHaveLength(found.events.length);
    expect(moved.events.find((e) => e.correction)?.p).toBe(first.p + 1000);
    const n = found.figures['opening']?.n ?? 0;
    const by = (moved.figures['opening']?.value ?? 0) - (found.figures['opening']?.value ?? 0);
    expect(by).toBeCloseTo(1000 / n, 6);
    expect((moved.figures['blowdown']?.value ?? 0) - (found.figures['blowdown']?.value ?? 0)).toBeCloseTo(
      by,
      6,
    );
    expect(found.events.find((e) => e.t === first.t)?.p).toBe(first.p);
  });

  it('takes it away, and adds one that was not found', () => {
    const less = withCorrections(found, [{ kind: 'opening', found_s: first.t, why: 'a slam' }]);
    expect(less.figures['opening']?.n).toBe((found.figures['opening']?.n ?? 0) - 1);
    const more = withCorrections(found, [{ kind: 'opening', t: 3, p: first.p, why: 'seen at the gauge' }]);
    expect(more.figures['opening']?.n).toBe((found.figures['opening']?.n ?? 0) + 1);
    expect(more.events[0]?.correction?.why).toBe('seen at the gauge');
  });

  it('leaves no figure of events that were all taken away', () => {
    const none = withCorrections(
      found,
      found.events
        .filter((e) => e.kind === 'reseat')
        .map((e) => ({ kind: 'reseat', found_s: e.t, why: 'no' })),
    );
    expect(none.figures['reseat']).toBeUndefined();
    expect(none.figures['blowdown']).toBeUndefined();
    expect(none.figures['opening']).toEqual(found.figures['opening']);
  });
});

describe('a stored block', () => {
  const n = BLOCK_SAMPLES + 77;
  const samples: Samples = {
    t: Float64Array.from({ length: n }, (_, i) => i / 8),
    p: Float64Array.from({ length: n }, (_, i) => Math.sin(i) * 1e5),
    states: { flow: new Float64Array(n).fill(0.5), contact: new Float64Array(n).fill(NaN) },
  };

  it('comes back as it was', () => {
    expect(blocksOf(n)).toBe(2);
    const back = expectOk(decodeBlock(encodeBlock(samples, 1), ['flow', 'contact']));
    expect(back.t).toEqual(samples.t.subarray(BLOCK_SAMPLES));
    expect(back.p).toEqual(samples.p.subarray(BLOCK_SAMPLES));
    expect(back.states['flow']?.[3]).toBe(0.5);
    expect(back.states['contact']?.[3]).toBeNaN();
  });

  it('is refused where bytes are missing, or columns', () => {
    const bytes = encodeBlock(samples, 0);
    expect(decodeBlock(bytes.subarray(0, bytes.length - 1), ['flow', 'contact']).ok).toBe(false);
    expect(decodeBlock(bytes, ['flow']).ok).toBe(false);
    expect(decodeBlock(new Uint8Array(3), []).ok).toBe(false);
  });
});
