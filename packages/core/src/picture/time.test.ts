import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { timeScaleOf, timeText, timeTicks, typedTime, type TimeScale } from './time.js';

const at = (text: string): number => Date.parse(`${text}Z`) / 1000;
const texts = (from: number, to: number, scale: TimeScale, most = 8): readonly string[] =>
  timeTicks(from, to, scale, most).map((t) => t.text);

describe('a time axis', () => {
  it('says the time of day of a dated trace, and the day where it begins and where it changes', () => {
    expect(texts(at('2031-06-03T07:02:10'), at('2031-06-03T07:48:00'), 'date', 6)).toEqual([
      '3 Jun 07:10',
      '07:20',
      '07:30',
      '07:40',
    ]);
    expect(texts(at('2031-06-03T20:00:00'), at('2031-06-04T10:00:00'), 'date', 6)).toEqual([
      '3 Jun 21:00',
      '4 Jun 00:00',
      '03:00',
      '06:00',
      '09:00',
    ]);
    expect(texts(at('2031-06-03T07:00:00'), at('2031-06-03T07:00:04'), 'date', 4)[1]).toBe('07:00:01');
    expect(texts(at('2031-01-30T00:00:00'), at('2031-02-05T00:00:00'), 'date', 7)).toContain('1 Feb');
  });

  it('says seconds, minutes, hours or days of one that counts from its beginning', () => {
    expect(texts(0, 100, 'elapsed', 5)).toEqual(['0 s', '30 s', '60 s', '90 s']);
    expect(texts(0, 3600, 'elapsed', 5)).toEqual(['0 min', '15 min', '30 min', '45 min', '60 min']);
    expect(texts(0, 90_000, 'elapsed', 5).at(-1)).toBe('24 h');
    expect(texts(-2, 0, 'elapsed', 2)).toContain('−1 s');
    expect(texts(8 * 3600, 9 * 3600, 'clock', 4)).toEqual(['08:00', '08:15', '08:30', '08:45', '09:00']);
  });

  it('never has more ticks than there is room for, nor two that say the same, whatever the span', () => {
    fc.assert(
      fc.property(
        fc.constantFrom<TimeScale>('date', 'clock', 'elapsed'),
        fc.double({ min: 0, max: 86_000, noNaN: true }),
        fc.double({ min: 0.3, max: 60_000, noNaN: true }),
        fc.integer({ min: 2, max: 14 }),
        (scale, from, span, most) => {
          const first = scale === 'date' ? 19e8 + from : from;
          const ticks = timeTicks(first, first + span, scale, most);
          expect(ticks.length).toBeLessThanOrEqual(most + 1);
          expect(new Set(ticks.map((t) => t.text)).size).toBe(ticks.length);
          for (const { t } of ticks) expect(t >= first - 1e-3 && t <= first + span + 1e-3).toBe(true);
        },
      ),
    );
    expect(timeTicks(5, 5, 'elapsed', 4)).toEqual([]);
    expect(timeTicks(0, 5e9, 'elapsed', 4).length).toBeLessThanOrEqual(5);
  });

  it('is told by how large its seconds are, and by how its file writes them', () => {
    expect(timeScaleOf(at('2031-06-03T00:00:00'))).toBe('date');
    expect(timeScaleOf(30_000, true)).toBe('clock');
    expect(timeScaleOf(30_000)).toBe('elapsed');
  });
});

describe('a time that is typed', () => {
  it('comes back as it was said, to a tenth', () => {
    fc.assert(
      fc.property(
        fc.constantFrom<TimeScale>('date', 'clock', 'elapsed'),
        fc.integer({ min: 0, max: 863_999 }),
        (scale, tenths) => {
          const from = scale === 'date' ? at('2031-06-03T00:00:00') : 0;
          const t = from + tenths / 10;
          expect(typedTime(timeText(t, scale), scale, from, from + 86_400)).toBeCloseTo(t, 5);
        },
      ),
    );
    expect(timeText(at('2031-06-03T07:59:59.97'), 'date')).toBe('3 Jun 2031, 08:00:00.0');
  });

  it('is a time of day on the day of the trace, seconds, or none', () => {
    const [from, to] = [at('2031-06-03T22:00:00'), at('2031-06-04T04:00:00')];
    expect(typedTime('23:15', 'date', from, to)).toBe(at('2031-06-03T23:15:00'));
    expect(typedTime('1:15:30', 'date', from, to)).toBe(at('2031-06-04T01:15:30'));
    expect(typedTime('4 jun 2031 01:00', 'date', from, to)).toBe(at('2031-06-04T01:00:00'));
    expect(typedTime('12,5', 'elapsed', 0, 60)).toBe(12.5);
    for (const none of ['5:00', 'noon', '', '4 Foo 2031 01:00', '5 Jun 2031 01:00'])
      expect(typedTime(none, 'date', from, to)).toBeNaN();
    for (const none of ['61', '1:00', 'x', '1.2.3']) expect(typedTime(none, 'elapsed', 0, 60)).toBeNaN();
  });
});
