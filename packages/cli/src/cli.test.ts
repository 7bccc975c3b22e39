import { describe, expect, it } from '@jest/globals';
import { join } from 'node:path';
import { ask, dir, file, refused, type Out } from './testing.js';

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
