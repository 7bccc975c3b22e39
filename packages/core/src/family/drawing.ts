// A device as a drawing: data of a small vocabulary, which a screen draws, lights and reads aloud. It knows no interface.
import { byQuantity, type AdjusterDef, type Step } from '../procedure/index.js';
import { sayAmount } from './sheet.js';

/** A place on the sheet, which is `SHEET` wide and high: x to the right, y down. */
export type Point = readonly [x: number, y: number];
export const SHEET = { width: 160, height: 120 } as const;

/** What holds the parts together; it is never lit. */
export type Outline =
  | { readonly draws: 'box'; readonly at: Point; readonly size: Point }
  | { readonly draws: 'round'; readonly at: Point; readonly r: number }
  | { readonly draws: 'line'; readonly through: readonly Point[] }
  /** A pipe: two lines side by side. */
  | { readonly draws: 'pipe'; readonly through: readonly Point[] };

/** What a part looks like; seen as a technician stands before it. */
export type Glyph =
  | 'nut'
  | 'screw'
  | 'knob'
  | 'wheel'
  | 'dial'
  | 'lever'
  | 'stem'
  | 'gauge'
  | 'port'
  | 'cock'
  | 'switch'
  | 'button'
  | 'fan'
  | 'motor'
  | 'display';

/** Something of the device that a step may touch, by the ids that its family gives it. */
export interface DrawnPart {
  readonly id: string;
  readonly glyph: Glyph;
  /** Its middle. */
  readonly at: Point;
  readonly title: string;
  /** Where its name begins, ends or has its middle; just beside it, where it is not said. */
  readonly label?: Point;
  readonly anchor?: 'start' | 'middle' | 'end';
  readonly adjusters?: readonly string[];
  readonly slots?: readonly string[];
  readonly handles?: readonly string[];
}

export interface Drawing {
  /** What is drawn: `Pump switch, cover off`. */
  readonly title: string;
  /** From where: `seen from its front`. */
  readonly seen: string;
  readonly outline: readonly Outline[];
  readonly parts: readonly DrawnPart[];
}

/** Height of a name on the sheet, and about how wide one letter of the narrow type is. */
const TYPE = { high: 8, wide: 3.6 } as const;

/** Where the name of a part stands: its foot, and the box that it takes. */
export interface NameBox {
  readonly x: number;
  readonly y: number;
  readonly anchor: NonNullable<DrawnPart['anchor']>;
  readonly left: number;
  readonly right: number;
  readonly top: number;
  readonly bottom: number;
}
export function nameBox({ at, title, label, anchor = 'middle' }: DrawnPart): NameBox {
  const [x, y] = label ?? [at[0], at[1] + 2 * TYPE.high];
  const width = title.length * TYPE.wide;
  const left = anchor === 'end' ? x - width : anchor === 'start' ? x : x - width / 2;
  return { x, y, anchor, left, right: left + width, top: y - 0.8 * TYPE.high, bottom: y + 0.2 * TYPE.high };
}

/** Parts that a step touches: what it turns, the place that it reads, the handles that its hands move. */
export function touchedBy(drawing: Drawing, step: Step | undefined): readonly DrawnPart[] {
  if (!step) return [];
  const has = (ids: readonly string[] | undefined, id: string | undefined): boolean =>
    id !== undefined && ids !== undefined && ids.includes(id);
  if (step.kind === 'turn') return drawing.parts.filter((p) => has(p.adjusters, step.adjuster));
  const slot = 'slot' in step ? step.slot : step.kind === 'observe' ? step.watches : undefined;
  // A reading has its hands put back much that it does not ask for: what it opens or starts is what it touches.
  const hands = Object.entries({
    ...step.hands,
    ...(step.kind === 'observe' ? step.stopwatch?.hands : undefined),
  }).flatMap(([handle, value]) => (slot !== undefined && value === 0 ? [] : [handle]));
  return drawing.parts.filter((p) => has(p.slots, slot) || hands.some((h) => has(p.handles, h)));
}

