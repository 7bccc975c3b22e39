// Whatever comes in as a log: it is kept, what fits counts, the rest is set aside with a reason, and nothing throws.
import { describe, expect, it } from '@jest/globals';
import { sheetOf, type Family } from '@firm-needle/core/family';
import {
  checkOf,
  FoldedJob,
  fold,
  JOB_KINDS,
  JobLog,
  NOT_HELD,
  offer,
  parseEvent,
  type AsTyped,
  type JobBody,
  type JobEvent,
} from '@firm-needle/core/procedure';
import fc from 'fast-check';
import { family as wellSwitch } from '../well-switch/index.js';
import { family as fireRelief } from '../fire-relief/index.js';
import { family as spa } from '../spa-flow-switch/index.js';
import { AMBIENT, HandLog, planOf, psi, startedOf, WATER } from '../testing.js';
import { ScriptedTechnician } from '@firm-needle/core/script';
import { draftOf, makePlan, startJob, typePlate } from '@firm-needle/core/family';
import { expectOk } from '@firm-needle/core/result';

/** Everything that screens, sheet and server ask of a log. */
function look(family: Family, events: readonly unknown[]): { counted: number; aside: number } {
  const log = new JobLog('job', events as readonly JobEvent[]);
  log.judgeBy(checkOf(family));
  const { state } = log;
  if (state.started?.body.family === family.meta.id) {
    const view = new FoldedJob(family, state);
    offer(family.procedure(view.plan), view);
    family.findings(view);
    family.unproved(view);
    family.recommend(view);
    family.ladder(view.plan, view);
    for (const a of family.adjusters) view.advice(a.id);
    const sheet = sheetOf(family, view);
    expect(JSON.parse(JSON.stringify(sheet))).toBeDefined();
  }
  for (const a of state.aside) expect(a.reason.length).toBeGreaterThan(5);
  return { counted: state.ids.size, aside: state.aside.length };
}

/** A whole job by the scripted technician, as plain JSON. */
function script(family: Family, seed: number, fault: string): readonly unknown[] {
  const plates: Readonly<Record<string, Readonly<Record<string, string>>>> = {
    'well-switch': { tankVolume: '280 L', pumpFlow: '33 L/min', relief: '81 psi' },
    'fire-relief': {
      churn: '128 psi',
      suctionMost: '24 psi',
      suctionLeast: '10 psi',
      rating: '175 psi',
      perTurn: '27 psi',
    },
    'spa-flow-switch': {},
  };
  const plate = Object.fromEntries(
    Object.entries(plates[family.meta.id] ?? {}).map(([id, t]) => [id, expectOk(typePlate(family, id, t))]),
  );
  const plan = makePlan(family, draftOf(family, family.variants[0]?.id ?? '', plate));
  const gauges = Object.fromEntries(
    family.slots.map((s) => [s.id, { ...WATER, id: s.id, label: s.id, upper: 300, medium: s.medium }]),
  );
  const started = expectOk(
    startJob(family, {
      plan,
      site: { id: 's', name: 'A site', altitude_m: 300 },
      control: { id: 'c', name: 'A control', equipment: 'Something' },
      technician: 'A technician',
      permits: family.permits.map((p) => p.id),
      gauges,
      rule: 'guarded',
    }),
  );
  const rig = family.rig.create({ plan, seed, ambient: AMBIENT, faults: fault ? [fault] : [] });
  const { log } = new ScriptedTechnician(family, rig, started, { job: 'job' }).run();
  return JSON.parse(JSON.stringify(log.events)) as unknown[];
}

type Bag = Record<string, unknown>;

/** Puts something else at one place deep inside a JSON value. */
function damaged(value: unknown, path: readonly number[], junk: unknown): unknown {
  const [first, ...rest] = path;
  if (first === undefined || typeof value !== 'object' || value === null) return junk;
  const keys = Object.keys(value);
  const key = keys[first % Math.max(1, keys.length)];
  if (key === undefined) return junk;
  const copy: Bag = Array.isArray(value) ? ([...value] as unknown as Bag) : { ...(value as Bag) };
  copy[key] = damaged((value as Bag)[key], rest, junk);
  return copy;
}

const junk = fc.oneof(
  { weight: 4, arbitrary: fc.jsonValue() as fc.Arbitrary<unknown> },
  fc.constantFrom<unknown>(
    null,
    undefined,
    '',
    '__proto__',
    'constructor',
    NaN,
    Infinity,
    -1,
    1e308,
    [],
    {},
    'psi',
    'out',
  ),
);
const damage = fc.record({
  at: fc.nat(),
  path: fc.array(fc.nat({ max: 30 }), { minLength: 1, maxLength: 6 }),
  junk,
  how: fc.constantFrom('change', 'change', 'change', 'drop', 'twice', 'move'),
});

const RUNS = Number(process.env['FUZZ_RUNS'] ?? 150);

