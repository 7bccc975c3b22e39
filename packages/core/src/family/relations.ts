import type { Relation } from '../procedure/index.js';

export type { Relation };

/** A value that a person gave, or a school pinned, in the order they were given. */
export interface Given {
  readonly setting: string;
  readonly value: number;
}

export interface Solved {
  readonly values: Readonly<Record<string, number>>;
  /** Givens still standing, oldest first: a newer one evicts the oldest that it determines. */
  readonly given: readonly Given[];
  /** Settings that nothing determines yet. */
  readonly open: readonly string[];
}

/** A reduced row: pivot setting, its other terms, and the right-hand side. */
interface Row {
  readonly pivot: string;
  readonly terms: Map<string, number>;
  readonly equals: number;
}

const TINY = 1e-9;

/** Linear equations kept in reduced form; a row that adds nothing is refused. */
class System {
  private rows: Row[] = [];

  /** Take an equation; false when the settings in it are already determined by what is there. */
  add(terms: Readonly<Record<string, number>>, equals: number): boolean {
    const left = new Map(Object.entries(terms));
    let right = equals;
    for (const row of this.rows) {
      const c = left.get(row.pivot);
      if (c === undefined) continue;
      left.delete(row.pivot);
      for (const [name, k] of row.terms) bump(left, name, -c * k);
      right -= c * row.equals;
    }
    const pivot = [...left].find(([, c]) => Math.abs(c) > TINY);
    if (!pivot) return false;
    const [name, c] = pivot;
    left.delete(name);
    const row: Row = {
      pivot: name,
      terms: new Map([...left].filter(([, k]) => Math.abs(k) > TINY).map(([n, k]) => [n, k / c])),
      equals: right / c,
    };
    this.rows = this.rows.map((r) => {
      const k = r.terms.get(name);
      if (k === undefined) return r;
      const rest = new Map(r.terms);
      rest.delete(name);
      for (const [n, x] of row.terms) bump(rest, n, -k * x);
      return { pivot: r.pivot, terms: rest, equals: r.equals - k * row.equals };
    });
    this.rows.push(row);
    return true;
  }

  value(setting: string): number | undefined {
    const row = this.rows.find((r) => r.pivot === setting);
    if (!row) return undefined;
    for (const k of row.terms.values()) if (Math.abs(k) > TINY) return undefined;
    return row.equals;
  }
}

function bump(map: Map<string, number>, name: string, by: number): void {
  const sum = (map.get(name) ?? 0) + by;
  if (Math.abs(sum) < TINY) map.delete(name);
  else map.set(name, sum);
}

/**
 * Every setting from what was given, in any direction.
 * @param settings all setting ids
 * @param relations hard and soft
 * @param pinned values that a school of practice holds fixed; they beat what is given
 * @param given what people gave, oldest first; the newest win
 * @example solve(['in','out','diff'], [{terms:{out:1,in:-1,diff:-1},equals:0,hard:true}], [], [{setting:'in',value:40},{setting:'out',value:60}]).values.diff // 20
 */
export function solve(
  settings: readonly string[],
  relations: readonly Relation[],
  pinned: readonly Given[],
  given: readonly Given[],
): Solved {
  const system = new System();
  for (const r of relations) if (r.hard) system.add(r.terms, r.equals);
  for (const g of pinned) system.add({ [g.setting]: 1 }, g.value);
  const kept: Given[] = [];
  for (const g of [...given].reverse()) if (system.add({ [g.setting]: 1 }, g.value)) kept.unshift(g);
  for (const r of relations) if (!r.hard) system.add(r.terms, r.equals);
  const values: Record<string, number> = {};
  const open: string[] = [];
  for (const s of settings) {
    const v = system.value(s);
    if (v === undefined) open.push(s);
    else values[s] = v;
  }
  return { values, given: kept, open };
}
