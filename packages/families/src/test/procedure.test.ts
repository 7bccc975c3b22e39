import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { family as wellSwitch } from '../well-switch/index.js';
import { sheetOf } from '@firm-needle/core/family';
import { fold, JobLog, FoldedJob, offer, skippable, type JobEvent } from '@firm-needle/core/procedure';
import { HandLog, planOf, psi, scripted, startedOf, WATER } from '../testing.js';
import { begun, procedure, view } from './begun.js';

describe('fold', () => {
  it('is total: what does not fit is set aside with a reason', () => {
    const h = new HandLog();
    h.read('cutIn', 40, 'found-cut-in');
    h.add(startedOf(planOf()));
    h.add(startedOf(planOf()));
    h.add({ kind: 'note', text: 'from elsewhere' }, { device: 'phone' });
    h.add({
      kind: 'read',
      setting: 'cutIn',
      slot: 'nowhere',
      value: { text: '1', unit: 'psi', value: psi(1) },
      state: 'typed',
      at: { key: 'k', pass: '1' },
    });
    expect(h.log.state.aside.map((a) => a.reason)).toEqual([
      'The job was not started yet.',
      'The job was already started.',
      'Another device held the job; adopt it to let it count.',
      'No gauge is in the place "nowhere".',
    ]);
    expect(h.log.events).toHaveLength(5);
  });

  it('counts an event once however often it comes', () => {
    const h = begun();
    const e = h.read('cutIn', 40, 'found-cut-in');
    expect(fold('job', [...h.log.events, e, e]).reads).toHaveLength(1);
  });

  it('lets a correction take the original’s place, the latest one win, and a withdrawal remove', () => {
    const h = begun();
    const wrong = h.read('cutIn', 12, 'found-cut-in');
    if (wrong.body.kind !== 'read') throw new Error();
    const fix = (v: number) =>
      ({ ...wrong.body, value: { text: String(v), unit: 'psi', value: psi(v) } }) as typeof wrong.body;
    h.read('cutOut', 62, 'found-cut-out');
    h.add({ kind: 'correct', corrects: wrong.id, reason: 'misread', body: fix(41) });
    h.add({ kind: 'correct', corrects: wrong.id, reason: 'misread again', body: fix(42) });
    const read = h.log.state.reads[0];
    expect(read?.body.value.text).toBe('42');
    expect(read?.order).toBeLessThan(h.log.state.reads[1]?.order ?? 0);
    h.add({ kind: 'correct', corrects: wrong.id, reason: 'mis-tap' });
    expect(h.log.state.reads.map((r) => r.body.setting)).toEqual(['cutOut']);
    expect(h.log.events).toHaveLength(6);
  });

  it('refuses a correction of another kind, or of a correction', () => {
    const h = begun();
    const read = h.read('cutIn', 40, 'found-cut-in');
    h.add({ kind: 'correct', corrects: read.id, reason: 'no', body: { kind: 'note', text: 'x' } });
    expect(h.log.state.aside.at(-1)?.reason).toContain('same kind');
    expect(h.log.state.reads).toHaveLength(1);
  });

  it('freezes at the signature but takes notes', () => {
    const h = begun();
    const read = h.read('cutIn', 40, 'found-cut-in');
    h.add({ kind: 'sign', outcome: 'unfinished', by: 'me', coreVersion: '0', result: null });
    h.read('cutIn', 44, 'found-cut-in');
    h.add({ kind: 'correct', corrects: read.id, reason: 'late' });
    h.add({ kind: 'note', text: 'tell the office' });
    expect(h.log.state.reads.map((r) => r.body.value.text)).toEqual(['40']);
    expect(h.log.state.notes).toHaveLength(1);
    expect(h.log.state.aside).toHaveLength(2);
  });

  it('hands a job over by a take, and adopts what was written meanwhile', () => {
    const h = begun();
    const early = h.add({ kind: 'note', text: 'written on the phone' }, { device: 'phone' });
    h.add({ kind: 'take' }, { device: 'phone' });
    h.add({ kind: 'adopt', ids: [early.id] }, { device: 'phone' });
    expect(h.log.state.notes.map((n) => n.body.text)).toEqual(['written on the phone']);
    expect(h.log.state.aside).toEqual([]);
  });

  it('comes to the same whether folded at once or event by event', () => {
    const { log } = scripted(['drifted-switch'], 5);
    const grown = new JobLog(log.job);
    for (const e of log.events) grown.append(e);
    const sheets = [fold(log.job, log.events), grown.state].map((s) =>
      sheetOf(wellSwitch, new FoldedJob(wellSwitch, s)),
    );
    expect(sheets[0]).toEqual(sheets[1]);
  });

  it('survives any log at all', () => {
    const { log } = scripted(['low-precharge'], 3);
    fc.assert(
      fc.property(fc.shuffledSubarray([...log.events] as JobEvent[]), (events) => {
        const s = fold(log.job, events);
        expect(s.ids.size + s.aside.length).toBe(new Set(events.map((e) => e.id)).size);
        if (s.started) expect(offer(procedure, new FoldedJob(wellSwitch, s)).walk.length).toBeGreaterThan(0);
      }),
      { numRuns: 60 },
    );
  });
});

