// What a practitioner would not forgive: the order of a walk, and where its cautions stand.
import { describe, expect, it } from '@jest/globals';
import { sayStep, type Family } from '@firm-needle/core/family';
import { FoldedJob, offer, type PlacedBody, type Step } from '@firm-needle/core/procedure';
import { clumsy, type ScriptedJob } from '@firm-needle/core/script';
import { faultsOf, installed, workedOn, type KitVariant } from '../define/kit.js';
import { loadFamily } from '../registry.js';
import { HandLog, psi } from '../testing.js';
import { kitOf } from './kitOf.js';

interface Worked {
  readonly family: Family;
  readonly job: ScriptedJob;
  /** Keys of the steps in the order in which they were taken. */
  readonly keys: readonly string[];
}

async function worked(
  id: string,
  fault: string,
  seed: number,
  over: Partial<KitVariant> = {},
  manner?: ReturnType<typeof clumsy>,
): Promise<Worked> {
  const family = await loadFamily(id);
  const kit = kitOf(id);
  const variant: KitVariant = { name: 'x', ...kit.variants[0], ...over };
  const job = workedOn(installed(family, kit, variant), { seed, faults: faultsOf(fault) }, manner);
  const keys = job.log.events.flatMap((e) => ('at' in e.body ? [(e.body as PlacedBody).at.key] : []));
  return { family, job, keys };
}

/** Every step that was offered, as it stood when it was taken. */
function taken({ family, job }: Worked): readonly { step: Step; view: FoldedJob }[] {
  const h = new HandLog();
  const out: { step: Step; view: FoldedJob }[] = [];
  for (const e of job.log.events) {
    if (h.log.events.length > 0) {
      const view = new FoldedJob(family, h.log.state);
      const { now } = offer(family.procedure(view.plan), view);
      if (now) out.push({ step: now.step, view });
    }
    h.add(e.body);
  }
  return out;
}
const before = (keys: readonly string[], a: string, b: string): boolean =>
  keys.includes(a) && keys.includes(b) && keys.indexOf(a) < keys.indexOf(b);

describe('a pump switch', () => {
  it('has every rise to a cut-out that is not yet known watched, with what it must not reach', async () => {
    const all = taken(await worked('well-switch', 'drifted-switch', 4));
    for (const key of ['found-cut-out', 'adjust-cut-out']) {
      const at = all.find(({ step }) => step.key === key);
      if (!at) throw new Error(key);
      expect({ key, cautions: at.step.cautions }).toEqual({ key, cautions: ['relief'] });
      expect(sayStep(await loadFamily('well-switch'), at.view, at.step).stopAt).toBeGreaterThan(psi(60));
    }
  });

  it('is locked off where the relief drips as it is found, and nothing else is read first', async () => {
    const family = await loadFamily('well-switch');
    const kit = kitOf('well-switch');
    const [variant] = kit.variants;
    if (!variant) throw new Error('no variant');
    const h = new HandLog();
    h.add(installed(family, kit, variant).started);
    h.read('cutIn', 43, 'found-cut-in', 'found', '1.1');
    h.add({
      kind: 'observe',
      answer: 'drips',
      at: { key: 'found-cut-out', pass: '1.1' },
      sets: { power: 'off' },
      bounds: { setting: 'cutOut', side: 'above' },
      value: { text: '79', unit: 'psi', value: psi(79) },
    });
    const view = new FoldedJob(family, h.log.state);
    expect(family.findings(view).map((f) => f.code)).toContain('relief-drips');
    expect(view.fact('power')).toBe('off');
    const walk = offer(family.procedure(view.plan), view).walk.map((i) => i.step.key);
    expect(walk).not.toContain('rest');
  });

  it('has its air valve soaped before the tank is filled again, and is not set while it bubbles', async () => {
    const { keys, job, family } = await worked('well-switch', 'none', 4);
    expect(before(keys, 'found-soap', 'refill-cut-out')).toBe(true);
    const h = new HandLog();
    for (const e of job.log.events) {
      if (e.body.kind === 'sign') break;
      const soap = e.body.kind === 'observe' && e.body.at.key === 'found-soap';
      h.add(soap ? { ...e.body, answer: 'bubbles' } : e.body);
      if (!soap) continue;
      h.add({ kind: 'done', at: { key: 'found-core', pass: e.body.at.pass } });
      h.add({ kind: 'observe', answer: 'bubbles', at: { key: 'found-soap-again', pass: e.body.at.pass } });
    }
    const view = new FoldedJob(family, h.log.state);
    expect(family.findings(view).map((f) => f.code)).toContain('air-leaks');
    expect(family.unproved(view).map((f) => f.code)).toContain('air-leaks');
    expect(family.recommend(view).outcome).not.toBe('set');
  });

  it('is said to have been mended where it was, and is given no order for it', async () => {
    let mended = 0;
    for (const seed of [1, 2, 3, 4, 5, 6]) {
      const { job, family } = await worked('well-switch', 'drifted-switch', seed);
      const codes = family.findings(job.view).map((f) => f.code);
      const [cutIn, charge] = ['cutIn', 'precharge'].map((s) => job.view.figure(s, 'left')?.value ?? NaN);
      if (codes.includes('emptied-first')) mended++;
      if ((cutIn ?? NaN) > (charge ?? NaN) && job.outcome === 'set')
        expect({ seed, codes }).toEqual({ seed, codes: codes.filter((c) => c !== 'empties-first') });
    }
    expect(mended).toBeGreaterThan(0);
  });
});

