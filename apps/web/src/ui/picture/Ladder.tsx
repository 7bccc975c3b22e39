import { nudgeStep, type Family, type LadderPart } from '@firm-needle/core/family';
import { fromCanonical, short } from '@firm-needle/core/quantity';
import { useRef, type KeyboardEvent, type PointerEvent } from 'react';
import { apart, ticksOf, type RailMark, type Scale } from '@firm-needle/core/picture';

interface LadderProps {
  readonly family: Family;
  readonly parts: readonly LadderPart[];
  readonly rails: readonly RailMark[];
  readonly scale: Scale;
  readonly unit: string;
  readonly factor: number;
  readonly width: number;
  readonly height: number;
  /** x of the scale's own line. */
  readonly axis: number;
  readonly compact: boolean;
  readonly onMove?: ((setting: string, value: number) => void) | undefined;
  readonly forbidden?: ReadonlySet<string> | undefined;
}

type Of<K extends LadderPart['part']> = Extract<LadderPart, { part: K }>;
const of = <K extends LadderPart['part']>(parts: readonly LadderPart[], part: K): Of<K>[] =>
  parts.filter((p): p is Of<K> => p.part === part);

/** The tall scale and everything about one control that stands on it. */
export function Ladder(props: LadderProps) {
  const { parts, rails, scale, factor, width, height, axis, compact, unit } = props;
  const x0 = compact ? 26 : 44;
  const bracketX = compact ? 31 : 44;
  const cut = (y: number): number => Math.min(scale.bottom, Math.max(scale.top, y));
  const spineWidth = compact ? 9 : 20;
  return (
    <svg
      className="ladder"
      width={width}
      height={height}
      role="group"
      aria-label={`Pressure ladder in ${unit}`}
    >
      <defs>
        <pattern id="hatch" width="8" height="8" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
          <line x1="0" y1="0" x2="0" y2="8" stroke="var(--hatch)" strokeWidth="2" />
        </pattern>
      </defs>
      {of(parts, 'spine').map((s) => (
        <rect
          key={s.title}
          x={axis - spineWidth}
          width={spineWidth}
          y={cut(scale.y(s.upper))}
          height={Math.max(0, cut(scale.y(s.lower)) - cut(scale.y(s.upper)))}
          fill="var(--spine)"
        >
          <title>{s.title}</title>
        </rect>
      ))}
      {of(parts, 'band').map((b) => (
        <rect
          key={b.setting}
          x={props.onMove ? x0 : axis}
          width={width - (props.onMove ? x0 : axis)}
          y={scale.y(b.upper)}
          height={scale.y(b.lower) - scale.y(b.upper)}
          fill="var(--in-wash)"
        />
      ))}
      {of(parts, 'zone')
        .filter((z) => inSight(z, scale))
        .map((z) => (
          <g key={z.title}>
            <rect
              x={x0}
              width={width - x0}
              y={z.below ? scale.y(z.upper) : scale.top}
              height={Math.max(0, z.below ? scale.bottom - scale.y(z.upper) : scale.y(z.lower) - scale.top)}
              fill="url(#hatch)"
              opacity="0.7"
            />
            <line
              x1={x0}
              x2={width}
              y1={scale.y(edgeOf(z))}
              y2={scale.y(edgeOf(z))}
              stroke="var(--ink)"
              strokeWidth="2"
            />
          </g>
        ))}
      {ticksOf(scale, factor).map((t) => {
        const y = scale.y(t.value);
        return (
          <g key={t.value}>
            <line
              x1={axis - (t.major ? 12 : 7)}
              x2={axis}
              y1={y}
              y2={y}
              stroke="var(--ink)"
              strokeWidth={t.major ? 1.6 : 1}
            />
            {t.major && (
              <text
                className={`tick${compact && t.text.length > 3 ? ' long' : ''}`}
                x={compact ? 24 : 36}
                y={y + 4.5}
                textAnchor="end"
              >
                {t.text}
              </text>
            )}
          </g>
        );
      })}
      <line x1={axis} x2={axis} y1={scale.top} y2={scale.bottom} stroke="var(--ink)" strokeWidth="1.8" />
      {of(parts, 'bracket').map((b) => (
        <Bracket
          key={b.setting}
          x={bracketX}
          from={scale.y(b.from)}
          to={scale.y(b.to)}
          text={number(fromCanonical(b.to, unit) - fromCanonical(b.from, unit))}
          title={b.title}
        />
      ))}
      <Marks {...props} x0={x0} />
      {rails.map((r, i) => {
        const y = scale.y(r.value);
        return r.side === 'found' ? (
          <path key={i} d={`M${axis - 13} ${y - 5}l10 5-10 5z`} fill="var(--ink)">
            <title>as found {number(fromCanonical(r.value, unit))}</title>
          </path>
        ) : (
          <path
            key={i}
            d={`M${axis + 3} ${y}h9M${axis + 12} ${y - 5}v10`}
            stroke="var(--ink)"
            strokeWidth="2.5"
            fill="none"
          >
            <title>as left {number(fromCanonical(r.value, unit))}</title>
          </path>
        );
      })}
    </svg>
  );
}

