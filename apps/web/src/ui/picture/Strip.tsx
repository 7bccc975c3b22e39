import { useEffect, useRef } from 'react';
import type { LiveSession } from '../../live/liveSession.ts';
import { useAppSelector } from '../../store/index.ts';
import type { Scale, StripPoint, StripTurn } from '@firm-needle/core/picture';

/** A reading on the strip: at its source time, or in its order where there was no live source. */
interface StripProps {
  readonly scale: Scale;
  readonly left: number;
  readonly width: number;
  readonly height: number;
  readonly live: LiveSession | undefined;
  /** The place whose gauge is drawn. */
  readonly slot: string;
  /** Zero offset taken off what the gauge shows, Pa. */
  readonly offset: number;
  readonly points: readonly StripPoint[];
  readonly turns: readonly StripTurn[];
  readonly expected: { readonly low: number; readonly high: number } | undefined;
  readonly compact: boolean;
  readonly say: (value: number) => string;
}

interface Ink {
  readonly ink: string;
  readonly soft: string;
  readonly faint: string;
  readonly needle: string;
  readonly in: string;
  readonly paper: string;
  readonly font: string;
  readonly labels: string;
}

/** What the pressure did, right of the ladder on its scale. Painted on canvas from the newest samples. */
export function Strip(props: StripProps) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const latest = useRef(props);
  latest.current = props;
  const theme = useAppSelector((s) => s.ui.theme);
  const { width, height, left, live, points } = props;
  useEffect(() => {
    const el = canvas.current;
    const pen = el?.getContext('2d');
    if (!el || !pen) return;
    const ratio = Math.min(2, devicePixelRatio || 1);
    el.width = Math.round(width * ratio);
    el.height = Math.round(height * ratio);
    const inks = inksOf(el);
    let frame = 0;
    const paint = (): void => {
      frame = 0;
      pen.setTransform(ratio, 0, 0, ratio, 0, 0);
      pen.clearRect(0, 0, width, height);
      if (latest.current.live) paintLive(pen, latest.current, latest.current.live, inks);
      else paintReadings(pen, latest.current, inks);
    };
    paint();
    void document.fonts?.ready.then(paint);
    const stop = live?.subscribe(() => {
      if (frame === 0) frame = requestAnimationFrame(paint);
    });
    return () => {
      stop?.();
      cancelAnimationFrame(frame);
    };
  }, [
    width,
    height,
    live,
    theme,
    props.scale.lower,
    props.scale.upper,
    points,
    props.expected?.low,
    props.expected?.high,
    props.offset,
  ]);
  const last = points.at(-1);
  return (
    <canvas
      className="strip"
      ref={canvas}
      style={{ left, width, height }}
      role="img"
      aria-label={
        last ? `Strip with ${points.length} readings, the last ${last.label}` : 'Strip, no readings yet'
      }
    />
  );
}

function inksOf(el: Element): Ink {
  const css = getComputedStyle(el);
  const v = (name: string): string => css.getPropertyValue(name).trim();
  return {
    ink: v('--ink'),
    soft: v('--ink-soft'),
    faint: v('--line-faint'),
    needle: v('--needle'),
    in: v('--in'),
    paper: v('--panel'),
    font: v('--text'),
    labels: v('--figures'),
  };
}

/** Room at the right edge for the reading that is expected next. */
/** Times of the strip stand so far apart at least, px. */
const LEAST_APART = 58;
const ahead = (p: StripProps): number => (p.compact ? 26 : 44);

