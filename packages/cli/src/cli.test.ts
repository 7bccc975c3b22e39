import { describe, expect, it } from '@jest/globals';
import { execFileSync } from 'node:child_process';
import { appendFileSync, mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { oddities } from '../../tables/src/odd/testing.js';
import { workbooks } from '../../tables/src/testing.js';
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
    const over = (...more: string[]) => refused('convert', '40', 'psig', 'psia', ...more);
    expect(await over('--ambient', '14.7')).toBe('unit-missing');
    expect(await over('--altitude', '300')).toBe('unit-missing');
    expect(await over('--ambient', '14.7psig')).toBe('wrong-kind');
    expect(await over('--ambient', '14.7bar')).toBe('ambient-outside');
    expect(await over('--ambient', '101.3kPa', '--altitude', '0m')).toBe('ambient-twice');
    expect(await refused('convert', '-40', 'psia', 'psi')).toBe('below-vacuum');
    expect(await refused('convert', '0', 'psig', 'psia', '--ambient', '-5kPa')).toBe('below-vacuum');
    expect(await refused('pt', 'R410A', '--at', '-3psia')).toBe('below-vacuum');
    // A mile up: 83.4 kPa by the standard atmosphere.
    const high = (await ask('convert', '0', 'psig', 'psia', '--altitude', '1609m')).out['value'] as number;
    expect(high * 6.894757).toBeCloseTo(83.44, 1);
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
    for (const [what, ...args] of [
      ['variant-unknown', '--variant', '60-90'],
      ['school-unknown', '--school', 'none'],
      ['not-a-setting', '--set', 'cutUp=40psi'],
      ['not-a-setting', '--set', '__proto__=40psi'],
      ['not-on-plate', '--plate', 'tank=40galUS'],
      ['pair-malformed', '--set', 'cutIn'],
      ['option-unknown', '--sett', 'cutIn=40psi'],
    ] as const)
      expect(await refused('plan', 'well-switch', ...args)).toBe(what);
    // Three were said of which two follow from each other: the one that gave way is named.
    const three = ['--set', 'cutIn=44psi', '--set', 'cutOut=64psi', '--set', 'differential=30psi'];
    const over = (await ask('plan', 'well-switch', ...three, ...plate)).out['overridden'];
    expect(over).toHaveLength(1);
    expect((await ask('plan', 'well-switch', '--set', 'cutIn=44psi', ...plate)).out['overridden']).toEqual(
      [],
    );
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
    expect((await judge({ ...base, upper_Pa: null, reading_Pa: 3e5 })).out).toMatchObject({ verdict: 'in' });
    expect((await judge({ ...base, lower_Pa: null, upper_Pa: null })).out.error?.code).toBe('not-a-number');
    expect((await judge({ ...base, reading_Pa: 1e5, upper_Pa: '44psi' })).out.error?.code).toBe(
      'not-a-number',
    );
    expect(await refused('judge', file('list.json', '[1]'))).toBe('not-an-object');
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
    expect((await advise({ never_Pa: undefined })).error?.code).toBe('ceiling-missing');
    expect((await advise({ never_Pa: '72psi' })).error?.code).toBe('not-a-number');
    expect((await advise({ others: [{ setting: 'spike', now_Pa: 7e4 }] })).error?.code).toBe(
      'ceiling-missing',
    );
    expect((await advise({ history: [{ turns: 1, before_Pa: 4e5 }] })).error?.code).toBe('not-a-number');
    expect((await advise({ history: 'none' })).error?.code).toBe('not-a-list');
    expect((await advise({ quantum_turns: 0 })).error?.code).toBe('negative');
    expect((await advise({ quantum_turns: 2, largest_turns: 1 })).error?.code).toBe('hand-crossed');
    expect((await advise({ scale_Pa: [8e5, 1e5] })).error?.code).toBe('limits-crossed');
  });

  it('no ceiling is said, and what a hand can do is meant', async () => {
    expect((await advise({ never_Pa: null }))['because']).toMatch(/Nothing was given/);
    const quarter = (await advise({ quantum_turns: 0.25, largest_turns: 0.5 }))['turns'] as number;
    expect([0.25, 0.5]).toContain(quarter);
    expect((await advise({ now_Pa: 20 * psi, largest_turns: 1 }))['turns']).toBe(1);
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
  it.each([...corpus(), ...workbooks(), ...oddities()].map((f, i) => [f.name, f, i] as const))(
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
    expect(await read('--unit', 'psi', '--time-unit', 'min')).toMatchObject({ time: { seconds: 60 } });
    expect(await read('--unit', 'psi', '--delimiter', 'semicolon')).toMatchObject({ code: 'one-column' });
    expect(await read('--unit', 'psi', '--delimiter', 'constructor')).toMatchObject({
      code: 'option-unknown',
    });
    expect(await read('--unit', 'psi', '--delimiter', 'comma', '--first', '3')).toMatchObject({
      delimiter: ',',
      header_line: 2,
    });
    expect(await refused('trace', dir, '--family', 'well-switch')).toBe('file-folder');
  });

  const wave = (from: number, n: number): string =>
    Array.from(
      { length: n },
      (_, k) => `${from + k},${(50 + 8 * Math.sin((from + k) / 40)).toFixed(2)}\n`,
    ).join('');

  it('joins several files of one logger, whatever order they are named in, and refuses what contradicts', async () => {
    const family = ['--family', 'well-switch'];
    const a = file('day-a.csv', `Time (s),psi\n${wave(0, 700)}`);
    const b = file('day-b.csv', `Time (s),psi\n${wave(690, 700)}`);
    const whole = file('day.csv', `Time (s),psi\n${wave(0, 1390)}`);
    const both = await ask('trace', b, a, ...family);
    const one = await ask('trace', whole, ...family);
    expect(both.out).toMatchObject({ order: [a, b], twice: 10, samples: 1390 });
    expect(both.out['figures']).toEqual(one.out['figures']);
    const other = file('day-c.csv', `Time (s),bar\n${wave(600, 100)}`);
    expect(await refused('trace', a, other, ...family)).toBe('times-overlap');
    const later = file('day-d.csv', `Time (s),psi\n${wave(9e6, 100)}`);
    expect(await refused('trace', a, later, ...family)).toBe('times-apart');
  });

  it('a folder comes to one answer a file, in CSV too; what is wrong with one is said of it', async () => {
    const folder = mkdtempSync(join(tmpdir(), 'needle-folder-'));
    writeFileSync(join(folder, 'b.csv'), `Time (s),psi\n${wave(0, 900)}`);
    writeFileSync(join(folder, 'a.txt'), 'Time (s)\tbar\n0\t1\n');
    writeFileSync(join(folder, '=c.csv'), 'nothing');
    writeFileSync(join(folder, 'photo.png'), 'x');
    const csv = join(folder, 'sum.out');
    const { code, out } = await ask('trace', '--summary', folder, '--family', 'well-switch', '--csv', csv);
    expect([code, out['read'], out['refused']]).toEqual([0, 1, 2]);
    const [heading = '', ...rows] = readFileSync(csv, 'utf8').trimEnd().split('\n');
    expect(heading).toMatch(/^file,samples,.*cutIn,cutIn_u_expanded.*refused/);
    expect(rows.length).toBe(3);
    // What a spreadsheet would run is text.
    expect(rows[0]).toMatch(/^"'=c\.csv"/);
    const cells = rows[2]?.split(',') ?? [];
    expect(Number(cells[heading.trim().split(',').indexOf('cutIn')])).toBeCloseTo(42, 1);
    expect(await refused('trace', '--summary', join(folder, 'none'), '--family', 'well-switch')).toBe(
      'folder-missing',
    );
    const both = ['trace', '--summary', folder, '--family', 'well-switch'];
    expect(await refused(...both, join(folder, 'b.csv'))).toBe('option-twice');
    expect(await refused(...both, '--events', csv)).toBe('option-twice');
    expect(await refused('trace', join(folder, 'b.csv'), '--family', 'well-switch', '--csv', csv)).toBe(
      'option-alone',
    );
    const empty = mkdtempSync(join(tmpdir(), 'needle-empty-'));
    expect(await refused('trace', '--summary', empty, '--family', 'well-switch')).toBe('folder-empty');
  });

  it('figures and events go to CSV in the unit of the file, or another; where they cannot it is said', async () => {
    const path = file('csv.csv', `Time (s),psi\n${wave(0, 900)}`);
    const [figures, events] = [join(dir, 'figures.csv'), join(dir, 'events.csv')];
    const { out } = await ask(
      'trace',
      path,
      '--family',
      'well-switch',
      '--figures',
      figures,
      '--events',
      events,
    );
    const cutIn = (out['figures'] as Record<string, { value: number; u: number; n: number }>)['cutIn'];
    const row =
      readFileSync(figures, 'utf8')
        .split('\n')
        .find((l) => l.startsWith('cutIn,'))
        ?.trim()
        .split(',') ?? [];
    expect(Number(row[1]) * 6894.757).toBeCloseTo(cutIn?.value ?? NaN, -1);
    expect(Number(row[3]) * 6894.757).toBeCloseTo(cutIn?.u ?? NaN, 1);
    expect([row[2], Number(row[4])]).toEqual(['psi', cutIn?.n]);
    expect(readFileSync(events, 'utf8').trim().split('\n').length - 1).toBe(
      (out['events'] as unknown[]).length,
    );
    await ask('trace', path, '--family', 'well-switch', '--events', events, '--in', 'bar');
    expect(readFileSync(events, 'utf8')).toMatch(/^event,t_s,p_bar,u_expanded_bar/);
    expect(await refused('trace', path, '--family', 'well-switch', '--events', '/nowhere/e.csv')).toBe(
      'not-writable',
    );
    expect(await refused('trace', path, '--family', 'well-switch', '--in', 'gpm')).toBe('unknown-unit');
    expect(await refused('simulate', 'well-switch', '--seconds', '9', '--out', '/nowhere/x.csv')).toBe(
      'not-writable',
    );
    expect(await refused('simulate', 'well-switch', '--seconds', '900', '--out', '/dev/full')).toBe(
      'not-writable',
    );
  });

  it('reads a pipe to its end, a workbook, and a file as it stood while it grows', async () => {
    const pipe = join(dir, 'pipe');
    execFileSync('mkfifo', [pipe]);
    const text = `Time (s),psi\n${wave(0, 900)}`;
    const [piped] = await Promise.all([ask('trace', pipe, '--family', 'well-switch'), writeFile(pipe, text)]);
    expect(piped.out['samples']).toBe(900);
    const book = workbooks()[0];
    const path = join(dir, 'book.xlsx');
    writeFileSync(path, book?.bytes ?? '');
    expect((await ask('trace', path, '--family', 'well-switch')).out).toMatchObject({
      read: { encoding: 'workbook' },
      samples: 40,
    });
    const grows = file('grows.csv', `Time (s),psi\n${wave(0, 200_000)}`);
    let at = 200_000;
    const timer = setInterval(() => appendFileSync(grows, wave((at += 500), 500)), 1);
    const grown = await ask('trace', grows, '--family', 'well-switch');
    clearInterval(timer);
    expect(grown.out['samples']).toBe(200_000);
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
