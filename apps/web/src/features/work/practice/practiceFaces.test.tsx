import { describe, expect, it, jest } from '@jest/globals';
import { cleanup, fireEvent, screen, waitFor, within } from '@testing-library/react';
import { offerPicked, pickable } from '@firm-needle/core/procedure';
import type { Help } from '@firm-needle/core/practice';
import { PracticeContext } from '../../../practice/context.ts';
import type { OpenJob } from '../../../sync/useJob.ts';
import { drawn, FOUND, AT_THE_NUT, openJob } from '../../../testing.tsx';
import { Face } from '../Face.tsx';
import { Side } from '../Side.tsx';
import type { Actions } from '../useActions.ts';
import { FinishFace } from './FinishFace.tsx';
import { PickFace } from './PickFace.tsx';

const faceAt = (job: OpenJob, help: Help | undefined): string => {
  const actions = { settling: false } as unknown as Actions;
  const face = (
    <Face
      job={job}
      live={undefined}
      actions={actions}
      held={false}
      onStop={() => undefined}
      onPlan={() => undefined}
    />
  );
  const title = job.offered.now?.step.title ?? '';
  const { container } = drawn(
    help ? <PracticeContext value={{ help, title }}>{face}</PracticeContext> : face,
  );
  const text = container.textContent ?? '';
  cleanup();
  return text;
};

describe('what help gives away', () => {
  it('at a turn: the amount and what to expect in full, the move alone without values, its name alone at bare', async () => {
    const job = await openJob(AT_THE_NUT);
    expect(job.offered.now?.step.kind).toBe('turn');
    const work = faceAt(job, undefined);
    expect(work).toMatch(/Expect cut/);
    expect(faceAt(job, 'full')).toMatch(/Expect cut/);
    for (const help of ['no-values', 'no-next', 'bare'] as const) {
      const text = faceAt(job, help);
      expect(text).not.toMatch(/Expect|Turned \d|advised|usually moves/);
      // How far is one's own to say.
      expect(text).toMatch(/How many turns/);
    }
    expect(faceAt(job, 'bare')).toContain(job.offered.now?.step.title ?? '?');
  });

  it('never marks an answer, at any help', async () => {
    const job = await openJob(FOUND);
    expect(job.offered.now?.step.kind).toBe('observe');
    const step = job.offered.now?.step;
    const inOrder = step?.kind === 'observe' ? step.choices.map((c) => c.title) : [];
    for (const help of ['full', 'no-values', 'no-next', 'bare'] as const) {
      drawn(
        <PracticeContext value={{ help }}>
          <Face
            job={job}
            live={undefined}
            actions={{ settling: false } as unknown as Actions}
            held={false}
            onStop={() => undefined}
            onPlan={() => undefined}
          />
        </PracticeContext>,
      );
      const answers = [...document.querySelectorAll('.acts button')];
      expect(answers.filter((b) => b.classList.contains('primary'))).toEqual([]);
      expect(inOrder.every((t, i) => answers[i]?.textContent?.startsWith(t))).toBe(true);
      cleanup();
    }
  });

  it('leaves what was noticed, and the sheet to print, out of the side', async () => {
    const job = await openJob(AT_THE_NUT);
    drawn(
      <PracticeContext value={{ help: 'full' }}>
        <Side job={job} />
      </PracticeContext>,
    );
    expect(screen.queryByText('Noticed')).toBeNull();
    expect(screen.queryByText('Whole sheet, to print')).toBeNull();
  });
});

