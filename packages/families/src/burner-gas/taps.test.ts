// What hangs on the taps: one manometer that is moved between them, and switches whose tap cannot be let down.
import { describe, expect, it } from '@jest/globals';
import { sheetOf } from '@firm-needle/core/family';
import { FoldedJob } from '@firm-needle/core/procedure';
import type { ScriptedJob } from '@firm-needle/core/script';
import { installed, workedOn } from '../define/kit.js';
import { HandLog, keysOf, kitJobs } from '../testing.js';
import { family } from './index.js';
import { kit } from './kit.js';
import { inches } from './parts.js';

const { siteOf, onKit } = kitJobs(family, kit);
const TRAIN = 'burner gas, train';
const found = (job: ScriptedJob): readonly string[] => family.findings(job.view).map((f) => f.code);
const at = (inH2O: number | undefined): number => (inH2O ?? NaN) / inches(1);

describe('one manometer with one input', () => {
  const ONE = 'burner gas, one input';
  /** Where the tubing hung as each reading of the gas was taken, and where that reading is read. */
  const hung = (job: ScriptedJob): readonly string[] => {
    let on = '';
    return job.log.events.flatMap(({ body }) => {
      if ('sets' in body && body.sets?.['tubing']) on = body.sets['tubing'];
      if (body.kind !== 'read' || body.slot !== 'gas') return [];
      const wants = ['static', 'supplyFlow'].includes(body.setting) ? 'supply' : 'after';
      return on === wants ? [] : [`${body.at.key} read at ${on}`];
    });
  };

  it.each(['none', 'supply-high', 'manifold-off', 'low-dial', 'pipe-small'])(
    'hangs on the tap that is read, whatever is wrong: %s',
    (fault) => {
      const job = onKit(ONE, fault, 2);
      expect(hung(job)).toEqual([]);
      expect(job.unsafe).toEqual([]);
      expect(job.outcome).toBe(onKit(TRAIN, fault, 2).outcome);
    },
  );

  it('is moved once in a good check, between supply and manifold, and not at all with two', () => {
    const moves = (job: ScriptedJob): readonly string[] =>
      keysOf(job).filter((k) => k.startsWith('renew:tubing'));
    const walked = keysOf(onKit(ONE, 'none', 1));
    expect(moves(onKit(ONE, 'none', 1))).toEqual(['renew:tubing=after']);
    expect(walked.indexOf('renew:tubing=after')).toBe(walked.indexOf('found-supply') + 1);
    expect(moves(onKit(TRAIN, 'none', 1))).toEqual([]);
  });

  it('says what is done with it: the port shut, both soaped, and the fire started again where it burned', () => {
    const { started } = siteOf(ONE);
    const say = (burner: 'on' | 'off'): string => {
      const log = new HandLog();
      log.add(started);
      log.add({
        kind: 'done',
        at: { key: 'ports', pass: '1' },
        sets: { ports: 'open', tubing: 'supply', gas: 'on', burner },
      });
      const job = new FoldedJob(family, log.log.state);
      const def = family.facts['tubing']?.['after'];
      return typeof def?.say === 'function' ? def.say(job) : (def?.say ?? '');
    };
    expect(say('on')).toMatch(
      /^Burner off, cock shut\. Tubing to the tap after the regulator, the other port screwed gently in/,
    );
    expect(say('on')).toMatch(/soap both until they are tight\. Stand aside, start it again/);
    expect(say('off')).not.toMatch(/start it again/);
    expect(family.facts['tubing']?.['after']?.cautions).toEqual(['gas', 'ports', 'fire']);
  });
});

