// Every kind on installations that nobody thought of: other pressures, sizes and gauges than its kit's, faults smaller and larger.
// What is concluded there may differ from the kit's; that nobody is hurt, sent in circles or left without a way on may not.
import { expect, it } from '@jest/globals';
import { objections, type Family } from '@firm-needle/core/family';
import { WatchedRig } from '@firm-needle/core/practice';
import { seeded } from '@firm-needle/core/rig';
import { ScriptedTechnician, type ScriptedJob } from '@firm-needle/core/script';
import {
  faultsOf,
  installed,
  otherwise,
  rigFor,
  type Hidden,
  type Installed,
  type Kit,
} from '../define/kit.js';
import { loadFamily } from '../registry.js';
import { FOLDERS, kitOf } from './kitOf.js';
import { MET } from './met.js';

const MOST_TIMES = 12;
const TRIES = 15;
const FAULTS = 4;
const SIZES = [0.6, 1, 1.5];

interface Worked {
  readonly job: ScriptedJob;
  readonly codes: readonly string[];
  /** What may not be, whatever stands there. */
  readonly wrong: readonly string[];
}

/** A whole job by the script: hurt, sent in circles, set aside, signed for what was not proved, called in while it is out. */
function work(family: Family, kit: Kit, site: Installed, hidden: Hidden): Worked {
  const rig = new WatchedRig(rigFor(site, hidden), [], {}, kit.practice.hurts ?? []);
  const job = new ScriptedTechnician(family, rig, site.started).run();
  const times = new Map<string, number>();
  for (const { body } of job.log.events)
    if ('at' in body && body.at) {
      const key = `${body.at.key} ${body.kind === 'observe' ? body.answer : body.kind}`;
      times.set(key, (times.get(key) ?? 0) + 1);
    }
  return {
    job,
    codes: family.findings(job.view).map((f) => f.code),
    wrong: [
      ...[...times].flatMap(([key, n]) => (n > MOST_TIMES ? [`asks ${n} times for ${key}`] : [])),
      ...job.unsafe,
      ...rig.harm.filter((a) => a.severity === 3).map((a) => `hurts: ${a.text}`),
      ...job.log.state.aside.map((a) => `set aside: ${a.reason}`),
      ...objections(family, job.view, job.outcome).map((o) => `not proved: ${o.message}`),
    ],
  };
}

const calledIn = (kit: Kit, job: ScriptedJob): readonly string[] =>
  Object.entries(kit.truths(job)).flatMap(([setting, truth = NaN]) => {
    const { lower = -Infinity, upper = Infinity } = job.view.limits(setting, 'left');
    const out = !(truth >= lower && truth <= upper);
    return out && job.view.verdict(setting, 'left')?.word === 'in' ? [setting] : [];
  });

it.each(MET.map((met) => [`${met.variant}: ${met.says}`, met] as const))('%s', async (_, met) => {
  const family = await loadFamily(met.id);
  const kit = kitOf(met.id);
  const variant = kit.variants.find((v) => v.name === met.variant);
  if (!variant) throw new Error(`${met.id} has no ${met.variant}.`);
  const gauges = Object.fromEntries(
    Object.entries({ ...kit.gauges, ...variant.gauges }).map(([slot, it]) => {
      const [upper, division] = met.ends[slot] ?? [it.upper, it.division];
      return [slot, { ...it, upper, division }];
    }),
  );
  const { plate, given, seed, size, right } = met;
  const site = installed(family, kit, {
    ...variant,
    plate: { ...variant.plate, ...plate },
    given: { ...variant.given, ...given },
    gauges,
  });
  const { job, codes, wrong } = work(family, kit, site, { seed, size, faults: faultsOf(met.fault) });
  const [outcome, finding] = right;
  expect({ outcome: job.outcome, codes }).toEqual({
    outcome,
    codes: finding === undefined ? codes : expect.arrayContaining([finding]),
  });
  expect([...wrong, ...calledIn(kit, job)]).toEqual([]);
});

const ALL = FOLDERS.flatMap((id) =>
  kitOf(id).variants.map((variant) => [variant.name, id, variant] as const),
);

it.each(ALL)('%s: hurts nobody and comes to an end, whatever stands there', async (_, id, variant) => {
  const family = await loadFamily(id);
  const kit = kitOf(id);
  const random = seeded(ALL.findIndex(([name]) => name === variant.name) + 1);
  const one = <T>(of: readonly T[]): T => of[Math.floor(random.next() * of.length)] as T;
  const fits = (): Installed => {
    for (let i = 0; i < TRIES; i++)
      try {
        const other = otherwise(kit, variant, random);
        return installed(family, other.kit, other.variant);
      } catch {
        // Refused by its own family: another.
      }
    return installed(family, kit, variant);
  };
  const wrong: string[] = [];
  for (let n = 0; n < FAULTS; n++) {
    const site = fits();
    const fault = n === 0 ? 'none' : one(family.rig.faults).id;
    const hidden = { seed: Math.floor(random.next() * 1e6), size: one(SIZES), faults: faultsOf(fault) };
    const plate = JSON.stringify(Object.entries(site.plan.plate).map(([key, q]) => [key, q.text]));
    const at = `${fault} × ${hidden.size}, seed ${hidden.seed}, on ${plate}`;
    try {
      wrong.push(...work(family, kit, site, hidden).wrong.map((w) => `${at}: ${w}`));
    } catch (error) {
      wrong.push(`${at}: ${String(error)}`);
    }
  }
  expect(wrong).toEqual([]);
});