const number = (v: number): string => short(v).replace('-', '−');

function Bracket({
  x,
  from,
  to,
  text,
  title,
}: {
  x: number;
  from: number;
  to: number;
  text: string;
  title: string;
}) {
  const middle = (from + to) / 2;
  return (
    <g>
      <title>{title}</title>
      <path d={`M${x + 5} ${to}H${x}V${from}H${x + 5}`} fill="none" stroke="var(--ink)" strokeWidth="1.6" />
      {Math.abs(from - to) > 46 && (
        <text className="bracket" x={x + 7} y={middle + 5}>
          {text}
        </text>
      )}
    </g>
  );
}

/** Marks with their labels moved apart; in planning they can be dragged, nudged with the arrow keys, or typed elsewhere. */
function Marks(props: LadderProps & { x0: number }) {
  const { parts, scale, axis, compact, unit, onMove, forbidden, x0, family } = props;
  const marks = of(parts, 'mark');
  const zones = of(parts, 'zone').filter((z) => inSight(z, scale));
  const labels = [
    ...marks.map((m) => ({
      at: scale.y(m.value),
      y: scale.y(m.value) + (m.hung ? 15 : -5),
      text: `${compact ? shortOf(family, m.setting, m.title) : m.title} ${number(fromCanonical(m.value, unit))}`,
      tone: m.hung ? 'var(--near)' : 'var(--in)',
      bad: forbidden?.has(m.setting) ?? false,
    })),
    ...zones.map((z) => ({
      at: scale.y(edgeOf(z)),
      y: scale.y(edgeOf(z)) + 15,
      text: compact ? (z.title.split(' ')[0] ?? '') : z.title,
      tone: 'var(--ink)',
      bad: false,
    })),
  ];
  const places = apart(
    labels.map((l) => l.y),
    16,
    scale.top + 6,
    scale.bottom - 2,
    labels.map((l) => l.at),
  );
  return (
    <>
      {marks.map((m) => (
        <line
          key={m.setting}
          x1={x0}
          x2={axis + 7}
          y1={scale.y(m.value)}
          y2={scale.y(m.value)}
          stroke={forbidden?.has(m.setting) ? 'var(--out)' : m.hung ? 'var(--near)' : 'var(--in)'}
          strokeWidth="2.4"
          strokeDasharray={m.hung ? '6 4' : undefined}
        />
      ))}
      {labels.map((l, i) => (
        <text
          key={l.text}
          className="mark"
          x={x0 + (compact ? 9 : 6)}
          y={places[i]}
          fill={l.bad ? 'var(--out)' : l.tone}
        >
          {l.text}
        </text>
      ))}
      {onMove && <Grips {...props} marks={marks.filter((m) => m.movable)} onMove={onMove} />}
    </>
  );
}

