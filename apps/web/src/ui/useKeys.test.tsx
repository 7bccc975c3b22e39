import { afterEach, beforeEach, describe, expect, it, jest } from '@jest/globals';
import { cleanup, fireEvent, render, screen } from '@testing-library/react';
import { useKeys, useNoRepeat } from './useKeys.ts';

const act = jest.fn();
const clicked = jest.fn();

function Screen() {
  useNoRepeat();
  useKeys({ Enter: () => act('Enter'), ' ': () => act('Space'), t: () => act('T'), z: undefined });
  return (
    <main>
      <p>words</p>
      <input aria-label="field" />
      <button type="button" onClick={clicked}>
        a button
      </button>
      <a href="#x">a link</a>
      <div role="dialog">
        <p>in a dialog</p>
      </div>
      <div role="slider" aria-valuenow={0} tabIndex={0}>
        a slider
      </div>
    </main>
  );
}

beforeEach(() => {
  act.mockClear();
  clicked.mockClear();
  render(<Screen />);
});
afterEach(cleanup);

const press = (on: Element, init: KeyboardEventInit): boolean => fireEvent.keyDown(on, init);

describe('keys of the face', () => {
  it.each([
    ['Enter', 'Enter'],
    [' ', 'Space'],
    ['t', 'T'],
    ['T', 'T'],
  ])('%s acts wherever nothing has the focus', (key, said) => {
    expect(press(document.body, { key })).toBe(false);
    expect(act.mock.calls).toEqual([[said]]);
  });

  it.each([
    ['held down', { key: 'Enter', repeat: true }],
    ['with Control', { key: 't', ctrlKey: true }],
    ['with Alt', { key: 't', altKey: true }],
    ['with Command', { key: 't', metaKey: true }],
    ['of nothing that is offered', { key: 'z' }],
    ['of nothing known', { key: 'q' }],
  ])('a key %s does nothing', (_, init) => {
    press(document.body, init);
    expect(act).not.toHaveBeenCalled();
  });

  it.each(['a button', 'a link', 'a slider'])('Enter and Space belong to %s that has the focus', (name) => {
    press(screen.getByText(name), { key: 'Enter' });
    press(screen.getByText(name), { key: ' ' });
    expect(act).not.toHaveBeenCalled();
    // Letters are the face's still.
    press(screen.getByText(name), { key: 't' });
    expect(act).toHaveBeenCalledTimes(1);
  });

  it('what is typed into a field is typed', () => {
    for (const key of ['t', 'Enter', ' ']) press(screen.getByLabelText('field'), { key });
    expect(act).not.toHaveBeenCalled();
  });

  it('a dialog has the keys as long as it is open', () => {
    for (const key of ['t', 'Enter']) press(screen.getByText('in a dialog'), { key });
    expect(act).not.toHaveBeenCalled();
  });

  it('a key that something else has taken is not taken twice', () => {
    const taken = (e: Event): void => e.preventDefault();
    document.body.addEventListener('keydown', taken);
    press(document.body, { key: 't' });
    document.body.removeEventListener('keydown', taken);
    expect(act).not.toHaveBeenCalled();
  });

  it('a key held on a button is one press: the browser is kept from clicking it over and over', () => {
    const button = screen.getByText('a button');
    expect(press(button, { key: 'Enter' })).toBe(true);
    expect(press(button, { key: 'Enter', repeat: true })).toBe(false);
    // In a field a held key goes on writing.
    expect(press(screen.getByLabelText('field'), { key: ' ', repeat: true })).toBe(true);
  });

  it('is gone with the face', () => {
    cleanup();
    press(document.body, { key: 't' });
    expect(act).not.toHaveBeenCalled();
  });
});
