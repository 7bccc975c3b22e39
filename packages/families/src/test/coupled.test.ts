// What a screw moves beside its aim stays under its relief or rating, whatever the plan thought of the distance between them.
import { describe, expect, it } from '@jest/globals';
import { FoldedJob, JobLog, offer, type TurnStep } from '@firm-needle/core/procedure';
import { checkTurn } from '@firm-needle/core/family';
import { ScriptedTechnician } from '@firm-needle/core/script';
import { toCanonical } from '@firm-needle/core/quantity';
import { installed, type Kit } from '../define/kit.js';
import { reliefAtLeast } from '../shared/relief.js';
import { loadFamily } from '../registry.js';
import { HandLog } from '../testing.js';
import { kitOf } from './kitOf.js';

const psi = (n: number): number => toCanonical(n, 'psi');
const SEEDS = [3, 8, 14, 21, 30];

/** Works an installation and says how far its true value came, and the job. */
async function worked(
  id: string,
  over: Partial<Kit>,
  fault: string,
  seed: number,
  value: string,
  school?: string,
) {
  const family = await loadFamily(id);
  const kit = kitOf(id);
  const [variant] = kit.variants;
  if (!variant) throw new Error('no variant');
  const all = { ...kit, plate: { ...kit.plate, ...over.plate }, given: { ...kit.given, ...over.given } };
  const { plan, started, ambient } = installed(family, all, { ...variant, ...(school ? { school } : {}) });
  const rig = family.rig.create({ plan, seed, ambient, gauges: started.gauges, faults: [fault] });
  const turn = rig.turn.bind(rig);
  let highest = rig.truth()[value] ?? NaN;
  rig.turn = (adjuster, amount) => {
    turn(adjuster, amount);
    highest = Math.max(highest, rig.truth()[value] ?? NaN);
  };
  return { job: new ScriptedTechnician(family, rig, started).run(), highest, family };
}

describe('what is moved along', () => {
  it.each(SEEDS)('a spike twice the planned one never reaches the weakest part, seed %d', async (seed) => {
    // The rig's own spike is 310 to 380: planned are 150, and the part leaves room for little more.
    const { highest, job } = await worked(
      'washer-unloader',
      { given: { spike: '150 psi' }, plate: { weakest: '2950 psi', rating: '2950 psi' } },
      'set-low',
      seed,
      'trapped',
    );
    expect(highest).toBeLessThan(psi(2950));
    expect(job.unsafe).toEqual([]);
    expect(job.outcome).not.toBe('left-as-found');
  });

  it.each(SEEDS)(
    'a lock-up that rises farther than planned never reaches the relief, seed %d',
    async (seed) => {
      const { highest } = await worked(
        'pilot-reducing',
        { given: { rise: '2 psi' }, plate: { relief: '57 psi' } },
        'set-low',
        seed,
        'lockUp',
      );
      expect(highest).toBeLessThan(psi(57));
    },
  );
});

describe('a turn that must not be made', () => {
  it('is not walked to: the unloader is left where a part stands in the way', async () => {
    const { job, family } = await worked(
      'washer-unloader',
      { given: { spike: '150 psi' }, plate: { weakest: '2950 psi', rating: '2950 psi' } },
      'set-low',
      8,
      'trapped',
    );
    // At every step of the job where a turn was offered, its advice was to turn.
    for (let n = 1; n < job.log.events.length; n++) {
      const view = new FoldedJob(family, new JobLog(job.log.job, job.log.events.slice(0, n)).state);
      const step = offer(family.procedure(view.plan), view).now?.step as TurnStep | undefined;
      if (step?.kind === 'turn' && !step.amount && !step.seek)
        expect(view.advice(step.adjuster).stop).toBeNull();
    }
  });

  it('is none while what it would move along was skipped, and one’s own is refused too', async () => {
    const family = await loadFamily('pilot-reducing');
    const kit = kitOf('pilot-reducing');
    const [variant] = kit.variants;
    if (!variant) throw new Error('no variant');
    const { started } = installed(family, kit, variant);
    const h = new HandLog();
    h.add(started);
    const read = (setting: string, value: number, key: string): void =>
      void h.add({
        kind: 'read',
        setting,
        slot: 'outlet',
        value: { text: String(value), unit: 'psi', value: psi(value) },
        state: 'typed',
        at: { key, pass: '1', phase: 'found' },
      });
    read('flowing', 46, 'found-flowing');
    h.add({ kind: 'skip', reason: 'no time', at: { key: 'found-lock-up', pass: '1' } });
    const view = () => new FoldedJob(family, h.log.state);
    expect(view().advice('pilot')).toMatchObject({
      stop: 'not-read',
      because: 'Lock-up has not been read, and the same screw moves it. Read it first.',
    });
    expect(checkTurn(view(), 'pilot', 0.25)).toMatchObject({ ok: false, refusal: { code: 'not-read' } });
    read('lockUp', 51, 'left-lock-up');
    const advice = view().advice('pilot');
    if (advice.stop !== null) throw new Error(advice.because);
    expect(checkTurn(view(), 'pilot', advice.turns)).toMatchObject({ ok: true });
  });

  it('is not ended on the word of one reading', async () => {
    const family = await loadFamily('pilot-reducing');
    const kit = kitOf('pilot-reducing');
    const [variant] = kit.variants;
    if (!variant) throw new Error('no variant');
    const { started } = installed(family, kit, variant);
    const h = new HandLog();
    h.add(started);
    const read = (setting: string, value: number, key: string, phase: 'found' | 'adjust', pass = '1'): void =>
      void h.add({
        kind: 'read',
        setting,
        slot: 'outlet',
        value: { text: String(value), unit: 'psi', value: psi(value) },
        state: 'typed',
        at: { key, pass, phase },
      });
    const advice = () => new FoldedJob(family, h.log.state).advice('pilot');
    read('flowing', 40, 'found-flowing', 'found');
    read('lockUp', 45, 'found-lock-up', 'found');
    h.add({
      kind: 'turn',
      adjuster: 'pilot',
      amount: 1,
      text: '1',
      at: { key: 'turn-pilot', pass: '1.1', phase: 'adjust' },
    });
    // It fell by a lot: on another gauge, or the screw is reversed.
    read('flowing', 33, 'adjust-flowing', 'adjust');
    expect(advice()).toMatchObject({ stop: 'not-read', because: expect.stringContaining('read once more') });
    read('flowing', 33, 'adjust-flowing', 'adjust', '1.2');
    expect(advice()).toMatchObject({ stop: 'reversed' });
  });

  it('counts a relief from the lowest at which it may open', async () => {
    for (const [id, setting] of [
      ['well-drive', 'setPoint'],
      ['well-switch', 'cutOut'],
      ['pilot-reducing', 'lockUp'],
    ] as const) {
      const family = await loadFamily(id);
      const kit = kitOf(id);
      const [variant] = kit.variants;
      if (!variant) throw new Error('no variant');
      const { plan } = installed(family, kit, variant);
      const relief = plan.plate['relief']?.value ?? psi(75);
      expect(family.never(plan, setting)).toBeLessThanOrEqual(reliefAtLeast(relief));
      expect(reliefAtLeast(relief)).toBeLessThan(relief * 0.9701);
    }
  });
});
