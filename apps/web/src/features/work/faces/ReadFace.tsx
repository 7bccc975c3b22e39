import Button from '@mui/material/Button';
import Menu from '@mui/material/Menu';
import MenuItem from '@mui/material/MenuItem';
import { turningOf } from '@firm-needle/core/entries';
import { predicted, sayStep } from '@firm-needle/core/family';
import { shownAs, spanOf } from '@firm-needle/core/gauge';
import type { Choice, ReadStep } from '@firm-needle/core/procedure';
import type { TraceEvent } from '@firm-needle/core/trace';
import { useEffect, useMemo, useState } from 'react';
import { cue } from '../../../live/cues.ts';
import type { LiveNow } from '../../../live/liveSession.ts';
import { useLive } from '../../../live/useLive.ts';
import { useAppSelector } from '../../../store/index.ts';
import { asShown, Keypad } from '../../../ui/Keypad.tsx';
import { NextMoveCard } from '../NextMoveCard.tsx';
import type { ReadHow } from '../useActions.ts';
import { ownReading } from '../useWatch.ts';
import { forgetRun, RunClock, runOf, timedAt } from './RunClock.tsx';
import type { FaceProps } from './types.ts';
import { letter } from '../../../ui/keys.ts';
import { usePractised } from '../../../practice/context.ts';
import { useKeys } from '../../../ui/useKeys.ts';

/** One reading: taken from the needle when it is firm or caught, early if need be, typed, or something else happened. */
export function ReadFace({ job, item, live, actions, step }: FaceProps & { step: ReadStep }) {
  const { drives } = job.family.rig;
  const move = useMemo(() => sayStep(job.family, job.view, step), [job.family, job.view, step]);
  const gauge = job.view.gauge(step.slot);
  const isOver = (n: LiveNow | undefined): boolean =>
    move.stopAt !== undefined &&
    n !== undefined &&
    (move.falling ? n.p <= move.stopAt : n.p >= move.stopAt) &&
    drives !== undefined &&
    live?.session.channels[drives.channel] === 1;
  const newest = (): TraceEvent | undefined => live && newestEvent(live.session.events(), step, job);
  const now = ownReading(
    useLive(live?.session, 80, (n) => {
      const own = n && ownReading(n, item, step.slot);
      if (!own || !gauge) return `${newest()?.t}`;
      return [asShown(gauge, own.p), own.caught?.t, own.firmness.state, isOver(own), newest()?.t].join(' ');
    }),
    item,
    step.slot,
  );
  const sound = useAppSelector((s) => s.ui.sound);
  const [typing, setTyping] = useState<'read' | Choice | undefined>(live ? undefined : 'read');
  const [menu, setMenu] = useState<HTMLElement | null>(null);
  const caught = now?.caught;
  const has = caught !== undefined;
  useEffect(() => {
    if (has) cue(step.catch === 'firm' ? 'firm' : 'caught', sound);
  }, [has, step.catch, sound]);
  const rig = live?.rig;
  useEffect(() => {
    if (!has || !rig) return;
    rig.hold(true);
    return () => rig.hold(false);
  }, [has, rig]);
  const over = isOver(now);
  useEffect(() => {
    if (over) cue('stop', sound);
  }, [over, sound]);

  // Nothing but an ear tells when it acts: what stands as the key is pressed is the reading.
  const byEar =
    (step.catch === 'stops' || step.catch === 'starts') &&
    live !== undefined &&
    now !== undefined &&
    (drives === undefined || live.session.channels[drives.channel] === undefined);
  const take = (): void => {
    if (live && !now) return;
    if (!gauge || !now) return setTyping('read');
    const p = caught?.p ?? now.p;
    // What is drawn may have been so for a while.
    const t = caught?.t ?? live?.session.time ?? now.t;
    const kind = turningOf(step.catch);
    const how: ReadHow = {
      state: step.catch === 'firm' && caught ? 'firm' : caught || byEar ? 'caught' : 'early',
      t_s: t,
      since_s: kind && caught ? live?.session.sinceOpposite(kind, t) : undefined,
      excerpt: live?.session.excerpt(step.slot, t, REACH_S, EXCERPT),
    };
    void actions.read(item, step, shownAs(gauge, p), how);
  };
  const event = newest();
  const takeEvent = (): void => {
    if (!gauge || !event) return;
    const kind = turningOf(step.catch);
    void actions.read(item, step, shownAs(gauge, event.p), {
      state: 'caught',
      t_s: event.t,
      since_s: kind ? live?.session.sinceOpposite(kind, event.t) : undefined,
      excerpt: live?.session.excerpt(step.slot, event.t, REACH_S, EXCERPT),
    });
  };
  const answer = (choice: Choice): void => {
    setMenu(null);
    if (choice.withPressure && gauge && now) void actions.instead(item, choice, shownAs(gauge, now.p));
    else if (choice.withPressure && gauge) setTyping(choice);
    else void actions.instead(item, choice);
  };
  const instead = step.instead ?? [];
  const practised = usePractised();
  /** Nothing says whether it stands: when to take it is one’s own to see. */
  const bare = practised?.help === 'bare';
  // What may happen before there is anything to read stands beside the reading, with a letter of its own.
  const before = instead.filter((c) => c.before === true);
  // A key does what its button does, and nothing while that cannot be pressed: early is a press of its own.
  useKeys({
    ' ': typing || (live && !has && !byEar && !(bare && now)) ? undefined : take,
    e: typing || !now || has || byEar ? undefined : take,
    k: typing ? undefined : () => setTyping('read'),
    ...Object.fromEntries(
      before.map((c, i) => [letter(i + 1).toLowerCase(), typing ? undefined : () => answer(c)]),
    ),
  });
  if (!gauge) return null;
  const stop = drives?.stop ?? 'Stop';
  const def = job.view.setting(step.setting);
  const guess = predicted(job.family, job.view, step.setting);
  const timed = live ? undefined : timedAt(job, step);
  const run = job.view.state.job;
  if (typing)
    return (
      <Keypad
        title={
          typing === 'read' ? `Type the ${def.title.toLowerCase()}` : `${typing.title}: at what pressure?`
        }
        say={move.say}
        gauge={gauge}
        family={job.family}
        job={job.view}
        {...(typing === 'read' ? { setting: step.setting } : {})}
        expected={
          guess && (!practised || practised.help === 'full')
            ? `${asShown(gauge, guess.mean)} ± ${asShown(gauge, (guess.high - guess.low) / 2)}`
            : undefined
        }
        withEarly={typing === 'read'}
        beside={timed && typing === 'read' ? <RunClock job={run} {...timed} /> : undefined}
        onKeep={(t, early) => {
          const value = { text: t.text, unit: t.unit, value: t.value };
          if (typing === 'read') {
            const since_s = timed?.end === 'last' ? runOf(run) : undefined;
            void actions.read(item, step, value, { state: early ? 'early' : 'typed', since_s }).then((ok) => {
              if (ok && timed?.end === 'last') forgetRun(run);
            });
          } else void actions.instead(item, typing, value);
        }}
        onOffScale={(side) => {
          const end = side === 'above' ? spanOf(gauge).upper : spanOf(gauge).lower;
          void actions.read(item, step, shownAs(gauge, end), { state: 'typed', bound: side });
        }}
        onCancel={() => setTyping(undefined)}
      />
    );
  return (
    <>
      {over && (
        <p className="caution stop" role="alert">
          <strong>{stop} now.</strong> The pressure has {move.falling ? 'fallen to' : 'reached'}{' '}
          {job.view.say(move.stopAt ?? 0, step.setting)}.
        </p>
      )}
      <NextMoveCard move={move}>
        {move.stopAt !== undefined && (
          <p className="move-stop">
            {stop} at <strong>{job.view.say(move.stopAt, step.setting)}</strong>
            {job.family.stopsAlso && !move.falling ? `, or at ${job.family.stopsAlso}` : ''}.
          </p>
        )}
      </NextMoveCard>
      <div className="acts">
        <Button
          className={`primary${has && !bare ? ' ready' : ''}`}
          variant="contained"
          disabled={live !== undefined && !has && !byEar && !(bare && now)}
          onClick={take}
        >
          {bare && live
            ? 'Take what it shows'
            : label(
                step,
                def.title,
                live !== undefined,
                now,
                has ? shownAs(gauge, caught.p).text : undefined,
                byEar,
              )}{' '}
          <kbd>Space</kbd>
        </Button>
        {event && !practised && (
          <Button onClick={takeEvent}>Take {asShown(gauge, event.p)} from the trace</Button>
        )}
        {now && !has && !byEar && !bare && (
          <Button onClick={take}>
            Take {asShown(gauge, now.p)} early <kbd>E</kbd>
          </Button>
        )}
        {live && <Button onClick={() => setTyping('read')}>Type it</Button>}
        {before.map((c, i) => (
          <Button key={c.code} aria-keyshortcuts={letter(i + 1)} onClick={() => answer(c)}>
            {c.title} <kbd aria-hidden>{letter(i + 1)}</kbd>
          </Button>
        ))}
        {instead.some((c) => c.before !== true) && (
          <>
            <Button onClick={(e) => setMenu(e.currentTarget)} aria-haspopup="menu">
              Something else
            </Button>
            <Menu anchorEl={menu} open={menu !== null} onClose={() => setMenu(null)}>
              {instead
                .filter((c) => c.before !== true)
                .map((c) => (
                  <MenuItem key={c.code} onClick={() => answer(c)}>
                    {c.title}
                  </MenuItem>
                ))}
            </Menu>
          </>
        )}
      </div>
    </>
  );
}

