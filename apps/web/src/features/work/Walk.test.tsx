import { describe, expect, it, jest } from '@jest/globals';
import { cleanup, fireEvent, screen } from '@testing-library/react';
import type { JobBody } from '@firm-needle/core/procedure';
import { AT_THE_NUT, drawn, FOUND, openJob, psi } from '../../testing.tsx';
import { Walk } from './Walk.tsx';

// Nothing scrolls where nothing is laid out.
Element.prototype.scrollIntoView = () => undefined;

const rows = (): readonly string[] =>
  [...document.querySelectorAll('.walk-step')].map((li) =>
    [...li.classList, li.textContent ?? ''].join(' ').replace('walk-step ', ''),
  );
async function walk(bodies: readonly JobBody[]) {
  const onCorrect = jest.fn();
  const job = await openJob(bodies);
  drawn(<Walk job={job} visit={undefined} onCorrect={onCorrect} />);
  return { job, onCorrect };
}

describe('the walk', () => {
  it('keeps what was done with its values, marks what is now, and shows what lies ahead', async () => {
    await walk(FOUND);
    const all = rows();
    expect(all).toContain('done Water gauge zero0');
    expect(all).toContain('done As found: cut-in38.0');
    expect(all.filter((r) => r.startsWith('now'))).toEqual(['now Holds with no draw…']);
    expect(document.querySelector('[aria-current="step"]')?.textContent).toBe('Holds with no draw…');
    expect(all.some((r) => r.startsWith('ahead'))).toBe(true);
  });

  it('offers to correct what was read, and nothing else', async () => {
    const { onCorrect } = await walk(FOUND);
    const buttons = screen.getAllByRole('button');
    expect(buttons.map((b) => b.textContent)).toEqual([
      'As found: cut-in38.0',
      'As found: cut-out58.0',
      'As found: cut-in38.0',
      'As found: cut-out58.0',
    ]);
    fireEvent.click(buttons[2] as HTMLElement);
    expect(onCorrect.mock.calls[0]?.[0]).toMatchObject({ step: { key: 'found-cut-in' }, pass: '1.2' });
  });

  it('says a turn and an answer in a word or two, and that a step was skipped', async () => {
    await walk([
      ...AT_THE_NUT,
      {
        kind: 'turn',
        adjuster: 'range',
        amount: 2.25,
        text: '2¼ turns counter-clockwise, seen from its top',
        at: { key: 'turn-range', pass: '1.1', phase: 'adjust' },
      },
    ]);
    const all = rows();
    expect(all).toContain('done Range nut2¼ turns ccw');
    expect(all).toContain('done Holds with no drawit holds');
    cleanup();
    await walk([...FOUND, { kind: 'skip', at: { key: 'rest', pass: '1' }, reason: 'no time' }]);
    expect(rows().filter((r) => r.startsWith('skipped'))).toEqual(['skipped Holds with no drawskipped']);
  });

  it('shows what was corrected as it is now', async () => {
    const { job } = await walk(FOUND);
    const first = job.view.state.reads[0];
    if (!first) throw new Error('no reading');
    cleanup();
    await walk([
      ...FOUND,
      {
        kind: 'correct',
        corrects: first.id,
        reason: 'misread',
        body: { ...first.body, value: { text: '39', unit: 'psi', value: psi(39) } },
      },
    ]);
    expect(rows()).toContain('done As found: cut-in39.0');
  });
});
