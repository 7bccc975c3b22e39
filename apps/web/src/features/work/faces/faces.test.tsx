import { describe, expect, it, jest } from '@jest/globals';
import { act, cleanup, fireEvent, screen, waitFor } from '@testing-library/react';
import type { JobBody } from '@firm-needle/core/procedure';
import { AT_THE_NUT, DRAINED, OPENED, done, drawn, openJob, reading, zeroed } from '../../../testing.tsx';
import { Face } from '../Face.tsx';
import type { Actions } from '../useActions.ts';

function actions(): jest.Mocked<Actions> {
  const names = [
    'done',
    'allDone',
    'renew',
    'zero',
    'read',
    'instead',
    'turn',
    'skip',
    'note',
    'leave',
    'sign',
    'take',
    'undo',
    'correct',
    'adopt',
    'dismiss',
  ] as const;
  return {
    ...Object.fromEntries(names.map((n) => [n, jest.fn(async () => true)])),
    settling: false,
    trouble: undefined,
  } as unknown as jest.Mocked<Actions>;
}

async function face(bodies: readonly JobBody[], held = false) {
  const job = await openJob(bodies);
  const acts = actions();
  const onStop = jest.fn();
  drawn(
    <Face job={job} live={undefined} actions={acts} held={held} onStop={onStop} onPlan={() => undefined} />,
  );
  return { job, acts, onStop };
}
/** One key after another, as a hand does: the screen has moved on before the next. */
const press = (...keys: string[]): void =>
  keys.forEach((key) => act(() => void fireEvent.keyDown(document.body, { key })));
const button = (name: string | RegExp): HTMLElement => screen.getByRole('button', { name });

