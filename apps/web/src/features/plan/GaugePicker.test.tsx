import { describe, expect, it, jest } from '@jest/globals';
import { act, fireEvent, renderHook, screen, within } from '@testing-library/react';
import { chooseGauges, pickGauges } from '@firm-needle/core/family';
import type { Gauge } from '@firm-needle/core/gauge';
import { drawn, openJob, WATER } from '../../testing.tsx';
import { GaugePicker } from './GaugePicker.tsx';
import { useCircumstances } from './useCircumstances.ts';

const GOOD: Gauge = {
  ...WATER,
  id: 'good',
  label: 'T-8',
  accuracy: { standard: 'B40.100', grade: '3A' },
  medium: 'any',
};
const COARSE: Gauge = { ...GOOD, id: 'coarse', label: 'T-3', upper: 300, division: 10, readable: 1 };
const LATE: Gauge = { ...GOOD, id: 'late', label: 'T-7', due: '2001-01-01' };
const SITE = { id: 's', name: 'A site', altitude_m: 300 };

async function picker(gauges: readonly Gauge[], chosen: Readonly<Record<string, string>> = {}) {
  const { family, view } = await openJob();
  const choices = chooseGauges(family, view.plan, gauges, '2030-01-01');
  const [onChoose, onReason] = [jest.fn(), jest.fn()];
  const { result } = renderHook(() => useCircumstances(SITE));
  drawn(
    <GaugePicker
      choices={choices}
      chosen={pickGauges(choices, chosen)}
      onChoose={onChoose}
      reasons={{}}
      onReason={onReason}
      around={result.current}
    />,
  );
  return { onChoose, onReason, around: result, slots: choices.map((c) => c.slot) };
}

describe('which gauge goes where', () => {
  it('is ranked by what it can tell, and said so; another one can be chosen', async () => {
    const { onChoose, slots } = await picker([COARSE, GOOD]);
    const [slot] = slots;
    if (!slot) throw new Error('no place');
    const field = screen.getByRole('combobox', { name: slot.title });
    expect(field.textContent).toContain('T-8');
    fireEvent.mouseDown(field);
    const options = within(screen.getByRole('listbox')).getAllByRole('option');
    expect(options.map((o) => o.textContent?.slice(0, 3))).toEqual(['T-8', 'T-3']);
    expect(options[1]?.textContent).toMatch(/cannot tell/);
    fireEvent.click(options[1] as HTMLElement);
    expect(onChoose).toHaveBeenCalledWith(slot.id, 'coarse');
  });

  it('asks for a reason where one is in doubt', async () => {
    const { onReason, slots } = await picker([LATE], {});
    const [why] = screen.getAllByLabelText('Why is T-7 used?');
    expect(screen.getAllByText(/was due on 2001-01-01/).length).toBeGreaterThan(0);
    fireEvent.change(why as HTMLElement, { target: { value: 'none other here' } });
    expect(onReason).toHaveBeenCalledWith(slots[0]?.id, 'none other here');
  });

  it('says what to borrow where none can tell, and that none fits where there is none', async () => {
    await picker([COARSE]);
    expect(screen.getAllByText(/None of yours can tell this. Borrow/).length).toBeGreaterThan(0);
  });

  it('says that none fits where there is none at all', async () => {
    const { slots } = await picker([]);
    expect(screen.getAllByText('No gauge of yours fits here.')).toHaveLength(slots.length);
  });
});

describe('how a gauge hangs, and what the air weighs', () => {
  const around = () => renderHook(() => useCircumstances(SITE)).result;

  it('is kept as typed, and taken back when it is emptied', () => {
    const now = around();
    act(() => void now.current.typeHeight('system', '1.2'));
    expect(now.current.heads_m).toEqual({ system: 1.2 });
    expect(now.current.summary).toBe('1.2 below');
    act(() => void now.current.typeHeight('system', '3 ft'));
    expect(now.current.heads_m['system']).toBeCloseTo(0.9144, 6);
    act(() => void now.current.typeHeight('system', ' '));
    expect(now.current.heads_m).toEqual({});
    act(() => void now.current.typeBarometer('985'));
    expect(now.current.barometer_Pa).toBe(98_500);
    act(() => void now.current.typeBarometer(''));
    expect(now.current.barometer_Pa).toBeUndefined();
  });

  it('is refused where it cannot be: no number, another site, no air', () => {
    const now = around();
    const code = (type: () => { code: string } | undefined): string | undefined => {
      let got: string | undefined;
      act(() => (got = type()?.code));
      return got;
    };
    expect(code(() => now.current.typeHeight('system', 'low'))).toBe('not-a-number');
    expect(code(() => now.current.typeHeight('system', '900'))).toBe('head');
    expect(code(() => now.current.typeBarometer('30'))).toBe('barometer');
    expect(now.current.heads_m).toEqual({});
    expect(now.current.barometer_Pa).toBeUndefined();
  });
});
