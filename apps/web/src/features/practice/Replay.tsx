import type { Debrief, Exercise, Moment, Strip } from '@firm-needle/core/practice';
import { fromCanonical, symbolOf } from '@firm-needle/core/quantity';
import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import ToggleButton from '@mui/material/ToggleButton';
import ToggleButtonGroup from '@mui/material/ToggleButtonGroup';
import { useEffect, useMemo, useState } from 'react';
import { useSize } from '../../ui/useSize.ts';
import { clock } from '../../practice/kinds.ts';

const HEIGHT = 300;
const MARGIN = { top: 22, right: 12, bottom: 26, left: 46 } as const;
const TICK_MS = 100;

interface Scale {
  readonly x: (t: number) => number;
  readonly y: (pa: number) => number;
}

/** The run as it went, with the truth as a thin line and the needle as a thick one; it can be gone through again. */
export function Replay({ ex, debrief }: { ex: Exercise; debrief: Debrief }) {
  const { strip, moments, bounds } = debrief;
  const places = ex.family.slots.filter((s) => strip.places[s.id] && moments.some((m) => m.slot === s.id));
  const slots = places.length > 0 ? places : ex.family.slots.filter((s) => strip.places[s.id]);
  const [slot, setSlot] = useState(slots[0]?.id ?? '');
  const end = strip.t.at(-1) ?? 0;
  const [t, setT] = useState(end);
  const [pace, setPace] = useState(0);
  const [both, setBoth] = useState(false);
  useEffect(() => {
    if (pace === 0) return;
    const timer = setInterval(() => setT((now) => Math.min(end, now + (pace * TICK_MS) / 1000)), TICK_MS);
    return () => clearInterval(timer);
  }, [pace, end]);
  useEffect(() => {
    if (t >= end) setPace(0);
  }, [t, end]);
  const unit = ex.started.gauges[slot]?.unit ?? 'psi';
  if (strip.t.length < 2 || !slot) return <p className="soft">Nothing went on long enough to draw.</p>;
  const steps = moments.filter((m) => m.t <= end).map((m) => m.t);
  const go = (way: 1 | -1): void => {
    setPace(0);
    const at = way > 0 ? steps.find((s) => s > t + 0.05) : steps.findLast((s) => s < t - 0.05);
    setT(at ?? (way > 0 ? end : 0));
  };
  const play = (p: number): void => {
    if (t >= end) setT(0);
    setPace(p);
  };
  const now = moments.findLast((m) => m.t <= t + 0.05 && m.kind !== 'missed');
  return (
    <figure className="replay">
      <Picture
        strip={strip}
        slot={slot}
        until={t}
        unit={unit}
        bound={bounds[slot]}
        moments={moments.filter((m) => m.slot === slot || m.slot === undefined)}
        title="your run"
      />
      {both && (
        <Picture
          strip={debrief.script.strip}
          slot={slot}
          until={Infinity}
          unit={unit}
          bound={bounds[slot]}
          moments={[]}
          title="the script on the same draw"
        />
      )}
      <div className="replay-acts">
        {slots.length > 1 && (
          <TextField select size="small" label="Gauge" value={slot} onChange={(e) => setSlot(e.target.value)}>
            {slots.map((s) => (
              <MenuItem key={s.id} value={s.id}>
                {s.title}
              </MenuItem>
            ))}
          </TextField>
        )}
        <Button size="small" onClick={() => go(-1)} aria-label="The moment before">
          ‹
        </Button>
        <ToggleButtonGroup
          exclusive
          size="small"
          value={pace}
          aria-label="Replay"
          onChange={(_, p: number | null) => p !== null && (p === 0 ? setPace(0) : play(p))}
        >
          <ToggleButton value={0}>‖</ToggleButton>
          <ToggleButton value={1}>1×</ToggleButton>
          <ToggleButton value={8}>8×</ToggleButton>
        </ToggleButtonGroup>
        <Button size="small" onClick={() => go(1)} aria-label="The next moment">
          ›
        </Button>
        <Button size="small" aria-pressed={both} onClick={() => setBoth(!both)}>
          {both ? 'Mine alone' : 'With the script’s run'}
        </Button>
        <span className="soft figure" role="status">
          {clock(t)} {now?.text}
        </span>
      </div>
      <details>
        <summary>The run in words</summary>
        <ol className="replay-words">
          {moments.map((m, i) => (
            <li key={i}>
              <span className="figure">{clock(m.t)}</span> {m.text}
            </li>
          ))}
        </ol>
      </details>
    </figure>
  );
}