describe('judging', () => {
  it('applies the zero in the fold, so a later zero re-judges everything', () => {
    const h = begun();
    const zero = (v: number) => ({
      kind: 'zero' as const,
      slot: 'system',
      before: { text: String(v), unit: 'psi', value: psi(v) },
      after: { text: String(v), unit: 'psi', value: psi(v) },
      handling: 'carried' as const,
    });
    h.add({ ...zero(-1), at: { key: 'zero-system', pass: '1' } });
    h.read('cutIn', 42, 'found-cut-in');
    const before = view(h).figure('cutIn', 'found');
    expect(before?.value).toBeCloseTo(psi(43), 6);
    h.add({ ...zero(0.5), at: { key: 'zero-again', pass: '1' } });
    const after = view(h).figure('cutIn', 'found');
    // Read halfway between the two checks: the zero stood at −0.25 psi.
    expect(after?.value).toBeCloseTo(psi(42.25), 6);
    expect(after?.budget.U).toBeGreaterThan((before?.budget.U ?? 0) * 1.2);
  });

  it('does not unprove what agreed when a zero at the end shows that the gauge had drifted', () => {
    const h = begun();
    const zero = (v: number, key: string) =>
      h.add({
        kind: 'zero',
        slot: 'system',
        before: { text: String(v), unit: 'psi', value: psi(v) },
        after: { text: String(v), unit: 'psi', value: psi(v) },
        handling: 'carried',
        at: { key, pass: '1' },
      });
    zero(0, 'zero-system');
    h.read('cutIn', 43, 'found-cut-in', 'found', '1.1');
    h.minute += 60;
    h.read('cutIn', 43.75, 'found-cut-in', 'found', '1.2');
    expect(view(h).proved('cutIn')).toBe(true);
    zero(-1.5, 'zero-again');
    const readings = view(h).readings('cutIn');
    // By their times the two lie more than a quarter of the band apart now.
    expect((readings[1]?.value ?? NaN) - (readings[0]?.value ?? NaN)).toBeGreaterThan(psi(1.5));
    expect(view(h).proved('cutIn')).toBe(true);
  });

  it('means the found readings, and the agreeing run since the last change as left', () => {
    const h = begun();
    h.read('cutIn', 38, 'found-cut-in', 'found', '1.1');
    h.read('cutIn', 39, 'found-cut-in', 'found', '1.2');
    h.add({ kind: 'turn', adjuster: 'range', amount: 2, text: '2', at: { key: 'turn-range', pass: '1.1' } });
    expect(view(h).due('cutIn')).toBe(true);
    for (const v of [46, 43, 43.5]) h.read('cutIn', v, 'x', 'adjust', String(v));
    expect(view(h).figure('cutIn', 'found')?.value).toBeCloseTo(psi(38.5), 3);
    expect(view(h).figure('cutIn', 'left')).toMatchObject({ n: 2 });
    expect(view(h).figure('cutIn', 'left')?.value).toBeCloseTo(psi(43.25), 3);
    expect(view(h).netTurns('range')).toBe(2);
  });

  it('judges found by the opening plan and left by the last', () => {
    const h = begun();
    h.add({
      kind: 'zero',
      slot: 'system',
      before: { text: '0', unit: 'psi', value: 0 },
      after: { text: '0', unit: 'psi', value: 0 },
      handling: 'carried',
      at: { key: 'zero-system', pass: '1' },
    });
    h.read('cutIn', 43, 'found-cut-in');
    h.add({ kind: 'planned', plan: planOf({ cutIn: '47 psi' }), reason: 'the customer asked' });
    expect(view(h).verdict('cutIn', 'found')?.word).toBe('in');
    expect(view(h).verdict('cutIn', 'left')?.word).toBe('out');
  });

  it('turns in into near when the same readings come from a coarse gauge', () => {
    const judged = (gauge: typeof WATER): string | undefined => {
      const h = begun();
      h.add({ kind: 'gauge', slot: 'system', gauge, reason: 'swapped' });
      h.add({
        kind: 'zero',
        slot: 'system',
        before: { text: '0', unit: 'psi', value: 0 },
        after: { text: '0', unit: 'psi', value: 0 },
        handling: 'carried',
        at: { key: 'zero-system', pass: '1' },
      });
      h.read('cutIn', 43, 'found-cut-in', 'found', '1.1');
      h.read('cutIn', 43, 'found-cut-in', 'found', '1.2');
      return view(h).verdict('cutIn', 'found')?.word;
    };
    expect(judged(WATER)).toBe('in');
    expect(
      judged({
        ...WATER,
        id: 'coarse',
        label: 'T-9',
        upper: 160,
        division: 2,
        accuracy: { standard: 'B40.100', grade: 'B' },
      }),
    ).toBe('near');
  });

  it('has the differential by relation and the run time by timing', () => {
    const h = begun();
    h.read('cutIn', 40, 'found-cut-in');
    const out = h.read('cutOut', 61, 'found-cut-out');
    if (out.body.kind !== 'read') throw new Error();
    h.add({ ...out.body, since_s: 95, at: { ...out.body.at, pass: '2' } });
    expect(view(h).figure('differential', 'found')?.value).toBeCloseTo(psi(21), 3);
    expect(view(h).figure('runTime', 'found')?.value).toBe(95);
  });
});

