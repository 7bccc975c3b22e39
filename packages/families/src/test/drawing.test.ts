// Of every kind of control: what may be touched is drawn, where it can be seen, under a name that can be read.
import { describe, expect, it } from '@jest/globals';
import {
  drawingSaid,
  drawnTurn,
  nameBox,
  SHEET,
  touchedBy,
  turnLine,
  type Drawing,
  type NameBox,
} from '@firm-needle/core/family';
import { inside, slotsOf, type Node, type Step } from '@firm-needle/core/procedure';
import { installed, type KitVariant } from '../define/kit.js';
import { families, loadFamily } from '../registry.js';
import { kitOf } from './kitOf.js';

const isStep = (node: Node): node is Step => node.kind !== 'branch' && node.kind !== 'until';
const stepsOf = (nodes: readonly Node[]): readonly Step[] =>
  nodes.flatMap((n) => (isStep(n) ? [n] : stepsOf(inside(n))));

const apart = (a: NameBox, b: NameBox): boolean =>
  a.right <= b.left || b.right <= a.left || a.bottom <= b.top || b.bottom <= a.top;

interface Drawn {
  readonly variant: KitVariant;
  readonly drawing: Drawing;
  readonly steps: readonly Step[];
  readonly slots: readonly string[];
}
async function drawnOf(id: string): Promise<readonly Drawn[]> {
  const family = await loadFamily(id);
  const kit = kitOf(id);
  return kit.variants.map((variant) => {
    const { plan } = installed(family, kit, variant);
    const { body, restore } = family.procedure(plan);
    return {
      variant,
      drawing: family.drawing(plan),
      steps: stepsOf([...body, ...restore]),
      slots: slotsOf(family, plan).map((s) => s.id),
    };
  });
}

describe.each(families().map((m) => m.id))('the drawing of %s', (id) => {
  it('has everything that is turned, read or vented, and lights it', async () => {
    for (const { variant, drawing, steps, slots } of await drawnOf(id))
      for (const step of steps) {
        const names = { variant: variant.name, step: step.key };
        const lit = touchedBy(drawing, step).length;
        if (step.kind === 'turn' || step.kind === 'read' || step.kind === 'zero') {
          const there = step.kind === 'turn' || slots.includes(step.slot);
          if (there) expect({ ...names, lit: lit > 0 }).toEqual({ ...names, lit: true });
        }
      }
  });

  it('keeps to its sheet, and no name stands on another or runs out of it', async () => {
    for (const { variant, drawing } of await drawnOf(id)) {
      const ids = drawing.parts.map((p) => p.id);
      expect(new Set(ids).size).toBe(ids.length);
      for (const { at, id: part } of drawing.parts) {
        expect({ part, inside: at[0] >= 6 && at[0] <= SHEET.width - 6 }).toEqual({ part, inside: true });
        expect({ part, inside: at[1] >= 6 && at[1] <= SHEET.height - 4 }).toEqual({ part, inside: true });
      }
      const boxes = drawing.parts.map((p) => ({ what: p.title, ...nameBox(p) }));
      const over = boxes.filter(
        (b) => b.left < 0 || b.right > SHEET.width || b.top < 0 || b.bottom > SHEET.height,
      );
      expect({ variant: variant.name, over: over.map((b) => b.what) }).toEqual({
        variant: variant.name,
        over: [],
      });
      const met = boxes.flatMap((a, i) =>
        boxes.slice(i + 1).flatMap((b) => (apart(a, b) ? [] : [`${a.what} on ${b.what}`])),
      );
      expect({ variant: variant.name, met }).toEqual({ variant: variant.name, met: [] });
    }
  });

  it('is told in words: what it is, what is touched, and how far it is moved', async () => {
    const family = await loadFamily(id);
    for (const { drawing, steps } of await drawnOf(id)) {
      const turn = steps.find((s) => s.kind === 'turn');
      const def = turn?.kind === 'turn' ? family.adjusters.find((a) => a.id === turn.adjuster) : undefined;
      const touched = touchedBy(drawing, turn);
      const said = drawingSaid(drawing, touched, def && { def, amount: 3 * def.quantum });
      expect(said).toContain(drawing.title);
      for (const part of drawing.parts) expect(said.toLowerCase()).toContain(part.title.toLowerCase());
      if (def) expect(said).toMatch(/Touched now: .+\. Moved: .+\./);
    }
  });
});

describe('a turn as it is drawn', () => {
  const degrees = ([x, y]: readonly [number, number]): number => (Math.atan2(x, -y) * 180) / Math.PI;
  /** Rounds that a line goes about the middle, counted from point to point; clockwise is positive. */
  const rounds = (line: readonly (readonly [number, number])[]): number =>
    line.slice(1).reduce((sum, p, i) => {
      const before = line[i];
      if (!before) return sum;
      return sum + (((degrees(p) - degrees(before) + 540) % 360) - 180) / 360;
    }, 0);

  it.each([0.125, 0.25, 0.5, 1, 1.75, 3])(
    'of %s begins at the mark and goes so many rounds, the way it is said',
    (turns) => {
      for (const clockwise of [true, false]) {
        const line = turnLine(turns, clockwise, 34);
        expect(degrees(line[0] ?? [0, 0])).toBeCloseTo(0, 6);
        expect(rounds(line)).toBeCloseTo(clockwise ? turns : -turns, 6);
      }
    },
  );

  it('never runs out of its place, however many turns', () => {
    for (const turns of [0.25, 2, 9, 40])
      for (const [x, y] of turnLine(turns, true, 34)) expect(Math.hypot(x, y)).toBeLessThan(38);
    expect(turnLine(0, true, 34)).toEqual([]);
  });

  it('grows outward where there is more than one, and keeps to its circle where there is less', () => {
    const radii = (turns: number): readonly number[] =>
      turnLine(turns, true, 34).map(([x, y]) => Math.hypot(x, y));
    const [spiral, arc] = [radii(3), radii(0.5)];
    expect(spiral.at(-1) ?? 0).toBeGreaterThan((spiral[0] ?? 0) + 6);
    expect(Math.max(...arc) - Math.min(...arc)).toBeLessThan(1e-9);
  });

  it('goes by the words of its screw, also of the one that is reversed', () => {
    const usual = { kind: 'turn', ways: ['clockwise', 'counter-clockwise'] } as const;
    const reversed = { kind: 'turn', ways: ['counter-clockwise', 'clockwise'] } as const;
    expect(drawnTurn(usual, -0.5)).toEqual({ draws: 'spiral', turns: 0.5, clockwise: false });
    expect(drawnTurn(reversed, 0.5)).toEqual({ draws: 'spiral', turns: 0.5, clockwise: false });
    expect(drawnTurn({ kind: 'turn', ways: ['open, faster', 'closed, slower'] }, 1)).toMatchObject({
      clockwise: true,
    });
    expect(drawnTurn({ kind: 'click', ways: usual.ways }, 3)).toEqual({
      draws: 'clicks',
      count: 3,
      clockwise: true,
    });
    expect(drawnTurn({ kind: 'air', ways: ['add', 'bleed'] }, -1)).toEqual({ draws: 'air', in: false });
    expect(drawnTurn({ kind: 'scale', ways: ['up', 'down'] }, -1)).toEqual({ draws: 'scale', up: false });
    expect(drawnTurn({ kind: 'shim', ways: ['add', 'remove'] }, 2)).toEqual({
      draws: 'stack',
      count: 2,
      more: true,
    });
  });
});
