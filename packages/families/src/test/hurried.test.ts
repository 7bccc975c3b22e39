// Hands in a hurry: what was taken before its contact acted is found out at the next step, and nothing is made of it.
import { describe, expect, it } from '@jest/globals';
import { doubtZero } from '@firm-needle/core/family';
import { FoldedJob, stepsOf } from '@firm-needle/core/procedure';
import { clumsy, ScriptedTechnician } from '@firm-needle/core/script';
import { faultsOf, installed, rigFor, workedOn } from '../define/kit.js';
import { loadFamily } from '../registry.js';
import { foundReadings, wasHad } from '../shared/found.js';
import { scattersSince } from '../shared/scatter.js';
import { told } from '../shared/seen.js';
import { HandLog, planOf, psi, startedOf } from '../testing.js';
import { family as wellSwitch } from '../well-switch/index.js';
import { kitOf } from './kitOf.js';

/** Cut-ins in a row; an `e` was taken early, a `turn` moves the switch. */
function switchJob(...list: readonly (number | string)[]): FoldedJob {
  const log = new HandLog();
  log.add(startedOf(planOf()));
  list.forEach((x, i) => {
    const at = { key: 'found-cut-in', pass: `1.${i + 1}`, phase: 'found' } as const;
    if (x === 'turn')
      log.add({
        kind: 'turn',
        adjuster: 'range',
        amount: 0.5,
        text: '½ turn',
        at: { key: 'turn-range', pass: `1.${i + 1}` },
      });
    else {
      const value = Number(String(x).replace('e', ''));
      log.add({
        kind: 'read',
        setting: 'cutIn',
        slot: 'system',
        value: { text: String(value), unit: 'psi', value: psi(value) },
        state: String(x).startsWith('e') ? 'early' : 'caught',
        at,
      });
    }
  });
  return new FoldedJob(wellSwitch, log.log.state);
}

describe('a reading that nobody waited for', () => {
  it('is none yet after a turn; two of them are believed, for a needle may never stand', () => {
    expect(switchJob(43, 'turn').due('cutIn')).toBe(true);
    expect(switchJob(43, 'turn', 'e52').due('cutIn')).toBe(true);
    expect(switchJob(43, 'turn', 'e52', 'e51').due('cutIn')).toBe(false);
    expect(switchJob(43, 'turn', 46).due('cutIn')).toBe(false);
    expect(switchJob(43, 'turn', 'e52', 46).due('cutIn')).toBe(false);
  });

  it('counts for no finding, until there are five', () => {
    expect(foundReadings(switchJob(43, 'e60', 43), 'cutIn')).toEqual([psi(43), psi(43)]);
    expect(foundReadings(switchJob('e1', 'e2', 'e3', 'e4', 43), 'cutIn')).toHaveLength(5);
    expect(wasHad(switchJob('e60'), 'cutIn')).toBe(false);
    expect(wasHad(switchJob('e60', 'e61'), 'cutIn')).toBe(true);
    expect(wasHad(switchJob(43), 'cutIn')).toBe(true);
  });

  it('makes no sound device scatter, nor does one reading of another gauge', () => {
    const scatters = (...list: readonly (number | string)[]): boolean =>
      scattersSince(switchJob(...list), 'cutIn', 0);
    expect(scatters(43, 'e20', 43.5, 'e70', 43, 'e5', 43.5, 43)).toBe(false);
    expect(scatters(43, 43.5, 8, 43, 43.5, 43)).toBe(false);
    expect(scatters(30, 43, 52, 36)).toBe(false);
    expect(scatters(30, 43, 52, 36, 60)).toBe(true);
  });
});

describe('a zero that makes a gauge unfit', () => {
  const job = (...zeros: readonly number[]): FoldedJob => {
    const log = new HandLog();
    log.add(startedOf(planOf()));
    zeros.forEach((n, i) => {
      const value = { text: String(n), unit: 'psi', value: psi(n) };
      log.add({
        kind: 'zero',
        slot: 'system',
        before: value,
        after: value,
        handling: 'carried',
        at: { key: i === 0 ? 'zero-system' : 'zero-again', pass: '1' },
      } as never);
    });
    return new FoldedJob(wellSwitch, log.log.state);
  };
  const asked = (n: number, ...before: readonly number[]): string | undefined =>
    doubtZero(job(...before), 'system', { text: String(n), value: psi(n) })?.message;

  it('is asked about before it is believed; one that a sound gauge has is not', () => {
    expect(asked(0.5)).toBeUndefined();
    expect(asked(-1.5)).toBeUndefined();
    expect(asked(5)).toMatch(/^5\? A zero more than 2\.0 psi off makes T-1 unfit\.$/);
    expect(asked(-5)).toMatch(/unfit/);
  });

  it('is asked about where it moved since it was read before', () => {
    expect(asked(1.5, 1)).toBeUndefined();
    expect(asked(1.8, -1)).toMatch(/It read −1\.0 before, and a sound zero does not move so far/);
  });

  it('is of no place that has no gauge', () => {
    expect(doubtZero(job(), 'elsewhere', { text: '9', value: psi(9) })).toBeUndefined();
  });
});

