// Whatever comes in as a log: it is kept, what fits counts, the rest is set aside with a reason, and nothing throws.
import { describe, expect, it } from '@jest/globals';
import { sheetOf, type Family } from '@firm-needle/core/family';
import { checkOf, FoldedJob, JOB_KINDS, JobLog, offer, type JobEvent } from '@firm-needle/core/procedure';
import fc from 'fast-check';
import { family as wellSwitch } from '../well-switch/index.js';
import { family as fireRelief } from '../fire-relief/index.js';
import { family as spa } from '../spa-flow-switch/index.js';
import { planOf, startedOf } from '../testing.js';
import type { Bag } from './scripted.js';
import { script } from './scripted.js';

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
