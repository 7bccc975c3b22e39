import type { FoldedJob } from '@firm-needle/core/procedure';
import { type Node, branch, offer } from '@firm-needle/core/procedure';
import { describe, it, expect } from '@jest/globals';
import { begun, view } from './begun.js';

describe('what was passed by', () => {
  const note = (key: string): Node => ({ kind: 'confirm', key, title: key, say: key });
  it('stays passed by, also inside a branch that was entered, once something after it was taken', () => {
    const h = begun();
    const inner = branch((j) => j.state.taken.has('late'), [note('inner')]);
    const walked = {
      body: [branch(() => true, [note('first'), inner]), note('then'), note('late'), note('last')],
      restore: [],
    };
    const take = (key: string) => h.add({ kind: 'done', at: { key, pass: '1' } });
    const next = () => offer(walked, view(h)).now?.step.key;
    expect(next()).toBe('first');
    take('first');
    expect(next()).toBe('then');
    take('then');
    take('late');
    // What would open the inner branch now came after it.
    expect(next()).toBe('last');
  });
});
describe('a loop that was left', () => {
  const step = (key: string): Node => ({ kind: 'confirm', key, title: key, say: key });
  it('opens nothing again in its last pass once something after it was taken', () => {
    let [done, late] = [false, false];
    const walk = {
      body: [
        {
          kind: 'until' as const,
          done: () => done,
          body: [step('read'), branch(() => late, [step('turn')])],
        },
        step('close'),
        step('sign'),
      ],
      restore: [],
    };
    const h = begun();
    const next = (): string | undefined => offer(walk, view(h) as FoldedJob).now?.step.key;
    expect(next()).toBe('read');
    h.add({ kind: 'done', at: { key: 'read', pass: '1.1' } });
    done = true;
    expect(next()).toBe('close');
    h.add({ kind: 'done', at: { key: 'close', pass: '1' } });
    // What is learned at the close would have asked for another turn: the loop was left.
    [done, late] = [false, true];
    expect(next()).toBe('sign');
  });
});
