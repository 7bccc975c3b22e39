// Practice over every family, by its kit: nothing here names a family but where a walk of the notes does.
import { describe, expect, it } from '@jest/globals';
import {
  accepted,
  conclusion,
  debriefOf,
  drawFrom,
  exerciseOf,
  harmOf,
  hurtBy,
  orderScore,
  ownRun,
  pairsOf,
  askedOf,
  replay,
  revealOf,
  rigOfDraw,
  scriptedRecord,
  scriptOn,
  startedOn,
  takenKeys,
  WatchedRig,
  type Deed,
  type Draw,
  type Exercise,
  type RunRecord,
} from '@firm-needle/core/practice';
import { stepsOf } from '@firm-needle/core/procedure';
import { seeded } from '@firm-needle/core/rig';
import { ScriptedTechnician } from '@firm-needle/core/script';
import { loadFamily, loadKit } from '../registry.js';
import { FOLDERS } from './kitOf.js';

/** Nothing hidden, sound gauges. */
const BARE: Draw = { seed: 17, level: 1, faults: [], size: 1, worn: {}, overdue: false, story: [] };

const exercise = async (id: string, variant?: string): Promise<Exercise> => {
  const kit = await loadKit(id);
  return exerciseOf(await loadFamily(id), kit, variant ?? kit.variants[0]?.name ?? '');
};

