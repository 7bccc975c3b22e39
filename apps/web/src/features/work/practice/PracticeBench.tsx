import { turnsOf, unreached, type Exercise } from '@firm-needle/core/practice';
import type { WalkItem } from '@firm-needle/core/procedure';
import { useEffect, useRef, useState } from 'react';
import type { PracticeLive } from './usePracticeSource.ts';
import { useKeys } from '../../../ui/useKeys.ts';
import type { OpenJob } from '../../../sync/useJob.ts';
import { Handles, inSight, Meters, Speeds, SPEEDS, useBench } from '../Bench.tsx';

const LOOK_MS = 250;

interface Props {
  readonly job: OpenJob;
  readonly ex: Exercise | undefined;
  readonly live: PracticeLive;
  readonly kind: 'lesson' | 'run' | 'test';
  readonly follow: boolean;
  readonly onFollow: ((follow: boolean) => void) | undefined;
  /** What would have hurt somebody, and was not done: a lesson. */
  readonly stayed: string | undefined;
  /** In a lesson: ten seconds back. */
  readonly onBack: () => void;
}

/** The bench of practice: everything can be done at any time, as in a shop, and what follows is physics. */
export function PracticeBench({ job, ex, live, kind, follow, onFollow, stayed, onBack }: Props) {
  const { family, view } = job;
  const { rig } = live;
  useBench(family, live, rig);
  const [closed, setClosed] = useState<string>();
  const [turning, setTurning] = useState(false);
  const set = (id: string, value: number): void => rig.set(id, value, true);
  const holds = (fact: string, value: string): boolean => {
    const hands = Object.entries(family.facts[fact]?.[value]?.hands ?? {});
    return hands.length > 0 ? hands.every(([h, v]) => rig.positions[h] === v) : view.fact(fact) === value;
  };
  const turn = (id: string, value: number): void => {
    const shut = ex && unreached(ex, id, holds);
    setClosed(shut && `It cannot be reached: ${shut} first.`);
    if (!shut) rig.turn(id, value, true);
  };
  return (
    <section className="bench" aria-label="Bench, simulated">
      <span className="eyebrow">Bench</span>
      <Speeds rig={rig} all={kind === 'test' ? SPEEDS : [0, ...SPEEDS]} />
      {kind === 'lesson' && (
        <button type="button" className="bench-handle" onClick={onBack}>
          10 s back
        </button>
      )}
      <Handles family={family} plan={view.plan} rig={rig} onSet={set} />
      {onFollow && (
        <button
          type="button"
          className="bench-handle"
          aria-pressed={follow}
          onClick={() => onFollow(!follow)}
        >
          {follow ? 'hands follow the steps' : 'hands by me'}
        </button>
      )}
      <Senses item={job.offered.now} live={live} />
      <button
        type="button"
        className="bench-handle"
        aria-pressed={turning}
        onClick={() => setTurning(!turning)}
      >
        Turn something
      </button>
      {turning &&
        family.adjusters
          .filter((a) => a.kind !== 'air' && (!ex || turnsOf(ex, a.id).length > 0))
          .flatMap((a) =>
            [1, -1].map((way) => (
              <button
                key={`${a.id} ${way}`}
                type="button"
                className="bench-handle"
                onClick={() => turn(a.id, way * Math.max(a.quantum, Math.min(0.25, a.largest)))}
              >
                {a.title}: a little {a.ways[way > 0 ? 0 : 1]}
              </button>
            )),
          )}
      <Meters family={family} live={live} />
      {(closed ?? stayed) && (
        <p className="caution" role="alert">
          {closed ?? `${stayed ?? ''} That would have hurt somebody: it was not done.`}
        </p>
      )}
    </section>
  );
}

const VERBS = [
  ['Listen', /listen|hiss|hear|sound|chatter|knock|hum|quiet|silen/i],
  ['Feel', /feel|warm|hot|hand on|shak|breath|strong/i],
  ['Look', /./],
] as const;

/** To look, to listen, to feel is a deed: what is there is told to whoever does it, for as long as it takes. */
function Senses({ item, live }: { item: WalkItem | undefined; live: PracticeLive }) {
  const [seen, setSeen] = useState<string>();
  const [busy, setBusy] = useState(false);
  const timer = useRef<ReturnType<typeof setInterval>>(undefined);
  const { rig, session } = live;
  const place = `${item?.step.key} ${item?.pass}`;
  const here = useRef(place);
  here.current = place;
  useEffect(() => {
    setSeen(undefined);
    setBusy(false);
    return () => clearInterval(timer.current);
  }, [place]);
  const sight = item && inSight(item.step);
  const sense = useRef<() => void>(undefined);
  useKeys({ l: () => sense.current?.() });
  const choices = sight?.choices ?? (item?.step.kind === 'read' ? (item.step.instead ?? []) : []);
  // What is to be decided is not seen.
  const decides = item?.step.kind === 'observe' && item.step.decides;
  if (!item || decides || choices.length === 0) {
    sense.current = undefined;
    return null;
  }
  const words = typeof item.step.say === 'string' ? item.step.say : item.step.title;
  const verb = VERBS.find(([, re]) => re.test(`${item.step.title} ${words}`))?.[0] ?? 'Look';
  sense.current = (): void => {
    const from = session.time;
    setSeen(undefined);
    setBusy(true);
    clearInterval(timer.current);
    timer.current = setInterval(() => {
      if (session.time - from < (sight?.seconds ?? 0)) return;
      clearInterval(timer.current);
      void rig.answer(item.step.key).then((code) => {
        // Asked at another step: what was there is not to be seen here.
        if (here.current !== place) return;
        setBusy(false);
        setSeen(choices.find((c) => c.code === code)?.title ?? 'nothing but the needle');
      });
    }, LOOK_MS);
  };
  return (
    <>
      <button
        type="button"
        className="bench-handle practice-sense"
        aria-busy={busy}
        aria-keyshortcuts="L"
        onClick={() => sense.current?.()}
      >
        {verb} <kbd aria-hidden>L</kbd>
      </button>
      <span className="practice-seen" role="status">
        {busy ? '…' : seen && `What is there: ${seen.toLowerCase()}`}
      </span>
    </>
  );
}
