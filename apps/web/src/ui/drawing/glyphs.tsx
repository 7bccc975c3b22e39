import type { Glyph } from '@firm-needle/core/family';
import type { ReactNode } from 'react';

const HEX = Array.from({ length: 6 }, (_, i) => {
  const a = (i * Math.PI) / 3;
  return `${(6.5 * Math.cos(a)).toFixed(2)},${(6.5 * Math.sin(a)).toFixed(2)}`;
}).join(' ');
const spokes = (n: number, from: number, to: number): ReactNode =>
  Array.from({ length: n }, (_, i) => {
    const a = (i * 2 * Math.PI) / n;
    return (
      <line
        key={i}
        x1={from * Math.cos(a)}
        y1={from * Math.sin(a)}
        x2={to * Math.cos(a)}
        y2={to * Math.sin(a)}
      />
    );
  });

/** What each part looks like, about its middle. `body` is filled where it is lit; what lies on it is drawn over that. */
export const GLYPHS: Readonly<Record<Glyph, ReactNode>> = {
  nut: (
    <>
      <polygon className="body" points={HEX} />
      <line className="on" x1={0} y1={-5} x2={0} y2={5} />
    </>
  ),
  screw: (
    <>
      <circle className="body" r={6} />
      <line className="on" x1={-4.2} y1={-4.2} x2={4.2} y2={4.2} />
    </>
  ),
  knob: (
    <>
      {spokes(14, 7, 9)}
      <circle className="body" r={7} />
      <line className="on" x1={0} y1={-6} x2={0} y2={-1} />
    </>
  ),
  wheel: (
    <>
      {spokes(20, 7.5, 9)}
      <circle className="body" r={7.5} />
      <circle className="on" r={2.4} />
    </>
  ),
  dial: (
    <>
      <rect className="body" x={-8} y={-7} width={16} height={14} rx={1.5} />
      <path className="on" d="M-5 3 A6 6 0 0 1 5 3" />
      <line className="on" x1={0} y1={3} x2={2.6} y2={-3} />
    </>
  ),
  lever: (
    <>
      <line x1={0} y1={0} x2={9} y2={-9} />
      <circle className="body" cx={9} cy={-9} r={2.6} />
      <circle r={2} className="body" />
    </>
  ),
  stem: (
    <>
      <rect className="body" x={-2.6} y={-5} width={5.2} height={10} />
      <line x1={-4} y1={-5} x2={4} y2={-5} />
    </>
  ),
  gauge: (
    <>
      <line x1={0} y1={9} x2={0} y2={13} />
      <circle className="face-of" r={9} />
      <line x1={0} y1={1} x2={5} y2={-4.5} />
      <circle className="body" r={1.4} />
      <path d="M-6.2 4.2 A7.5 7.5 0 1 1 6.2 4.2" strokeDasharray="1 2.4" />
    </>
  ),
  port: <rect className="body" x={-4} y={-4} width={8} height={8} rx={1} />,
  cock: (
    <>
      <path className="body" d="M-7 -5 L0 0 L-7 5 Z M7 -5 L0 0 L7 5 Z" />
      <path d="M0 0 L0 -8 M-4 -8 L4 -8" />
    </>
  ),
  switch: (
    <>
      <rect className="face-of" x={-8} y={-9} width={16} height={18} rx={1.5} />
      <line x1={0} y1={5} x2={4} y2={-5} />
      <circle className="body" cx={0} cy={5} r={1.8} />
    </>
  ),
  button: (
    <>
      <circle className="body" r={3.4} />
      <circle r={5.4} />
    </>
  ),
  fan: (
    <>
      <circle className="face-of" r={9} />
      {[0, 120, 240].map((a) => (
        <path
          key={a}
          className="body"
          transform={`rotate(${a})`}
          d="M0 0 C5 -2 5 -7 0 -7.5 C-1.5 -5 -1 -2 0 0 Z"
        />
      ))}
    </>
  ),
  motor: (
    <>
      <circle className="face-of" r={10} />
      <path d="M-6 0 c0 -5 4 -5 4 0 c0 -5 4 -5 4 0 c0 -5 4 -5 4 0" />
    </>
  ),
  display: (
    <>
      <rect className="face-of" x={-12} y={-8} width={24} height={16} rx={1.5} />
      <rect className="body" x={-9} y={-5} width={18} height={5} />
      <path d="M-7 4 h3 M-1.5 4 h3 M4 4 h3" />
    </>
  ),
};