/** A movement as it is drawn. */
export type DrawnTurn =
  /** Rounds of a spiral, seen from where one stands; parts of one as an arc. */
  | { readonly draws: 'spiral'; readonly turns: number; readonly clockwise: boolean }
  /** So many clicks of a wheel. */
  | { readonly draws: 'clicks'; readonly count: number; readonly clockwise: boolean }
  /** A pointer along its scale, up it or down. */
  | { readonly draws: 'scale'; readonly up: boolean }
  /** So many discs put in or taken out. */
  | { readonly draws: 'stack'; readonly count: number; readonly more: boolean }
  /** Air let in or out. */
  | { readonly draws: 'air'; readonly in: boolean };

/** How a movement of an adjuster is drawn; signed, in hand units. Where its ways do not name a sense, the positive one is clockwise. */
export function drawnTurn(def: Pick<AdjusterDef, 'kind' | 'ways'>, amount: number): DrawnTurn {
  const way = def.ways[amount >= 0 ? 0 : 1];
  const named = /counter-?clockwise/i.test(way) ? false : /clockwise/i.test(way) ? true : undefined;
  const clockwise = named ?? amount >= 0;
  switch (def.kind) {
    case 'turn':
      return { draws: 'spiral', turns: Math.abs(amount), clockwise };
    case 'click':
      return { draws: 'clicks', count: Math.round(Math.abs(amount)), clockwise };
    case 'shim':
      return { draws: 'stack', count: Math.round(Math.abs(amount)), more: amount >= 0 };
    case 'air':
      return { draws: 'air', in: amount >= 0 };
    case 'scale':
      return { draws: 'scale', up: amount >= 0 };
  }
}

/** Points of one round. */
const FINENESS = 36;
/** Rounds farther apart than this look like rings; closer than this they run together. */
const RINGS = { inner: 7, least: 2.2, most: 6 } as const;
/** Part of its reach that less than a round is drawn at. */
const ARC = 0.6;

/**
 * The line of a turn about its screw: it begins at the mark, straight up, and winds outward, a round a turn.
 * @param turns unsigned
 * @param outer radius that it ends at, at most
 * @returns points about the middle, y down; none for no turn
 * @example turnLine(0.25, true, 30).at(-1) // a quarter clockwise ends at the right: [18, 0]
 */
export function turnLine(turns: number, clockwise: boolean, outer: number): readonly Point[] {
  if (!(turns > 0)) return [];
  const whole = Math.max(1, turns);
  const apart = Math.max(RINGS.least, Math.min(RINGS.most, (outer - RINGS.inner) / whole));
  // Less than a round keeps to its circle; so many rounds that they would run out of the sheet are drawn as what fits.
  const drawn = Math.min(turns, (outer - RINGS.inner) / apart + 1);
  const start = turns < 1 ? ARC * outer : RINGS.inner;
  const n = Math.max(2, Math.ceil(drawn * FINENESS));
  return Array.from({ length: n + 1 }, (_, i): Point => {
    const gone = (drawn * i) / n;
    const angle = 2 * Math.PI * gone * (clockwise ? 1 : -1) - Math.PI / 2;
    const r = turns < 1 ? start : start + apart * gone;
    return [r * Math.cos(angle), r * Math.sin(angle)];
  });
}

/** What a drawing shows, for who cannot see it: what it is, what is touched, and how it is moved. */
export function drawingSaid(
  drawing: Drawing,
  touched: readonly DrawnPart[],
  move?: { readonly def: AdjusterDef; readonly amount: number },
): string {
  const lit = touched.map((p) => p.title.toLowerCase());
  const rest = drawing.parts.filter((p) => !touched.includes(p)).map((p) => p.title.toLowerCase());
  const said = [`${drawing.title}, ${drawing.seen}.`];
  if (lit.length > 0) said.push(`Touched now: ${lit.join(', ')}.`);
  if (move) {
    const { def, amount } = move;
    const seen = def.seenFrom && !byQuantity(def) ? `, ${def.seenFrom}` : '';
    said.push(`Moved: ${sayAmount(def, amount)}${seen}.`);
  }
  if (rest.length > 0) said.push(`Also drawn: ${rest.join(', ')}.`);
  return said.join(' ');
}
