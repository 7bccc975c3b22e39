import { fromCanonical, symbolOf, toCanonical } from '@firm-needle/core/quantity';
import type { CorrectedEvent, TraceEvent } from '@firm-needle/core/trace';
import Button from '@mui/material/Button';
import type { Remote } from 'comlink';
import { useEffect, useRef, useState, type KeyboardEvent, type PointerEvent } from 'react';
import { useAppSelector } from '../store/index.ts';
import { makeScale, ticksOf, timeTicks, type TimeScale } from '@firm-needle/core/picture';
import { useSize } from '../ui/useSize.ts';
import type { TraceHost, TraceRead } from '../workers/trace.worker.ts';

interface Props {
  readonly host: Remote<TraceHost>;
  readonly read: TraceRead;
  readonly events: readonly CorrectedEvent[];
  /** Short spikes that were left out; drawn, but no events. */
  readonly spikes: readonly TraceEvent[];
  readonly unit: string;
  readonly times: TimeScale;
  readonly selected: CorrectedEvent | undefined;
  readonly onSelect: (e: CorrectedEvent | undefined) => void;
}

const HEIGHT = 340;
const LEFT = 56;
const BOTTOM = 26;
/** A touch this near to an event means it, px. */
const TOUCH = 16;
/** Never closer than this many seconds across. */
const CLOSEST_S = 0.2;

/** A whole trace: dragged and zoomed, drawn from lows and highs so that no spike is lost, with what was found on it. */
export function TraceView({ host, read, events, spikes, unit, times, selected, onSelect }: Props) {
  const [ref, { width }] = useSize<HTMLDivElement>();
  const canvas = useRef<HTMLCanvasElement>(null);
  const theme = useAppSelector((s) => s.ui.theme);
  const [view, setView] = useState({ from: read.from, to: read.to });
  const drag = useRef<{ x: number; from: number; to: number }>(undefined);
  const factor = toCanonical(1, unit) - toCanonical(0, unit);
  const inner = Math.max(10, width - LEFT);

  const zoom = (by: number, at = 0.5): void =>
    setView(({ from, to }) => {
      const span = Math.min(read.to - read.from, Math.max(CLOSEST_S, (to - from) * by));
      return within(from + (to - from) * at - span * at, span, read);
    });
  const pan = (by: number): void =>
    setView(({ from, to }) => within(from + (to - from) * by, to - from, read));

  useEffect(() => {
    const el = canvas.current;
    const pen = el?.getContext('2d');
    if (!el || !pen || width === 0) return;
    let wanted = true;
    void host.columns(view.from, view.to, inner).then((pairs) => {
      if (!wanted) return;
      const ratio = Math.min(2, devicePixelRatio || 1);
      el.width = Math.round(width * ratio);
      el.height = Math.round(HEIGHT * ratio);
      pen.setTransform(ratio, 0, 0, ratio, 0, 0);
      paint(pen, el, { pairs, view, read, events, spikes, selected, unit, times, factor, width });
    });
    return () => {
      wanted = false;
    };
  }, [host, view, read, events, spikes, selected, unit, times, factor, width, inner, theme]);

  // An event that was chosen elsewhere is brought into view.
  useEffect(() => {
    if (!selected) return;
    setView((v) => {
      const span = v.to - v.from;
      return selected.t >= v.from && selected.t <= v.to ? v : within(selected.t - span / 2, span, read);
    });
  }, [selected, read]);

  /** The event nearest to a touch, if one is near. */
  const touched = (px: number): CorrectedEvent | undefined => {
    const x = (e: CorrectedEvent): number => LEFT + ((e.t - view.from) / (view.to - view.from)) * inner;
    let best: CorrectedEvent | undefined;
    for (const e of events)
      if (Math.abs(x(e) - px) < TOUCH && (!best || Math.abs(x(e) - px) < Math.abs(x(best) - px))) best = e;
    return best;
  };
  const keys = (e: KeyboardEvent): void => {
    if (e.key === '+' || e.key === '=') zoom(0.5);
    else if (e.key === '-') zoom(2);
    else if (e.key === 'ArrowLeft') pan(-0.2);
    else if (e.key === 'ArrowRight') pan(0.2);
    else if (e.key === 'Home') setView({ from: read.from, to: read.to });
    else return;
    e.preventDefault();
  };
  const move = (e: PointerEvent): void => {
    const d = drag.current;
    if (!d) return;
    const by = ((d.x - e.clientX) / inner) * (d.to - d.from);
    setView(within(d.from + by, d.to - d.from, read));
  };
  return (
    <div className="trace-view" ref={ref}>
      <canvas
        ref={canvas}
        style={{ width: '100%', height: HEIGHT }}
        tabIndex={0}
        role="img"
        aria-label={`Trace of ${read.samples} samples with ${events.length} events; plus and minus zoom, arrows move`}
        onKeyDown={keys}
        onPointerDown={(e) => {
          e.currentTarget.setPointerCapture(e.pointerId);
          drag.current = { x: e.clientX, ...view };
        }}
        onPointerMove={move}
        onPointerUp={(e) => {
          const still = drag.current && Math.abs(drag.current.x - e.clientX) < 4;
          drag.current = undefined;
          if (still) onSelect(touched(e.clientX - e.currentTarget.getBoundingClientRect().left));
        }}
        onPointerCancel={() => (drag.current = undefined)}
      />
      <div className="trace-tools">
        <Button size="small" onClick={() => zoom(0.5)}>
          Closer
        </Button>
        <Button size="small" onClick={() => zoom(2)}>
          Farther
        </Button>
        <Button size="small" onClick={() => setView({ from: read.from, to: read.to })}>
          All of it
        </Button>
        <span className="soft figure">
          {lasting(view.to - view.from)} of {lasting(read.to - read.from)}
        </span>
      </div>
    </div>
  );
}

