import { turnLine, type DrawnTurn, type Point } from '@firm-needle/core/family';
import './drawing.css';

const REACH = 34;

/** The movement itself: rounds of a spiral from its start mark, clicks about a wheel, a pointer along its scale. */
export function TurnDrawing({ turn }: { turn: DrawnTurn }) {
  return (
    <svg className="turn-drawn" viewBox="-42 -42 84 84" aria-hidden>
      {draw(turn)}
    </svg>
  );
}

function draw(turn: DrawnTurn) {
  switch (turn.draws) {
    case 'spiral': {
      const line = turnLine(turn.turns, turn.clockwise, REACH);
      const first = line[0] ?? [0, -8];
      return (
        <>
          <circle className="body" r={4} />
          <line className="mark" x1={0} y1={-4} x2={0} y2={first[1] - 3} />
          <path className="way" d={path(line)} />
          <Head line={line} />
        </>
      );
    }
    case 'clicks': {
      const each = Math.min(18, 300 / Math.max(1, turn.count));
      const sense = turn.clockwise ? 1 : -1;
      const at = (i: number, r: number): Point => {
        const a = (sense * i * each * Math.PI) / 180 - Math.PI / 2;
        return [r * Math.cos(a), r * Math.sin(a)];
      };
      const line = Array.from({ length: turn.count * 6 + 1 }, (_, i) => at(i / 6, 24));
      return (
        <>
          <circle className="body" r={14} />
          {Array.from({ length: turn.count + 1 }, (_, i) => {
            const [[x1, y1], [x2, y2]] = [at(i, 16), at(i, 21)];
            return <line key={i} className="mark" {...{ x1, y1, x2, y2 }} />;
          })}
          <path className="way" d={path(line)} />
          <Head line={line} />
        </>
      );
    }
    case 'scale': {
      const way = turn.up ? -1 : 1;
      const line: Point[] = [
        [12, -20 * way],
        [12, 20 * way],
      ];
      return (
        <>
          <line className="mark" x1={-8} y1={-30} x2={-8} y2={30} />
          {[-30, -20, -10, 0, 10, 20, 30].map((y) => (
            <line key={y} className="mark" x1={-8} y1={y} x2={y % 20 === 0 ? 0 : -3} y2={y} />
          ))}
          <path className="way" d={path(line)} />
          <Head line={line} />
        </>
      );
    }
    case 'stack':
      return Array.from({ length: Math.min(6, turn.count) }, (_, i) => (
        <rect
          key={i}
          className={turn.more ? 'body' : 'way'}
          x={-22}
          y={20 - i * 9}
          width={44}
          height={5}
          rx={1}
        />
      ));
    case 'air': {
      const line: Point[] = turn.in
        ? [
            [0, -34],
            [0, -4],
          ]
        : [
            [0, -4],
            [0, -34],
          ];
      return (
        <>
          <rect className="body" x={-5} y={0} width={10} height={16} />
          <path className="mark" d="M-22 30 C-22 14 22 14 22 30" fill="none" />
          <path className="way" d={path(line)} />
          <Head line={line} />
        </>
      );
    }
  }
}

const path = (line: readonly Point[]): string =>
  line.map(([x, y], i) => `${i === 0 ? 'M' : 'L'}${x.toFixed(2)} ${y.toFixed(2)}`).join(' ');

/** An arrow at the end of a line, along it. */
function Head({ line }: { line: readonly Point[] }) {
  const end = line.at(-1);
  const before = line.at(-2);
  if (!end || !before) return null;
  const a = (Math.atan2(end[1] - before[1], end[0] - before[0]) * 180) / Math.PI;
  return (
    <path
      className="way"
      d="M-6 -4.5 L0 0 L-6 4.5"
      transform={`translate(${end[0]} ${end[1]}) rotate(${a})`}
    />
  );
}
