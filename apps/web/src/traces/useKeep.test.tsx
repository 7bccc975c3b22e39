import 'fake-indexeddb/auto';
import { describe, expect, it, jest } from '@jest/globals';
import { fireEvent, screen, waitFor } from '@testing-library/react';
import type { EventCorrection } from '@firm-needle/core/trace';
import { accept, refuse, type Result } from '@firm-needle/core/result';
import { useState } from 'react';
import { drawn } from '../testing.tsx';
import { serverThat } from '../testingServer.ts';
import { useKeep } from './useKeep.ts';
import type { OpenTrace } from './useTrace.ts';

type Send = (id: string, meta: object, progress: (part: number) => void) => Promise<Result<number>>;
const none = (t: number): EventCorrection => ({ kind: 'cutIn', found_s: t, why: `knock at ${t}` });

/** What is kept of a trace, with a button for everything that a person does to it. */
function Probe({ send, kept, begun }: { send: Send; kept: boolean; begun: readonly EventCorrection[] }) {
  const [id, setId] = useState('a');
  const [corrections, setCorrections] = useState(begun);
  const trace = {
    id,
    name: 'day.csv',
    kept,
    corrections,
    read: { unit: 'psi' },
    host: { send },
  } as unknown as OpenTrace;
  const keep = useKeep(trace, 'cycles');
  return (
    <>
      <output>
        {[keep.busy && 'busy', keep.done && 'done', keep.part, keep.refusal?.message]
          .filter(Boolean)
          .join(' ')}
      </output>
      <button onClick={() => keep.start({ jobId: 'j1' })}>Keep</button>
      <button onClick={() => setCorrections((all) => [...all, none(all.length + 1)])}>Correct</button>
      <button onClick={() => setId('b')}>Another</button>
    </>
  );
}
const says = (): string => document.querySelector('output')?.textContent ?? '';
const press = (name: string): void => void fireEvent.click(screen.getByRole('button', { name }));

const open = (send: Send, kept = false, begun: readonly EventCorrection[] = []) => {
  const asked = serverThat((method) => (method === 'PUT' ? { data: {} } : undefined));
  drawn(<Probe send={send} kept={kept} begun={begun} />);
  /** Corrections that the server was told of. */
  return () => asked.filter(([, path]) => path.includes('/corrections/'));
};

describe('keeping a trace', () => {
  it('sends it for its job, says how far it is, and goes on after a broken line', async () => {
    const send = jest.fn<Send>();
    send.mockImplementationOnce((_id, _meta, progress) => {
      progress(0.5);
      return Promise.resolve(refuse('trace-not-sent', 'The line broke.'));
    });
    send.mockImplementationOnce(() => Promise.resolve(accept(3)));
    open(send);
    press('Keep');
    await waitFor(() => expect(says()).toBe('0.5 The line broke.'));
    expect(send.mock.calls[0]?.slice(0, 2)).toEqual([
      'a',
      { name: 'day.csv', kind: 'cycles', unit: 'psi', jobId: 'j1' },
    ]);
    press('Keep');
    await waitFor(() => expect(says()).toContain('done'));
    expect(says()).not.toContain('broke');
    // The same trace, under the same id.
    expect(send.mock.calls.map(([id]) => id)).toEqual(['a', 'a']);
  });

  it('that breaks off on the device says so, and may be tried once more', async () => {
    const send = jest.fn<Send>();
    send.mockImplementationOnce(() => Promise.reject(new Error('out of memory')));
    send.mockImplementationOnce(() => Promise.resolve(accept(3)));
    open(send);
    press('Keep');
    await waitFor(() => expect(says()).toBe('The sending broke off on this device.'));
    press('Keep');
    await waitFor(() => expect(says()).toContain('done'));
  });

  it('holds up no other trace that is opened meanwhile, nor says of that one what became of it', async () => {
    const sending: { progress: (part: number) => void; end: (r: Result<number>) => void }[] = [];
    open((_id, _meta, progress) => new Promise((end) => sending.push({ progress, end })));
    press('Keep');
    await waitFor(() => expect(says()).toBe('busy'));
    press('Another');
    await waitFor(() => expect(says()).toBe(''));
    sending[0]?.progress(0.7);
    sending[0]?.end(refuse('trace-not-sent', 'The line broke.'));
    await new Promise((r) => setTimeout(r, 20));
    expect(says()).toBe('');
    press('Keep');
    await waitFor(() => expect(says()).toBe('busy'));
    sending[1]?.end(accept(1));
    await waitFor(() => expect(says()).toBe('done'));
  });

  it('tells the server what was said of its events once it is there, each of it once', async () => {
    const told = open(() => Promise.resolve(accept(1)));
    press('Correct');
    press('Correct');
    expect(told()).toEqual([]);
    press('Keep');
    await waitFor(() => expect(told()).toHaveLength(2));
    press('Correct');
    await waitFor(() => expect(told()).toHaveLength(3));
    expect(told().map(([, , body]) => (body as EventCorrection).why)).toEqual([
      'knock at 1',
      'knock at 2',
      'knock at 3',
    ]);
    expect(new Set(told().map(([, path]) => path)).size).toBe(3);
  });

  it('of one that came from the server tells only what is new', async () => {
    const told = open(() => Promise.resolve(accept(1)), true, [none(1), none(2)]);
    expect(says()).toContain('done');
    press('Correct');
    await waitFor(() => expect(told()).toHaveLength(1));
    expect((told()[0]?.[2] as EventCorrection).why).toBe('knock at 3');
  });

  it('begins anew with another trace', async () => {
    open(() => Promise.resolve(refuse('trace-not-sent', 'The line broke.')));
    press('Keep');
    await waitFor(() => expect(says()).toContain('broke'));
    press('Another');
    await waitFor(() => expect(says()).toBe(''));
  });
});
