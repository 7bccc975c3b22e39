import {
  checkOf,
  FoldedJob,
  type AsTyped,
  type JobBody,
  NOT_HELD,
  parseEvent,
  type JobEvent,
  JobLog,
  fold,
} from '@firm-needle/core/procedure';
import { describe, it, expect } from '@jest/globals';
import { HandLog, startedOf, planOf, psi, WATER } from '../testing.js';
import { family as wellSwitch } from '../well-switch/index.js';
import { script } from './scripted.js';

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