/** Where the next step shows that the one before was no reading: the answer that says so. */
const SHOWS: readonly (readonly [id: string, variant: number, step: string, answer: string])[] = [
  ['well-switch', 0, 'found-cut-out', 'not-running'],
  ['well-switch', 0, 'found-cut-in', 'still-runs'],
  ['air-supply', 0, 'found-cut-in', 'still-runs'],
  ['steam-control', 0, 'found-reset', 'not-open'],
  ['refrigeration-switch', 5, 'n-found-stop', 'still-open'],
  ['refrigeration-switch', 5, 'n-found-start', 'still-made'],
];
it.each(SHOWS)(
  '%s, variant %d: %s offers %s, and it is seen before the gauge is',
  async (id, n, key, code) => {
    const kit = kitOf(id);
    const variant = kit.variants[n];
    if (!variant) throw new Error(`${id} has no variant ${n}.`);
    const { family, plan } = installed(await loadFamily(id), kit, variant);
    const step = stepsOf(family, plan).get(key);
    expect(step?.kind).toBe('read');
    expect(step?.kind === 'read' && step.instead?.find((c) => c.code === code)).toMatchObject({
      before: 'rarely',
    });
  },
);

describe.each(['steam-control', 'refrigeration-switch', 'air-supply', 'well-switch', 'well-drive'])(
  'a %s, answered early now and then',
  (id) => {
    const kit = kitOf(id);
    it('is not condemned where it is sound, in any of its variants', async () => {
      const family = await loadFamily(id);
      const wrong: string[] = [];
      for (const variant of kit.variants) {
        const right = { ...kit.concludes, ...variant.concludes }['none'] ?? [];
        for (const seed of [11, 12, 13, 14, 15, 16]) {
          const job = workedOn(
            installed(family, kit, variant),
            { seed, faults: faultsOf('none') },
            clumsy(['early'], seed * 31),
          );
          if (!right.some(([outcome]) => outcome === job.outcome || job.outcome === 'set'))
            wrong.push(`${variant.name}, seed ${seed}: ${job.outcome}`);
        }
      }
      expect(wrong).toEqual([]);
    }, 120_000);
  },
);

it.each([13, 15, 21, 48])(
  'a control on its boiler that stands open with nothing on it is said to, and nobody is asked for its click for ever, seed %d',
  async (seed) => {
    const kit = kitOf('steam-control');
    const variant = kit.variants.find((v) => v.school === 'boiler');
    if (!variant) throw new Error('no variant on its boiler');
    const site = installed(await loadFamily('steam-control'), kit, variant);
    const job = workedOn(site, { seed, faults: ['tilted'] });
    const trips = job.log.events.filter(({ body }) => 'at' in body && body.at?.key.endsWith('-trip'));
    expect(trips.length).toBeLessThan(8);
    expect(job.view.state.observations.some((o) => o.body.answer === 'stays-open')).toBe(true);
    expect(['left-as-found', 'set']).toContain(job.outcome);
  },
);

describe('what is said at a pressure where it cannot be so', () => {
  const high = (n: number): boolean => n > 10;

  it('counts for nothing, unless it is said again and again; what can be so counts at once', () => {
    expect(told([3, 4], high)).toEqual([]);
    expect(told([3, 4, 5], high)).toEqual([3, 4, 5]);
    expect(told([3, 4, 5, 30], high)).toEqual([30]);
    expect(told([], high)).toEqual([]);
  });

  it('ends a job all the same: a compressor whose hands never see it start, or stop, is not asked for ever', async () => {
    const family = await loadFamily('air-supply');
    const kit = kitOf('air-supply');
    const variant = kit.variants[0];
    if (!variant) throw new Error('no variant');
    /** Always the same answer at one step, whatever the rig shows. */
    const insisting = (step: string, answer: string): number => {
      const site = installed(family, kit, variant);
      const rig = rigFor(site, { seed: 2, faults: [] });
      const seen = rig.answer.bind(rig);
      rig.answer = (key) => (key.endsWith(step) ? answer : seen(key));
      const job = new ScriptedTechnician(family, rig, site.started).run();
      return job.log.events.filter(({ body }) => 'at' in body && body.at?.key.endsWith(step)).length;
    };
    expect(insisting('-cut-out', 'missed')).toBeLessThan(8);
    expect(insisting('-cut-in', 'still-runs')).toBeLessThan(12);
  });
});
