import '@fontsource-variable/atkinson-hyperlegible-next';
import '@fontsource/ibm-plex-sans-condensed/500.css';
import '@fontsource/ibm-plex-sans-condensed/600.css';
import './theme/tokens.css';
import './ui/ui.css';
import './ui/keypad.css';
import './features/work/walk.css';
import './features/work/device.css';
import './features/work/trouble.css';
import './features/work/work.css';
import { StrictMode } from 'react';
import { createRoot } from 'react-dom/client';
import { Provider } from 'react-redux';
import { BrowserRouter } from 'react-router';
import { App } from './App.tsx';
import { store } from './store/index.ts';
import { outboxed } from './store/ui.ts';
import { loadDevice } from './sync/db.ts';
import { outbox } from './sync/outbox.ts';

outbox.onState((state) => store.dispatch(outboxed(state)));

if ('serviceWorker' in navigator && import.meta.env.PROD) void navigator.serviceWorker.register('/sw.js');
// Ask that the browser never clears what a technician has entered.
void navigator.storage?.persist?.();

const root = document.getElementById('root');
// The name of the device first: every entry carries it.
if (root)
  void loadDevice().then(() =>
    createRoot(root).render(
      <StrictMode>
        <Provider store={store}>
          <BrowserRouter>
            <App />
          </BrowserRouter>
        </Provider>
      </StrictMode>,
    ),
  );