describe.each(FOLDERS)('practice on %s', (id) => {
  it('has something said of every fault, and never a figure', async () => {
    const ex = await exercise(id);
    const { lines, pairs = [] } = ex.kit.practice;
    const faults = ['none', ...ex.family.rig.faults.map((f) => f.id)];
    expect(Object.keys(lines).sort()).toEqual([...faults].sort());
    for (const line of Object.values(lines)) {
      expect(line).not.toMatch(/\d/);
      expect(line.length).toBeGreaterThan(10);
    }
    expect(new Set(Object.values(lines)).size).toBe(faults.length);
    // Every pair names steps that some variant has.
    const keys = new Set<string>();
    for (const { name } of ex.kit.variants)
      for (const key of stepsOf(ex.family, exerciseOf(ex.family, ex.kit, name).plan).keys()) keys.add(key);
    expect(pairs.flatMap(([a, b]) => [a, b]).filter((k) => !keys.has(k))).toEqual([]);
    // What hurts names what there is.
    const handles = new Map(ex.family.rig.handles.map((h) => [h.id, h.positions.map((p) => p.value)]));
    const adjusters = ex.family.adjusters.map((a) => a.id);
    for (const { deed, to = [], while: at = {}, over } of ex.kit.practice.hurts ?? []) {
      expect([deed, handles.has(deed) || adjusters.includes(deed)]).toEqual([deed, true]);
      for (const v of to) expect(handles.get(deed)).toContain(v);
      for (const [h, values] of Object.entries(at))
        for (const v of values) expect(handles.get(h)).toContain(v);
      if (over) expect(ex.family.slots.map((s) => s.id)).toContain(over[0]);
    }
    for (const fact of ex.kit.practice.access ?? []) expect(Object.keys(ex.family.facts)).toContain(fact);
  });

  it('an idle hand on the bench ends no run but by what is grave', async () => {
    // From where it stands when one comes, only what the family says is grave ends a run. (That the script hurts nobody, whatever is
    // hidden, is seen where it works all of it: kits.)
    const ex = await exercise(id);
    const rig = rigOfDraw(ex, BARE);
    const ends = ex.family.rig.handles.flatMap((h) =>
      h.positions.flatMap((p) =>
        hurtBy(harmOf(ex.kit.practice.hurts ?? [], { t: 0, do: 'set', id: h.id, value: p.value }, rig))
          ? [h.id]
          : [],
      ),
    );
    expect(ends.length).toBeLessThanOrEqual(3);
  }, 240_000);

  it('by the script at bare is sound, and never dangerous, at the first two levels', async () => {
    const ex = await exercise(id);
    const words: string[] = [];
    for (const [seed, level] of [
      [11, 1],
      [12, 1],
      [13, 2],
      [14, 2],
    ] as const) {
      const draw = drawFrom(ex, { seed, level });
      const told = debriefOf(ex, draw, scriptedRecord(ex, draw));
      words.push(told.word);
      if (told.word !== 'sound') throw new Error(`${seed}: ${JSON.stringify([draw, told.lines, told.acts])}`);
    }
    expect(words).toEqual(['sound', 'sound', 'sound', 'sound']);
  }, 120_000);

  it('goes through a run again to the same truth', async () => {
    const ex = await exercise(id);
    const draw = drawFrom(ex, { seed: 21, level: 2 });
    const rig = new WatchedRig(rigOfDraw(ex, draw), []);
    new ScriptedTechnician(ex.family, rig, startedOn(ex, draw), { goesOn: true }).run();
    const again = rigOfDraw(ex, draw);
    replay(again, rig.deeds, rig.time);
    for (const [name, was] of Object.entries(rig.truth())) {
      const is = again.truth()[name] ?? NaN;
      // What a needle does to a rig is nothing; what flickers in it is another draw.
      if (Number.isFinite(was)) expect(Math.abs(is - was)).toBeLessThanOrEqual(0.02 * Math.abs(was) + 500);
    }
  }, 60_000);

  it('with a third of its steps swapped keeps its order less well', async () => {
    const ex = await exercise(id);
    for (const seed of [31, 32, 33]) {
      const draw = drawFrom(ex, { seed, level: 2 });
      const keys = takenKeys(scriptOn(ex, draw).log.events);
      const asked = askedOf(pairsOf(ex), keys).filter(
        (p) => keys.includes(p.before) && keys.includes(p.after),
      );
      if (asked.length === 0) continue;
      const random = seeded(seed);
      // The pairs that bind this run are among what is swapped: a third of all that it took, b with its a.
      const swapped = [...keys];
      for (let n = 0; n < Math.ceil(keys.length / 3); n++) {
        const p = asked[Math.floor(random.next() * asked.length)];
        const [i, j] = [swapped.indexOf(p?.before ?? ''), swapped.indexOf(p?.after ?? '')];
        if (i >= 0 && j > i) [swapped[i], swapped[j]] = [swapped[j] ?? '', swapped[i] ?? ''];
      }
      expect(orderScore(asked, keys).part).toBe(1);
      expect(orderScore(asked, swapped).part).toBeLessThan(1);
    }
  }, 60_000);

  it('draws the same from the same, and tells nobody of it where the job begins', async () => {
    const ex = await exercise(id);
    const draw = drawFrom(ex, { seed: 5, level: 3 });
    expect(drawFrom(ex, { seed: 5, level: 3 })).toEqual(draw);
    const started = JSON.stringify(startedOn(ex, draw));
    for (const f of draw.faults) expect(started).not.toContain(`"${f}"`);
    expect(startedOn(ex, draw).mode).toBe('practice');
    for (const { id: lesson } of ex.family.rig.faults.slice(0, 2))
      expect(drawFrom(ex, { seed: 5, level: 1, lesson }).faults).toEqual([lesson]);
  }, 60_000);
});

