// Every family against its own kit, found by its folder: nothing here names a family, and no family is forgotten.
import { describe, expect, it } from '@jest/globals';
import { draftOf, makePlan, objections, type Family } from '@firm-needle/core/family';
import { WatchedRig } from '@firm-needle/core/practice';
import { checkOf, inside, parseEvent, type Node, type Step } from '@firm-needle/core/procedure';
import { expectOk } from '@firm-needle/core/result';
import { runRig } from '@firm-needle/core/rig';
import { ScriptedTechnician, type ScriptedJob } from '@firm-needle/core/script';
import { analyse } from '@firm-needle/core/trace';
import { faultsOf, installed, rigFor, workedOn, type Kit, type KitVariant } from '../define/kit.js';
import { families, loadFamily, traceKindOf } from '../registry.js';
import { psi } from '../testing.js';
import { FOLDERS, kitOf } from './kitOf.js';

const IDS = FOLDERS;
const SEEDS = [4, 19];
const ALL = IDS.flatMap((id) => kitOf(id).variants.map((variant) => [variant.name, id, variant] as const));

it('every folder of a family is in the registry, and the other way round', () => {
  expect([...IDS].sort()).toEqual(
    families()
      .map((f) => f.id)
      .sort(),
  );
});

/** Nobody is sent in circles: no step is taken oftener than this in one job, with one answer. */
const MOST_TIMES = 12;
function oftenest(job: ScriptedJob): readonly [key: string, times: number] {
  const times = new Map<string, number>();
  for (const { body } of job.log.events) {
    if (!('at' in body && body.at)) continue;
    const key = `${body.at.key} ${body.kind === 'observe' ? body.answer : body.kind}`;
    times.set(key, (times.get(key) ?? 0) + 1);
  }
  return [...times].reduce((a, b) => (b[1] > a[1] ? b : a), ['', 0]);
}

/** A whole job by the script, and what its hands did that hurts somebody. */
function work(family: Family, kit: Kit, variant: KitVariant, fault: string, seed: number) {
  const site = installed(family, kit, variant);
  const rig = new WatchedRig(
    rigFor(site, { seed, faults: faultsOf(fault) }),
    [],
    {},
    kit.practice.hurts ?? [],
  );
  return { job: new ScriptedTechnician(family, rig, site.started).run(), harm: rig.harm };
}

describe.each(ALL)('%s', (_, id, variant) => {
  const kit = kitOf(id);

  it('concludes what is right of every hidden fault, hurts nobody, and says no more than is true', async () => {
    const family = await loadFamily(id);
    const table = { ...kit.concludes, ...variant.concludes };
    const wrong: string[] = [];
    for (const fault of ['none', ...family.rig.faults.map((f) => f.id)])
      for (const seed of SEEDS) {
        const { job, harm } = work(family, kit, variant, fault, seed);
        const codes = family.findings(job.view).map((f) => f.code);
        const right = table[fault];
        const at = `${fault}, seed ${seed}: ${job.outcome} ${codes.join(' ')}`;
        if (right && !right.some(([o, code]) => o === job.outcome && (!code || codes.includes(code))))
          wrong.push(at);
        wrong.push(...job.unsafe.map((u) => `${at}: ${u}`));
        wrong.push(...harm.filter((a) => a.severity === 3).map((a) => `${at}: hurts: ${a.text}`));
        const [key, times] = oftenest(job);
        if (times > MOST_TIMES) wrong.push(`${at}: asks ${times} times for ${key}`);
        wrong.push(...job.log.state.aside.map((a) => `${at}: set aside: ${a.reason}`));
        wrong.push(
          ...objections(family, job.view, job.outcome).map((o) => `${at}: not proved: ${o.message}`),
        );
        for (const [setting, truth = NaN] of Object.entries(kit.truths(job))) {
          const { lower = -Infinity, upper = Infinity } = job.view.limits(setting, 'left');
          if (job.view.verdict(setting, 'left')?.word === 'in' && !(truth >= lower && truth <= upper))
            wrong.push(`${at}: ${setting} is called in, and is not`);
        }
        // What the script wrote is what the schemas and the family know.
        for (const e of job.log.events)
          if (!parseEvent(e).ok) wrong.push(`${at}: ${e.body.kind} is no event`);
      }
    expect(wrong).toEqual([]);
  }, 240_000);
});

/** Two faults together that once sent round in circles, or that hide each other. */
const TOGETHER: readonly (readonly [id: string, faults: readonly string[], outcome: string])[] = [
  ['well-drive', ['air-in-line', 'high-gain'], 'replace'],
  ['steam-control', ['other-kind', 'sticky-reset'], 'replace'],
  ['steam-control', ['sticky-reset', 'tilted'], 'replace'],
  ['steam-control', ['set-high', 'coarse'], 'replace'],
  ['pilot-reducing', ['set-low', 'seat-debris'], 'replace'],
  ['burner-gas', ['supply-high', 'vent'], 'set'],
];
it.each(TOGETHER)('%s, with %p, comes to an end, and to what is right', async (id, faults, outcome) => {
  const family = await loadFamily(id);
  const kit = kitOf(id);
  for (const variant of kit.variants) {
    const site = installed(family, kit, variant);
    const known = family.rig.faults.map((f) => f.id);
    if (!faults.every((f) => known.includes(f))) throw new Error(`${id} has no ${faults.join(', ')}.`);
    const job = workedOn(site, { seed: 1, faults });
    expect({ variant: variant.name, circles: oftenest(job)[1] > MOST_TIMES, unsafe: job.unsafe }).toEqual({
      variant: variant.name,
      circles: false,
      unsafe: [],
    });
    if (variant === kit.variants[0]) expect(job.outcome).toBe(outcome);
  }
});

