// Every finding that a family can say comes up somewhere: in walks that answer anything, or on its rig with a fault. And whatever is
// answered, nothing throws, every walk ends, and no entry that the runner asked for is set aside.
import { describe, expect, it } from '@jest/globals';
import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { sheetOf, type Family } from '@firm-needle/core/family';
import { stepsOf, type JobView } from '@firm-needle/core/procedure';
import { clumsy, ScriptedTechnician, wander, type Manner } from '@firm-needle/core/script';
import { installed, type Kit, type KitVariant } from '../define/kit.js';
import { loadFamily } from '../registry.js';
import { FOLDERS, kitOf } from './kitOf.js';

/** Walks of one variant; more only while a finding has not come up. */
const WALKS = 40;
const MANY_WALKS = 300;
const MOST_WALKS = 2500;
/** Findings are asked for at every so many steps, and at the end. */
const LOOK_EVERY = 2;

/** The codes in a family's own sources: what is added to a list of findings, and what is lacking. */
function codesOf(id: string): Set<string> {
  const folder = join(process.cwd(), 'packages/families/src', id);
  const codes = new Set<string>();
  for (const file of readdirSync(folder).filter((f) => f.startsWith('findings') && !f.includes('.test.'))) {
    const source = readFileSync(join(folder, file), 'utf8');
    for (const [, code] of source.matchAll(/'(?:warn|replace|say|refuse)',\s*'([a-z-]+)'/g))
      codes.add(code ?? '');
    for (const [, code] of source.matchAll(/\b(?:lacks|need)\(\s*'([a-z-]+)'/g)) codes.add(code ?? '');
  }
  return codes;
}

describe.each(FOLDERS)('%s', (id) => {
  it('says each of its findings of some job, and of every job something', async () => {
    const family = await loadFamily(id);
    const kit = kitOf(id);
    const unsaid = codesOf(id);
    expect(unsaid.size).toBeGreaterThan(4);
    const heard = (job: JobView): boolean => {
      for (const f of [...family.findings(job), ...family.unproved(job)]) unsaid.delete(f.code);
      return unsaid.size === 0;
    };
    const walked = (seed: number): void => {
      const variant = kit.variants[seed % kit.variants.length];
      if (!variant) throw new Error(`${id} has no variant.`);
      walk(family, installed(family, kit, variant).started, seed, unsaid.size > 0 ? heard : () => true);
    };
    let seed = 0;
    while (seed < WALKS) walked(++seed);
    for (const one of kit.seldom ?? []) {
      if ('walk' in one) walked(one.walk);
      else
        for (const v of kit.variants)
          if ((one.variant ?? v.name) === v.name)
            heard(onRig(family, kit, v, one.fault)(one.says, one.hands && clumsy(one.hands, 1)));
    }
    // Cheapest first: what is known to be concluded, each fault as it is, more walks, then every other answer to each fault.
    const faults = family.rig.faults.map((f) => f.id);
    for (const fault of faults)
      for (const v of kit.variants)
        if ({ ...kit.concludes, ...v.concludes }[fault]?.some(([, code]) => code && unsaid.has(code)))
          heard(onRig(family, kit, v, fault)());
    for (const fault of faults) if (unsaid.size > 0) heardOnRig(family, id, fault, heard, false);
    while (unsaid.size > 0 && seed < MANY_WALKS) walked(++seed);
    for (const fault of faults) if (unsaid.size > 0) heardOnRig(family, id, fault, heard, true);
    while (unsaid.size > 0 && seed < MOST_WALKS) walked(++seed);
    expect([...unsaid]).toEqual([]);
  }, 240_000);
});

let steps = 0;
function walk(
  family: Family,
  started: Parameters<typeof wander>[1],
  seed: number,
  heard: (job: JobView) => boolean,
): void {
  const { log, view, ended } = wander(family, started, seed, (job) => {
    if (++steps % LOOK_EVERY === 0) heard(job);
  });
  heard(view);
  expect({ seed, ended, aside: log.state.aside.map((a) => a.reason) }).toEqual({
    seed,
    ended: true,
    aside: [],
  });
  const { outcome, because } = family.recommend(view);
  expect({ seed, outcome, says: because.length > 0 }).toEqual({ seed, outcome, says: true });
  // What is due or refused is never recommended as set.
  if (family.unproved(view).length > 0) expect({ seed, outcome }).not.toEqual({ seed, outcome: 'set' });
  // A sheet can be made of it.
  expect(sheetOf(family, view).rows.every((r) => r.title.length > 0)).toBe(true);
}

/** A whole job on the rig with a fault, some of its questions answered otherwise. */
function onRig(family: Family, kit: Kit, variant: KitVariant, fault: string) {
  const { plan, started, ambient } = installed(family, kit, variant);
  return (says: Readonly<Record<string, string>> = {}, manner?: Manner): JobView => {
    const rig = family.rig.create({ plan, seed: 4, ambient, gauges: started.gauges, faults: [fault] });
    const answer = rig.answer.bind(rig);
    Object.assign(rig, { answer: (key: string) => says[key] ?? answer(key) });
    return new ScriptedTechnician(family, rig, started, manner ? { manner } : {}).run().view;
  };
}

/** On the rig as it is; or with every question answered otherwise that came up there, then by hands that turn too far. */
function heardOnRig(
  family: Family,
  id: string,
  fault: string,
  heard: (job: JobView) => boolean,
  otherwise: boolean,
): void {
  const kit = kitOf(id);
  for (const variant of kit.variants) {
    const work = onRig(family, kit, variant, fault);
    const plain = work();
    if (heard(plain)) return;
    if (!otherwise) continue;
    for (const { body } of plain.state.observations) {
      const step = stepsOf(family, plain.plan).get(body.at.key);
      const others = step?.kind === 'observe' && !step.shows && !step.stopwatch ? step.choices : [];
      for (const { code } of others) if (code !== body.answer && heard(work({ [body.at.key]: code }))) return;
    }
    for (let seed = 1; seed <= CLUMSY; seed++) if (heard(work({}, clumsy(['overturns'], seed)))) return;
  }
}
const CLUMSY = 6;
