// Nothing is condemned, turned for or signed on one reading: it may have been of another gauge, or of another numeral.
import { describe, expect, it } from '@jest/globals';
import { earlySaid } from '@firm-needle/core/family';
import { FoldedJob, offer, skippable, stepsOf, type ReadStep } from '@firm-needle/core/procedure';
import { clumsy } from '@firm-needle/core/script';
import { faultsOf, installed, workedOn } from '../define/kit.js';
import { loadFamily } from '../registry.js';
import { family as wellSwitch } from '../well-switch/index.js';
import { HandLog, planOf, psi, startedOf } from '../testing.js';
import { FOLDERS, kitOf } from './kitOf.js';

describe('a figure as found', () => {
  const found = (...cutIns: readonly number[]): FoldedJob => {
    const log = new HandLog();
    log.add(startedOf(planOf()));
    cutIns.forEach((p, i) => log.read('cutIn', p, 'found-cut-in', 'found', `1.${i + 1}`));
    return new FoldedJob(wellSwitch, log.log.state);
  };

  it('does not stand on the one that was of another gauge, and the sheet says that it was left out', () => {
    const job = found(42.5, 8, 43);
    expect(job.figure('cutIn', 'found')).toMatchObject({ n: 2 });
    expect(job.figure('cutIn', 'found')?.value).toBeCloseTo(psi(42.75), 0);
    expect(earlySaid(wellSwitch, job)).toEqual([
      'Cut-in: 8 psi was left out; the other readings lie together, far from it.',
    ]);
  });

  it('stands on all of them where it cannot be said which, or where they only scatter', () => {
    expect(found(42.5, 8).figure('cutIn', 'found')?.n).toBe(2);
    expect(found(42, 44, 41).figure('cutIn', 'found')?.n).toBe(3);
    expect(found(30, 42, 54).figure('cutIn', 'found')?.n).toBe(3);
    expect(earlySaid(wellSwitch, found(42, 44, 41))).toEqual([]);
  });
});

describe.each(['fire-relief', 'well-switch', 'well-drive'])(
  '%s, read on the wrong gauge now and then',
  (id) => {
    const kit = kitOf(id);
    const [first] = kit.variants;
    it.each(Object.entries({ ...kit.concludes, ...first?.concludes }))(
      'comes to what is right: %s',
      async (fault, right) => {
        if (!first) throw new Error(id);
        const at = installed(await loadFamily(id), kit, first);
        for (const seed of [1, 2, 3, 4]) {
          const job = workedOn(
            at,
            { seed, faults: faultsOf(fault) },
            clumsy(['wrong-gauge'], seed * 7919 + fault.length),
          );
          const codes = at.family.findings(job.view).map((f) => f.code);
          expect({
            seed,
            came: right.some(([outcome, code]) => outcome === job.outcome && (!code || codes.includes(code))),
            outcome: job.outcome,
          }).toMatchObject({ came: true });
        }
      },
    );
  },
);

describe('what the result hangs on', () => {
  it.each(FOLDERS)('is not passed over: readings that prove how a %s is left', async (id) => {
    const kit = kitOf(id);
    for (const variant of kit.variants) {
      const { family, plan } = installed(await loadFamily(id), kit, variant);
      const proofs = [...stepsOf(family, plan).values()].filter(
        (s): s is ReadStep => s.kind === 'read' && s.phase === 'left',
      );
      expect(proofs.filter(skippable).map((s) => s.key)).toEqual([]);
    }
  });

  it('stays asked for where a log skips it all the same', async () => {
    const id = 'pilot-reducing';
    const kit = kitOf(id);
    const [variant] = kit.variants;
    if (!variant) throw new Error(id);
    const at = installed(await loadFamily(id), kit, variant);
    const { log } = workedOn(at, { seed: 2, faults: ['set-low'] });
    const i = log.events.findIndex(({ body }) => 'at' in body && body.at?.key === 'creep');
    const hand = new HandLog();
    for (const { body } of log.events.slice(0, i)) hand.add(body);
    hand.add({ kind: 'skip', at: { key: 'creep', pass: '1' }, reason: 'no time' });
    const job = new FoldedJob(at.family, hand.log.state);
    expect(offer(at.family.procedure(job.plan), job).now?.step.key).toBe('creep');
  });
});

describe('a relief too near for any turn', () => {
  it('is no reason to replace the switch: it is planned anew', async () => {
    const id = 'air-supply';
    const kit = kitOf(id);
    const variant = kit.variants.find((v) => v.choices?.['switch'] === 'set');
    if (!variant) throw new Error(id);
    const at = installed(await loadFamily(id), kit, variant);
    const outcomes = [22, 28, 35, 36, 42].map((seed) => workedOn(at, { seed }).outcome);
    // Its tank's own gauge is too coarse to show that anything is wrong.
    expect(outcomes).toEqual([
      'left-as-found',
      'left-as-found',
      'left-as-found',
      'left-as-found',
      'left-as-found',
    ]);
  });
});