function paintLive(pen: CanvasRenderingContext2D, p: StripProps, live: LiveSession, inks: Ink): void {
  const { slot } = p;
  const ring = live.ring(slot);
  const newest = ring.newest();
  const end = newest?.t ?? 0;
  const span = p.compact ? 240 : 420;
  const from = end - span;
  const w = p.width - ahead(p);
  const x = (t: number): number => ((t - from) / span) * w;
  const y = (v: number): number => Math.min(p.scale.bottom + 6, Math.max(p.scale.top - 4, p.scale.y(v)));
  pen.font = `12px ${inks.font}`;
  pen.textAlign = 'center';
  for (let m = 0; m <= span / 60; m++) {
    const gx = x(end - m * 60);
    pen.strokeStyle = inks.faint;
    pen.lineWidth = 1;
    pen.beginPath();
    pen.moveTo(gx, p.scale.top);
    pen.lineTo(gx, p.scale.bottom);
    pen.stroke();
    // As many as stand apart.
    const every = Math.max(1, Math.ceil(LEAST_APART / ((w * 60) / span)));
    if (gx < 16 || m % every !== 0) continue;
    pen.fillStyle = inks.soft;
    pen.fillText(m === 0 ? 'now' : `−${m} min`, Math.max(20, gx), p.height - 6);
  }
  const columns = Math.max(1, Math.floor(w));
  const pairs = ring.minMax(from, end, columns);
  pen.strokeStyle = inks.ink;
  pen.lineWidth = 1.8;
  pen.lineJoin = 'round';
  pen.beginPath();
  let open = false;
  for (let i = 0; i < columns; i++) {
    const low = pairs[i * 2] ?? NaN;
    const high = pairs[i * 2 + 1] ?? NaN;
    if (Number.isNaN(low)) continue;
    const y1 = y(low - p.offset);
    const y2 = y(high - p.offset);
    if (open) pen.lineTo(i, y1);
    else pen.moveTo(i, y1);
    if (Math.abs(y2 - y1) > 1) pen.lineTo(i, y2);
    open = true;
  }
  pen.stroke();
  const turned = p.turns.flatMap(({ t, label }) => (t !== undefined && t > from ? [{ x: x(t), label }] : []));
  paintEvents(
    pen,
    live
      .events()
      .flatMap((e) => (e.t > from && e.kind !== 'spike' ? [{ x: x(e.t), y: y(e.p - p.offset) }] : [])),
    inks,
  );
  const shown: Placed[] = [];
  for (const pt of p.points)
    if (pt.slot === slot && pt.t !== undefined && pt.t > from) shown.push({ x: x(pt.t), y: y(pt.p), pt });
  paintTurns(pen, p, turned, inks, paintPoints(pen, shown, inks));
  paintExpected(pen, p, w, inks);
  if (newest) paintNeedle(pen, y(newest.p - p.offset), w, inks);
}

/** What the trace itself shows: a small open square, under the rings of what was taken. */
function paintEvents(
  pen: CanvasRenderingContext2D,
  at: readonly { x: number; y: number }[],
  inks: Ink,
): void {
  pen.lineWidth = 1.6;
  pen.strokeStyle = inks.soft;
  pen.fillStyle = inks.paper;
  for (const { x, y } of at) {
    pen.fillRect(x - 4, y - 4, 8, 8);
    pen.strokeRect(x - 4, y - 4, 8, 8);
  }
}

/** Without a live gauge: the readings in their order, evenly spaced. */
function paintReadings(pen: CanvasRenderingContext2D, p: StripProps, inks: Ink): void {
  const all = [
    ...p.points.map((pt) => ({ pt, order: pt.order })),
    ...p.turns.map((turn) => ({ turn, order: turn.order })),
  ].sort((a, b) => a.order - b.order);
  const w = p.width - ahead(p);
  const shown = all.slice(-Math.max(3, Math.floor(w / (p.compact ? 34 : 56))));
  const x = (i: number): number => 26 + ((i + 0.5) / Math.max(shown.length, 4)) * (w - 40);
  pen.strokeStyle = inks.soft;
  pen.lineWidth = 1.4;
  pen.setLineDash([2, 4]);
  pen.beginPath();
  shown.forEach((s, i) => {
    if ('pt' in s) pen.lineTo(x(i), p.scale.y(s.pt.p));
  });
  pen.stroke();
  pen.setLineDash([]);
  const turned = shown.flatMap((s, i) => ('turn' in s ? [{ x: x(i), label: s.turn.label }] : []));
  const read = shown.flatMap((s, i) => ('pt' in s ? [{ x: x(i), y: p.scale.y(s.pt.p), pt: s.pt }] : []));
  paintTurns(pen, p, turned, inks, paintPoints(pen, read, inks));
  paintExpected(pen, p, w, inks);
}

