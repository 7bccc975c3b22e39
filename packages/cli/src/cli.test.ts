import { describe, expect, it } from '@jest/globals';
import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { corpus } from '../../core/src/trace/reading/testing.js';
import { answer } from './index.js';

const dir = mkdtempSync(join(tmpdir(), 'needle-'));
const file = (name: string, text: string): string => {
  const path = join(dir, name);
  writeFileSync(path, text);
  return path;
};
interface Out {
  readonly [key: string]: unknown;
  readonly error?: { readonly code: string; readonly message: string };
}
const ask = async (...args: string[]): Promise<{ code: number; out: Out }> => {
  const { code, out } = await answer(args);
  return { code, out: out as Out };
};
const refused = async (...args: string[]): Promise<string | undefined> => {
  const { code, out } = await ask(...args);
  expect(code).toBe(2);
  return out.error?.code;
};

describe('needle', () => {
  it('lists what it can do, with an example each that works or names its file', async () => {
    const { out } = await ask('--help');
    const commands = out['commands'] as { name: string; example: string }[];
    expect(commands.map((c) => c.name)).toEqual([
      'convert',
      'pt',
      'plan',
      'judge',
      'advise',
      'simulate',
      'trace',
      'families',
    ]);
    for (const c of commands.filter((x) => ['convert', 'pt', 'plan', 'families'].includes(x.name)))
      expect((await ask(...c.example.split(' '))).code).toBe(0);
  });

  it('converts, and asks for an ambient pressure where kinds differ', async () => {
    expect((await ask('convert', '11.2', 'inH2O', 'psi')).out['value']).toBeCloseTo(0.4046, 4);
    expect((await ask('convert', '40', 'psig', 'psia', '--altitude', '0m')).out['value']).toBeCloseTo(
      54.696,
      3,
    );
    expect(await refused('convert', '40', 'psig', 'psia')).toBe('ambient-missing');
    expect(await refused('convert', '40', 'psi', 'gpm')).toBe('wrong-dimension');
    expect(await refused('convert', 'forty', 'psi', 'bar')).toBe('not-a-number');
    expect(await refused('convert', '40', 'psi', 'furlong')).toBe('unknown-unit');
  });

  it('looks saturation up both ways', async () => {
    const { out } = await ask('pt', 'R134a', '70', 'degF');
    const gauge = (out['bubble'] as { gauge_Pa: number }).gauge_Pa;
    expect(gauge / 6894.757).toBeCloseTo(71.1, 1);
    const back = await ask('pt', 'R134a', '--at', `${gauge / 6894.757}psi`);
    expect(back.out['T_K']).toBeCloseTo((70 + 459.67) / 1.8, 3);
    expect(await refused('pt', 'R-9', '70', 'degF')).toBe('fluid-unknown');
    expect(await refused('pt', 'R22', '-70', 'degF')).toBe('temperature-outside');
  });

  it('solves a plan and says what is wrong with it', async () => {
    const plate = ['--plate', 'tankVolume=80galUS', '--plate', 'pumpFlow=10gpm', '--plate', 'relief=82psi'];
    const { out } = await ask('plan', 'well-switch', '--set', 'cutIn=44psi', ...plate);
    const settings = out['settings'] as Record<string, { value_Pa: number; given: boolean }>;
    expect(settings['cutIn']).toMatchObject({ given: true });
    expect((settings['cutOut']?.value_Pa ?? 0) / 6894.757).toBeCloseTo(64, 3);
    const bad = await ask('plan', 'well-switch', '--set', 'cutIn=60psi', ...plate);
    expect((bad.out['findings'] as { code: string }[]).map((f) => f.code)).toContain('relief-margin');
    expect(await refused('plan', 'well-switch', '--set', 'cutIn=9000psi')).toBe('outside-scale');
    expect(await refused('plan', 'toaster')).toBe('family-unknown');
  });

  it('judges with a guard band of the expanded uncertainty', async () => {
    const judge = (r: object) => ask('judge', file('judge.json', JSON.stringify(r)));
    const base = { u_Pa: 2000, lower_Pa: 100000, upper_Pa: 110000 };
    expect((await judge({ ...base, reading_Pa: 105000 })).out).toMatchObject({ verdict: 'in' });
    expect((await judge({ ...base, reading_Pa: 109000 })).out).toMatchObject({ verdict: 'near' });
    expect((await judge({ ...base, reading_Pa: 113000 })).out).toMatchObject({ verdict: 'out' });
    expect((await judge({ ...base, reading_Pa: 109000, rule: 'simple' })).out).toMatchObject({
      verdict: 'in',
    });
    expect((await judge({ u_Pa: 1, reading_Pa: 1 })).out.error?.code).toBe('limits-missing');
    expect((await judge({ ...base, reading_Pa: 'x' })).out.error?.code).toBe('not-a-number');
    expect(await refused('judge', file('bad.json', '{'))).toBe('not-json');
    expect(await refused('judge', join(dir, 'none.json'))).toBe('file-missing');
  });
});

