// The one picture on paper: the ladder of a control, and what was read along it, as vectors that survive a copier.
import type { Family, LadderPart } from '@firm-needle/core/family';
import type { JobView } from '@firm-needle/core/procedure';
import {
  apart,
  axesOf,
  domainOf,
  drawnOf,
  makeScale,
  pointsOf,
  railsOf,
  ticksOf,
  turnsOf,
  type Axis,
  type Scale,
} from '@firm-needle/core/picture';
import { fromCanonical, short, symbolOf } from '@firm-needle/core/quantity';
import type { Block } from '../paper/blocks.js';
import { INK, LINE, SOFT, type Paper } from '../paper/paper.js';

const HEIGHT = 190;
const LABEL = 8;
const BAND = '#dfe7e2';
/** The scale's own line, from the left edge. */
const AXIS = 36;
/** Room of the marks' names, right of the scale. */
const NAMES = 92;
/** Readings and turns that stand closer have no room for words. */
const LABELLED = 26;

type Of<K extends LadderPart['part']> = Extract<LadderPart, { part: K }>;
const of = <K extends LadderPart['part']>(parts: readonly LadderPart[], part: K): Of<K>[] =>
  parts.filter((p): p is Of<K> => p.part === part);
const number = (v: number): string => short(v).replace('-', '−');

/** The axis with the most on it that was read. */
function mainAxis(family: Family, job: JobView, unit: string | undefined): Axis | undefined {
  const axes = axesOf(family, job.plan, family.ladder(job.plan, job));
  const read = new Set(job.state.reads.map((r) => r.body.setting));
  const count = (a: Axis): number => a.parts.filter((p) => 'setting' in p && read.has(p.setting)).length;
  const [first] = [...axes].sort((a, b) => count(b) - count(a));
  if (!first || unit === undefined) return first;
  return { ...first, unit };
}

/**
 * Ladder and strip of a job; undefined where its family draws none.
 * @param unit the customer's, where the table is in it
 */
export function pictureOf(
  paper: Paper,
  family: Family,
  job: JobView,
  unit: string | undefined,
): Block | undefined {
  const axis = mainAxis(family, job, unit);
  if (!axis || of(axis.parts, 'mark').length === 0) return undefined;
  return {
    height: () => HEIGHT,
    draw: (x, y, width) =>
      paper.tagged('Figure', () => draw(paper, family, job, axis, x, y, width), {
        alt: `Ladder in ${symbolOf(axis.unit)}: ${of(axis.parts, 'mark')
          .map((m) => `${m.title} ${number(fromCanonical(m.value, axis.unit))}`)
          .join(
            ', ',
          )}; as found marked on the left of the scale, as left on its right, readings to the right.`,
      }),
  };
}

function draw(
  paper: Paper,
  family: Family,
  job: JobView,
  axis: Axis,
  x: number,
  y: number,
  width: number,
): void {
  const { doc } = paper;
  const { unit, parts } = axis;
  const factor = Math.abs(fromCanonical(1, unit) - fromCanonical(0, unit)) ** -1;
  const drawn = drawnOf(family, parts);
  const points = pointsOf(family, job, unit, drawn, false);
  const rails = railsOf(family, job, drawn, false);
  const { lower, upper } = domainOf(parts, [...points.map((p) => p.p), ...rails.map((r) => r.value)], factor);
  const scale = makeScale(lower, upper, y + 12, y + HEIGHT - 8);
  const line = x + AXIS;
  paper.text(symbolOf(unit), { x, y, width: AXIS + 20, size: LABEL });
  for (const b of of(parts, 'band')) {
    const top = Math.max(scale.top, scale.y(b.upper));
    doc.rect(line, top, width - AXIS, Math.min(scale.bottom, scale.y(b.lower)) - top).fill(BAND);
  }
  hatched(paper, of(parts, 'zone'), scale, line, x + width);
  for (const t of ticksOf(scale, factor)) {
    const at = scale.y(t.value);
    doc
      .moveTo(line - (t.major ? 7 : 4), at)
      .lineTo(line, at)
      .lineWidth(t.major ? 0.9 : 0.5)
      .stroke(INK);
    if (t.major)
      paper.text([{ text: t.text, style: 'figures' }], {
        x,
        y: at - LABEL * 0.66,
        width: AXIS - 14,
        size: LABEL,
        align: 'right',
      });
  }
  doc.moveTo(line, scale.top).lineTo(line, scale.bottom).lineWidth(1.2).stroke(INK);
  names(paper, parts, scale, unit, line);
  for (const r of rails) {
    const at = scale.y(r.value);
    if (r.side === 'found') doc.path(`M${line - 9} ${at - 3.5}l7 3.5-7 3.5z`).fill(INK);
    else
      doc
        .path(`M${line + 2} ${at}h6M${line + 8} ${at - 3.5}v7`)
        .lineWidth(1.6)
        .stroke(INK);
  }
  strip(paper, job, points, scale, line + NAMES, x + width);
}

