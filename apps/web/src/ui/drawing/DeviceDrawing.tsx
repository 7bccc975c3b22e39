import { nameBox, SHEET, type Drawing, type DrawnPart, type Outline } from '@firm-needle/core/family';
import { GLYPHS } from './glyphs.tsx';
import './drawing.css';

interface Props {
  readonly drawing: Drawing;
  readonly lit: readonly DrawnPart[];
  /** Names of all parts, and not only of those that are lit. */
  readonly named?: boolean;
  /** Read aloud in its place; empty where the words beside it say all. */
  readonly said: string;
}

/** A device as line art: what the step touches is inked and named, the rest is pale. */
export function DeviceDrawing({ drawing, lit, named = false, said }: Props) {
  const isLit = (part: DrawnPart): boolean => lit.includes(part);
  return (
    <svg
      className="device"
      viewBox={`0 0 ${SHEET.width} ${SHEET.height}`}
      {...(said ? { role: 'img', 'aria-label': said } : { 'aria-hidden': true })}
    >
      <g className="outline">
        {drawing.outline.map((o, i) => (
          <OutlineShape key={i} outline={o} />
        ))}
      </g>
      {/* What is lit stands over what is not. */}
      {[...drawing.parts]
        .sort((a, b) => Number(isLit(a)) - Number(isLit(b)))
        .map((part) => (
          <g
            key={part.id}
            className={`part${isLit(part) ? ' lit' : ''}`}
            transform={`translate(${part.at[0]} ${part.at[1]})`}
          >
            {GLYPHS[part.glyph]}
          </g>
        ))}
      {drawing.parts
        .filter((p) => named || isLit(p))
        .map((p) => (
          <Name key={p.id} part={p} lit={isLit(p)} />
        ))}
    </svg>
  );
}

/** Farther than this from its part, a name has a line to it. */
const NEAR = 13;
/** How far its line keeps from the middle of a part. */
const OFF = 9;

function Name({ part, lit }: { part: DrawnPart; lit: boolean }) {
  const { x, y, anchor, left, right, top, bottom } = nameBox(part);
  const [px, py] = part.at;
  // From the nearest place of the name to the edge of its part.
  const from = [Math.max(left, Math.min(right, px)), y < py ? bottom : top] as const;
  const gap = Math.hypot(from[0] - px, from[1] - py);
  const reach = gap > OFF ? 1 - OFF / gap : 0;
  return (
    <>
      {gap > NEAR && (
        <line
          className="leader"
          x1={from[0]}
          y1={from[1]}
          x2={from[0] + (px - from[0]) * reach}
          y2={from[1] + (py - from[1]) * reach}
        />
      )}
      <text className={lit ? 'lit' : ''} x={x} y={y} textAnchor={anchor}>
        {part.title}
      </text>
    </>
  );
}

/** Half the width of a pipe. */
const BORE = 2.2;

function OutlineShape({ outline }: { outline: Outline }) {
  switch (outline.draws) {
    case 'box':
      return (
        <rect x={outline.at[0]} y={outline.at[1]} width={outline.size[0]} height={outline.size[1]} rx={1.5} />
      );
    case 'round':
      return <circle cx={outline.at[0]} cy={outline.at[1]} r={outline.r} />;
    case 'line':
      return <polyline points={outline.through.map((p) => p.join(',')).join(' ')} />;
    case 'pipe': {
      const points = outline.through.map((p) => p.join(',')).join(' ');
      return (
        <>
          <polyline className="pipe" points={points} style={{ strokeWidth: 2 * BORE + 1.2 }} />
          <polyline className="bore" points={points} style={{ strokeWidth: 2 * BORE - 1.2 }} />
        </>
      );
    }
  }
}
