import type { Drawing, DrawnPart, Outline, Point } from '@firm-needle/core/family';
import type { Names, Parts } from './parts.js';

/** A part in the names of its family: a screw, a place or a handle that is not there does not compile. */
export interface DrawnOf<N extends Names> extends Omit<DrawnPart, 'adjusters' | 'slots' | 'handles'> {
  readonly adjusters?: readonly N['screw'][];
  readonly slots?: readonly N['slot'][];
  readonly handles?: readonly N['handle'][];
}

/** The drawing of a family; its names are the compiler’s business alone. */
export const drawn = <N extends Names>(
  _: Parts<N>,
  drawing: Omit<Drawing, 'parts'> & { readonly parts: readonly DrawnOf<N>[] },
): Drawing => drawing;

export const box = (x: number, y: number, w: number, h: number): Outline => ({
  draws: 'box',
  at: [x, y],
  size: [w, h],
});
export const round = (x: number, y: number, r: number): Outline => ({ draws: 'round', at: [x, y], r });
export const line = (...through: readonly Point[]): Outline => ({ draws: 'line', through });
export const pipe = (...through: readonly Point[]): Outline => ({ draws: 'pipe', through });

/** A coil spring between two heights. */
export function spring(x: number, from: number, to: number, half = 5): Outline {
  const n = 6;
  return line(
    [x, from],
    ...Array.from({ length: n }, (_, i): Point => [
      x + (i % 2 === 0 ? half : -half),
      from + ((i + 0.5) * (to - from)) / n,
    ]),
    [x, to],
  );
}