describe('needle advise', () => {
  const psi = 6894.757;
  const base = {
    family: 'well-switch',
    adjuster: 'range',
    setting: 'cutOut',
    target_Pa: 60 * psi,
    lower_Pa: 59 * psi,
    upper_Pa: 61 * psi,
    never_Pa: 72 * psi,
    now_Pa: 54 * psi,
    u_Pa: 0.6 * psi,
    prior: { perTurn_Pa: 2 * psi, spread: 0.4 },
  };
  const advise = async (over: object): Promise<Out> =>
    (await ask('advise', file('advise.json', JSON.stringify({ ...base, ...over })))).out;

  it('turns toward the target and says what to expect', async () => {
    const out = await advise({});
    expect(out['stop']).toBeNull();
    expect(out['direction']).toBe('clockwise');
    expect(out['expect_Pa'] as number).toBeGreaterThan(56 * psi);
    expect((await advise({ prior: { perTurn_Pa: -2 * psi, spread: 0.4 } }))['direction']).toBe(
      'counter-clockwise',
    );
  });

  it('turns less where more might reach what must not be reached, also by another setting', async () => {
    const free = (await advise({}))['turns'] as number;
    expect((await advise({ never_Pa: 61.5 * psi }))['turns'] as number).toBeLessThan(free);
    const others = [{ setting: 'spike', now_Pa: 70 * psi, never_Pa: 73 * psi }];
    expect((await advise({ others }))['turns'] as number).toBeLessThan(free);
  });

  it('stops where it stands inside, nothing moves, it goes backward, or it no longer goes on', async () => {
    expect((await advise({ now_Pa: 60.2 * psi }))['stop']).toBe('in-limits');
    const step = (turns: number, before: number, after: number) => ({
      turns,
      before_Pa: before * psi,
      after_Pa: after * psi,
    });
    expect((await advise({ history: [step(2, 54, 54.1), step(2, 54.1, 54)] }))['stop']).toBe('no-response');
    expect((await advise({ now_Pa: 50 * psi, history: [step(1, 54, 52), step(1, 52, 50)] }))['stop']).toBe(
      'reversed',
    );
    const flat = [step(2, 40, 46), step(2, 46, 52), step(2, 52, 52.3)];
    expect((await advise({ now_Pa: 52.3 * psi, history: flat }))['stop']).toBe('saturated');
  });

  it('says where the scale ends before the target does', async () => {
    expect((await advise({ scale_Pa: [20 * psi, 55 * psi] }))['stop']).toBe('end-of-scale');
    expect((await advise({ scale_Pa: [20 * psi, 80 * psi] }))['stop']).toBeNull();
  });

  it('refuses what it cannot work with', async () => {
    expect((await advise({ now_Pa: null })).error?.code).toBe('not-a-number');
    expect((await advise({ lower_Pa: 62 * psi })).error?.code).toBe('limits-crossed');
    expect((await advise({ family: 'other', prior: undefined })).error?.code).toBe('prior-missing');
  });
});