describe('a log of anything', () => {
  it('never throws on arbitrary JSON', () => {
    fc.assert(
      fc.property(fc.array(fc.jsonValue(), { maxLength: 12 }), (events) => {
        const { counted, aside } = look(wellSwitch, events);
        expect(counted).toBe(0);
        expect(aside).toBe(events.length);
      }),
      { numRuns: 400 },
    );
  });

  it('never throws on envelopes of every kind around arbitrary payloads', () => {
    const envelope = fc.record({
      id: fc.uuid(),
      job: fc.constantFrom('job', 'other'),
      version: fc.constantFrom(1, 1, 1, 2, 0, 1.5),
      after: fc.constant(null),
      device: fc.constantFrom('script', 'x'),
      author: fc.constant('a'),
      wall: fc.constantFrom(
        '2030-01-01T08:00:00.000Z',
        '9999-12-31T23:59:59.999Z',
        '0001-01-01T00:00:00Z',
        'soon',
      ),
      mono: fc.constantFrom(0, 1e15),
      body: fc
        .tuple(fc.constantFrom(...JOB_KINDS, 'nothing'), fc.dictionary(fc.string(), fc.jsonValue()))
        .map(([kind, rest]) => ({ ...rest, kind })),
    });
    const begun = startedOf(planOf());
    fc.assert(
      fc.property(fc.array(envelope, { maxLength: 10 }), (events) => {
        const start = {
          ...events[0],
          id: 's',
          job: 'job',
          version: 1,
          device: 'script',
          wall: '2030-01-01T08:00:00Z',
          mono: 0,
          author: 'a',
          after: null,
          body: begun,
        };
        look(wellSwitch, [start, ...events]);
      }),
      { numRuns: 400 },
    );
  });

  it.each([
    ['well-switch', wellSwitch, 'drifted-switch', 4],
    ['well-switch', wellSwitch, 'low-precharge', 9],
    ['fire-relief', fireRelief, 'set-low', 5],
    ['spa-flow-switch', spa, '', 3],
  ] as const)(
    'a real job of a %s with random damage is still drawn',
    (_, family, fault, seed) => {
      const whole = script(family, seed, fault);
      const intact = look(family, whole);
      expect(intact.aside).toBe(0);
      fc.assert(
        fc.property(fc.array(damage, { minLength: 1, maxLength: 6 }), (list) => {
          const events = [...whole];
          for (const d of list) {
            // The first entry is damaged as often as all others together: everything hangs on it.
            const i = d.at % 2 === 0 ? 0 : d.at % events.length;
            if (d.how === 'change') events[i] = damaged(events[i], d.path, d.junk);
            else if (d.how === 'twice') events.splice(d.at % events.length, 0, events[i]);
            else {
              const [gone] = events.splice(i, 1);
              if (d.how === 'move') events.splice(d.at % (events.length + 1), 0, gone);
            }
          }
          look(family, JSON.parse(JSON.stringify(events)) as unknown[]);
          // Values that JSON has no form for may still come from the same process.
          look(family, events);
        }),
        { numRuns: RUNS },
      );
    },
    120_000,
  );
});

