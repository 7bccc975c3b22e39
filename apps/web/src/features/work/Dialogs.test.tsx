import { describe, expect, it, jest } from '@jest/globals';
import { act, cleanup, fireEvent, screen } from '@testing-library/react';
import { done, drawn, FOUND, openJob, reading } from '../../testing.tsx';
import { ReasonDialog } from '../../ui/ReasonDialog.tsx';
import { CorrectDialog, LeaveDialog } from './Dialogs.tsx';

const button = (name: string): HTMLButtonElement => screen.getByRole('button', { name });
const settled = (): Promise<void> => act(async () => void (await Promise.resolve()));
const why = (text: string, label = 'Why'): void => {
  fireEvent.change(screen.getByLabelText(label), { target: { value: text } });
};

describe('what a dialog of the work holds', () => {
  it('stays typed until it is kept, and only then the dialog closes', async () => {
    const job = await openJob(FOUND);
    const [closed, leave] = [jest.fn(), jest.fn<(outcome: string, reason: string) => Promise<boolean>>()];
    leave.mockResolvedValueOnce(false).mockResolvedValueOnce(true);
    drawn(<LeaveDialog job={job} onLeave={leave} onClose={closed} />);
    // No reason, no end; blanks are none.
    expect(button('End it here').disabled).toBe(true);
    why('   ');
    expect(button('End it here').disabled).toBe(true);
    why('  called away ');
    fireEvent.click(button('End it here'));
    // A second press while it is being kept is not a second entry.
    expect(button('End it here').disabled).toBe(true);
    await settled();
    expect(closed).not.toHaveBeenCalled();
    expect((screen.getByLabelText('Why') as HTMLTextAreaElement).value).toBe('  called away ');
    fireEvent.click(button('End it here'));
    await settled();
    expect(closed).toHaveBeenCalledTimes(1);
    expect(leave.mock.calls).toEqual([
      ['unfinished', 'called away'],
      ['unfinished', 'called away'],
    ]);
  });

  it('never offers set as a way to leave early', async () => {
    drawn(<LeaveDialog job={await openJob(FOUND)} onLeave={async () => true} onClose={() => undefined} />);
    fireEvent.mouseDown(screen.getByRole('combobox'));
    const offered = screen.getAllByRole('option').map((o) => o.textContent);
    expect(offered).toContain('Unfinished');
    expect(offered).not.toContain('Set and proved');
  });

  it('is no longer than the log takes', async () => {
    drawn(<ReasonDialog title="t" text="" act="Keep" onGive={async () => true} onClose={() => undefined} />);
    expect((screen.getByLabelText('In a few words') as HTMLTextAreaElement).maxLength).toBe(8000);
    cleanup();
    drawn(<LeaveDialog job={await openJob(FOUND)} onLeave={async () => true} onClose={() => undefined} />);
    expect((screen.getByLabelText('Why') as HTMLTextAreaElement).maxLength).toBe(8000);
  });

  it('corrects to what the gauge can show, and says why it cannot', async () => {
    const job = await openJob([
      ...FOUND,
      done('later'),
      reading('cutIn', 38, 'found-cut-in', 'found', '1.3'),
    ]);
    const item = job.offered.walk.find((i) => i.step.key === 'found-cut-in' && i.taken.length > 0);
    if (!item) throw new Error('No reading was taken.');
    const correct = jest.fn<Parameters<typeof CorrectDialog>[0]['onCorrect']>(async () => true);
    drawn(<CorrectDialog job={job} item={item} onCorrect={correct} onClose={() => undefined} />);
    why('misread');
    const field = screen.getByLabelText(/^As read on/);
    fireEvent.change(field, { target: { value: '4000' } });
    fireEvent.click(button('Correct it'));
    await settled();
    expect(correct).not.toHaveBeenCalled();
    fireEvent.change(field, { target: { value: '39' } });
    fireEvent.click(button('Correct it'));
    await settled();
    expect(correct.mock.calls[0]?.slice(1)).toMatchObject(['misread', { text: '39', unit: 'psi' }]);
    // Withdrawn, it has no other value.
    fireEvent.click(button('Withdraw it'));
    await settled();
    expect(correct.mock.calls[1]?.[2]).toBeUndefined();
  });
});
