import { describe, expect, it } from '@jest/globals';
import * as fc from 'fast-check';
import { daysAfter, dueReasons, nextDue, type DueFacts } from './index.js';

const facts = (over: Partial<DueFacts> = {}): DueFacts => ({ since: '2030-01-05', ...over });
const kinds = (f: DueFacts): readonly string[] => dueReasons(f).map((r) => `${r.kind} ${r.day}`);

describe('the next date', () => {
  it('is a calendar’s: the last of a month stays one, also in February and over years', () => {
    expect(nextDue('2030-01-31', 1)).toBe('2030-02-28');
    expect(nextDue('2032-01-31', 1)).toBe('2032-02-29');
    expect(nextDue('2031-11-30', 3)).toBe('2032-02-29');
    expect(nextDue('2030-06-15')).toBe('2031-06-15');
    expect(nextDue('2030-06-15', 30)).toBe('2032-12-15');
    expect(nextDue('2030-06-15T23:59:00.000Z', 1)).toBe('2030-07-15');
  });

  it('never leaves the month it belongs to, whatever the day and the interval', () => {
    fc.assert(
      fc.property(
        fc.date({ min: new Date('2000-01-01'), max: new Date('2090-12-31'), noInvalidDate: true }),
        fc.integer({ min: 1, max: 120 }),
        (date, months) => {
          const day = date.toISOString().slice(0, 10);
          const next = nextDue(day, months);
          const ahead =
            (Number(next.slice(0, 4)) - date.getUTCFullYear()) * 12 +
            Number(next.slice(5, 7)) -
            1 -
            date.getUTCMonth();
          expect(ahead).toBe(months);
          expect(Number(next.slice(8))).toBeLessThanOrEqual(date.getUTCDate());
        },
      ),
    );
    expect(daysAfter('2030-12-31', 1)).toBe('2031-01-01');
    expect(daysAfter('2032-03-01', -1)).toBe('2032-02-29');
  });
});

describe('why a control is due', () => {
  it('is that it was never set, from the day it was entered; or the day that was agreed for it', () => {
    expect(kinds(facts())).toEqual(['first 2030-01-05']);
    expect(kinds(facts({ customer: '2030-04-01' }))).toEqual(['customer 2030-04-01']);
    // An interval runs from a proof, and there is none yet.
    expect(kinds(facts({ months: 3, law: { months: 6, by: 'x' } }))).toEqual(['first 2030-01-05']);
  });

  it('is the interval the firm keeps, or its own, or the law’s where that is sooner', () => {
    const checked = '2030-02-10';
    expect(kinds(facts({ checked }))).toEqual(['rule 2031-02-10']);
    expect(kinds(facts({ checked, months: 3 }))).toEqual(['rule 2030-05-10']);
    expect(kinds(facts({ checked, law: { months: 6, by: 'an insurer' } }))).toEqual([
      'law 2030-08-10',
      'rule 2031-02-10',
    ]);
    expect(dueReasons(facts({ checked, law: { months: 24, by: 'an insurer' } })).at(-1)?.because).toBe(
      'every 2 years, by an insurer',
    );
    expect(dueReasons(facts({ checked, months: 1 }))[0]?.because).toBe('monthly');
    expect(dueReasons(facts({ checked, months: 18 }))[0]?.because).toBe('every 18 months');
  });

  it('is the day the customer named, until a check has been there for it', () => {
    const customer = '2030-06-01';
    expect(kinds(facts({ checked: '2030-02-10', customer }))[0]).toBe('customer 2030-06-01');
    // A check in the month before was for it; one long before was not.
    expect(kinds(facts({ checked: '2030-05-20', customer }))).toEqual(['rule 2031-05-20']);
    expect(kinds(facts({ checked: '2030-06-05', customer }))).toEqual(['rule 2031-06-05']);
  });

  it('is a drift, a gauge in doubt and what was left undone, each on its own day, the soonest first', () => {
    const all = facts({
      checked: '2030-02-10',
      leaves: { day: '2030-12-24', because: 'drifts' },
      doubts: [
        { day: '2030-04-09', because: 'second' },
        { day: '2030-03-09', because: 'first' },
      ],
      followUp: { day: '2030-03-01', because: 'to be replaced' },
    });
    expect(kinds(all)).toEqual([
      'doubt 2030-03-09',
      'follow-up 2030-03-15',
      'drift 2030-12-24',
      'rule 2031-02-10',
    ]);
    expect(dueReasons(all)[0]?.because).toBe('first');
  });

  it('is always something, never twice of one kind, and in order', () => {
    const day = fc.integer({ min: 0, max: 4000 }).map((n) => daysAfter('2028-01-01', n));
    const some = <T>(a: fc.Arbitrary<T>): fc.Arbitrary<T | undefined> => fc.option(a, { nil: undefined });
    const named = fc.record({ day, because: fc.string() });
    fc.assert(
      fc.property(
        day,
        some(day),
        some(fc.integer({ min: 1, max: 120 })),
        some(day),
        some(named),
        fc.array(named, { maxLength: 3 }),
        (since, checked, months, customer, leaves, doubts) => {
          const reasons = dueReasons({
            since,
            doubts,
            ...(checked ? { checked } : {}),
            ...(months ? { months } : {}),
            ...(customer ? { customer } : {}),
            ...(leaves ? { leaves } : {}),
          });
          expect(reasons.length).toBeGreaterThan(0);
          expect(new Set(reasons.map((r) => r.kind)).size).toBe(reasons.length);
          expect(reasons.map((r) => r.day)).toEqual(reasons.map((r) => r.day).sort());
        },
      ),
    );
  });
});
