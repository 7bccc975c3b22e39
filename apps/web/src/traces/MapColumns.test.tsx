import { describe, expect, it, jest } from '@jest/globals';
import { fireEvent, render, screen, within } from '@testing-library/react';
import type { ColumnChoice } from '@firm-needle/core/trace';
import { MapColumns } from './MapColumns.tsx';

const pick = (label: string, option: string): void => {
  fireEvent.mouseDown(screen.getByRole('combobox', { name: label }));
  fireEvent.click(within(screen.getByRole('listbox')).getByText(option));
};
const read = (): HTMLButtonElement => screen.getByRole('button', { name: 'Read it with these columns' });
const split = jest.fn<(delimiter: string | undefined) => void>();
const map = (rows: readonly (readonly string[])[]) => {
  const chosen = jest.fn<(choice: ColumnChoice) => void>();
  render(<MapColumns rows={rows} onChoose={chosen} onSplit={split} />);
  return chosen;
};

describe('the columns of a file', () => {
  it('are guessed by their headings; the unit that one names is taken with it', () => {
    const chosen = map([
      ['time (s)', 'pressure (kPa)', 'pump'],
      ['0', '250', '1'],
      ['0.5', '252', '1'],
      ['1', '255', '0'],
    ]);
    expect(read().disabled).toBe(false);
    fireEvent.click(read());
    expect(chosen).toHaveBeenCalledWith({ time: 0, pressure: 1, unit: 'kPa', states: { pump: 2 } });
  });

  it('are not read before it is said in which unit they are', () => {
    const chosen = map([
      ['t', 'value'],
      ['0', '250'],
      ['0.5', '252'],
      ['1', '255'],
    ]);
    expect(read().disabled).toBe(true);
    fireEvent.click(read());
    expect(chosen).not.toHaveBeenCalled();
  });

  it('are each of one kind: what is named twice is so in the newest place only', () => {
    const chosen = map([
      ['time (s)', 'a (kPa)', 'b (kPa)'],
      ['0', '250', '3'],
      ['0.5', '252', '4'],
      ['1', '255', '5'],
    ]);
    pick('Column 3', 'Pressure');
    pick('Its unit', 'bar');
    fireEvent.click(read());
    expect(chosen).toHaveBeenCalledWith({ time: 0, pressure: 2, unit: 'bar', states: {} });
    pick('Column 3', 'Nothing');
    expect(read().disabled).toBe(true);
  });

  it('begin with the column that the refusal names, also where its marks are commas', () => {
    const chosen = map([
      ['Elapsed', 'Room', 'Port 1'],
      ...Array.from({ length: 20 }, (_, i) => [
        String(i),
        '18,5',
        (2.4 + i / 90).toFixed(2).replace('.', ','),
      ]),
    ]);
    pick('Its unit', 'bar');
    pick('Dates', 'month before day');
    fireEvent.click(read());
    expect(chosen).toHaveBeenCalledWith({ time: 0, pressure: 2, unit: 'bar', states: {}, order: 'mdy' });
  });

  it('are parted otherwise, begin in another line and count in another unit where a person says so', () => {
    const chosen = map([
      ['a logger', ''],
      ['1', '2'],
      ['t', 'p (psi)'],
      ['0', '50'],
      ['1', '51'],
      ['2', '52'],
    ]);
    pick('Times in', 'hours');
    const first = screen.getByLabelText('First reading in line');
    fireEvent.change(first, { target: { value: '9' } });
    expect(screen.getByText('one of the 6 that were looked at')).toBeTruthy();
    expect(read().disabled).toBe(true);
    fireEvent.change(first, { target: { value: '4' } });
    fireEvent.click(read());
    expect(chosen).toHaveBeenCalledWith(expect.objectContaining({ timeUnit: 'h', header: 3 }));
    pick('Parted by', 'tabs');
    expect(split).toHaveBeenLastCalledWith('\t');
    pick('Parted by', 'what was found');
  });

  it('show the first rows, also where some are short', () => {
    map([['time (s)', 'pressure (kPa)'], ['0'], ['0.5', '252', '9']]);
    expect(screen.getAllByRole('columnheader')).toHaveLength(3);
    expect(document.querySelectorAll('tbody tr')).toHaveLength(3);
  });
});