describe('what is concluded', () => {
  it('is worth little where the seat is always blamed, and nothing where nothing ever is', async () => {
    const ex = await exercise('breathing-first-stage');
    const seat: number[] = [];
    for (let seed = 1; seed <= 12; seed++) {
      const draw = drawFrom(ex, { seed: seed * 17, level: 2 });
      const shown = draw.faults.map((f) => revealOf(ex, draw, f));
      const taken = new Set(takenKeys(scriptOn(ex, draw).log.events));
      const said = { faults: ['seat-leaks'], sure: 0.95 };
      seat.push(conclusion(ex, draw, shown, 'replace', said, taken, undefined).score ?? 0);
      const nothing = conclusion(
        ex,
        draw,
        shown,
        'left-as-found',
        { faults: [], sure: 0.95 },
        taken,
        undefined,
      );
      const live = shown.filter((s) => s.knowable && !accepted(ex, [s.fault]).includes('left-as-found'));
      if (live.length > 0) expect(nothing.o).toBe(0);
    }
    expect(seat.reduce((a, b) => a + b, 0) / seat.length).toBeLessThan(45);
  }, 120_000);

  it('is a guess where the reading that shows it was never taken', async () => {
    const ex = await exercise('well-switch');
    const draw = drawFrom(ex, { seed: 3, level: 1, lesson: 'low-precharge' });
    const shown = [revealOf(ex, draw, 'low-precharge')];
    const say = (faults: string[], taken: string[]) =>
      conclusion(ex, draw, shown, 'set', { faults, sure: 0.5 }, new Set(taken), undefined);
    expect(say(['low-precharge'], [shown[0]?.step ?? '']).f).toBe(1);
    expect(say(['low-precharge'], []).f).toBe(0.6);
    expect(say(['low-precharge', 'low-well'], [shown[0]?.step ?? '']).f).toBeCloseTo(2 / 3);
    expect(say([], [])).toMatchObject({ f: 0, missed: ['low-precharge'] });
    const told = conclusion(ex, draw, shown, 'unfinished', undefined, new Set(), undefined);
    expect(told).toMatchObject({ o: 0.5, f: 0 });
  });

  it('of what could not be known is best called just that', async () => {
    const ex = await exercise('well-switch');
    const draw = { ...drawFrom(ex, { seed: 3, level: 1, lesson: 'low-precharge' }) };
    const dark = [{ fault: 'low-precharge', d: 0.4, knowable: false }];
    const f = (said: { faults: string[]; cannotTell?: boolean }) =>
      conclusion(ex, draw, dark, 'left-as-found', { ...said, sure: 0.5 }, new Set(), undefined);
    expect(f({ faults: [], cannotTell: true })).toMatchObject({ o: 1, f: 1 });
    expect(f({ faults: [] })).toMatchObject({ o: 1, f: 0.7 });
  });
});

