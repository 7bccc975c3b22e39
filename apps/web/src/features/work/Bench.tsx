import ToggleButton from '@mui/material/ToggleButton';
import ToggleButtonGroup from '@mui/material/ToggleButtonGroup';
import type { Family } from '@firm-needle/core/family';
import type { Choice, Plan, Step, WalkItem } from '@firm-needle/core/procedure';
import { useEffect, useState } from 'react';
import { useLive } from '../../live/useLive.ts';
import type { WorkableSource } from '../../live/source.ts';
import type { Live } from './useLiveSource.ts';

const LOOK_MS = 250;
/** How fast the rig’s clock runs beside life. */
export const SPEEDS = [1, 4, 20, 60] as const;

interface BenchProps {
  readonly family: Family;
  readonly plan: Plan;
  readonly live: Live;
  readonly rig: WorkableSource;
  readonly item: WalkItem | undefined;
  readonly follow: boolean;
  readonly onFollow: (follow: boolean) => void;
}

/** What eyes see at a step beside any gauge: the answers of a look, or what comes in place of a reading. */
export function inSight(
  step: Step,
): { key: string; seconds: number; choices: readonly Choice[] } | undefined {
  const { key } = step;
  if (step.kind === 'observe' && !step.stopwatch)
    return { key, seconds: step.seconds ?? 0, choices: step.choices };
  const before = step.kind === 'read' ? (step.instead ?? []).filter((c) => c.before) : [];
  return before.length > 0 ? { key, seconds: 0, choices: before } : undefined;
}

/** The simulated installation's own taps, valves and clock; never there when real gauges are read. */
export function Bench({ family, plan, live, rig, item, follow, onFollow }: BenchProps) {
  useBench(family, live, rig);
  const [seen, setSeen] = useState<string>();
  const sight = item && inSight(item.step);
  const { session } = live;
  useEffect(() => {
    setSeen(undefined);
    if (!sight) return;
    // What is to be watched for a while shows itself only then, on the rig's own clock.
    const from = session.time;
    let here = true;
    const look = (): void => {
      if (session.time - from < sight.seconds) return;
      // What was asked at the step before is not to be seen at this one.
      void rig
        .answer(sight.key)
        .then((code) => here && setSeen(sight.choices.find((c) => c.code === code)?.title));
    };
    look();
    const timer = setInterval(look, LOOK_MS);
    return () => {
      here = false;
      clearInterval(timer);
    };
    // What is in sight follows from the step.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [item?.step, item?.pass, rig, session]);
  return (
    <section className="bench" aria-label="Bench, simulated">
      <span className="eyebrow">Bench, simulated</span>
      <Speeds rig={rig} all={SPEEDS} />
      <Handles family={family} plan={plan} rig={rig} onSet={(id, value) => rig.set(id, value)} />
      <button type="button" className="bench-handle" aria-pressed={follow} onClick={() => onFollow(!follow)}>
        {follow ? 'hands follow the steps' : 'hands by me'}
      </button>
      <Meters family={family} live={live} />
      {seen && <span className="soft">You would see: {seen.toLowerCase()}</span>}
    </section>
  );
}

/** How fast the rig’s clock runs; 0 is a pause. */
export function Speeds({ rig, all }: { rig: WorkableSource; all: readonly number[] }) {
  const [speed, setSpeed] = useState<number>(1);
  return (
    <ToggleButtonGroup
      exclusive
      size="small"
      value={speed}
      aria-label="Speed of the rig’s clock"
      onChange={(_, v: number | null) => {
        if (v === null) return;
        setSpeed(v);
        rig.setSpeed(v);
      }}
    >
      {all.map((s) => (
        <ToggleButton key={s} value={s} aria-label={s === 0 ? 'pause' : `${s} times`}>
          {s === 0 ? '‖' : `${s}×`}
        </ToggleButton>
      ))}
    </ToggleButtonGroup>
  );
}

/** Taps, valves and switches: each goes on to its next place. */
export function Handles({
  family,
  plan,
  rig,
  onSet,
}: {
  family: Family;
  plan: Plan;
  rig: WorkableSource;
  onSet: (id: string, value: number) => void;
}) {
  return family.rig.handles
    .filter((h) => h.when?.(plan) ?? true)
    .map((h) => {
      const value = rig.positions[h.id] ?? 0;
      const i = h.positions.findIndex((p) => p.value === value);
      const next = h.positions[(i + 1) % h.positions.length];
      return (
        <button
          key={h.id}
          type="button"
          className="bench-handle"
          onClick={() => next && onSet(h.id, next.value)}
        >
          {h.title}: <strong>{h.positions[i]?.title.toLowerCase() ?? value}</strong>
        </button>
      );
    });
}

/** What its meters show to whoever looks at them. */
export const Meters = ({ family, live }: { family: Family; live: Live }) =>
  family.rig.meters?.map((m) => (
    <span key={m.channel} className="bench-meter">
      {m.title}: <strong>{m.shows[live.session.channels[m.channel] === 1 ? 1 : 0]}</strong>
    </span>
  ));

/** The bench as it stands, drawn anew where a tap or a meter changed. */
export const useBench = (family: Family, live: Live, rig: WorkableSource): void =>
  void useLive(live.session, 300, () =>
    JSON.stringify([rig.positions, family.rig.meters?.map((m) => live.session.channels[m.channel])]),
  );