/** Samples that a reading keeps of its trace, and how far on each side of it, s. */
const EXCERPT = 60;
const REACH_S = 15;

/** The newest event of a live trace that is what a step asks for, and that came after everything that was done before. */
function newestEvent(
  events: readonly TraceEvent[],
  step: ReadStep,
  job: FaceProps['job'],
): TraceEvent | undefined {
  // Where the pressure goes on after it acts, a turn of the pressure is not the setting.
  if (step.catch === 'stops' || step.catch === 'starts') return undefined;
  let since = -Infinity;
  for (const { body } of job.session.log.events)
    if ('t_s' in body && body.t_s !== undefined) since = Math.max(since, body.t_s);
  const name = job.view.setting(step.setting).traced ?? step.setting;
  return events.findLast((e) => e.kind === name && e.t > since + AFTER_S);
}

/** The same turn is not taken twice: a reading and its event may stand this far apart, s. */
const AFTER_S = 2;

function label(
  step: ReadStep,
  title: string,
  live: boolean,
  now: LiveNow | undefined,
  caught: string | undefined,
  byEar: boolean,
): string {
  if (!live) return `Type the ${title.toLowerCase()}`;
  if (caught !== undefined) return `Take ${title.toLowerCase()} ${caught}`;
  switch (step.catch) {
    case 'low':
      return 'Watching for the lowest';
    case 'high':
    case 'peak':
      return 'Watching for the highest';
    case 'stops':
    case 'starts':
      return byEar ? `Take ${title.toLowerCase()} as it clicks` : 'Waiting for the click';
    case 'firm':
      return now?.firmness.state !== 'settling' ? 'Wait: moving' : 'Wait: settling';
  }
}
