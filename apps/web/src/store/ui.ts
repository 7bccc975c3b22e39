import { createSlice, type PayloadAction } from '@reduxjs/toolkit';
import { THEMES, type ThemeName } from '../theme/theme.ts';
import type { OutboxState } from '../sync/outbox.ts';

export type Tab = 'walk' | 'work' | 'sheet';

interface UiState {
  readonly theme: ThemeName;
  readonly sound: boolean;
  readonly tab: Tab;
  readonly outbox: OutboxState;
  readonly shortcuts: boolean;
  /** The search over everything stands open. */
  readonly find: boolean;
}

export const UI_KEY = 'firm-needle-ui';

/** What was kept of the settings, each only where it is one: a name that is no theme would draw nothing at all. */
export function keptUi(): Partial<Pick<UiState, 'theme' | 'sound'>> {
  try {
    const all = JSON.parse(localStorage.getItem(UI_KEY) ?? '{}') as Partial<Record<string, unknown>> | null;
    const theme = THEMES.find((t) => t === all?.['theme']);
    return {
      ...(theme ? { theme } : {}),
      ...(typeof all?.['sound'] === 'boolean' ? { sound: all['sound'] } : {}),
    };
  } catch {
    return {};
  }
}

const initial: UiState = {
  theme: keptUi().theme ?? 'daylight',
  sound: keptUi().sound ?? true,
  tab: 'work',
  outbox: { kept: 0, sent: 0, status: 'idle' },
  shortcuts: false,
  find: false,
};

const slice = createSlice({
  name: 'ui',
  initialState: initial,
  reducers: {
    themed: (s, a: PayloadAction<ThemeName>) => ({ ...s, theme: a.payload }),
    sounded: (s, a: PayloadAction<boolean>) => ({ ...s, sound: a.payload }),
    tabbed: (s, a: PayloadAction<Tab>) => ({ ...s, tab: a.payload }),
    outboxed: (s, a: PayloadAction<OutboxState>) => ({ ...s, outbox: a.payload }),
    findShown: (s, a: PayloadAction<boolean>) => ({ ...s, find: a.payload }),
    shortcutsShown: (s, a: PayloadAction<boolean>) => ({ ...s, shortcuts: a.payload }),
  },
});

export const { themed, sounded, tabbed, outboxed, findShown, shortcutsShown } = slice.actions;
export const uiReducer = slice.reducer;

/** Keeps what belongs to this device and not to an account. */
export const keepUi = (s: UiState): void =>
  localStorage.setItem(UI_KEY, JSON.stringify({ theme: s.theme, sound: s.sound }));
