import { describe, expect, it, jest } from '@jest/globals';
import { act, cleanup, fireEvent, renderHook, screen, within } from '@testing-library/react';
import type { Control } from '@firm-needle/contract';
import { loadFamily } from '@firm-needle/families';
import { drawn } from '../testing.tsx';
import { PlanChoices } from './PlanChoices.tsx';
import { usePlan } from './usePlan.ts';

const CONTROL = {
  id: 'c',
  name: 'A switch',
  family: 'well-switch',
  site: { id: 's', name: 'A site', altitude_m: 300 },
  plan: null,
  gauge: null,
  jobs: [],
} as unknown as Control;

async function planning(id: string) {
  const family = await loadFamily(id);
  const { result } = renderHook(() => usePlan(family, CONTROL));
  return { family, result };
}
const pick = (label: string, option: string): void => {
  fireEvent.mouseDown(screen.getByRole('combobox', { name: new RegExp(label) }));
  fireEvent.click(within(screen.getByRole('listbox')).getByText(option));
};

describe('what of a plan is no number', () => {
  it('is chosen by name; what is asked only under a school appears with it', async () => {
    const { family, result } = await planning('well-switch');
    const choose = jest.fn((c: Parameters<typeof result.current.choose>[0]) => result.current.choose(c));
    const show = () =>
      drawn(
        <PlanChoices
          family={family}
          planning={{ ...result.current, choose }}
          occasion={{ id: '', choose: () => undefined }}
        />,
      );
    const first = show();
    expect(screen.queryByLabelText('Both points set because')).toBeNull();
    pick('School of practice', 'Set both points');
    expect(choose).toHaveBeenCalledWith({ school: 'set-both' });
    // Not cleanup: the plan's own root stays.
    first.unmount();
    show();
    expect(screen.getByLabelText('Both points set because')).toBeTruthy();
    pick('Both points set because', 'The maker’s manual has it so');
    expect(result.current.plan.choices).toEqual({ both: 'manual' });
  });

  it('stands once it is chosen, and what speaks against it is said', async () => {
    const { result } = await planning('well-switch');
    act(() => result.current.choose({ school: 'set-both' }));
    expect(result.current.plan.school).toBe('set-both');
    expect(result.current.findings.map((f) => f.code)).toContain('reason-missing');
    act(() => result.current.choose({ choices: { both: 'wanted' } }));
    expect(result.current.findings.map((f) => f.code)).not.toContain('reason-missing');
  });

  it('has an occasion where the kind has several', async () => {
    const { family, result } = await planning('fire-relief');
    const onOccasion = jest.fn();
    drawn(
      <PlanChoices
        family={family}
        planning={result.current}
        occasion={{ id: 'service', choose: onOccasion }}
      />,
    );
    pick('Occasion', 'New or rebuilt');
    expect(onOccasion).toHaveBeenCalledWith('new');
    cleanup();
    const well = await planning('well-switch');
    drawn(
      <PlanChoices
        family={well.family}
        planning={well.result.current}
        occasion={{ id: '', choose: onOccasion }}
      />,
    );
    expect(screen.queryByLabelText('Occasion')).toBeNull();
  });
});