function Picture({
  strip,
  slot,
  until,
  unit,
  bound,
  moments,
  title,
}: {
  strip: Strip;
  slot: string;
  until: number;
  unit: string;
  bound: number | undefined;
  moments: readonly Moment[];
  title: string;
}) {
  const [box, { width }] = useSize<HTMLDivElement>();
  const place = strip.places[slot];
  const range = useMemo(() => {
    const all = [...(place?.truth ?? []), ...(place?.shown ?? [])].filter(Number.isFinite);
    const top = all.reduce((a, b) => Math.max(a, b), -Infinity);
    const low = all.reduce((a, b) => Math.min(a, b), Infinity);
    // The end stands in the picture where it is not far above everything.
    const high = bound !== undefined && bound < top + 0.8 * (top - low) ? Math.max(top, bound) : top;
    const pad = 0.06 * (high - low || 1);
    return { low: low - pad, high: high + pad };
  }, [place, bound]);
  const end = strip.t.at(-1) ?? 1;
  const scale: Scale = {
    x: (t) => MARGIN.left + ((width - MARGIN.left - MARGIN.right) * t) / end,
    y: (p) =>
      MARGIN.top + ((HEIGHT - MARGIN.top - MARGIN.bottom) * (range.high - p)) / (range.high - range.low),
  };
  const path = (all: readonly number[]): string => {
    let d = '';
    for (const [i, p] of all.entries()) {
      const t = strip.t[i] ?? 0;
      if (t > until) break;
      if (Number.isFinite(p)) d += `${d ? 'L' : 'M'}${scale.x(t).toFixed(1)} ${scale.y(p).toFixed(1)}`;
    }
    return d;
  };
  const ticks = ticksOf(range.low, range.high, unit);
  const shown = moments.filter((m) => m.t <= until + 0.1);
  const missed = moments.filter((m) => m.kind === 'missed');
  return (
    <div ref={box} className="replay-picture">
      <svg
        width={width}
        height={HEIGHT}
        role="img"
        aria-label={`${title}: thin line the truth, thick line the needle`}
      >
        {ticks.map(({ p, text }) => (
          <g key={text}>
            <line
              className="replay-grid"
              x1={MARGIN.left}
              x2={width - MARGIN.right}
              y1={scale.y(p)}
              y2={scale.y(p)}
            />
            <text className="figure" x={MARGIN.left - 6} y={scale.y(p) + 4} textAnchor="end">
              {text}
            </text>
          </g>
        ))}
        {bound !== undefined && bound < range.high && (
          <g>
            <line
              className="replay-bound"
              x1={MARGIN.left}
              x2={width - MARGIN.right}
              y1={scale.y(bound)}
              y2={scale.y(bound)}
            />
            <text className="figure" x={MARGIN.left + 4} y={scale.y(bound) - 4}>
              must be stopped at {fromCanonical(bound, unit).toFixed(1)}
            </text>
          </g>
        )}
        <path className="replay-shown" d={path(place?.shown ?? [])} />
        <path className="replay-truth" d={path(place?.truth ?? [])} />
        {shown.map((m, i) =>
          m.kind === 'reading' && m.p !== undefined && m.slot === slot ? (
            <circle key={i} className="replay-reading" cx={scale.x(m.t)} cy={scale.y(m.p)} r={5}>
              <title>{m.text}</title>
            </circle>
          ) : m.kind === 'turn' ? (
            <path key={i} className="replay-turn" d={`M${scale.x(m.t)} ${HEIGHT - MARGIN.bottom}v-12`}>
              <title>{m.text}</title>
            </path>
          ) : m.kind === 'act' ? (
            <path
              key={i}
              className="replay-act"
              d={`M${scale.x(m.t) - 7} ${HEIGHT - MARGIN.bottom}h14l-7 -13z`}
            >
              <title>{m.text}</title>
            </path>
          ) : null,
        )}
        <text className="soft" x={MARGIN.left} y={HEIGHT - 7}>
          {title} · thin line: the truth · thick: the needle
        </text>
        <text className="figure" x={width - MARGIN.right} y={HEIGHT - 7} textAnchor="end">
          {clock(end)}
        </text>
        <text className="figure" x={MARGIN.left} y={14}>
          {symbolOf(unit)}
        </text>
      </svg>
      {missed.map((m) => (
        <p key={m.text} className="replay-missed">
          {m.text}
        </p>
      ))}
    </div>
  );
}

/** Round figures over a range. */
function ticksOf(
  low: number,
  high: number,
  unit: string,
): readonly { readonly p: number; readonly text: string }[] {
  const [a, b] = [fromCanonical(low, unit), fromCanonical(high, unit)];
  const raw = (b - a) / 5;
  const ten = 10 ** Math.floor(Math.log10(raw));
  const step = [1, 2, 5, 10].map((m) => m * ten).find((s) => s >= raw) ?? raw;
  const digits = Math.max(0, -Math.floor(Math.log10(step)));
  const out: { p: number; text: string }[] = [];
  const per = (high - low) / (b - a);
  for (let v = Math.ceil(a / step) * step; v <= b; v += step)
    out.push({ p: low + (v - a) * per, text: v.toFixed(digits).replace('-', '−') });
  return out;
}