const stepsOf = (nodes: readonly Node[]): Step[] =>
  nodes.flatMap((n) => (n.kind === 'branch' || n.kind === 'until' ? stepsOf(inside(n)) : [n]));

describe.each(IDS)('the definition of %s', (id) => {
  it('gives every step a key of its own and names only what it has, in every variant and school', async () => {
    const family = await loadFamily(id);
    const has = {
      adjusters: family.adjusters.map((a) => a.id),
      settings: family.settings.map((s) => s.id),
      slots: family.slots.map((s) => s.id),
      cautions: family.cautions.map((c) => c.key),
      permits: family.permits.map((p) => p.id),
    };
    const unknown: string[] = [];
    const must = (what: string, list: readonly string[], name: string): void => {
      if (!list.includes(name)) unknown.push(`${what} ${name}`);
    };
    // What no gauge reads, such as clicks, stands in no place.
    for (const s of family.settings) if (s.slot !== '') must(s.id, has.slots, s.slot);
    for (const a of family.adjusters) for (const m of a.prior.moves) must(a.id, has.settings, m.setting);
    for (const r of family.relations)
      for (const term of Object.keys(r.terms)) must('relation', has.settings, term);
    for (const [fact, values] of Object.entries(family.facts))
      for (const [value, def] of Object.entries(values)) {
        for (const key of def.cautions ?? []) must(`${fact} ${value}`, has.cautions, key);
      }
    for (const { id: variant } of family.variants)
      for (const { id: school } of family.schools) {
        const plan = makePlan(family, { ...draftOf(family, variant, {}), school });
        const { body, restore } = family.procedure(plan);
        const steps = stepsOf([...body, ...restore]);
        const keys = steps.map((s) => s.key);
        expect(keys.filter((k, i) => keys.indexOf(k) !== i)).toEqual([]);
        for (const step of steps) {
          for (const key of step.cautions ?? []) must(step.key, has.cautions, key);
          for (const [fact, to] of Object.entries(step.needs ?? {}))
            must(`${step.key} needs ${fact}`, Object.keys(family.facts[fact] ?? {}), to);
          // One press for two is for what needs no licence, and never for what is dangerous to touch first.
          if (step.kind === 'confirm' && step.joins && step.permit)
            unknown.push(`${step.key} joins, with a permit`);
          if (step.permit) must(step.key, has.permits, step.permit);
          if ('slot' in step) must(step.key, has.slots, step.slot);
          if ('setting' in step) must(step.key, has.settings, step.setting);
          if ('adjuster' in step) must(step.key, has.adjusters, step.adjuster);
        }
      }
    expect(unknown).toEqual([]);
    // The same check for the same family: logs are not folded anew for nothing.
    expect(checkOf(family)).toBe(checkOf(family));
  });
});

const SAMPLE_S = 0.05;
/** Seconds after the last thing that hands do. */
const AFTER_S = 120;
const TRACED = IDS.filter((id) => kitOf(id).trace);

describe.each(TRACED)('the trace of a %s', (id) => {
  it.each([3, 8, 21])('shows what its rig is, seed %d', async (seed) => {
    const family = await loadFamily(id);
    const kit = kitOf(id);
    const { trace, variants } = kit;
    const variant = variants.find((v) => v.variant === trace?.variant) ?? variants[0];
    const [scenario] = family.rig.scenarios;
    const kind = traceKindOf(id);
    if (!trace || !variant || !scenario || !kind) throw new Error(`${id} has nothing worth recording.`);
    const { plan, ambient } = installed(family, kit, variant);
    const rig = family.rig.create({ plan, seed, ambient, faults: [] });
    // Its gauge's zero error is taken off, as it would be read off a vented gauge.
    let zero = 0;
    if (trace.vented !== false) for (let i = 0; i < 200; i++) zero += rig.gauge(scenario.slot) / 200;
    const hands = [...scenario.hands].sort((a, b) => a.at_s - b.at_s);
    const whole = trace.seconds ?? (hands.at(-1)?.at_s ?? 0) + AFTER_S;
    const t: number[] = [];
    const p: number[] = [];
    const states = (trace.channels ?? []).map((name) => [name, [] as number[]] as const);
    while (rig.time < whole) {
      for (; hands[0] && hands[0].at_s <= rig.time + 1e-9; hands.shift())
        rig.set(hands[0].handle, hands[0].value);
      runRig(rig, SAMPLE_S, scenario.slot, SAMPLE_S, (at, shown) => {
        t.push(at);
        p.push(shown - zero);
        for (const [name, list] of states) list.push(rig.channels[name] ?? NaN);
      });
    }
    const samples = {
      t: Float64Array.from(t),
      p: Float64Array.from(p),
      states: Object.fromEntries(states.map(([name, list]) => [name, Float64Array.from(list)])),
    };
    const { figures } = expectOk(analyse(samples, kind, ambient));
    const truth = rig.truth();
    const off = Object.entries(trace.figures).map(([figure, [name, within]]) => {
      const by = ((figures[figure]?.value ?? NaN) - (truth[name] ?? NaN)) / psi(1);
      return [figure, Math.abs(by) <= within ? 'within' : by];
    });
    expect(off).toEqual(Object.keys(trace.figures).map((f) => [f, 'within']));
  });
});
