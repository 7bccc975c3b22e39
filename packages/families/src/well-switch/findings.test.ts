import { describe, expect, it } from '@jest/globals';
import { planOf, psi } from '../testing.js';
import { family as wellSwitch } from './index.js';
import { Told, adjustingFrom } from './told.js';

describe('what the as-found readings come to', () => {
  it('leaves alone what stands inside its limits', () => {
    const t = new Told().cycle(43, 63, 1).cycle(43, 63.5, 2).drained(41);
    expect(t.codes).toEqual([]);
    expect(t.next).toBe('found-soap');
    t.saw('found-soap', 'tight');
    // Nothing is asked that the readings have answered.
    expect(t.next).toBe('end-power');
    expect(wellSwitch.recommend(t.view).outcome).toBe('left-as-found');
  });

  it('reads the second cut-out of what stands right as the tank fills again, and asks once that is wrong', () => {
    const one = (): Told => {
      const t = new Told().cycle(43, 63, 1);
      t.h.read('cutIn', 43, 'found-cut-in', 'found', '1.2');
      expect(t.next).toBe('rest');
      return t.drained(41).saw('found-soap', 'tight');
    };
    const t = one();
    // The power comes back with the reading: one look.
    expect(t.next).toBe('refill-cut-out');
    expect(wellSwitch.recommend(t.view).outcome).toBe('unfinished');
    const back = { power: 'on', drain: 'closed' };
    t.h.read('cutOut', 63.5, 'refill-cut-out', 'left', '1.1', back);
    expect(t.next).toBe('zero-again');
    expect(wellSwitch.recommend(t.view).outcome).toBe('left-as-found');
    const off = one();
    off.h.read('cutOut', 67.5, 'refill-cut-out', 'left', '1.1', back);
    expect(off.codes).toContain('unrepeatable');
    expect(off.next).not.toBe('zero-again');
  });

  it('counts no run time of a tank that fills from nothing', () => {
    const t = new Told().cycle(43, 63, 1, 95).cycle(43, 63, 2, 97).drained(41);
    const at = { key: 'end-cut-out', pass: '1', phase: 'left' } as const;
    const out = t.h.read('cutOut', 63, 'end-cut-out', 'left');
    if (out.body.kind === 'read')
      t.h.add({
        kind: 'correct',
        corrects: out.id,
        reason: 'timed',
        body: { ...out.body, since_s: 410, at },
      });
    expect(t.view.figure('runTime', 'left')?.value).toBe(96);
    // The next cycle counts again.
    t.h.read('cutIn', 43, 'prove-cut-in', 'left', '1.1');
    const next = t.h.read('cutOut', 63, 'prove-cut-out', 'left', '1.1');
    if (next.body.kind === 'read')
      t.h.add({ kind: 'correct', corrects: next.id, reason: 'timed', body: { ...next.body, since_s: 99 } });
    expect(t.view.figure('runTime', 'left')?.value).toBe(97);
    // Locked off between, it ran on the clock and not on the pump.
    t.h.read('cutIn', 43, 'prove-cut-in', 'left', '1.2');
    t.done('nut-lock', { power: 'off' }, '1.2').done('nut-power', { power: 'on' }, '1.2');
    const off = t.h.read('cutOut', 63, 'prove-cut-out', 'left', '1.2');
    if (off.body.kind === 'read')
      t.h.add({ kind: 'correct', corrects: off.id, reason: 'timed', body: { ...off.body, since_s: 700 } });
    expect(t.view.figure('runTime', 'left')?.value).toBe(97);
  });

  it('adjusts what is out', () => {
    expect(new Told().cycle(39, 59, 1).cycle(39, 59, 2).drained(37).advised).toBe('adjust');
  });

  it('names a low precharge and by how much', () => {
    const t = new Told().cycle(43, 63, 1).cycle(43, 63, 2).drained(33);
    expect(t.codes).toContain('precharge-low');
    expect(wellSwitch.findings(t.view)[0]?.message).toBe('Precharge was found at 33.0 psi, 8.0 psi low.');
  });

  it('names a charge that stands by the rule for a drive', () => {
    const t = new Told().cycle(43, 63, 1).cycle(43, 63, 2).drained(44);
    expect(t.codes).toContain('charged-as-drive');
    expect(t.codes).not.toContain('precharge-low');
  });

  it('calls a short run with next to no charge waterlogged, and with the right charge a small tank', () => {
    expect(new Told().cycle(43, 63, 1, 25).cycle(43, 63, 2, 26).drained(12).codes).toContain('waterlogged');
    expect(new Told().cycle(43, 63, 1, 25).cycle(43, 63, 2, 26).drained(41).codes).toContain('tank-small');
  });

  it('replaces the tank when water comes out of the air valve', () => {
    const t = new Told().cycle(43, 63, 1).cycle(43, 63, 2).drained(undefined);
    expect(t.codes).toContain('ruptured-bladder');
    expect(t.advised).toBe('replace');
    expect(wellSwitch.recommend(t.view)).toMatchObject({ outcome: 'replace' });
  });

  it('replaces a switch that does not repeat, after a third cycle has made sure', () => {
    const two = new Told().cycle(43, 63, 1).cycle(43, 58, 2);
    expect(two.next).toBe('found-cut-in');
    const three = two.cycle(43, 61, 3).drained(41);
    expect(three.codes).toContain('unrepeatable');
    expect(three.advised).toBe('replace');
  });

  it('does not blame the switch for a cut-in that scatters because the tank was empty', () => {
    const t = new Told().cycle(38, 63, 1).cycle(35, 63, 2).cycle(36, 63, 3).drained(41);
    expect(t.codes).toContain('empties-first');
    expect(t.codes).not.toContain('unrepeatable');
  });

  it('replaces a narrowed switch under the school that leaves the differential, and sets it under the other', () => {
    const narrow = (school: string): Told => {
      const plan = planOf();
      return new Told({ ...plan, school, choices: { both: 'wanted' } })
        .cycle(43, 54, 1)
        .cycle(43, 54, 2)
        .cycle(43, 54, 3)
        .drained(41);
    };
    expect(narrow('leave-differential').advised).toBe('replace');
    expect(narrow('leave-differential').codes).toContain('differential-narrowed');
    expect(narrow('set-both').advised).toBe('adjust');
  });

  it('locks off and replaces a switch that does not stop the pump', () => {
    const t = new Told();
    t.h.read('cutIn', 43, 'found-cut-in', 'found', '1.1');
    t.saw(
      'found-cut-out',
      'climbs',
      {
        sets: { power: 'off' },
        bounds: { setting: 'cutOut', side: 'above' },
        value: { text: '75', unit: 'psi', value: psi(75) },
      },
      '1.1',
    );
    // With the power already off, what remains is the house valve and the drain.
    expect(t.next).toBe('found-drain');
    expect(t.codes).toContain('does-not-stop');
    expect(wellSwitch.recommend(t.view).outcome).toBe('replace');
  });

  it('looks at the well, not at the switch, when the pump runs on under cut-out', () => {
    const t = new Told();
    t.h.read('cutIn', 43, 'found-cut-in', 'found', '1.1');
    t.saw('found-cut-out', 'stalls', {}, '1.1').drained(41);
    expect(t.codes).toContain('below-cut-out');
    expect(t.advised).toBe('leave');
  });

  it('names a fall at rest, and a pump that does not start', () => {
    const t = new Told().cycle(43, 63, 1).cycle(43, 63, 2);
    // A minute a line: two after the cut-out, eight psi lower.
    t.saw('rest', 'falls', { value: { text: '55', unit: 'psi', value: psi(55) } });
    expect(wellSwitch.findings(t.view).find((f) => f.code === 'falls-at-rest')?.message).toBe(
      'The pressure falls 4.0 psi a minute with nothing drawn: check valve or a leak.',
    );
    const untold = new Told().cycle(43, 63, 1).cycle(43, 63, 2).saw('rest', 'falls');
    expect(wellSwitch.findings(untold.view).find((f) => f.code === 'falls-at-rest')?.message).toBe(
      'The pressure falls with nothing drawn: check valve or a leak.',
    );
    const dead = new Told().saw('found-cut-in', 'no-start', {}, '1.1');
    expect(dead.codes).toContain('does-not-start');
    expect(dead.next).toBe('found-drain');
  });

  it('compares the pair inside the cover with what is planned', () => {
    const told = (inside: string, outside: string): string[] => {
      const t = adjustingFrom(39, 59);
      const at = (text: string) => ({ value: { text, unit: 'psi', value: psi(Number(text)) } });
      return t.saw('rated-in', 'shows', at(inside), '1.1').saw('rated-out', 'shows', at(outside), '1.1')
        .codes;
    };
    expect(told('40', '60').filter((c) => c.startsWith('off-rated'))).toEqual([]);
    expect(told('20', '40').filter((c) => c.startsWith('off-rated'))).toEqual([
      'off-rated-in',
      'off-rated-out',
    ]);
    expect(told('40', '80').filter((c) => c.startsWith('off-rated'))).toEqual(['off-rated-out']);
  });

  it('doubts a gauge that will not zero, and carries one that is merely off', () => {
    expect(new Told().zero('system', 3, 'zero-system', '2').codes).toContain('gauge-unfit');
    expect(new Told().zero('system', 1.5, 'zero-system', '2').codes).toContain('gauge-zero');
  });
});
