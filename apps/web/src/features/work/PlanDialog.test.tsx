import { describe, expect, it, jest } from '@jest/globals';
import { act, fireEvent, screen } from '@testing-library/react';
import { drawn, FOUND, openJob, psi } from '../../testing.tsx';
import { PlanDialog } from './PlanDialog.tsx';
import type { Actions } from './useActions.ts';

const change = (): HTMLButtonElement => screen.getByRole('button', { name: 'Change it' });
const type = (label: string, text: string): void => {
  const field = screen.getByLabelText(label);
  fireEvent.change(field, { target: { value: text } });
  fireEvent.keyDown(field, { key: 'Enter' });
};
const why = (text: string): void =>
  fireEvent.change(screen.getByLabelText('Why'), { target: { value: text } }) as never;

describe('the plan changed in the work', () => {
  it('is written once something was changed and it was said why; what is not kept stays typed', async () => {
    const replanned = jest.fn<Actions['replan']>().mockResolvedValueOnce(false).mockResolvedValue(true);
    const closed = jest.fn();
    drawn(<PlanDialog job={await openJob(FOUND)} onChange={replanned} onClose={closed} />);
    why('the label says so');
    expect(change().disabled).toBe(true);
    type('Cut-in', '40');
    await act(async () => fireEvent.click(change()));
    expect(closed).not.toHaveBeenCalled();
    expect(screen.getByRole('alert').textContent).toMatch(/not kept/);
    await act(async () => fireEvent.click(change()));
    expect(closed).toHaveBeenCalledTimes(1);
    const [body] = replanned.mock.calls[1] ?? [];
    expect(body).toMatchObject({ kind: 'planned', reason: 'the label says so' });
    expect(body?.plan.values['cutIn']).toBeCloseTo(psi(40), 0);
  });

  it('of another kind is offered only while nothing was read', async () => {
    drawn(<PlanDialog job={await openJob()} onChange={async () => true} onClose={() => undefined} />);
    expect(screen.getByLabelText('School of practice')).toBeTruthy();
  });

  it('that may not stand is pushed back, and nothing is written', async () => {
    const replanned = jest.fn<Actions['replan']>();
    drawn(<PlanDialog job={await openJob(FOUND)} onChange={replanned} onClose={() => undefined} />);
    expect(screen.queryByLabelText('School of practice')).toBeNull();
    why('x');
    type('Cut-out', '79');
    expect(screen.getAllByText(/relief/i).length).toBeGreaterThan(0);
    expect(change().disabled).toBe(true);
    expect(replanned).not.toHaveBeenCalled();
  });
});
