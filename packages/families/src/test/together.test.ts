// What one press answers: the step at hand, and the plain confirmations that join it, each an entry of its own.
import { describe, expect, it } from '@jest/globals';
import { entries, together } from '@firm-needle/core/entries';
import type { Family } from '@firm-needle/core/family';
import {
  FoldedJob,
  inside,
  isStep,
  JobLog,
  offer,
  type JobBody,
  type Node,
  type Plan,
  type Procedure,
} from '@firm-needle/core/procedure';
import { faultsOf, installed, workedOn, type Kit } from '../define/kit.js';
import { families, loadFamily } from '../registry.js';
import { HandLog } from '../testing.js';
import { kitOf } from './kitOf.js';

const IDS = families().map((f) => f.id);

const installedPlan = (family: Family, kit: Kit): Plan => {
  const [variant] = kit.variants;
  if (!variant) throw new Error('No variant.');
  return installed(family, kit, variant).plan;
};
/** Whether a family lets anything join. */
const joins = ({ body, restore }: Procedure): boolean => {
  const any = (n: Node): boolean =>
    isStep(n) ? n.kind === 'confirm' && n.joins === true : inside(n).some(any);
  return [...body, ...restore].some(any);
};

describe.each(IDS)('%s', (id) => {
  it('is walked to the same log whether the steps are answered one by one or joined', async () => {
    const family = await loadFamily(id);
    const kit = kitOf(id);
    let saved = 0;
    const [first] = kit.variants;
    const jobs = [
      ...kit.variants.map((variant) => ({ variant, fault: 'none' })),
      ...family.rig.faults.slice(0, 3).map((f) => ({ variant: first, fault: f.id })),
    ];
    for (const { variant, fault } of jobs) {
      if (!variant) throw new Error(`${id} has no variant.`);
      const { log } = workedOn(installed(family, kit, variant), { seed: 5, faults: faultsOf(fault) });
      const { job } = log.state;
      const keys = log.events.map((e) => ('at' in e.body ? (e.body.at?.key ?? '') : ''));
      // At every place of the log, what is joined is just what the script then did.
      for (let n = 1; n < keys.length; n++) {
        const events = log.events.slice(0, n);
        const view = new FoldedJob(family, new JobLog(job, events).state);
        const offered = offer(family.procedure(view.plan), view);
        const all = together(family, events, view, offered);
        if (all.length < 2) continue;
        expect(all.map((i) => i.step.key)).toEqual(keys.slice(n, n + all.length));
        saved += all.length - 1;
      }
    }
    expect(saved > 0).toBe(joins(family.procedure(installedPlan(family, kit))));
  });
});

describe('steps that one press answers', () => {
  const jobOf = async (bodies: readonly JobBody[], id = 'well-switch') => {
    const family = await loadFamily(id);
    const kit = kitOf(id);
    const [variant] = kit.variants;
    if (!variant) throw new Error('No variant.');
    const { started } = installed(family, kit, variant);
    const h = new HandLog();
    for (const body of [started, ...bodies]) h.add(body);
    const { events } = h.log;
    const view = new FoldedJob(family, h.log.state);
    const offered = offer(family.procedure(view.plan), view);
    return { family, events, view, offered, all: together(family, events, view, offered) };
  };
  const leave = entries.left('unfinished', 'no light').body;

  it('are the lead and the power when a job is left with the lead off', async () => {
    const at = (key: string, sets: Record<string, string>): JobBody => ({
      kind: 'done',
      at: { key, pass: '1' },
      sets,
    });
    const { all } = await jobOf(
      [
        at('isolate', { power: 'off', lead: 'off', pump: 'off' }),
        leave,
        at('restore-off', { power: 'off', pump: 'off' }),
      ],
      'spa-flow-switch',
    );
    expect(all.map((i) => i.step.key)).toEqual(['restore-lead', 'restore-on']);
  });

  it('are one where nothing joins, and none at the end', async () => {
    const { all } = await jobOf([]);
    expect(all.map((i) => i.step.key)).toEqual(['cautions']);
  });

  it('leave the log as it was', async () => {
    const { events, family, view, offered } = await jobOf([leave]);
    const before = JSON.stringify(events);
    together(family, events, view, offered);
    expect(JSON.stringify(events)).toBe(before);
  });
});
