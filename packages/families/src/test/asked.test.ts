// What a practitioner asks before, at and after the work: each answer leads somewhere, and changes what may be signed.
import { describe, expect, it } from '@jest/globals';
import { choicesFor, choicesSaid, type Family } from '@firm-needle/core/family';
import { FoldedJob, offer, type JobBody } from '@firm-needle/core/procedure';
import { ScriptedTechnician, type ScriptedJob } from '@firm-needle/core/script';
import type { Rig } from '@firm-needle/core/rig';
import { faultsOf, installed, rigFor, type KitVariant } from '../define/kit.js';
import { loadFamily } from '../registry.js';
import { AMBIENT, HandLog, psi } from '../testing.js';
import { neverStands } from '../air-supply/state.js';
import { displayOwed } from '../well-drive/state.js';
import { kitOf } from './kitOf.js';

const keysOf = (job: ScriptedJob): readonly string[] =>
  job.log.events.flatMap(({ body }) => ('at' in body ? [body.at.key] : []));
const before = (keys: readonly string[], a: string, b: string): boolean =>
  keys.indexOf(a) >= 0 && keys.indexOf(a) < keys.indexOf(b);

interface Asked {
  readonly fault?: string;
  readonly seed?: number;
  readonly over?: Partial<KitVariant>;
  /** Answers given in place of what the installation shows. */
  readonly says?: Readonly<Record<string, string>>;
}

/** A job worked through, its technician answering some questions otherwise. */
async function worked(id: string, { fault = 'none', seed = 4, over = {}, says = {} }: Asked) {
  const family = await loadFamily(id);
  const kit = kitOf(id);
  const site = installed(family, kit, { name: 'x', ...kit.variants[0], ...over });
  const rig = rigFor(site, { seed, faults: faultsOf(fault) });
  const answer = rig.answer.bind(rig);
  const told: Rig = Object.assign(rig, { answer: (key: string) => says[key] ?? answer(key) });
  const job = new ScriptedTechnician(family, told, site.started).run();
  return { family, job, keys: keysOf(job), codes: family.findings(job.view).map((f) => f.code) };
}

/** A job told by hand. */
async function told(id: string, bodies: readonly JobBody[], over: Partial<KitVariant> = {}) {
  const family = await loadFamily(id);
  const kit = kitOf(id);
  const h = new HandLog();
  h.add(installed(family, kit, { name: 'x', ...kit.variants[0], ...over }).started);
  for (const body of bodies) h.add(body);
  const view = new FoldedJob(family, h.log.state);
  return {
    family,
    view,
    codes: family.findings(view).map((f) => f.code),
    lacks: family.unproved(view).map((f) => f.code),
    next: offer(family.procedure(view.plan), view).now?.step.key,
  };
}
const refusals = (family: Family, over: Partial<KitVariant>, id: string): readonly string[] => {
  const kit = kitOf(id);
  const { plan } = installed(family, kit, { name: 'x', ...kit.variants[0] });
  const asked = {
    ...plan,
    ...(over.school ? { school: over.school } : {}),
    choices: { ...plan.choices, ...over.choices },
  };
  return family
    .check(asked, AMBIENT)
    .filter((f) => f.severity === 'refuse')
    .map((f) => f.code);
};

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