describe('needle simulate and trace', () => {
  it('finds in a rig’s trace what the rig knows', async () => {
    const out = join(dir, 'rig.csv');
    const made = await ask(
      'simulate',
      'well-switch',
      '--seed',
      '4',
      '--seconds',
      '900',
      '--rate',
      '5',
      '--out',
      out,
    );
    const truth = made.out['truth'] as Record<string, number>;
    const { out: found } = await ask('trace', out, '--family', 'well-switch');
    const figures = found['figures'] as Record<string, { value: number; u: number; n: number }>;
    for (const name of ['cutIn', 'cutOut']) {
      // The gauge's own zero, a few hundred Pa, is in the trace and not in the truth.
      const off = (figures[name]?.value ?? NaN) - (truth[name] ?? NaN) - (truth['zero'] ?? 0);
      expect(Math.abs(off)).toBeLessThan(2500);
      expect(figures[name]?.n).toBeGreaterThan(2);
    }
    expect((found['cycles'] as unknown[]).length).toBeGreaterThan(2);
  });

  it('sees through a gauge’s lag where it is said, and refuses one that cannot be reckoned with', async () => {
    // A saw of 40 and 60 behind a gauge of two seconds: it never shows either.
    let shown = 50;
    const rows = Array.from({ length: 4000 }, (_, i) => {
      const s = i / 5;
      const phase = (s / 80) % 1;
      const p = 40 + 20 * (phase < 0.5 ? 2 * phase : 2 - 2 * phase);
      shown += (p - shown) * (1 - Math.exp(-0.2 / 2));
      return `${s.toFixed(1)},${shown.toFixed(3)}`;
    });
    const path = file('slow.csv', ['Time (s),Pressure (psi)', ...rows].join('\n'));
    const cutOut = async (...more: string[]): Promise<number> => {
      const { out } = await ask('trace', path, '--family', 'well-switch', ...more);
      return ((out['figures'] as Record<string, { value: number }>)['cutOut']?.value ?? NaN) / 6894.757;
    };
    expect(Math.abs((await cutOut('--lag', '2 s')) - 60)).toBeLessThan(0.05);
    expect(Math.abs((await cutOut()) - 60)).toBeGreaterThan(Math.abs((await cutOut('--lag', '2 s')) - 60));
    expect(await refused('trace', path, '--family', 'well-switch', '--lag', '90 s')).toBe('lag');
  });

  it('reads commas for points, semicolons, clock times over midnight, and tells of every bad line', async () => {
    const rows = Array.from({ length: 120 }, (_, i) => {
      const s = 86340 + i;
      const clock = [Math.floor(s / 3600) % 24, Math.floor(s / 60) % 60, s % 60]
        .map((x) => String(x).padStart(2, '0'))
        .join(':');
      return `${clock};${String(2 + Math.sin(i / 6)).replace('.', ',')}`;
    });
    rows[40] = '23:59:40;defect';
    rows[41] = rows[42] ?? '';
    const path = file('logger.csv', ['Uhrzeit;Druck (bar)', ...rows].join('\n').replace('Uhrzeit', 'Time'));
    const { out } = await ask('trace', path, '--family', 'well-switch');
    expect(out['samples']).toBe(118);
    expect(out['duration_s']).toBe(119);
    expect((out['problems'] as { line: number | null; message: string }[]).slice(0, 2)).toEqual([
      { line: 42, message: '"defect" is not a pressure.' },
      { line: 44, message: 'The time stands twice.' },
    ]);
  });

  it.each([
    ['nothing', '', 'trace-empty'],
    ['one column', '1\n2\n3\n', 'one-column'],
    ['no unit', 'time,p\n0,1\n1,2\n2,3\n', 'unit-missing'],
    ['words', 'a,b\nc,d\n', 'no-readings'],
    ['three samples', 't_s,p_kPa\n0,1\n1,2\n2,3\n', 'trace-short'],
  ])('refuses a file of %s', async (name, text, code) => {
    expect(await refused('trace', file(`${name}.csv`, text), '--family', 'well-switch')).toBe(code);
  });

  it('invents nothing where nothing happens', async () => {
    const flat = Array.from({ length: 200 }, (_, i) => `${i},${(40 + (i % 3) * 0.01).toFixed(2)}`);
    const path = file('flat.csv', ['t_s,p_psi', ...flat].join('\n'));
    const { out } = await ask('trace', path, '--family', 'well-switch');
    expect(out['figures']).toEqual({});
    expect(out['events']).toEqual([]);
    expect(JSON.stringify(out['problems'])).toContain('shows nothing of this kind');
  });

  it('refuses a family without traces, a fault and a scenario that are none', async () => {
    expect(await refused('trace', 'x.csv', '--family', 'toaster')).toBe('family-unknown');
    const sim = ['simulate', 'well-switch', '--out', join(dir, 'x.csv')];
    expect(await refused(...sim, '--fault', 'gremlins')).toBe('fault-unknown');
    expect(await refused(...sim, '--scenario', 'picnic')).toBe('scenario-unknown');
    expect(await refused('simulate', 'well-switch')).toBe('out-missing');
  });
});

