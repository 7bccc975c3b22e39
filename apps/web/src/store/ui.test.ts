import { beforeEach, describe, expect, it } from '@jest/globals';
import { keepUi, keptUi, sounded, tabbed, themed, UI_KEY, uiReducer } from './ui.ts';

beforeEach(() => localStorage.clear());

describe('what a device keeps of its settings', () => {
  it('comes back as it was kept', () => {
    let state = uiReducer(undefined, themed('plant'));
    state = uiReducer(state, sounded(false));
    keepUi(state);
    expect(keptUi()).toEqual({ theme: 'plant', sound: false });
  });

  it.each([
    ['a name that is no theme', '{"theme":"sepia","sound":true}', { sound: true }],
    ['the name of something every object has', '{"theme":"constructor"}', {}],
    ['a sound that is neither on nor off', '{"theme":"plant","sound":"loud"}', { theme: 'plant' }],
    ['nothing', 'null', {}],
    ['a list', '[1,2]', {}],
    ['a figure', '7', {}],
    ['half a file', '{"theme":', {}],
  ])('is not believed where it is %s', (_, text, kept) => {
    localStorage.setItem(UI_KEY, text);
    expect(keptUi()).toEqual(kept);
  });

  it('is only what belongs to the device: the tab that was open is not kept', () => {
    keepUi(uiReducer(undefined, tabbed('sheet')));
    expect(JSON.parse(localStorage.getItem(UI_KEY) ?? '')).not.toHaveProperty('tab');
  });
});