describe('what does not fit', () => {
  const begun = (): HandLog => {
    const h = new HandLog();
    h.log.judgeBy(checkOf(wellSwitch));
    h.add(startedOf(planOf()));
    return h;
  };
  const reasons = (h: HandLog): readonly string[] => h.log.state.aside.map((a) => a.reason);

  it('is a second entry at a place that one fills: two readings are not two cycles', () => {
    const h = begun();
    h.read('cutIn', 43, 'found-cut-in', 'found', '1.1');
    h.read('cutIn', 43, 'found-cut-in', 'found', '1.1');
    h.add({ kind: 'turn', adjuster: 'range', amount: 1, text: '1', at: { key: 'turn-range', pass: '1.1' } });
    h.add({ kind: 'turn', adjuster: 'range', amount: 1, text: '1', at: { key: 'turn-range', pass: '1.1' } });
    expect(h.log.state.reads).toHaveLength(1);
    expect(h.log.state.turns).toHaveLength(1);
    expect(reasons(h)).toEqual(['This step was taken already.', 'This step was taken already.']);
    expect(new FoldedJob(wellSwitch, h.log.state).proved('cutIn')).toBe(false);
  });

  it('lets a place be taken anew once what stood there was withdrawn', () => {
    const h = begun();
    const wrong = h.read('cutIn', 13, 'found-cut-in', 'found', '1.1');
    h.add({ kind: 'correct', corrects: wrong.id, reason: 'mis-tap' });
    h.read('cutIn', 43, 'found-cut-in', 'found', '1.1');
    expect(h.log.state.reads.map((r) => r.body.value.text)).toEqual(['43']);
    expect(reasons(h)).toEqual([]);
  });

  it('lets a reading follow a skip of its place, and never a skip a reading', () => {
    const h = begun();
    const at = { key: 'found-cut-in', pass: '1.1' };
    h.add({ kind: 'skip', at, reason: 'no water' });
    h.read('cutIn', 43, 'found-cut-in', 'found', '1.1');
    h.add({ kind: 'skip', at, reason: 'no water' });
    expect(h.log.state.reads).toHaveLength(1);
    expect(reasons(h)).toEqual(['This step was taken already.']);
  });

  const reading = (value: AsTyped, setting = 'cutIn'): object => ({
    kind: 'read',
    setting,
    slot: 'system',
    value,
    state: 'typed',
    at: { key: 'k', pass: '1' },
  });
  it.each<[string, JobBody | object, string]>([
    [
      'an unknown screw',
      { kind: 'turn', adjuster: 'nothing', amount: 1, text: '', at: { key: 'k', pass: '1' } },
      'No adjuster is called "nothing".',
    ],
    [
      'an unknown setting',
      reading({ text: '4', unit: 'psi', value: psi(4) }, 'nothing'),
      'No setting is called "nothing".',
    ],
    [
      'a value beside its text',
      reading({ text: '41', unit: 'psi', value: psi(80) }),
      'read.value says another value than its text.',
    ],
    [
      'no number',
      reading({ text: 'abc', unit: 'psi', value: psi(80) }),
      'read.value says another value than its text.',
    ],
    [
      'an unknown unit',
      reading({ text: '4', unit: 'furlong', value: 4 }),
      'read.value.unit is no unit known here.',
    ],
    ['metres on a pressure gauge', reading({ text: '4', unit: 'm', value: 4 }), 'T-1 does not show m.'],
    [
      'an answer that the step does not offer',
      { kind: 'observe', answer: 'perhaps', at: { key: 'rest', pass: '1' } },
      '"perhaps" is no answer to Holds with no draw.',
    ],
    [
      'a reading where a confirmation stands',
      { kind: 'done', at: { key: 'found-cut-in', pass: '1.1' } },
      'As found: cut-in is not taken by that.',
    ],
    [
      'a job left as set',
      { kind: 'leave', outcome: 'set', reason: 'x' },
      'leave.outcome is no way to leave a job.',
    ],
    [
      'a place that is none',
      { kind: 'gauge', slot: 'roof', gauge: WATER, reason: 'x' },
      'There is no place "roof" for a gauge.',
    ],
  ])('%s', (_, body, reason) => {
    const h = begun();
    h.add(body as JobBody);
    expect(reasons(h)).toEqual([reason]);
  });

  it('is a correction that moves the reading to another step', () => {
    const h = begun();
    const first = h.read('cutIn', 43, 'found-cut-in', 'found', '1.1');
    const body = { ...first.body, at: { key: 'left-cut-in', pass: '1.1', phase: 'left' } } as JobBody;
    h.add({ kind: 'correct', corrects: first.id, reason: 'x', body });
    expect(reasons(h)).toEqual(['A correction stands at the place of what it corrects.']);
    expect(h.log.state.reads[0]?.body.at.key).toBe('found-cut-in');
  });

  it('is adopted only where another device held the job', () => {
    const h = begun();
    const note = h.add({ kind: 'note', text: 'from elsewhere' }, { device: 'phone' });
    const wrong = h.add({
      kind: 'turn',
      adjuster: 'nothing',
      amount: 1,
      text: '',
      at: { key: 'k', pass: '1' },
    });
    h.add({ kind: 'adopt', ids: [note.id, wrong.id] });
    expect(h.log.state.notes.map((n) => n.body.text)).toEqual(['from elsewhere']);
    expect(reasons(h)).not.toContain(NOT_HELD);
    expect(reasons(h)).toHaveLength(1);
  });

  it('is written by a newer version: kept, and counted once this one knows it', () => {
    const parsed = parseEvent({ ...begun().log.events[0], id: 'new', version: 99 });
    expect(parsed).toMatchObject({ ok: false, reason: expect.stringContaining('newer version (99)') });
  });

  it('ends what was sure when the clock jumps, forward or back', () => {
    for (const hours of [3, -3]) {
      const h = begun();
      h.add({ kind: 'done', at: { key: 'lock', pass: '1' }, sets: { power: 'off' } });
      expect(h.log.state.facts.get('power')).toBe('off');
      h.add({ kind: 'note', text: 'x' }, { wall: new Date(Date.UTC(2030, 0, 1, 8 + hours)).toISOString() });
      expect(h.log.state.facts.has('power')).toBe(false);
    }
  });

  it('binds by the permits of whoever took the job last', () => {
    const h = begun();
    h.add({ kind: 'take', by: 'Another', permits: ['gas'] }, { device: 'phone' });
    expect(h.log.state.permits).toEqual(['gas']);
  });

  it('folds the same from the whole log as entry by entry', () => {
    const whole = script(wellSwitch, 7, '') as readonly JobEvent[];
    const steps = new JobLog('job');
    steps.judgeBy(checkOf(wellSwitch));
    for (const e of whole) steps.append(e);
    const once = fold('job', whole, checkOf(wellSwitch));
    expect([...once.taken.keys()]).toEqual([...steps.state.taken.keys()]);
    expect(once.reads).toEqual(steps.state.reads);
  });
});