/** A reading where it stands on the canvas, px. */
interface Placed {
  readonly x: number;
  readonly y: number;
  readonly pt: StripPoint;
}

/** Where a label stands. */
interface Box {
  readonly left: number;
  readonly right: number;
  readonly y: number;
}

const boxAt = (x: number, half: number, y: number): Box => ({ left: x - half, right: x + half, y });
const meet = (a: Box, b: Box): boolean =>
  a.right > b.left && a.left < b.right && Math.abs(a.y - b.y) < LABEL_HEIGHT;
const LABEL_HEIGHT = 15;

/**
 * Every reading as a ring; labels from the newest back, each only where none stands yet.
 * @returns where the labels stand
 */
function paintPoints(pen: CanvasRenderingContext2D, shown: readonly Placed[], inks: Ink): readonly Box[] {
  pen.lineWidth = 1.8;
  pen.strokeStyle = inks.ink;
  pen.fillStyle = inks.paper;
  for (const { x, y } of shown) {
    pen.beginPath();
    pen.arc(x, y, 4.6, 0, Math.PI * 2);
    pen.fill();
    pen.stroke();
  }
  pen.font = `600 14px ${inks.labels}`;
  pen.textAlign = 'center';
  const taken: Box[] = [];
  for (const { x, y, pt } of [...shown].reverse()) {
    const at = { x: Math.max(24, x), y: y + (pt.above ? -12 : 21) };
    const box = boxAt(at.x, pen.measureText(pt.label).width / 2 + 3, at.y);
    if (taken.some((t) => meet(box, t))) continue;
    taken.push(box);
    outlined(pen, pt.label, at.x, at.y, inks);
  }
  return taken;
}

/** Every turn has its tick; of labels that would stand over each other, or over a reading's, the newest is said. */
function paintTurns(
  pen: CanvasRenderingContext2D,
  p: StripProps,
  turns: readonly { readonly x: number; readonly label: string }[],
  inks: Ink,
  readings: readonly Box[],
): void {
  const y = p.scale.bottom - 22;
  pen.strokeStyle = inks.ink;
  pen.lineWidth = 1.6;
  for (const { x } of turns) {
    pen.beginPath();
    pen.moveTo(x, y);
    pen.lineTo(x, p.scale.bottom);
    pen.stroke();
  }
  pen.font = `13px ${inks.font}`;
  pen.textAlign = 'center';
  const taken: Box[] = [...readings];
  for (const { x, label } of [...turns].reverse()) {
    const half = pen.measureText(label).width / 2 + 3;
    const box = boxAt(Math.max(half + 1, x), half, y - 5);
    if (taken.some((t) => meet(box, t))) continue;
    taken.push(box);
    outlined(pen, label, (box.left + box.right) / 2, y - 5, inks);
  }
}

function paintExpected(pen: CanvasRenderingContext2D, p: StripProps, w: number, inks: Ink): void {
  if (!p.expected) return;
  const top = p.scale.y(p.expected.high);
  const bottom = p.scale.y(p.expected.low);
  pen.strokeStyle = inks.in;
  pen.lineWidth = 2;
  pen.setLineDash([4, 3]);
  pen.strokeRect(w + 4, top, ahead(p) - 10, Math.max(6, bottom - top));
  pen.setLineDash([]);
}

function paintNeedle(pen: CanvasRenderingContext2D, y: number, w: number, inks: Ink): void {
  pen.fillStyle = inks.needle;
  pen.beginPath();
  pen.moveTo(0, y);
  pen.lineTo(14, y - 8);
  pen.lineTo(14, y + 8);
  pen.fill();
  pen.strokeStyle = inks.needle;
  pen.lineWidth = 1.2;
  pen.setLineDash([2, 4]);
  pen.beginPath();
  pen.moveTo(16, y);
  pen.lineTo(w, y);
  pen.stroke();
  pen.setLineDash([]);
}

function outlined(pen: CanvasRenderingContext2D, text: string, x: number, y: number, inks: Ink): void {
  pen.lineWidth = 4;
  pen.strokeStyle = inks.paper;
  pen.strokeText(text, x, y);
  pen.fillStyle = inks.ink;
  pen.fillText(text, x, y);
}