describe('safety', () => {
  it('ends a run where supply is opened with nothing to relieve it, and tells it as dangerous', async () => {
    const ex = await exercise('breathing-first-stage');
    const draw = drawFrom(ex, { seed: 9, level: 2, lesson: 'seat-failed' });
    const rig = rigOfDraw(ex, draw);
    const hurts = ex.kit.practice.hurts ?? [];
    const deed: Deed = { t: 4, do: 'set', id: 'supply', value: 1, bench: true };
    const act = harmOf(hurts, deed, rig);
    expect(act).toMatchObject({ severity: 3 });
    rig.set('relief', 1);
    expect(harmOf(hurts, deed, rig)).toBeUndefined();
    // Nothing is under pressure yet: what is put away, let go or shut hurts nobody.
    for (const [id, value] of [
      ['bleed', 0],
      ['purge', 1],
      ['cap', 0],
      ['joints', 1],
    ] as const)
      expect(harmOf(hurts, { t: 4, do: 'set', id, value }, rig)).toBeUndefined();
    const run = scriptedRecord(ex, draw);
    const hurt = hurtBy(act);
    const told = debriefOf(ex, draw, {
      ...run,
      events: run.events.slice(0, 3),
      deeds: [deed],
      said: undefined,
      ...(hurt ? { hurt } : {}),
    } as RunRecord);
    expect(told).toMatchObject({ word: 'dangerous', safety: 0 });
    expect(told.sentence).toContain('somebody could have been hurt');
  }, 60_000);

  it('calls what cannot go back in service and was signed as good dangerous, however well the rest was done', async () => {
    const ex = await exercise('breathing-first-stage');
    const draw = drawFrom(ex, { seed: 6, level: 1, lesson: 'seat-leaks' });
    const run = scriptedRecord(ex, draw);
    const good = debriefOf(ex, draw, run);
    expect(good).toMatchObject({ word: 'sound' });
    const events = run.events.map((e) =>
      e.body.kind === 'sign' ? { ...e, body: { ...e.body, outcome: 'left-as-found' as const } } : e,
    );
    const bad = debriefOf(ex, draw, { ...run, events, said: { faults: [], sure: 0.95 } });
    expect(bad).toMatchObject({ word: 'dangerous', safety: 0, missed: ['seat-leaks'] });
    expect(bad.next.lesson).toBe('seat-leaks');
    expect(bad.sure).toMatchObject({ right: false, brier: 0.95 ** 2 });
  }, 60_000);

  it('tells a supply that a step opened before its relief was there as gravely as one opened on the bench', async () => {
    const ex = await exercise('breathing-first-stage');
    const draw = drawFrom(ex, { seed: 6, level: 1 });
    const run = scriptedRecord(ex, draw);
    const told = (deeds: readonly Deed[]) =>
      debriefOf(ex, draw, { ...run, events: run.events.slice(0, 1), deeds }).acts.filter(
        (a) => a.severity === 3,
      );
    const set = (t: number, id: string, value: number): Deed => ({ t, do: 'set', id, value });
    expect(told([set(1, 'bleed', 0), set(2, 'supply', 1)])).toHaveLength(1);
    expect(told([set(1, 'relief', 1), set(2, 'bleed', 0), set(3, 'supply', 1)])).toEqual([]);
    // What was turned while its line stood under pressure is found by the pressure that was truly there.
    const turn: Deed = { t: 20, do: 'turn', id: 'screw', value: 0.25, bench: true };
    expect(told([set(1, 'relief', 1), set(2, 'bleed', 0), set(3, 'supply', 1), turn])).toHaveLength(1);
  }, 60_000);

  it('leaves out of the sum what help gave away', async () => {
    const ex = await exercise('well-switch');
    const draw = drawFrom(ex, { seed: 8, level: 1 });
    const given = (help: RunRecord['help']) =>
      debriefOf(ex, draw, scriptedRecord(ex, draw, { help })).lines.flatMap((l) => (l.given ? [l.id] : []));
    expect(given('full')).toEqual(['order', 'adjusting']);
    expect(given('no-values')).toEqual(['order']);
    expect(given('bare')).toEqual([]);
  }, 60_000);
});

describe('a run from outside', () => {
  it('is refused where it is not practice, not on what was drawn, or by another', async () => {
    const ex = await exercise('spa-flow-switch');
    const draw = drawFrom(ex, { seed: 2, level: 1 });
    const run = scriptedRecord(ex, draw);
    const [first, ...rest] = run.events;
    if (!first || first.body.kind !== 'started') throw new Error('It does not begin.');
    expect(ownRun(ex, draw, run, 'script')).toEqual({ ok: true, value: true });
    expect(ownRun(ex, draw, run, 'another')).toMatchObject({ ok: false, refusal: { code: 'not-yours' } });
    const begun = (body: object): RunRecord => ({
      ...run,
      events: [{ ...first, body: { ...first.body, ...body } as typeof first.body }, ...rest],
    });
    expect(ownRun(ex, draw, begun({ mode: 'work' }), 'script')).toMatchObject({
      refusal: { code: 'not-practice' },
    });
    const plan = { ...first.body.plan, school: 'another' };
    expect(ownRun(ex, draw, begun({ plan }), 'script')).toMatchObject({ refusal: { code: 'not-the-draw' } });
    expect(ownRun(ex, draw, { ...run, events: [] }, 'script')).toMatchObject({ ok: false });
  });

  it('is told whatever was left out of it or put in twice', async () => {
    const ex = await exercise('spa-flow-switch');
    const draw = drawFrom(ex, { seed: 4, level: 2 });
    const run = scriptedRecord(ex, draw);
    for (let cut = 1; cut <= run.events.length; cut += 3) {
      const events = [...run.events.slice(0, cut), ...run.events.slice(0, 2)];
      const told = debriefOf(ex, draw, { ...run, events });
      expect(told.sentence.length).toBeGreaterThan(10);
      for (const l of told.lines) if (l.score !== undefined) expect(l.score).toBeGreaterThanOrEqual(0);
    }
  }, 60_000);
});
