import 'fake-indexeddb/auto';
import { beforeEach, describe, expect, it } from '@jest/globals';
import type { RunRecord } from '@firm-needle/core/practice';
import { JobLog, type StartedBody } from '@firm-needle/core/procedure';
import type { PracticeRun } from '@firm-needle/contract';
import { deviceDb, type KeptRun } from '../sync/db.ts';
import { chained } from '../sync/logSession.ts';
import { openJob } from '../testing.tsx';
import { refusal, serverThat } from '../testingServer.ts';
import { PracticeSession } from './practiceSession.ts';
import { runsHere, sendRuns } from './runs.ts';

let started: StartedBody;
const kept = (id: string, over: Partial<RunRecord> = {}, user = 'u'): KeptRun => ({
  id,
  user,
  story: ['It hums.'],
  sent: 0,
  record: {
    id,
    kind: 'run',
    family: 'well-switch',
    variant: 'well switch',
    level: 1,
    help: 'full',
    sealed: 'ab',
    startedAt: `2030-01-01T08:00:0${id.length}.000Z`,
    events: chained(new JobLog(id), user, [{ ...started, mode: 'practice' }]),
    deeds: [],
    ...over,
  },
});
const put = async (run: KeptRun): Promise<void> => void (await (await deviceDb()).put('practice', run));
const opened = async (id: string, user = 'u'): Promise<PracticeSession> => {
  const session = new PracticeSession(id, user);
  session.open();
  for (let i = 0; i < 50 && !session.loaded; i++) await new Promise((r) => setTimeout(r, 5));
  return session;
};
const note = (text: string) => ({ kind: 'note', text }) as const;

beforeEach(async () => {
  const db = await deviceDb();
  await Promise.all([db.clear('practice'), db.clear('events')]);
  started ??= (await openJob()).view.started;
});

describe('a run on this device', () => {
  it('is found again with all that was entered, and stands among no job’s entries', async () => {
    await put(kept('r'));
    const session = await opened('r');
    await session.append(note('one'), note('two'));
    await session.append(note('three'));
    const again = await opened('r');
    expect(again.log.state.notes.map((n) => n.body.text)).toEqual(['one', 'two', 'three']);
    // Each follows the one before it.
    const events = again.log.events;
    expect(events.slice(1).map((e) => e.after)).toEqual(events.slice(0, -1).map((e) => e.id));
    expect(await (await deviceDb()).count('events')).toBe(0);
  });

  it('loses nothing where two tabs write', async () => {
    await put(kept('r'));
    const [a, b] = [await opened('r'), await opened('r')];
    await a.append(note('from a'));
    await b.append(note('from b'));
    await a.append(note('from a again'));
    const again = await opened('r');
    expect(again.log.state.notes.map((n) => n.body.text)).toEqual(['from a', 'from b', 'from a again']);
    expect(again.log.state.aside).toEqual([]);
  });

  it('is another’s to nobody, and takes nothing once it is over', async () => {
    await put(kept('r'));
    expect((await opened('r', 'somebody else')).kept).toBeUndefined();
    const session = await opened('r');
    const said = { faults: ['low-well'], sure: 0.75 };
    await session.end({ deeds: [{ t: 3, do: 'set', id: 'tap', value: 1 }], said });
    expect(session.kept?.record).toMatchObject({ said, deeds: [{ t: 3 }] });
    expect(session.kept?.record.endedAt).toBeDefined();
    await expect(session.append(note('late'))).rejects.toThrow('could not keep');
  });
});

describe('what is over', () => {
  it('is sent once there is a signal, and what is refused says why and is not sent again', async () => {
    const over = { endedAt: '2030-01-01T09:00:00.000Z' };
    for (const run of [kept('a', over), kept('bb', over), kept('ccc'), kept('dddd', over, 'another')])
      await put(run);
    serverThat(() => undefined);
    await sendRuns('u');
    expect((await runsHere('u')).map((r) => [r.id, r.sent])).toEqual([
      ['ccc', 0],
      ['bb', 0],
      ['a', 0],
    ]);
    const asked = serverThat((_, path) =>
      path.endsWith('/a') ? refusal(422, 'It was changed.') : { data: {} as PracticeRun },
    );
    await sendRuns('u');
    expect(asked.map(([method, path]) => `${method} ${path}`)).toEqual([
      'PUT /practice/runs/bb',
      'PUT /practice/runs/a',
    ]);
    const runs = await runsHere('u');
    expect(runs.find((r) => r.id === 'bb')?.sent).toBe(1);
    expect(runs.find((r) => r.id === 'a')?.refused?.detail).toBe('It was changed.');
    await sendRuns('u');
    expect(asked.length).toBe(2);
  });
});