describe('a washer', () => {
  it('is without pressure before anything is touched, and its gauge, flush and nozzle are a step each', async () => {
    const { keys } = await worked('washer-unloader', 'set-low', 4);
    const order = ['cautions', 'arrive', 'zero-test', 'fit', 'flush', 'nozzle', 'start', 'found-working'];
    expect(keys.filter((k) => order.includes(k)).slice(0, order.length)).toEqual(order);
    const all = taken(await worked('washer-unloader', 'set-low', 4));
    const cautions = (key: string) => all.find(({ step }) => step.key === key)?.step.cautions;
    expect(cautions('flush')).toEqual(['injection', 'body']);
    expect(cautions('turn-handle')).toContain('ratings');
  });

  it('has its lock nut tightened before both are read for the last time', async () => {
    const { keys } = await worked('washer-unloader', 'set-low', 4);
    expect(before(keys, 'mark', 'turn-handle')).toBe(true);
    expect(keys.lastIndexOf('lock-nut')).toBeLessThan(keys.indexOf('locked-working'));
    expect(keys.lastIndexOf('turn-handle')).toBeLessThan(keys.indexOf('lock-nut'));
  });

  it('past the knee is backed off, and both are read again', async () => {
    const { keys } = await worked('washer-unloader', 'worn-nozzle', 4);
    expect(keys.slice(keys.indexOf('back-off'), keys.indexOf('back-off') + 3)).toEqual([
      'back-off',
      'back-working',
      'back-trapped',
    ]);
  });
});

describe('a reducing valve', () => {
  it('in service is looked at, and nothing is moved before it was read as found', async () => {
    const { keys } = await worked('pilot-reducing', 'shut-cock', 4);
    expect(keys).not.toContain('cocks');
    expect(keys).not.toContain('bleed');
    expect(before(keys, 'noted', 'found-flowing')).toBe(true);
    expect(before(keys, 'found-lock-up', 'mark')).toBe(true);
    expect(before(keys, 'mark', 'turn-pilot')).toBe(true);
  });

  it('new is made ready before water is let in', async () => {
    const { keys } = await worked('pilot-reducing', 'set-low', 4, { occasion: 'new' });
    expect(keys).not.toContain('noted');
    expect(before(keys, 'cocks', 'bleed')).toBe(true);
    expect(before(keys, 'bleed', 'read-inlet')).toBe(true);
  });

  it('has its lock nut tightened before lock-up and flowing are proved, and its gauges taken off bled', async () => {
    const work = await worked('pilot-reducing', 'set-low', 4);
    expect(before(work.keys, 'lock-nut', 'left-lock-up')).toBe(true);
    const off = taken(work).find(({ step }) => step.key === 'zero-outlet-again')?.step;
    expect(off?.say).toMatch(/Isolate and bleed both gauges, take them off/);
    expect(off?.cautions).toEqual(['stored']);
  });

  it('is read until its proof agrees, and not left for one reading that did not', async () => {
    for (const seed of [1, 2]) {
      const { job, family } = await worked(
        'pilot-reducing',
        'shut-cock',
        seed,
        {},
        clumsy(['twice'], seed * 7919 + 9),
      );
      expect({ seed, outcome: job.outcome, lacks: family.unproved(job.view).map((f) => f.code) }).toEqual({
        seed,
        outcome: 'set',
        lacks: [],
      });
    }
  });
});

describe('a fire relief', () => {
  it('has its lock nut tightened before it is watched dry, and its controller put back in a step of its own', async () => {
    const { keys } = await worked('fire-relief', 'small-margin', 4);
    expect(before(keys, 'turn-set', 'lock-nut')).toBe(true);
    expect(before(keys, 'lock-nut', 'dry-left')).toBe(true);
    expect(keys.indexOf('auto')).toBe(keys.indexOf('stop') + 1);
  });

  it('whose turns went too far is never said to open where it was counted', async () => {
    for (const variant of kitOf('fire-relief').variants)
      for (const seed of [1, 2, 3]) {
        const { job } = await worked('fire-relief', 'set-low', seed, variant, clumsy(['overturns'], seed));
        for (const [setting, truth = NaN] of Object.entries(kitOf('fire-relief').truths(job))) {
          const { lower = -Infinity, upper = Infinity } = job.view.limits(setting, 'left');
          const word = job.view.verdict(setting, 'left')?.word;
          if (truth < lower || truth > upper)
            expect({ seed, setting, word }).not.toMatchObject({ word: 'in' });
        }
      }
  });
});

describe('a routine check where nothing is wrong', () => {
  // So many steps as a practitioner will take, cautions, zeros and tag included [an aim of our own].
  it.each([
    ['well-switch', 0, 14],
    ['well-drive', 0, 16],
    ['spa-flow-switch', 0, 14],
    ['washer-unloader', 0, 15],
    ['pilot-reducing', 0, 16],
    ['steam-control', 0, 16],
    // Both sides, the low one alone, the high one alone.
    ['refrigeration-switch', 0, 14],
    ['refrigeration-switch', 2, 10],
    ['refrigeration-switch', 4, 9],
    ['air-supply', 0, 14],
    // A train has a second manometer for its air, to be vented and vented again; a furnace has none.
    ['burner-gas', 0, 20],
    ['burner-gas', 2, 13],
    // Dry at churn, its opening not due.
    ['fire-relief', 1, 16],
  ] as const)('of %s takes no more than its steps', async (id, variant, most) => {
    const family = await loadFamily(id);
    const kit = kitOf(id);
    const site = installed(family, kit, kit.variants[variant] ?? fail(id));
    for (const seed of [1, 2, 3]) {
      const { log, outcome } = workedOn(site, { seed });
      expect(outcome).toBe('left-as-found');
      const steps = log.events.filter(({ body }) => 'at' in body);
      expect(steps.length).toBeLessThanOrEqual(most);
    }
  });
});

function fail(id: string): never {
  throw new Error(`${id} has no such variant.`);
}
