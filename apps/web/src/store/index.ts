import { configureStore } from '@reduxjs/toolkit';
import { setupListeners } from '@reduxjs/toolkit/query';
import { useDispatch, useSelector } from 'react-redux';
import { outbox } from '../sync/outbox.ts';
import { api } from './api.ts';
import { keepUi, keptUi, sounded, themed, UI_KEY, uiReducer } from './ui.ts';

export const store = configureStore({
  reducer: { [api.reducerPath]: api.reducer, ui: uiReducer },
  middleware: (base) => base().concat(api.middleware),
});
setupListeners(store.dispatch);

// What was kept here has reached the server: what it answered before may read otherwise now.
outbox.onNews(() =>
  store.dispatch(api.util.invalidateTags(['Photo', 'Site', 'Control', 'Gauge', 'Visit', 'Job', 'Due'])),
);

// Another tab of this browser chose otherwise: all of them look alike.
window.addEventListener('storage', (e) => {
  if (e.key !== UI_KEY) return;
  const { theme, sound } = keptUi();
  if (theme) store.dispatch(themed(theme));
  if (sound !== undefined) store.dispatch(sounded(sound));
});

let last = store.getState().ui;
store.subscribe(() => {
  const { ui } = store.getState();
  if (ui.theme !== last.theme || ui.sound !== last.sound) keepUi(ui);
  last = ui;
});

export type RootState = ReturnType<typeof store.getState>;
export const useAppDispatch = useDispatch.withTypes<typeof store.dispatch>();
export const useAppSelector = useSelector.withTypes<RootState>();