describe('what must not be reached', () => {
  it('is nearer by all that the gauge may show too little', () => {
    const h = begun();
    h.read('cutIn', 40, 'found-cut-in');
    h.read('cutOut', 58, 'found-cut-out');
    const job = view(h);
    const relief = wellSwitch.never(job.plan, 'cutOut');
    const aim = job.aims('range').find((a) => a.setting === 'cutOut');
    const U = job.figure('cutOut', 'left')?.budget.U ?? NaN;
    expect(U).toBeGreaterThan(psi(0.3));
    expect(relief - (aim?.never ?? NaN)).toBeCloseTo(U, 6);
    // What was never read is not known to be nearer.
    expect(
      view(begun())
        .aims('range')
        .find((a) => a.setting === 'cutOut')?.never,
    ).toBeCloseTo(relief, 6);
  });
});

describe('what is offered next', () => {
  it('begins with the cautions, which cannot be skipped', () => {
    const h = begun();
    const o = offer(procedure, view(h));
    expect(o.now?.step.key).toBe('cautions');
    expect(o.now && skippable(o.now.step)).toBe(false);
    h.add({ kind: 'skip', reason: 'in a hurry', at: { key: 'cautions', pass: '1' } });
    expect(offer(procedure, view(h)).now?.step.key).toBe('cautions');
  });

  it('asks again for what was confirmed more than thirty minutes ago, or on another device', () => {
    const h = begun();
    h.add({ kind: 'done', at: { key: 'cautions', pass: '1' }, sets: { cautions: 'read' } });
    expect(offer(procedure, view(h)).missing).toEqual([]);
    expect(offer(procedure, view(h, 45)).missing.map((m) => m.fact)).toEqual(['cautions']);
    expect(offer(procedure, view(h, 0, 'phone')).missing.map((m) => m.fact)).toEqual(['cautions']);
  });

  it('never offers the nut with the power on, and asks for the permit', () => {
    const { log } = scripted(['drifted-switch'], 2);
    const upTo = log.events.findIndex((e) => e.body.kind === 'turn');
    const state = fold(log.job, log.events.slice(0, upTo));
    const now = new FoldedJob(wellSwitch, state);
    expect(offer(procedure, now).now?.step.key).toBe('turn-range');
    expect(offer(procedure, now).missing).toEqual([]);
    state.facts.set('power', 'on');
    expect(offer(procedure, now).missing).toMatchObject([
      { fact: 'power', wanted: 'dead', title: 'Locked off, proved dead' },
    ]);
    const start = log.events[0];
    if (start?.body.kind !== 'started') throw new Error();
    const noPermit = fold(log.job, [
      { ...start, body: { ...start.body, permits: [] } },
      ...log.events.slice(1, upTo),
    ]);
    expect(offer(procedure, new FoldedJob(wellSwitch, noPermit)).permit).toBe('mains');
  });

  it('leaves early by way of the steps that make the site safe', () => {
    const { log } = scripted([], 2);
    const drained =
      log.events.findIndex((e) => e.body.kind === 'done' && e.body.at.key === 'found-drain') + 1;
    const h = new JobLog(log.job, log.events.slice(0, drained));
    const last = h.events.at(-1);
    if (!last) throw new Error();
    h.append({ ...last, id: 'leave', body: { kind: 'leave', outcome: 'unfinished', reason: 'called away' } });
    const o = offer(procedure, new FoldedJob(wellSwitch, h.state));
    expect(o.now?.step.key).toBe('end-power');
    expect(o.finished).toBe(false);
    expect(o.walk.filter((i) => i.status === 'done').length).toBeGreaterThan(5);
  });
});