describe('the face of a step', () => {
  it('confirms the cautions with one key', async () => {
    const { acts, job } = await face([]);
    expect(button(/Read and understood/)).toBeTruthy();
    press('Enter');
    expect(acts.allDone.mock.calls[0]?.[0]).toEqual([job.offered.now]);
  });

  it('lists what one press answers, and enters all of it', async () => {
    const { acts, job } = await face(AT_THE_NUT.slice(0, -4));
    expect(screen.getByText(/tester, switch terminals, tester/)).toBeTruthy();
    expect(screen.getByText(/Mark the nut and its stud/)).toBeTruthy();
    expect(button(/Both done/)).toBeTruthy();
    press('Enter');
    expect(acts.allDone.mock.calls[0]?.[0].map((i) => i.step.key)).toEqual(['cover-off', 'mark']);
    expect(job.together).toHaveLength(2);
  });

  it('does not take Enter away from a button that has the focus', async () => {
    const { acts } = await face([]);
    fireEvent.keyDown(button(/Read and understood/), { key: 'Enter' });
    expect(acts.allDone).not.toHaveBeenCalled();
  });

  it('takes a zero as carried or as set, typed where no gauge is live', async () => {
    const { acts } = await face(OPENED.slice(0, 1));
    press('k');
    press('-', '0', '.', '5', 'Enter');
    expect(acts.zero.mock.calls[0]?.[2]).toMatchObject({ text: '-0.5', unit: 'psi' });
    expect(acts.zero.mock.calls[0]?.[3]).toBeUndefined();
  });

  it('takes a gauge that reads zero in one press', async () => {
    const { acts } = await face(OPENED.slice(0, 1));
    press('z');
    expect(acts.zero.mock.calls[0]?.[2]).toMatchObject({ text: '0.0', unit: 'psi', value: 0 });
    expect(acts.zero.mock.calls[0]?.[3]).toBeUndefined();
  });

  it('takes no key that is held down, and no Enter for what a step lacks', async () => {
    const { acts } = await face([...OPENED.slice(0, 3)]);
    act(() => void fireEvent.keyDown(document.body, { key: 'Enter', repeat: true }));
    expect(acts.allDone).not.toHaveBeenCalled();
    cleanup();
    // Cut-in is read with the power on: nobody said so yet.
    const lacking = await face([...OPENED.slice(0, 3), done('fit-gauge', { gauge: 'fitted' })]);
    expect(button(/^Power on/)).toBeTruthy();
    press('Enter');
    fireEvent.keyDown(button(/^Power on/), { key: 'Enter' });
    expect(lacking.acts.renew).not.toHaveBeenCalled();
    press('i');
    expect(lacking.acts.renew.mock.calls[0]?.[0]).toMatchObject({ fact: 'power', wanted: 'on' });
  });

  it('leaves digits, Enter and Escape to the field that has the focus', async () => {
    const { acts } = await face(OPENED);
    const field = document.body.appendChild(document.createElement('textarea'));
    field.focus();
    for (const key of ['2', '5', 'Enter']) act(() => void fireEvent.keyDown(field, { key }));
    expect(acts.read).not.toHaveBeenCalled();
    expect(document.querySelector('.keypad-value')?.textContent).toBe('–');
    press('4', '2');
    act(() => void fireEvent.keyDown(button('Back'), { key: 'Enter' }));
    expect(acts.read).not.toHaveBeenCalled();
    field.remove();
  });

  it('says that the needle was set to zero', async () => {
    const { acts } = await face(OPENED.slice(0, 1));
    fireEvent.click(button('I set it to zero'));
    press('1', 'Enter');
    // What the needle then shows is read as well: it need not be nothing.
    expect(acts.zero).not.toHaveBeenCalled();
    press('.', '2', '5', 'Enter');
    expect(acts.zero.mock.calls[0]?.[2]).toMatchObject({ text: '1' });
    expect(acts.zero.mock.calls[0]?.[3]).toMatchObject({ text: '0.25' });
  });

  it('asks for a reading by the keypad, and takes what happened instead', async () => {
    const { acts } = await face(OPENED);
    expect(screen.getByRole('heading', { name: 'Type the cut-in' })).toBeTruthy();
    press('4', '2', 'Enter');
    expect(acts.read.mock.calls[0]?.[2]).toMatchObject({ text: '42' });
    expect(acts.read.mock.calls[0]?.[3]).toEqual({ state: 'typed' });
    press('Escape');
    fireEvent.click(button('Something else'));
    fireEvent.click(screen.getByRole('menuitem', { name: 'Pump does not start' }));
    press('3', '0', 'Enter');
    expect(acts.instead.mock.calls[0]?.[1]).toMatchObject({ code: 'no-start' });
    expect(acts.instead.mock.calls[0]?.[2]).toMatchObject({ text: '30' });
  });

  it('records a needle off the scale as a bound, not as a value', async () => {
    const { acts } = await face(OPENED);
    fireEvent.click(button('Off scale'));
    expect(acts.read.mock.calls[0]?.[3]).toEqual({ state: 'typed', bound: 'above' });
  });

  it('puts the advised answer first', async () => {
    const { acts } = await face(DRAINED);
    expect(screen.getByText('Out of its limits: adjust.')).toBeTruthy();
    expect(screen.getAllByRole('button').map((b) => b.textContent?.trim())).toEqual([
      'Adjust Enter',
      'Leave as found B',
      'Replace C',
    ]);
    press('Enter');
    expect(acts.instead.mock.calls[0]?.[1]).toMatchObject({ code: 'adjust' });
  });

  it('takes the answer with that letter, and nothing for a figure or a letter that is no answer', async () => {
    const { acts } = await face(DRAINED);
    press('2', 'd', '1');
    expect(acts.instead).not.toHaveBeenCalled();
    press('c');
    expect(acts.instead.mock.calls[0]?.[1]).toMatchObject({ code: 'replace' });
  });

  it('says by key that the needle was set to zero: what it showed is asked for first', async () => {
    const { acts } = await face(OPENED.slice(0, 1));
    press('a');
    press('1', 'Enter');
    expect(acts.zero).not.toHaveBeenCalled();
    // What it shows now is offered as zero.
    press('Enter');
    expect(acts.zero.mock.calls[0]?.[2]).toMatchObject({ text: '1', unit: 'psi' });
    expect(acts.zero.mock.calls[0]?.[3]).toMatchObject({ value: 0 });
  });

  it('says the turn, its expectation and its caution, and takes it with one key', async () => {
    const { acts, onStop } = await face(AT_THE_NUT);
    expect(screen.getByRole('note', { name: 'Cautions' }).textContent).toContain(
      'Cover off as if live, then prove dead',
    );
    expect(document.querySelector('.move-say')?.textContent).toMatch(
      /Range nut, seen from the top of the nut: .* turns clockwise\. Expect cut-out 6\d\.\d.±.\d\.\d.psi/,
    );
    press('t');
    const [, adjuster, amount, text, advised] = acts.turn.mock.calls[0] ?? [];
    expect(adjuster).toBe('range');
    expect(amount).toBe(advised);
    expect(text).toMatch(/turns? clockwise$/);
    fireEvent.click(button('Stop here'));
    expect(onStop).toHaveBeenCalled();
  });

  it('checks a turn of one’s own before it takes it', async () => {
    const { acts } = await face(AT_THE_NUT);
    fireEvent.click(button('Other amount'));
    const amount = screen.getByLabelText('How many turns');
    fireEvent.change(amount, { target: { value: 'some' } });
    fireEvent.click(button('Turned it'));
    expect(screen.getByText(/"some" is not a number/)).toBeTruthy();
    fireEvent.change(amount, { target: { value: '12' } });
    fireEvent.click(button('Turned it'));
    expect(screen.getByText(/more than one sensible step/)).toBeTruthy();
    expect(acts.turn).not.toHaveBeenCalled();
    fireEvent.change(amount, { target: { value: '1 1/4' } });
    fireEvent.click(button('Turned it'));
    expect(acts.turn.mock.calls[0]?.[2]).toBe(1.25);
  });

  it('stands in the way of a step whose interlock is not satisfied, with its own confirmation', async () => {
    const { acts } = await face([...AT_THE_NUT, done('elsewhere', { power: 'on' })]);
    expect(screen.getByText(/the pump must not start\. Cover off as if live, then prove dead/)).toBeTruthy();
    expect(screen.getByText('Needed first: locked off, proved dead.')).toBeTruthy();
    fireEvent.click(button(/Locked off, proved dead/));
    expect(acts.renew.mock.calls[0]?.[0]).toMatchObject({ fact: 'power', wanted: 'dead' });
  });

  it('offers to take over a job that another device holds, and nothing else', async () => {
    const { acts } = await face(OPENED, true);
    expect(screen.getAllByRole('button')).toHaveLength(1);
    fireEvent.click(button('Take it over'));
    expect(acts.take).toHaveBeenCalled();
  });

  it('refuses to sign as set while something is missing, and lets another outcome be signed', async () => {
    const restored: readonly JobBody[] = [
      ...AT_THE_NUT,
      {
        kind: 'turn',
        adjuster: 'range',
        amount: 2,
        text: '2 turns clockwise',
        at: { key: 'turn-range', pass: '1.1' },
      },
      { kind: 'leave', outcome: 'unfinished', reason: 'no light' },
      done('end-cover', { cover: 'on' }),
      done('end-power', { drain: 'closed', power: 'on' }),
      reading('cutOut', 63, 'end-cut-out', 'left', '1'),
      { kind: 'observe', answer: 'tight', at: { key: 'soap', pass: '1' } },
      zeroed('system', 'zero-again'),
      done('end-house', { house: 'open' }),
    ];
    const { acts } = await face(restored);
    fireEvent.click(button('Set and proved'));
    expect(screen.getAllByRole('alert')[0]?.textContent).toContain(
      'Precharge is due: cut-in moved after it was last read.',
    );
    expect((button(/^Sign as/) as HTMLButtonElement).disabled).toBe(true);
    fireEvent.click(button('Unfinished'));
    // Not at once: a second tap meant for the last step must not sign.
    expect((button(/^Sign as/) as HTMLButtonElement).disabled).toBe(true);
    await waitFor(() => expect((button(/^Sign as/) as HTMLButtonElement).disabled).toBe(false));
    fireEvent.click(button(/^Sign as A Technician/));
    expect(acts.sign).toHaveBeenCalledWith('unfinished', 'A Technician');
  });
});