/** A length of time as people say it. */
const lasting = (s: number): string =>
  s < 180 ? `${s.toFixed(1)} s` : s < 10_800 ? `${(s / 60).toFixed(1)} min` : `${(s / 3600).toFixed(1)} h`;

const within = (from: number, span: number, { from: first, to: last }: TraceRead) => {
  const start = Math.max(first, Math.min(last - span, from));
  return { from: start, to: start + span };
};

interface Painting {
  readonly pairs: Float64Array;
  readonly view: { readonly from: number; readonly to: number };
  readonly read: TraceRead;
  readonly events: readonly CorrectedEvent[];
  readonly spikes: readonly TraceEvent[];
  readonly selected: CorrectedEvent | undefined;
  readonly unit: string;
  readonly times: TimeScale;
  readonly factor: number;
  readonly width: number;
}

/** Times closer than this would run into each other, px. */
const TIME_GAP = 100;
/** Labels closer than this would lie on each other, px. */
const LABEL_GAP = 52;

function paint(pen: CanvasRenderingContext2D, el: Element, p: Painting): void {
  const css = getComputedStyle(el);
  const ink = (name: string): string => css.getPropertyValue(name).trim();
  const air = Math.max((p.read.high - p.read.low) * 0.12, p.factor / 10);
  const scale = makeScale(p.read.low - air, p.read.high + air, 8, HEIGHT - BOTTOM);
  const inner = p.width - LEFT;
  const x = (t: number): number => LEFT + ((t - p.view.from) / (p.view.to - p.view.from)) * inner;
  pen.clearRect(0, 0, p.width, HEIGHT);
  pen.font = `13px ${ink('--text')}`;
  for (const tick of ticksOf(scale, p.factor)) {
    if (!tick.major) continue;
    const y = scale.y(tick.value);
    pen.strokeStyle = ink('--line-faint');
    pen.beginPath();
    pen.moveTo(LEFT, y);
    pen.lineTo(p.width, y);
    pen.stroke();
    pen.fillStyle = ink('--ink-soft');
    pen.textAlign = 'right';
    pen.fillText(tick.text, LEFT - 8, y + 4);
  }
  const ticks = timeTicks(p.view.from, p.view.to, p.times, Math.max(2, Math.floor(inner / TIME_GAP)));
  for (const { t, text } of ticks) {
    // Kept within the picture; the one that says the day is the widest.
    const half = pen.measureText(text).width / 2;
    const at = Math.min(p.width - half - 4, Math.max(LEFT + half - 8, x(t)));
    pen.strokeStyle = ink('--line');
    pen.beginPath();
    pen.moveTo(x(t), HEIGHT - BOTTOM);
    pen.lineTo(x(t), HEIGHT - BOTTOM + 5);
    pen.stroke();
    pen.textAlign = 'center';
    pen.fillText(text, at, HEIGHT - 7);
  }
  pen.strokeStyle = ink('--ink');
  pen.lineWidth = 1.4;
  pen.beginPath();
  let open = false;
  for (let i = 0; i * 2 < p.pairs.length; i++) {
    const [low, high] = [p.pairs[i * 2] ?? NaN, p.pairs[i * 2 + 1] ?? NaN];
    if (Number.isNaN(low)) continue;
    if (open) pen.lineTo(LEFT + i, scale.y(low));
    else pen.moveTo(LEFT + i, scale.y(low));
    pen.lineTo(LEFT + i, scale.y(high));
    open = true;
  }
  pen.stroke();
  pen.font = `600 13px ${ink('--figures')}`;
  let last = -Infinity;
  for (const e of p.spikes) {
    const [at, y] = [x(e.t), scale.y(e.p)];
    if (at < LEFT || at > p.width) continue;
    pen.strokeStyle = ink('--ink-soft');
    pen.lineWidth = 1.4;
    pen.beginPath();
    for (const way of [-1, 1]) {
      pen.moveTo(at - 4, y - 4 * way);
      pen.lineTo(at + 4, y + 4 * way);
    }
    pen.stroke();
  }
  for (const [i, e] of p.events.entries()) {
    const at = x(e.t);
    if (at < LEFT || at > p.width) continue;
    const y = scale.y(e.p);
    pen.beginPath();
    const chosen = e === p.selected;
    pen.arc(at, y, chosen ? 7 : 4.2, 0, Math.PI * 2);
    // What a person said is filled, what was found is open.
    pen.fillStyle = ink(e.correction ? '--needle' : '--panel');
    pen.fill();
    pen.lineWidth = 1.8;
    pen.strokeStyle = ink('--needle');
    pen.stroke();
    if (at - last < LABEL_GAP) continue;
    last = at;
    const text = fromCanonical(e.p, p.unit).toFixed(1);
    pen.lineWidth = 4;
    pen.strokeStyle = ink('--panel');
    const beside = [p.events[i - 1], p.events[i + 1]].flatMap((n) => (n ? [n.p] : []));
    const low = beside.length > 0 && beside.every((n) => n > e.p);
    const below = low ? 19 : -10;
    pen.strokeText(text, at, y + below);
    pen.fillStyle = ink('--ink');
    pen.fillText(text, at, y + below);
  }
  pen.textAlign = 'left';
  pen.fillStyle = ink('--ink-soft');
  pen.fillText(symbolOf(p.unit), 6, 16);
}
