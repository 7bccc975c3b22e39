import { describe, expect, it } from '@jest/globals';
import { execFileSync } from 'node:child_process';
import { appendFileSync, mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { oddities } from '../../tables/src/odd/testing.js';
import { workbooks } from '../../tables/src/testing.js';
import { corpus } from '../../core/src/trace/reading/testing.js';
import { ask, dir, file, refused } from './testing.js';

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
