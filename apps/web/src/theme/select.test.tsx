import { afterEach, beforeEach, describe, expect, it, jest } from '@jest/globals';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import { ThemeProvider } from '@mui/material/styles';
import { act, fireEvent, render, screen } from '@testing-library/react';
import { themeOf } from './theme.ts';

beforeEach(() => void jest.useFakeTimers());
afterEach(() => void jest.useRealTimers());

describe('a choice from a list', () => {
  const list = (): ReturnType<typeof jest.fn> => {
    const onChange = jest.fn();
    render(
      <ThemeProvider theme={themeOf('daylight')}>
        <TextField select label="Gauge" value="a" onChange={(e) => onChange(e.target.value)}>
          <MenuItem value="a">First</MenuItem>
          <MenuItem value="b">Second</MenuItem>
        </TextField>
      </ThemeProvider>,
    );
    return onChange;
  };

  it('is not made by a press that was held while the list opened under it', () => {
    const onChange = list();
    fireEvent.mouseDown(screen.getByRole('combobox'), { button: 0 });
    act(() => void jest.advanceTimersByTime(2000));
    // The hand lets go where the list has come to lie.
    fireEvent.mouseUp(screen.getByRole('option', { name: 'Second' }));
    expect(onChange).not.toHaveBeenCalled();
    expect(screen.getByRole('listbox')).toBeTruthy();
  });

  it('is made by a press on what is wanted', () => {
    const onChange = list();
    fireEvent.mouseDown(screen.getByRole('combobox'), { button: 0 });
    act(() => void jest.advanceTimersByTime(2000));
    const wanted = screen.getByRole('option', { name: 'Second' });
    fireEvent.mouseDown(wanted);
    fireEvent.mouseUp(wanted);
    fireEvent.click(wanted);
    expect(onChange.mock.calls).toEqual([['b']]);
  });
});