/** A zone whose edge lies beyond the scale is behind another that stands before it. */
const inSight = (z: Of<'zone'>, scale: Scale): boolean =>
  edgeOf(z) <= scale.upper && edgeOf(z) >= scale.lower;

/** Where a zone begins: what is forbidden lies above it, or below. */
const edgeOf = (z: { lower: number; upper: number; below?: boolean }): number =>
  z.below ? z.upper : z.lower;

const shortOf = (family: Family, setting: string, title: string): string => {
  const short = family.settings.find((s) => s.id === setting)?.short ?? title;
  return short.charAt(0).toUpperCase() + short.slice(1);
};

/** The handles beside the scale, moved apart where marks are close; a line leads each to its place. */
function Grips({
  marks,
  ...props
}: LadderProps & { marks: readonly Of<'mark'>[]; onMove: (setting: string, value: number) => void }) {
  const places = apart(
    marks.map((m) => props.scale.y(m.value)),
    34,
    props.scale.top + 12,
    props.scale.bottom - 8,
  );
  return marks.map((m, i) => <Grip key={m.setting} {...props} mark={m} at={places[i] ?? 0} />);
}

function Grip({
  mark,
  scale,
  axis,
  factor,
  family,
  unit,
  onMove,
  forbidden,
  at,
}: LadderProps & { mark: Of<'mark'>; at: number; onMove: (setting: string, value: number) => void }) {
  const dragging = useRef(false);
  const def = family.settings.find((s) => s.id === mark.setting);
  if (!def?.givable) return null;
  const clamp = (v: number): number => Math.min(def.upper, Math.max(def.lower, v));
  const step = nudgeStep(def) * factor;
  const snap = (v: number): number => clamp(Math.round(v / step) * step);
  const drag = (e: PointerEvent<SVGGElement>): void => {
    if (!dragging.current) return;
    const box = e.currentTarget.ownerSVGElement?.getBoundingClientRect();
    if (box) onMove(mark.setting, snap(scale.value(e.clientY - box.top)));
  };
  const nudge = (e: KeyboardEvent<SVGGElement>): void => {
    const by = { ArrowUp: 1, ArrowDown: -1, PageUp: 10, PageDown: -10 }[e.key];
    if (by === undefined) return;
    e.preventDefault();
    onMove(mark.setting, snap(mark.value + by * step));
  };
  const y = scale.y(mark.value);
  const tone = forbidden?.has(mark.setting) ? 'var(--out)' : mark.hung ? 'var(--near)' : 'var(--in)';
  return (
    <g
      className="grip"
      role="slider"
      tabIndex={0}
      aria-label={mark.title}
      aria-valuemin={fromCanonical(def.lower, unit)}
      aria-valuemax={fromCanonical(def.upper, unit)}
      aria-valuenow={Number(short(fromCanonical(mark.value, unit)))}
      aria-valuetext={`${number(fromCanonical(mark.value, unit))} ${unit}`}
      onPointerDown={(e) => {
        dragging.current = true;
        e.currentTarget.setPointerCapture(e.pointerId);
      }}
      onPointerMove={drag}
      onPointerUp={() => (dragging.current = false)}
      onPointerCancel={() => (dragging.current = false)}
      onKeyDown={nudge}
    >
      <rect x={axis + 4} y={at - 24} width={106} height={48} fill="transparent" />
      <path d={`M${axis + 2} ${y}L${axis + 22} ${at}`} stroke={tone} strokeWidth="1.5" />
      <path d={`M${axis + 20} ${at}l12 -13h64v26h-64z`} fill="var(--card)" stroke={tone} strokeWidth="2" />
      <text className="grip-text" x={axis + 62} y={at + 6} textAnchor="middle" fill={tone}>
        {number(fromCanonical(mark.value, unit))}
      </text>
    </g>
  );
}
