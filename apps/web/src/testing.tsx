// Shared by the web's tests: a started job and a place to draw it.
import { configureStore } from '@reduxjs/toolkit';
import {
  makePlan,
  startJob,
  typePlate,
  typeSetting,
  draftOf,
  give,
  type Family,
} from '@firm-needle/core/family';
import type { Gauge } from '@firm-needle/core/gauge';
import { JobLog, FoldedJob, offer, type JobBody, type JobEvent } from '@firm-needle/core/procedure';
import { toCanonical } from '@firm-needle/core/quantity';
import { expectOk } from '@firm-needle/core/result';
import { loadFamily } from '@firm-needle/families';
import { render } from '@testing-library/react';
import type { ReactNode } from 'react';
import { Provider } from 'react-redux';
import { MemoryRouter, type InitialEntry } from 'react-router';
import { api } from './store/api.ts';
import { MeContext } from './store/me.ts';
import type { Me } from '@firm-needle/contract';
import { uiReducer } from './store/ui.ts';
import type { JobSession } from './sync/jobSession.ts';
import { openAt, type OpenJob } from './sync/useJob.ts';

export const psi = (n: number): number => toCanonical(n, 'psi');
export const ME: Me = {
  id: 'u',
  login: 'u',
  name: 'A Technician',
  role: 'technician',
  permits: ['mains'],
  organisation: { id: 'o', name: 'A Firm', demo: false, rule: 'guarded' },
};
export const WATER: Gauge = {
  id: 'w',
  label: 'T-1',
  kind: 'bourdon',
  unit: 'psi',
  lower: 0,
  upper: 100,
  division: 1,
  readable: 0.5,
  accuracy: { standard: 'B40.100', grade: '2A' },
  medium: 'water',
};

/** Draws something as it stands inside the app, for whoever is signed in. */
export function drawn(what: ReactNode, me: Me = ME, at: InitialEntry = '/') {
  const store = configureStore({
    reducer: { [api.reducerPath]: api.reducer, ui: uiReducer },
    middleware: (base) => base().concat(api.middleware),
  });
  return render(
    <Provider store={store}>
      <MemoryRouter initialEntries={[at]}>
        <MeContext value={me}>{what}</MeContext>
      </MemoryRouter>
    </Provider>,
  );
}

/** A job of the first family there is, with some events after its start. */
export async function openJob(bodies: readonly JobBody[] = []): Promise<OpenJob> {
  const family: Family = await loadFamily('well-switch');
  const plate = Object.fromEntries(
    Object.entries({ tankVolume: '280 L', pumpFlow: '33 L/min', relief: '81 psi' }).map(([id, text]) => [
      id,
      expectOk(typePlate(family, id, text)),
    ]),
  );
  const draft = give(
    draftOf(family, '40-60', plate),
    'cutIn',
    expectOk(typeSetting(family, 'cutIn', '43 psi')),
  );
  const started = expectOk(
    startJob(family, {
      plan: makePlan(family, draft),
      site: { id: 's', name: 'A site', altitude_m: 300 },
      control: { id: 'c', name: 'A switch', equipment: 'A well' },
      technician: 'A Technician',
      permits: ['mains'],
      gauges: { system: WATER, air: { ...WATER, id: 'a', label: 'T-2', upper: 60, medium: 'air' } },
      rule: 'guarded',
    }),
  );
  const event = (body: JobBody, i: number): JobEvent => ({
    id: `e${i}`,
    job: 'j',
    version: 1,
    after: null,
    device: 'd',
    author: 'u',
    wall: new Date(Date.UTC(2030, 0, 1, 8, i)).toISOString(),
    mono: i,
    body,
  });
  const log = new JobLog('j', [started, ...bodies].map(event));
  const view = new FoldedJob(family, log.state);
  const offered = offer(family.procedure(view.plan), view);
  return { session: { log } as unknown as JobSession, ...openAt(family, log.events, view, offered) };
}

export const reading = (
  setting: string,
  value: number,
  key: string,
  phase: 'found' | 'adjust' | 'left',
  pass: string,
): JobBody => ({
  kind: 'read',
  setting,
  slot: setting === 'precharge' ? 'air' : 'system',
  value: { text: String(value), unit: 'psi', value: psi(value) },
  state: 'typed',
  at: { key, pass, phase },
});
export const zeroed = (slot: string, key: string): JobBody => ({
  kind: 'zero',
  slot,
  before: { text: '0', unit: 'psi', value: 0 },
  after: { text: '0', unit: 'psi', value: 0 },
  handling: 'carried',
  at: { key, pass: '1' },
});
export const done = (key: string, sets?: Record<string, string>, pass = '1'): JobBody => ({
  kind: 'done',
  at: { key, pass },
  ...(sets ? { sets } : {}),
});

/** A job as far as its gauge on the tank: cautions read, zeros taken. */
export const OPENED: readonly JobBody[] = [
  done('cautions', { cautions: 'read' }),
  zeroed('system', 'zero-system'),
  zeroed('air', 'zero-air'),
  done('fit-gauge', { gauge: 'fitted', power: 'on', house: 'open', drain: 'closed' }),
];
/** And read as found, out of its limits. */
export const FOUND: readonly JobBody[] = [
  ...OPENED,
  ...(['1.1', '1.2'] as const).flatMap((pass) => [
    reading('cutIn', 38, 'found-cut-in', 'found', pass),
    reading('cutOut', 58, 'found-cut-out', 'found', pass),
  ]),
];
/** And found to hold, drained, and its precharge read. */
export const DRAINED: readonly JobBody[] = [
  ...FOUND,
  { kind: 'observe', answer: 'holds', at: { key: 'rest', pass: '1' } },
  done('found-drain', { power: 'off', house: 'closed', drain: 'open' }),
  reading('precharge', 41, 'found-precharge', 'found', '1'),
];
/** At the range nut, its cover off and proved dead. */
export const AT_THE_NUT: readonly JobBody[] = [
  ...DRAINED,
  { kind: 'observe', answer: 'adjust', at: { key: 'decide', pass: '1' } },
  done('cover-off', { cover: 'off', power: 'dead' }, '1.1'),
  done('mark', undefined, '1.1'),
  ...(['rated-in', 'rated-out'] as const).map((key): JobBody => ({
    kind: 'observe',
    answer: 'none',
    at: { key, pass: '1.1' },
  })),
];
