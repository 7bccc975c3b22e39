import type { JobBody } from '@firm-needle/core/procedure';
import { describe, it, expect } from '@jest/globals';
import { psi } from '../testing.js';
import { displayOwed } from '../well-drive/state.js';
import { worked, told } from './asking.js';

describe('a drive', () => {
  it('that never sleeps is not set until somebody found why', async () => {
    const found = await worked('well-drive', { fault: 'leak' });
    expect(found.keys).toContain('found-why-runs');
    expect(found.family.unproved(found.job.view).map((f) => f.code)).not.toContain('runs-on');
    const unknown = await worked('well-drive', { fault: 'leak', says: { 'found-why-runs': 'none' } });
    expect(unknown.family.unproved(unknown.job.view).map((f) => f.code)).toContain('runs-on');
  });

  /** A set point read at a trickle, and one look at the drive's own figures. */
  const looked = (answer: string, over?: number, more: readonly JobBody[] = []) => {
    const at = (n: number) => ({ text: String(n), unit: 'psi', value: psi(n) });
    return told('well-drive', [
      {
        kind: 'read',
        setting: 'setPoint',
        slot: 'system',
        value: at(60),
        state: 'firm',
        at: { key: 'found-held', pass: '1.1', phase: 'found' },
      },
      {
        kind: 'observe',
        answer,
        ...(over === undefined ? {} : { value: at(60 + over) }),
        at: { key: 'found-own', pass: '1.1' },
      },
      ...more,
    ]);
  };
  const displayed = (n: number): JobBody => ({
    kind: 'observe',
    answer: 'shows',
    value: { text: String(n), unit: 'psi', value: psi(n) },
    at: { key: 'found-display', pass: '1.1' },
  });

  it('is looked at once while the trickle runs that was just read, and where all agrees no more is asked', async () => {
    for (const fault of ['none', 'low-well']) {
      const { keys } = await worked('well-drive', { fault });
      expect(keys.indexOf('found-own')).toBe(keys.indexOf('found-held') + 1);
      expect(keys).not.toContain('found-display');
      expect(keys).not.toContain('dry-run');
    }
  });

  it('is asked what its display shows where that is not what it is told, or what it is told is far from the gauge', async () => {
    const off = await worked('well-drive', { fault: 'sensor-offset' });
    expect(off.keys.indexOf('found-display')).toBe(off.keys.indexOf('found-own') + 1);
    expect(off.codes).toContain('sensor-off');
    const differs = await worked('well-drive', { says: { 'found-own': 'differs' } });
    expect(differs.keys.indexOf('found-display')).toBe(differs.keys.indexOf('found-own') + 1);
    // What it is told was not typed yet, nor its dry-run protection looked at.
    expect(differs.keys).toContain('dry-run');
    expect(differs.codes).not.toContain('sensor-off');
    for (const [over, owed] of [
      [2, false],
      [-2, false],
      [3, true],
      [-3, true],
    ] as const)
      expect(displayOwed((await looked('on', over)).view)).toBe(owed);
  });

  it('is not condemned for what it is told, only for what it shows', async () => {
    const far = await looked('on', 8);
    expect(far.codes).toContain('not-as-programmed');
    expect(far.codes).not.toContain('sensor-off');
    const agrees = await looked('on', 8, [displayed(60.5)]);
    expect(agrees.codes).toContain('not-as-programmed');
    expect(agrees.codes).not.toContain('sensor-off');
    const shows = await looked('on', 8, [displayed(68)]);
    expect(shows.codes).toContain('sensor-off');
    expect(shows.codes).not.toContain('not-as-programmed');
    expect((await looked('on', 0)).codes).not.toContain('not-as-programmed');
  });

  it('whose first reading was of the wrong numeral is judged by the nearest', async () => {
    const read = (n: number, pass: string): JobBody => ({
      kind: 'read',
      setting: 'setPoint',
      slot: 'system',
      value: { text: String(n), unit: 'psi', value: psi(n) },
      state: 'firm',
      at: { key: 'found-held', pass, phase: 'found' },
    });
    const late = await looked('on', 10, [displayed(70.5), read(70, '1.2')]);
    expect(late.codes).not.toContain('sensor-off');
    expect(late.codes).not.toContain('not-as-programmed');
  });

  it('that falls at full draw with speed to spare is not set, and not asked for ever', async () => {
    const { job, keys, codes } = await worked('well-drive', {
      fault: 'low-well',
      says: { 'found-at-most': 'no' },
    });
    expect(job.outcome).toBe('replace');
    expect(codes).toContain('droops');
    expect(keys.filter((k) => k.endsWith('-full')).length).toBeLessThan(5);
    const has = await worked('well-drive', { fault: 'low-well' });
    expect(has.codes).not.toContain('droops');
    expect(has.codes).toContain('outrun');
  });

  it('without dry-run protection is told so, whatever its display shows', async () => {
    expect((await looked('off')).codes).toContain('no-dry-run');
    expect((await looked('on', 0)).codes).not.toContain('no-dry-run');
    const { keys, codes } = await worked('well-drive', {
      says: { 'found-own': 'differs', 'dry-run': 'off' },
    });
    expect(keys).toContain('dry-run');
    expect(codes).toContain('no-dry-run');
  });
});
