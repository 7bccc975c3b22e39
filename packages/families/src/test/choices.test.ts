// What is chosen in a plan that is no number, and the occasion of a job: what they change, and what they refuse.
import { describe, expect, it } from '@jest/globals';
import { draftOf, makePlan, retype, sheetOf, startJob } from '@firm-needle/core/family';
import { entries } from '@firm-needle/core/entries';
import { FoldedJob, inside, isStep, offer, type Node } from '@firm-needle/core/procedure';
import { faultsOf, installed, workedOn, type KitVariant } from '../define/kit.js';
import { family } from '../pilot-reducing/index.js';
import { kit } from '../pilot-reducing/kit.js';
import { HandLog } from '../testing.js';

const variant = (over: Partial<KitVariant>): KitVariant => ({ name: 'x', variant: 'steel', ...over });
const job = (over: Partial<KitVariant>, fault = 'set-low', seed = 4) => {
  const site = installed(family, kit, variant(over));
  return { plan: site.plan, started: site.started, run: workedOn(site, { seed, faults: faultsOf(fault) }) };
};
const keys = (nodes: readonly Node[]): string[] =>
  nodes.flatMap((n) => (isStep(n) ? [n.key] : keys(inside(n))));

describe('a choice of the plan', () => {
  it('is the usual one where nothing, or nothing that is there, was chosen', () => {
    const draft = draftOf(family, 'steel', {});
    expect(makePlan(family, draft).choices).toEqual({ feeds: 'use' });
    expect(makePlan(family, { ...draft, choices: { feeds: 'no' } }).choices).toEqual({ feeds: 'use' });
    expect(makePlan(family, { ...draft, choices: { feeds: 'fire' } }).choices).toEqual({ feeds: 'fire' });
  });

  it('from outside is refused where it is none', () => {
    const draft = draftOf(family, 'steel', {});
    expect(retype(family, { ...draft, choices: { feeds: 'fire' } })).toMatchObject({ ok: true });
    const wrong: readonly Record<string, string>[] = [{ feeds: 'gas' }, { fuel: 'fire' }];
    for (const choices of wrong)
      expect(retype(family, { ...draft, choices })).toMatchObject({
        ok: false,
        refusal: { code: 'choice-unknown' },
      });
  });

  it('changes the walk: what feeds fire protection is impaired first, by a licensed hand, and put back last', () => {
    const fire = job({ choices: { feeds: 'fire' } });
    const { body, restore } = family.procedure(fire.plan);
    expect(keys(body)[1]).toBe('impairment');
    expect(keys(restore).slice(-2)).toEqual(['lifted', 'impaired']);
    const use = family.procedure(job({}).plan);
    expect(keys([...use.body, ...use.restore])).not.toContain('impairment');
    expect(fire.run.outcome).toBe('set');
    expect(fire.run.view.fact('impairment')).toBe('lifted');
  });

  it.each([
    ['left early', 'set-low', true],
    ['not in order', 'seat-debris', false],
  ] as const)('never lifts the impairment of a job that is %s', (_, fault, left) => {
    const { run, started } = job({ choices: { feeds: 'fire' } }, fault);
    if (!left) {
      expect(run.view.fact('impairment')).toBe('given');
      expect(family.findings(run.view).map((f) => f.code)).toContain('impaired');
      return;
    }
    // The same job, left once the impairment was given: to the end of its restore steps.
    const h = new HandLog();
    for (const { body } of [{ body: started }, ...run.log.events.slice(1, 8)]) h.add(body);
    h.add(entries.left('unfinished', 'night').body);
    const said: string[] = [];
    for (;;) {
      const view = new FoldedJob(family, h.log.state);
      const { now, missing } = offer(family.procedure(view.plan), view);
      if (!now) break;
      said.push(now.step.key);
      const [lacking] = missing;
      const zero = { text: '0', unit: 'psi', value: 0 };
      if (lacking) h.add(entries.renewed(now, lacking).body);
      else if (now.step.kind === 'zero') h.add(entries.zeroed(now, now.step.slot, zero).body);
      else h.add(entries.done(now).body);
    }
    expect(said.at(-1)).toBe('impaired');
    expect(said).not.toContain('lifted');
  });
});

describe('the occasion of a job', () => {
  it('is the usual one where none is said, and refused where it is none', () => {
    const { started, plan } = job({});
    expect(started.occasion).toBe('service');
    const again = startJob(family, { ...started, plan, rule: 'guarded', occasion: 'feast' });
    expect(again).toMatchObject({ ok: false, refusal: { code: 'occasion-unknown' } });
  });

  it('decides whether what is read first was found', () => {
    const [used, fresh] = [job({}, 'none').run, job({ occasion: 'new' }, 'none').run];
    expect(used.outcome).toBe('left-as-found');
    expect(fresh.outcome).toBe('set');
    const found = ({ view }: typeof used) => sheetOf(family, view).rows.map((r) => r.found !== undefined);
    expect(found(used)).toContain(true);
    expect(found(fresh)).not.toContain(true);
    expect(fresh.view.figure('flowing', 'left')).toBeDefined();
  });
});
