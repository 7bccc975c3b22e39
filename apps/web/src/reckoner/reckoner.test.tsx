import { describe, expect, it, jest } from '@jest/globals';
import { fireEvent, render, screen, within } from '@testing-library/react';
import { Reckoner } from './Reckoner.tsx';
import { SUMS } from './sums.ts';

const cardOf = (title: string): HTMLElement =>
  screen.getByRole('heading', { name: title }).closest('section') as HTMLElement;
const answerOf = (card: HTMLElement): string => card.querySelector('.sum-answer')?.textContent ?? '';
const typed = (card: HTMLElement): HTMLInputElement =>
  within(card).getAllByRole('textbox')[0] as HTMLInputElement;

describe('the sums of the trade', () => {
  it('stand there worked, each with where it comes from', () => {
    render(<Reckoner />);
    for (const sum of SUMS) {
      const card = cardOf(sum.title);
      expect(card.querySelector('.sum-main')).not.toBeNull();
      expect(within(card).getByText(sum.source)).toBeTruthy();
    }
    expect(screen.queryByRole('button', { name: 'Put it in the job' })).toBeNull();
  });

  it.each(SUMS.map((s) => [s.title, s] as const))(
    '%s says what is wrong with what is typed, and works again',
    (title, sum) => {
      render(<Reckoner />);
      const card = cardOf(title);
      const before = answerOf(card);
      const field = typed(card);
      const was = field.value;
      fireEvent.change(field, { target: { value: 'seven-ish' } });
      expect(card.querySelector('.sum-main')).toBeNull();
      expect(card.querySelector('.caution')?.textContent?.trim()).not.toBe('');
      // What was typed is still there to be mended.
      expect(field.value).toBe('seven-ish');
      fireEvent.change(field, { target: { value: was } });
      expect(answerOf(card)).toBe(before);
      expect(sum.fields.length).toBeGreaterThan(0);
    },
  );

  it('are put in the job as one line: what went in, and what came of it; not while they are wrong', () => {
    const onUse = jest.fn<(text: string) => void>();
    render(<Reckoner onUse={onUse} />);
    const [sum] = SUMS;
    if (!sum) throw new Error('no sums');
    const card = cardOf(sum.title);
    const main = card.querySelector('.sum-main .figure')?.textContent ?? '-';
    fireEvent.click(within(card).getByRole('button', { name: 'Put it in the job' }));
    const [[text = ''] = []] = onUse.mock.calls;
    expect(text.startsWith(`${sum.title}: `)).toBe(true);
    expect(text).toContain(typed(card).value);
    expect(text.endsWith(main)).toBe(true);
    fireEvent.change(typed(card), { target: { value: '?' } });
    expect(within(card).queryByRole('button', { name: 'Put it in the job' })).toBeNull();
  });

  it('are worked each by itself', () => {
    render(<Reckoner />);
    const [first, second] = SUMS;
    if (!first || !second) throw new Error('too few sums');
    const before = answerOf(cardOf(second.title));
    fireEvent.change(typed(cardOf(first.title)), { target: { value: '?' } });
    expect(answerOf(cardOf(second.title))).toBe(before);
  });
});