describe('a gas switch whose tap cannot be let down', () => {
  const DIAL = 'burner gas, to the dial';
  /** What was last said of the gas cock before a step. */
  const gasAt = (job: ScriptedJob, key: string): string | undefined => {
    let gas: string | undefined;
    for (const { body } of job.log.events) {
      if ('at' in body && body.at?.key === key) return gas;
      if ('sets' in body && body.sets?.['gas']) gas = body.sets['gas'];
    }
    return undefined;
  };
  const limits = (x: 'lowGas' | 'highGas') => siteOf(DIAL).plan.values[x] ?? NaN;

  it.each(['none', 'low-dial', 'high-dial', 'low-dial high-dial'])(
    'has its dial run to what stands there, dead and open, and set by the error that shows: %s',
    (fault) => {
      for (const seed of [1, 2, 3, 4, 5, 6]) {
        const job = onKit(DIAL, fault, seed);
        if (job.outcome === 'unfinished') continue;
        const walked = keysOf(job);
        for (const [x, id] of [
          ['lowGas', 'lowDial'],
          ['highGas', 'highDial'],
        ] as const) {
          expect(walked.indexOf(`run-${id}`)).toBeGreaterThan(walked.indexOf('dead'));
          expect(walked.indexOf(`run-${id}`)).toBeLessThan(walked.indexOf('cover'));
          expect(walked.indexOf(`figure-${id}`)).toBeGreaterThan(walked.indexOf(`run-${id}`));
          // The rig’s dial goes by more or less than it shows: what is set lies within what is said of it.
          const said = family.findings(job.view).find((f) => f.code.endsWith('-carried') && f.about === x);
          const within = Number(/± (\d+\.\d)/.exec(said?.message ?? '')?.[1]);
          expect(within).toBeLessThan(1.2);
          expect(Math.abs(at(job.truth[x]) - limits(x) / inches(1))).toBeLessThan(within);
          expect(job.view.figure(x, 'found')).toBeUndefined();
        }
        expect(found(job)).toEqual(expect.arrayContaining(['low-carried', 'high-carried']));
        expect([job.outcome, job.unsafe]).toEqual(['set', []]);
        // The cock that was opened for them is shut again before the lock comes off.
        expect(gasAt(job, 'cover')).toBe('shut');
        // Air switches let themselves be tripped: they are.
        expect(walked).toEqual(expect.arrayContaining(['found-air-trip', 'found-main-trip']));
        expect(walked).not.toContain('found-low-gas');
      }
    },
  );

  it('waits for no reading on the sheet, for no step reads it; one that a step reads does', () => {
    const rows = sheetOf(family, onKit(DIAL, 'low-dial', 3).view).rows;
    expect(rows.filter((r) => r.due).map((r) => r.setting)).toEqual([]);
    expect(rows.map((r) => r.setting)).toEqual(expect.arrayContaining(['lowGas', 'highGas']));
  });

  it('is not opened again for what the last zero says of it', () => {
    expect(onKit(DIAL, 'port-leaks', 46).outcome).toBe('set');
  });

  it('says what it was found to trip at, from its dial and the error of that', () => {
    const job = onKit(DIAL, 'high-dial', 3);
    const carried = family.findings(job.view).find((f) => f.code === 'high-carried');
    expect(carried?.message).toMatch(/was proved at \d+\.\d inH2O by its dial, which shows \d/);
    const tripped = Number(/found tripping at (\d+\.\d)/.exec(carried?.message ?? '')?.[1]);
    const measured = onKit(TRAIN, 'high-dial', 3).view.figure('highGas', 'found')?.value;
    expect(Math.abs(tripped - at(measured))).toBeLessThan(0.8);
  });

  it('is open already where it trips beyond what stands there: back first, then run to it', () => {
    let backs = 0;
    for (let seed = 1; seed <= 12; seed++) {
      const site = siteOf(DIAL);
      const job = workedOn(site, { seed, faults: ['low-dial'], size: 2.5 });
      const walked = keysOf(job);
      if (!walked.includes('back-lowDial')) continue;
      backs++;
      expect(walked.indexOf('run-lowDial')).toBeGreaterThan(walked.indexOf('back-lowDial'));
      expect(job.unsafe).toEqual([]);
      if (job.outcome === 'set')
        expect(Math.abs(at(job.truth['lowGas']) - limits('lowGas') / inches(1))).toBeLessThan(0.8);
    }
    expect(backs).toBeGreaterThan(0);
  });

  it('that never trips, run to its end, is replaced; and nothing is set where nothing stands at its tap', () => {
    expect(onKit(DIAL, 'welded-low', 2).outcome).toBe('replace');
    const variant = kit.variants.find((v) => v.name === DIAL);
    if (!variant) throw new Error('no variant');
    const behind = installed(family, kit, { ...variant, choices: { lockTap: 'behind' } });
    const job = workedOn(behind, { seed: 2, faults: [] });
    expect(job.view.answer('lowDial-stands')).toBe('none');
    expect(job.outcome).not.toBe('set');
    expect(family.unproved(job.view).map((f) => f.code)).toContain('not-run');
  });
});
