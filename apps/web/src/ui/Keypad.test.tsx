import { describe, expect, it, jest } from '@jest/globals';
import { act, fireEvent, screen } from '@testing-library/react';
import { drawn, openJob, reading } from '../testing.tsx';
import { Keypad, type KeypadProps } from './Keypad.tsx';

async function keypad(over: Partial<KeypadProps> = {}) {
  const job = await openJob([
    reading('cutOut', 62, 'found-cut-out', 'found', '1.1'),
    reading('cutOut', 62.5, 'found-cut-out', 'found', '1.2'),
  ]);
  const gauge = job.view.gauge('system');
  if (!gauge) throw new Error('no gauge');
  const onKeep = jest.fn<KeypadProps['onKeep']>();
  const onCancel = jest.fn();
  drawn(
    <Keypad
      title="Type the cut-out"
      gauge={gauge}
      family={job.family}
      job={job.view}
      setting="cutOut"
      withEarly
      onKeep={onKeep}
      onCancel={onCancel}
      {...over}
    />,
  );
  return { onKeep, onCancel };
}
const tap = (...names: string[]): void =>
  names.forEach((name) => fireEvent.click(screen.getByRole('button', { name })));
const press = (...keys: string[]): void =>
  act(() => keys.forEach((key) => void fireEvent.keyDown(document.body, { key })));
const shown = (): string => document.querySelector('output')?.textContent ?? '';

describe('keypad', () => {
  it('keeps what was tapped, as typed and in pascals', async () => {
    const { onKeep } = await keypad();
    tap('6', '2', 'point', '5');
    expect(shown()).toBe('62.5');
    tap('Keep');
    expect(onKeep).toHaveBeenCalledTimes(1);
    expect(onKeep.mock.calls[0]?.[0]).toMatchObject({ text: '62.5', unit: 'psi' });
    expect(onKeep.mock.calls[0]?.[0].value).toBeCloseTo(62.5 * 6894.757293168, 3);
    expect(onKeep.mock.calls[0]?.[1]).toBe(false);
  });

  it('works from the keyboard alone, with a comma for a point', async () => {
    const { onKeep, onCancel } = await keypad();
    press('6', '3', ',', '5', 'Backspace', '0');
    expect(shown()).toBe('63.0');
    press('Enter');
    expect(onKeep).toHaveBeenCalledTimes(1);
    press('Escape');
    expect(onCancel).toHaveBeenCalledTimes(1);
  });

  it('questions what does not fit, offers the likelier value, and keeps the first on a second word', async () => {
    const { onKeep } = await keypad();
    tap('1', '2', 'point', '0', 'Keep');
    expect(onKeep).not.toHaveBeenCalled();
    expect(screen.getByRole('alert').textContent).toContain(
      '12.0? Every cut-out so far lies between 62.0 and 62.5. Did you mean 62.0?',
    );
    tap('Keep 12.0 as read');
    expect(onKeep.mock.calls[0]?.[0]).toMatchObject({ text: '12.0' });
  });

  it('takes the likelier value with one tap', async () => {
    const { onKeep } = await keypad();
    tap('1', '2', 'point', '0', 'Keep', 'Make it 62.0');
    expect(onKeep.mock.calls[0]?.[0]).toMatchObject({ number: 62 });
  });

  it('refuses what the gauge cannot show and keeps the text to be mended', async () => {
    const { onKeep } = await keypad();
    tap('6', '2', '0', 'Keep');
    expect(onKeep).not.toHaveBeenCalled();
    expect(screen.getByRole('alert').textContent).toContain(
      '620 is outside T-1’s scale. Its scale is 0–100 psi.',
    );
    expect(shown()).toBe('620');
  });

  it('has half and quarter marks on an analogue dial, and says when it was still moving', async () => {
    const { onKeep } = await keypad();
    tap('6', '2', '½ mark');
    expect(shown()).toBe('62.5');
    tap('¼ mark');
    expect(shown()).toBe('62.25');
    tap('½ mark', 'Still moving');
    expect(onKeep.mock.calls[0]?.[1]).toBe(true);
  });

  it('has a sign only where a reading can be below zero', async () => {
    await keypad();
    expect(screen.queryByRole('button', { name: '+ / −' })).toBeNull();
  });

  it('shows the last and the expected value beside what is typed', async () => {
    await keypad({ expected: '64.0 ± 0.9' });
    expect(document.querySelector('.keypad-past')?.textContent).toBe('last 62.5expected 64.0 ± 0.9');
  });
});
