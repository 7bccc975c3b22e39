// What a practitioner asks before, at and after the work: each answer leads somewhere, and changes what may be signed.
import { describe, expect, it } from '@jest/globals';
import { choicesFor, choicesSaid } from '@firm-needle/core/family';
import { type JobBody } from '@firm-needle/core/procedure';
import { installed, type KitVariant } from '../define/kit.js';
import { loadFamily } from '../registry.js';
import { psi } from '../testing.js';
import { neverStands } from '../air-supply/state.js';
import { kitOf } from './kitOf.js';
import { worked, before, told, refusals } from './asking.js';

describe('a spa switch', () => {
  it('that never heats is asked whether it closes before filter and flow are', async () => {
    const never = await worked('spa-flow-switch', { fault: 'drifted-high' });
    expect(before(never.keys, 'found-low', 'before-wheel')).toBe(true);
    expect(never.keys).not.toContain('before');
    const later = await worked('spa-flow-switch', { fault: 'dirty-filter' });
    expect(before(later.keys, 'before', 'found-low')).toBe(true);
  });

  it('may have more than one thing wrong before it: asked until all is in order', async () => {
    let asked = 0;
    const says = {
      get before() {
        return ['filter', 'valve', 'good'][asked++] ?? 'good';
      },
    };
    const { codes, keys } = await worked('spa-flow-switch', { says });
    expect(keys.filter((k) => k === 'before')).toHaveLength(3);
    expect(codes).toEqual(expect.arrayContaining(['was-filter', 'was-valve']));
  });

  it('is left where it works and no fault is shown, and measured where one comes and goes', async () => {
    const quiet = await worked('spa-flow-switch', {});
    expect(quiet.job.adjustments).toBe(0);
    const comes = await worked('spa-flow-switch', { says: { symptom: 'running', edges: 'measure' } });
    expect(comes.job.outcome).toBe('set');
    const { view } = comes.job;
    const [close, open, margin] = ['toClosing', 'toOpening', 'margin'].map(
      (s) => view.figure(s, 'left')?.value,
    );
    expect(Math.min(close ?? NaN, open ?? NaN)).toBe(margin);
  });

  it('of the quick school stops at the first place that works, and says what is not known', async () => {
    const over = { school: 'first' };
    const { job, keys, codes } = await worked('spa-flow-switch', { fault: 'drifted-high', over });
    expect(job.outcome).toBe('set');
    expect(keys.filter((k) => k.startsWith('edge-') || k === 'middle')).toEqual([]);
    expect(codes).toContain('margin-unknown');
    expect(job.view.figure('margin', 'left')).toBeUndefined();
  });
});

describe('a fire relief', () => {
  it('in service is seen as it is before its pilot is touched; a new one is turned up before pressure', async () => {
    const service = await worked('fire-relief', {});
    expect(before(service.keys, 'dry-found', 'mark')).toBe(true);
    expect(service.keys).not.toContain('pilot-up');
    const fresh = await worked('fire-relief', { over: { occasion: 'new' } });
    expect(before(fresh.keys, 'pilot-up', 'start')).toBe(true);
    expect(fresh.keys).not.toContain('dry-found');
    expect(fresh.job.outcome).toBe('set');
  });

  it('whose opening is not due is only looked at; one that runs at churn is measured all the same', async () => {
    const over = { choices: { check: 'look' } };
    const dry = await worked('fire-relief', { over });
    expect(dry.job.view.state.turns).toEqual([]);
    expect(dry.codes).toEqual(['not-measured']);
    expect(dry.job.view.figure('opening', 'left')).toBeUndefined();
    expect(dry.family.checked?.(dry.job.view)).toBe(false);
    const runs = await worked('fire-relief', { fault: 'set-low', over });
    expect(runs.job.outcome).toBe('set');
    expect(runs.codes).toContain('ran-at-churn');
    expect(runs.family.checked?.(runs.job.view)).toBe(true);
  });

  it('is not read at churn while it runs', async () => {
    const { keys, codes } = await worked('fire-relief', { fault: 'set-low' });
    expect(before(keys, 'up-dry', 'read-churn')).toBe(true);
    expect(codes).not.toContain('churn-differs');
  });

  it('by the table of its spring draws no header where the number is the table’s, and does where it is not', async () => {
    const over = { school: 'by-table' };
    expect((await worked('fire-relief', { over })).keys).not.toContain('header-open');
    const other = await worked('fire-relief', { over, says: { spring: 'other' } });
    expect(other.keys).toContain('header-open');
  });

  it('is reckoned from nothing that cannot be this pump, and its gauges cannot be skipped', async () => {
    const read = (setting: string, slot: string, value: number): JobBody => ({
      kind: 'read',
      setting,
      slot,
      value: { text: String(value), unit: 'psi', value: psi(value) },
      state: 'typed',
      at: { key: `read-${setting}`, pass: '1.1', phase: 'found' },
    });
    const vented = await told('fire-relief', [read('suction', 'suction', 0), read('churn', 'system', 0.5)]);
    expect(vented.codes).toContain('churn-implausible');
    expect(vented.lacks).toContain('churn-implausible');
    expect(vented.family.recommend(vented.view).outcome).toBe('unfinished');
    const { keys } = await worked('fire-relief', {});
    expect(keys.filter((k) => k === 'read-churn')).toHaveLength(2);
  });

  it('whose spring proves another brings its pilot to the mark, though the count says nought', async () => {
    const { keys, job } = await worked('fire-relief', { fault: 'wrong-spring' });
    expect(job.outcome).toBe('replace');
    expect(keys).toContain('restore-pilot');
  });
});

