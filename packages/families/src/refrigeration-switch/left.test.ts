import { FoldedJob, offer } from '@firm-needle/core/procedure';
import { installed } from '@firm-needle/core/script';
import { describe, expect, it } from '@jest/globals';
import { atStep, HandLog, kitJobs, leftAfter as stepsLeft } from '../testing.js';
import { family } from './index.js';
import { kit } from './kit.js';
import { bar } from './bounds.js';

const { onKit } = kitJobs(family, kit);
const DUAL = 'refrigeration switch, dual';

describe('a refrigeration switch that is left in the middle', () => {
  const leftAfter = (name: string, fault: string, seed: number, key: string): readonly string[] =>
    stepsLeft(family, onKit(name, fault, seed), atStep(key));

  it('is left locked off where a spindle was turned and it was not seen to act since', () => {
    const ahead = leftAfter(DUAL, 'high-low', 1, 'turn-high');
    expect(ahead).toEqual(expect.arrayContaining(['plates-back', 'off']));
    expect(ahead.at(-1)).toBe('end-locked');
  });

  it('runs on where nothing was touched, its valve open and its fan on', () => {
    const ahead = leftAfter(DUAL, 'none', 1, 'found-stop');
    expect(ahead).toContain('off');
    expect(ahead.at(-1)).toBe('end');
  });

  it('has its nitrogen off, and is not left on the bottle', () => {
    const ahead = leftAfter('refrigeration switch, by nitrogen', 'none', 1, 'n-found-start');
    expect(ahead).toEqual(expect.arrayContaining(['n-off', 'off']));
  });

  it('stays locked off where its high side may stop over what its parts allow, whatever is decided', () => {
    const variant = kit.variants[0];
    if (!variant) throw new Error('no variant');
    const h = new HandLog();
    h.add(installed(family, kit, variant).started);
    h.add({ kind: 'done', at: { key: 'cautions', pass: '1' }, sets: { cautions: 'read' } });
    h.add({
      kind: 'read',
      setting: 'hpStop',
      slot: 'high',
      value: { text: '23.6', unit: 'bar', value: bar(23.6) },
      state: 'typed',
      at: { key: 'found-high', pass: '1.1', phase: 'found' },
    });
    h.add({ kind: 'observe', answer: 'leave', at: { key: 'decide', pass: '1.1' } });
    const view = new FoldedJob(family, h.log.state);
    // Nine tenths of its relief are 23.4 bar.
    const walk = offer(family.procedure(view.plan), view).walk.map((i) => i.step.key);
    expect(walk.at(-1)).toBe('end-locked');
  });
});