describe('needle trace on files as they really are', () => {
  it.each(corpus().map((f, i) => [f.name, f, i] as const))(
    '%s: read and told how, or refused',
    async (_, f, i) => {
      const path = join(dir, `corpus-${i}.csv`);
      writeFileSync(path, f.bytes);
      const { code, out } = await ask('trace', path, '--family', 'well-switch');
      if ('refused' in f.expected) {
        expect([code, out.error?.code]).toEqual([2, f.expected.refused]);
        expect(out.error?.message.length).toBeGreaterThan(10);
        return;
      }
      expect(code).toBe(0);
      expect(out['samples']).toBe(f.expected.n);
      const read = out['read'] as {
        rows: number;
        lost: Record<string, number>;
        assumptions: { about: string; said: string }[];
      };
      const lost = Object.values(read.lost).reduce((a, b) => a + b, 0);
      expect(lost).toBe(f.expected.lost ?? 0);
      expect(read.rows - lost).toBe(f.expected.n);
      for (const about of f.expected.says ?? [])
        expect(read.assumptions.map((a) => a.about)).toContain(about);
    },
  );

  it('takes what is said of a file for what it is, and refuses what it does not know', async () => {
    const path = file(
      'either.csv',
      ['time,p', ...Array.from({ length: 60 }, (_, k) => `${k},${40 + (k % 7)}`)].join('\n'),
    );
    const read = async (...more: string[]): Promise<object> => {
      const { out } = await ask('trace', path, '--family', 'well-switch', ...more);
      return (out['read'] ?? out.error) as object;
    };
    expect(await read()).toMatchObject({ code: 'unit-missing' });
    expect(await read('--unit', 'psi')).toMatchObject({ pressure: { unit: 'psi', basis: 'gauge' } });
    expect(await read('--unit', 'kPa', '--basis', 'absolute')).toMatchObject({
      pressure: { basis: 'absolute' },
      ambient_Pa: 101325,
      assumptions: [{ about: 'time' }, { about: 'basis' }, { about: 'ambient' }],
    });
    expect(await read('--unit', 'kPa', '--basis', 'absolute', '--ambient', '95 kPa')).toMatchObject({
      ambient_Pa: 95000,
    });
    expect(await read('--unit', 'psi', '--basis', 'up')).toMatchObject({ code: 'option-unknown' });
    expect(await read('--unit', 'psi', '--pressure', '9')).toMatchObject({ code: 'not-pressures' });
    expect(await read('--unit', 'psi', '--time', '0')).toMatchObject({ code: 'column' });
    expect(await read('--tiem', '1')).toMatchObject({ code: 'option-unknown' });
    expect(await refused('trace', dir, '--family', 'well-switch')).toBe('file-folder');
  });

  it('answers whatever is asked without a stack', async () => {
    for (const text of ['null', '[null]', '5', '"x"', '{"__proto__":{"x":1}}', '{}'])
      for (const command of ['judge', 'advise']) {
        const { code, out } = await ask(command, file('odd.json', text));
        expect([command, text, code]).toEqual([command, text, 2]);
        expect(out.error?.message).not.toMatch(/\n\s+at /);
      }
    const { out } = await ask('trace', '--help');
    expect(Object.keys(out['options'] as object)).toContain('--basis');
  });
});