describe('a gauge set', () => {
  it('that is not made for the refrigerant is not connected', async () => {
    const over = kitOf('gauge-check').variants[1];
    if (!over) throw new Error('No variant.');
    const { keys, codes } = await worked('gauge-check', { over, says: { suits: 'no' } });
    expect(keys).not.toContain('connect');
    expect(codes).toContain('not-for-it');
    const yes = await worked('gauge-check', { over });
    expect(before(yes.keys, 'suits', 'connect')).toBe(true);
  });
});

describe('a plan', () => {
  it('of a washer says where its gauge sits and where its bypass returns', async () => {
    const washer = await loadFamily('washer-unloader');
    const of = (choices: Record<string, string>) => refusals(washer, { choices }, 'washer-unloader');
    expect(of({})).toEqual([]);
    expect(of({ port: 'before' })).toEqual(['before-check']);
    expect(of({ bypass: 'other' })).toEqual(['bypass-return']);
  });

  it('of a pump switch sets both points only for a reason, and only where it runs long enough', async () => {
    const well = await loadFamily('well-switch');
    const of = (over: Partial<KitVariant>) => refusals(well, over, 'well-switch');
    expect(of({ school: 'set-both' })).toContain('reason-missing');
    expect(of({ school: 'set-both', choices: { both: 'wanted' } })).toEqual([]);
    expect(of({})).toEqual([]);
    // Asked where it matters, and said only there.
    const plan = installed(well, kitOf('well-switch'), { name: 'x' }).plan;
    expect(choicesFor(well, plan)).toEqual([]);
    expect(choicesFor(well, { ...plan, school: 'set-both' }).map((c) => c.id)).toEqual(['both']);
    expect(choicesSaid(well, plan, undefined).join(' ')).not.toMatch(/because/);
  });
});

describe('water at the air valve', () => {
  it.each(['well-switch', 'well-drive'])('of %s is seen before any gauge goes on it', async (id) => {
    const { job, codes } = await worked(id, { fault: 'ruptured-bladder' });
    expect(codes).toContain('ruptured-bladder');
    expect(job.view.readings('precharge')).toEqual([]);
    expect(job.view.answered('found-precharge', 'water')).toBe(true);
  });
});

describe('cut-in on a tank that is empty first', () => {
  it('is read too low, and neither condemns the switch nor misleads its nut', async () => {
    for (const seed of [1, 2, 3]) {
      const { job, codes } = await worked('well-switch', { fault: 'drifted-switch', seed });
      const found = job.view.readings('cutIn')[0];
      const charge = job.view.figure('precharge', 'found')?.value ?? NaN;
      expect(found?.value).toBeLessThan(charge);
      expect(codes).not.toContain('differential-widened');
      expect(job.outcome).toBe('set');
      // Where it lies by its reading: between that and the charge.
      const rule = job.view.rules.settings.find((s) => s.id === 'cutIn')?.meant;
      const meant = found && rule?.(job.view, found);
      expect(meant?.value).toBeGreaterThan(found?.value ?? NaN);
      expect(meant?.value).toBeLessThan(charge);
    }
  });
});

describe('what cannot be so at that pressure', () => {
  const said = (key: string, answer: string, bar: number, pass = '1.1'): JobBody => ({
    kind: 'observe',
    answer,
    value: { text: String(bar), unit: 'bar', value: bar * 1e5 },
    at: { key, pass },
  });

  it('says nothing of a high switch: far under where it should stop it has nothing to do', async () => {
    const low = [said('found-high', 'not-stopped', 2.6)];
    expect((await told('refrigeration-switch', low)).codes).not.toContain('no-hp-stop');
    const high = [said('found-high', 'not-stopped', 19)];
    expect((await told('refrigeration-switch', high)).codes).toContain('no-hp-stop');
    // Who says it again and again is believed.
    const insists = [1, 2, 3].map((n) => said('found-high', 'not-stopped', 2.6, `1.${n}`));
    expect((await told('refrigeration-switch', insists)).codes).toContain('no-hp-stop');
  });

  it('says nothing of a compressor’s switch, under where it was seen to stop', async () => {
    const read: JobBody = {
      kind: 'read',
      setting: 'cutOut',
      slot: 'tank',
      value: { text: '140', unit: 'psi', value: psi(140) },
      state: 'caught',
      at: { key: 'found-cut-out', pass: '1', phase: 'found' },
    };
    const ran = (n: number): readonly JobBody[] => [
      read,
      said('again-cut-out', 'no-stop', (n * psi(1)) / 1e5),
      { kind: 'observe', answer: 'leave', at: { key: 'decide', pass: '1' } },
    ];
    expect((await told('air-supply', ran(132))).codes).not.toContain('no-stop');
    expect((await told('air-supply', ran(150))).codes).toContain('no-stop');
  });
});

describe('an air supply that never stands', () => {
  it('is tried four times since anything was turned, and no more', async () => {
    const starved = (n: number, key: string): readonly JobBody[] =>
      Array.from({ length: n }, (_, i) => ({
        kind: 'observe',
        answer: 'starved',
        at: { key, pass: `1.${i + 1}` },
      }));
    for (const key of ['set-gun', 'set-wall'])
      for (const n of [3, 4])
        expect([key, n, neverStands((await told('air-supply', starved(n, key))).view)]).toEqual([
          key,
          n,
          n > 3,
        ]);
  });
});

it('a first stage that stays down when it is purged is not right, and nothing else is read of it', async () => {
  const stays = { kind: 'observe', answer: 'stays', at: { key: 'found-purging', pass: '1' } } as const;
  expect((await told('breathing-first-stage', [stays])).codes).toContain('sticks');
  expect((await told('breathing-first-stage', [])).codes).not.toContain('sticks');
});