describe('a drive', () => {
  it('that never sleeps is not set until somebody found why', async () => {
    const found = await worked('well-drive', { fault: 'leak' });
    expect(found.keys).toContain('found-why-runs');
    expect(found.family.unproved(found.job.view).map((f) => f.code)).not.toContain('runs-on');
    const unknown = await worked('well-drive', { fault: 'leak', says: { 'found-why-runs': 'none' } });
    expect(unknown.family.unproved(unknown.job.view).map((f) => f.code)).toContain('runs-on');
  });

  /** A set point read at a trickle, and one look at the drive's own figures. */
  const looked = (answer: string, over?: number, more: readonly JobBody[] = []) => {
    const at = (n: number) => ({ text: String(n), unit: 'psi', value: psi(n) });
    return told('well-drive', [
      {
        kind: 'read',
        setting: 'setPoint',
        slot: 'system',
        value: at(60),
        state: 'firm',
        at: { key: 'found-held', pass: '1.1', phase: 'found' },
      },
      {
        kind: 'observe',
        answer,
        ...(over === undefined ? {} : { value: at(60 + over) }),
        at: { key: 'found-own', pass: '1.1' },
      },
      ...more,
    ]);
  };
  const displayed = (n: number): JobBody => ({
    kind: 'observe',
    answer: 'shows',
    value: { text: String(n), unit: 'psi', value: psi(n) },
    at: { key: 'found-display', pass: '1.1' },
  });

  it('is looked at once while the trickle runs that was just read, and where all agrees no more is asked', async () => {
    for (const fault of ['none', 'low-well']) {
      const { keys } = await worked('well-drive', { fault });
      expect(keys.indexOf('found-own')).toBe(keys.indexOf('found-held') + 1);
      expect(keys).not.toContain('found-display');
      expect(keys).not.toContain('dry-run');
    }
  });

  it('is asked what its display shows where that is not what it is told, or what it is told is far from the gauge', async () => {
    const off = await worked('well-drive', { fault: 'sensor-offset' });
    expect(off.keys.indexOf('found-display')).toBe(off.keys.indexOf('found-own') + 1);
    expect(off.codes).toContain('sensor-off');
    const differs = await worked('well-drive', { says: { 'found-own': 'differs' } });
    expect(differs.keys.indexOf('found-display')).toBe(differs.keys.indexOf('found-own') + 1);
    // What it is told was not typed yet, nor its dry-run protection looked at.
    expect(differs.keys).toContain('dry-run');
    expect(differs.codes).not.toContain('sensor-off');
    for (const [over, owed] of [
      [2, false],
      [-2, false],
      [3, true],
      [-3, true],
    ] as const)
      expect(displayOwed((await looked('on', over)).view)).toBe(owed);
  });

  it('is not condemned for what it is told, only for what it shows', async () => {
    const far = await looked('on', 8);
    expect(far.codes).toContain('not-as-programmed');
    expect(far.codes).not.toContain('sensor-off');
    const agrees = await looked('on', 8, [displayed(60.5)]);
    expect(agrees.codes).toContain('not-as-programmed');
    expect(agrees.codes).not.toContain('sensor-off');
    const shows = await looked('on', 8, [displayed(68)]);
    expect(shows.codes).toContain('sensor-off');
    expect(shows.codes).not.toContain('not-as-programmed');
    expect((await looked('on', 0)).codes).not.toContain('not-as-programmed');
  });

  it('whose first reading was of the wrong numeral is judged by the nearest', async () => {
    const read = (n: number, pass: string): JobBody => ({
      kind: 'read',
      setting: 'setPoint',
      slot: 'system',
      value: { text: String(n), unit: 'psi', value: psi(n) },
      state: 'firm',
      at: { key: 'found-held', pass, phase: 'found' },
    });
    const late = await looked('on', 10, [displayed(70.5), read(70, '1.2')]);
    expect(late.codes).not.toContain('sensor-off');
    expect(late.codes).not.toContain('not-as-programmed');
  });

  it('that falls at full draw with speed to spare is not set, and not asked for ever', async () => {
    const { job, keys, codes } = await worked('well-drive', {
      fault: 'low-well',
      says: { 'found-at-most': 'no' },
    });
    expect(job.outcome).toBe('replace');
    expect(codes).toContain('droops');
    expect(keys.filter((k) => k.endsWith('-full')).length).toBeLessThan(5);
    const has = await worked('well-drive', { fault: 'low-well' });
    expect(has.codes).not.toContain('droops');
    expect(has.codes).toContain('outrun');
  });

  it('without dry-run protection is told so, whatever its display shows', async () => {
    expect((await looked('off')).codes).toContain('no-dry-run');
    expect((await looked('on', 0)).codes).not.toContain('no-dry-run');
    const { keys, codes } = await worked('well-drive', {
      says: { 'found-own': 'differs', 'dry-run': 'off' },
    });
    expect(keys).toContain('dry-run');
    expect(codes).toContain('no-dry-run');
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