/** What is forbidden, by slanting lines. */
function hatched(paper: Paper, zones: readonly Of<'zone'>[], scale: Scale, x0: number, x1: number): void {
  const { doc } = paper;
  for (const z of zones) {
    const edge = z.below ? z.upper : z.lower;
    if (edge > scale.upper || edge < scale.lower) continue;
    const [top, bottom] = z.below ? [scale.y(edge), scale.bottom] : [scale.top, scale.y(edge)];
    doc
      .save()
      .rect(x0, top, x1 - x0, bottom - top)
      .clip();
    for (let at = x0 - (bottom - top); at < x1; at += 6)
      doc.moveTo(at, bottom).lineTo(at + (bottom - top), top);
    doc.lineWidth(0.5).stroke(LINE).restore();
    doc.moveTo(x0, scale.y(edge)).lineTo(x1, scale.y(edge)).lineWidth(1.1).stroke(INK);
  }
}

/** Marks and limits with their names beside the scale, moved apart. */
function names(paper: Paper, parts: readonly LadderPart[], scale: Scale, unit: string, line: number): void {
  const { doc } = paper;
  const zones = of(parts, 'zone')
    .map((z) => ({ value: z.below ? z.upper : z.lower, text: z.title, hung: false, zone: true }))
    .filter((z) => z.value <= scale.upper && z.value >= scale.lower);
  const labels = [
    ...of(parts, 'mark').map((m) => ({
      value: m.value,
      text: `${m.title} ${number(fromCanonical(m.value, unit))}`,
      hung: m.hung === true,
      zone: false,
    })),
    ...zones,
  ];
  const places = apart(
    // The name of a limit stands under its line.
    labels.map((l) => scale.y(l.value) + (l.zone ? LABEL * 0.9 : 0)),
    LABEL * 1.25,
    scale.top + 4,
    scale.bottom - 4,
    labels.map((l) => scale.y(l.value)),
  );
  labels.forEach((l, i) => {
    const at = scale.y(l.value);
    const to = places[i] ?? at;
    if (l.zone) {
      paper.text(l.text, { x: line + 5, y: to - LABEL * 0.66, width: NAMES - 7, size: LABEL * 0.94 });
      return;
    }
    if (l.hung) doc.dash(3, { space: 2 });
    doc
      .moveTo(line, at)
      .lineTo(line + 10, at)
      .lineTo(line + 15, to)
      .lineWidth(0.9)
      .stroke(INK);
    doc.undash();
    paper.text(l.text, { x: line + 17, y: to - LABEL * 0.66, width: NAMES - 19, size: LABEL * 0.94 });
  });
}

/** What was read, in the order in which it was: a line through each place's readings, and where a screw was moved. */
function strip(
  paper: Paper,
  job: JobView,
  points: ReturnType<typeof pointsOf>,
  scale: Scale,
  x0: number,
  x1: number,
): void {
  const { doc } = paper;
  const turns = turnsOf(job);
  const orders = [...points.map((p) => p.order), ...turns.map((t) => t.order)].sort((a, b) => a - b);
  if (points.length === 0 || x1 - x0 < 60) return;
  const step = (x1 - x0 - 16) / Math.max(1, orders.length);
  const xOf = (order: number): number => x0 + 8 + (orders.indexOf(order) + 0.5) * step;
  doc.moveTo(x0, scale.top).lineTo(x0, scale.bottom).lineWidth(0.4).stroke(LINE);
  for (const slot of new Set(points.map((p) => p.slot))) {
    const own = points.filter((p) => p.slot === slot);
    own.forEach((p, i) => {
      const to: [number, number] = [xOf(p.order), scale.y(p.p)];
      if (i === 0) doc.moveTo(...to);
      else doc.lineTo(...to);
    });
    doc.lineWidth(0.7).stroke(SOFT);
  }
  for (const p of points) doc.circle(xOf(p.order), scale.y(p.p), 1.9).fill(INK);
  for (const t of turns) {
    const at = xOf(t.order);
    doc
      .dash(2, { space: 2 })
      .moveTo(at, scale.top)
      .lineTo(at, scale.bottom)
      .lineWidth(0.5)
      .stroke(SOFT)
      .undash();
    if (step >= LABELLED)
      paper.text([{ text: t.label, tone: SOFT }], {
        x: at - 24,
        y: scale.top - 10,
        width: 48,
        size: 6.5,
        align: 'center',
      });
  }
}