describe('picking the next step', () => {
  it('lists every step that is open, by alphabet, and marks none', async () => {
    const job = await openJob(FOUND);
    const onPick = jest.fn<(key: string) => void>();
    const onSign = jest.fn();
    drawn(<PickFace job={job} onPick={onPick} onSign={onSign} />);
    const list = screen.getByRole('list', { name: 'Steps by alphabet' });
    const names = within(list)
      .getAllByRole('button')
      .map((b) => b.textContent ?? '');
    expect(names).toEqual([...names].sort((a, b) => a.localeCompare(b)));
    // Turns and their readings are there before anything says that they are needed.
    expect(names.length).toBeGreaterThan(job.offered.walk.length);
    fireEvent.change(screen.getByLabelText('Find a step'), { target: { value: 'range' } });
    const [first] = within(list).getAllByRole('button');
    if (first) fireEvent.click(first);
    const key = onPick.mock.calls[0]?.[0] ?? '';
    const step = pickable(job.family.procedure(job.view.plan), job.view).find((s) => s.key === key);
    expect(step?.kind).toBe('turn');
    // Its interlocks are asked for as in work.
    const offered = offerPicked(job.family.procedure(job.view.plan), job.view, key);
    expect(offered?.now?.step.key).toBe(key);
    expect(offered?.missing.length).toBeGreaterThan(0);
    fireEvent.click(screen.getByRole('button', { name: 'Sign' }));
    expect(onSign).toHaveBeenCalled();
  });

  it('offers nothing that was taken, or that there is not', async () => {
    const job = await openJob(FOUND);
    const procedure = job.family.procedure(job.view.plan);
    for (const key of ['cautions', 'no-such-step'])
      expect(offerPicked(procedure, job.view, key)).toBeUndefined();
    // A reading of a loop is offered at the pass that is open.
    const again = offerPicked(procedure, job.view, 'found-cut-in');
    expect(again?.now?.step.key ?? 'none').toBe(again ? 'found-cut-in' : 'none');
  });
});

describe('signing a run', () => {
  const finish = async (sign = jest.fn<Actions['sign']>(async () => true)) => {
    const onSaid = jest.fn<(said: object) => Promise<void>>(async () => undefined);
    const job = await openJob(FOUND);
    drawn(<FinishFace job={job} actions={{ sign } as unknown as Actions} onSaid={onSaid} />);
    return { onSaid, sign, job };
  };
  const press = (name: string): void => void fireEvent.click(screen.getByRole('button', { name }));
  const end = (): HTMLButtonElement => screen.getByRole('button', { name: 'Sign, and see what was so' });

  it('asks how it ended, what was wrong and how sure one is, and begins with none of them', async () => {
    const { onSaid, sign, job } = await finish();
    expect(document.querySelectorAll('[aria-pressed="true"]')).toHaveLength(0);
    // The list is the family's whole list.
    for (const f of job.family.rig.faults) expect(screen.getByRole('button', { name: f.title })).toBeTruthy();
    expect(end().disabled).toBe(true);
    press('Left as found');
    for (const f of ['Low well', 'Drifted switch', 'Welded contacts']) press(f);
    expect(end().disabled).toBe(true);
    press('Sure');
    press('Sign, and see what was so');
    await waitFor(() => expect(onSaid).toHaveBeenCalled());
    expect(sign.mock.calls[0]?.[0]).toBe('left-as-found');
    // At most two: the first was let go.
    expect(onSaid.mock.calls[0]?.[0]).toEqual({ faults: ['drifted-switch', 'welded-contacts'], sure: 0.95 });
  });

  it('refuses “set” without what proves it, as in work', async () => {
    const { sign } = await finish();
    press('Set and proved');
    press('Nothing wrong');
    press('A guess');
    expect(screen.getAllByRole('alert').length).toBeGreaterThan(0);
    expect(end().disabled).toBe(true);
    press('Unfinished');
    press('Cannot be told with this gauge');
    press('Sign, and see what was so');
    await waitFor(() => expect(sign).toHaveBeenCalledWith('unfinished', 'A Technician'));
  });

  it('says nothing of a run whose signature was not kept', async () => {
    const { onSaid, sign } = await finish(jest.fn<Actions['sign']>(async () => false));
    press('Unfinished');
    press('Nothing wrong');
    press('A guess');
    press('Sign, and see what was so');
    await waitFor(() => expect(sign).toHaveBeenCalled());
    expect(onSaid).not.toHaveBeenCalled();
  });
});
