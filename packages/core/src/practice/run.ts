import type { Family } from '../family/index.js';
import type { StartedBody } from '../procedure/index.js';
import type { JobEvent } from '../procedure/index.js';
import type { Rig, RigOptions, Worn } from '../rig/index.js';
import { installed, type Installed, type Kit, type KitVariant } from '../script/index.js';
import type { Help, LevelId, RunKind } from './levels.js';

/** A family's installation to practise on, and what is right to conclude on it. */
export interface Exercise extends Installed {
  readonly kit: Kit;
  readonly variant: KitVariant;
}

export const exerciseOf = (family: Family, kit: Kit, name: string): Exercise => {
  const variant = kit.variants.find((v) => v.name === name);
  if (!variant) throw new Error(`${family.meta.title} has nothing to practise on called "${name}".`);
  return { ...installed(family, kit, variant), kit, variant };
};

/** What was drawn, hidden from who practises. */
export interface Draw {
  readonly seed: number;
  readonly level: LevelId;
  /** Everything that is wrong, the setting that is off among it. */
  readonly faults: readonly string[];
  readonly size: number;
  readonly worn: Readonly<Record<string, Worn>>;
  readonly overdue: boolean;
  /** What one is told. */
  readonly story: readonly string[];
}

/** What a hand did to the installation, and when by its own clock, s. */
export type Deed = { readonly t: number } & (
  | { readonly do: 'set'; readonly id: string; readonly value: number; readonly bench?: true }
  | { readonly do: 'turn'; readonly id: string; readonly value: number; readonly bench?: true }
  | { readonly do: 'zero'; readonly id: string }
  | { readonly do: 'fit'; readonly id: string; readonly value: number }
);

/** What one signs besides the outcome. */
export interface Said {
  /** Up to two of the family's faults; none is "nothing wrong", where it is not `cannotTell`. */
  readonly faults: readonly string[];
  readonly cannotTell?: boolean;
  readonly sure: number;
}

/** What would have hurt somebody: there a run ends. */
export interface Hurt {
  readonly t: number;
  readonly text: string;
}

/** A run as it is kept and sent: JSON. */
export interface RunRecord {
  readonly id: string;
  readonly kind: RunKind;
  readonly family: string;
  /** Which of the kit's installations. */
  readonly variant: string;
  readonly level: LevelId;
  readonly help: Help;
  /** The draw, sealed. */
  readonly sealed: string;
  /** The fault that a lesson is about. */
  readonly lesson?: string;
  /** The supervisor's test that it is. */
  readonly test?: string;
  readonly startedAt: string;
  readonly endedAt?: string;
  readonly events: readonly JobEvent[];
  readonly deeds: readonly Deed[];
  readonly said?: Said;
  readonly hurt?: Hurt;
}

/** Gauges from the shelf: sound ones of the same kind. */
export const sparesOf = ({ started }: Pick<Exercise, 'started'>): StartedBody['gauges'] =>
  Object.fromEntries(
    Object.entries(started.gauges).map(([slot, g]) => [
      slot,
      { ...g, id: `${g.id}-spare`, label: `${g.label} spare` },
    ]),
  );

/** The day on which a lapsed certificate lapsed. */
const LAPSED = '2020-01-01';

/** The start of a job on what was drawn: practice, and marked as that for good. */
export function startedOn(ex: Exercise, draw: Pick<Draw, 'overdue'>): StartedBody {
  const { started, family } = ex;
  const lapsed = (slot: string): boolean =>
    draw.overdue && family.slots.some((s) => s.id === slot && !s.underTest);
  const gauges = Object.fromEntries(
    Object.entries(started.gauges).map(([slot, g]) => [slot, lapsed(slot) ? { ...g, due: LAPSED } : g]),
  );
  const reasons = Object.keys(gauges).filter(lapsed);
  return {
    ...started,
    mode: 'practice',
    gauges,
    ...(reasons.length > 0
      ? { gaugeReasons: Object.fromEntries(reasons.map((s) => [s, 'practice: what hangs there'])) }
      : {}),
  };
}

/** What a rig is made of for a draw. */
export const rigOptionsOf = (ex: Exercise, draw: Draw, faults = draw.faults): RigOptions => ({
  plan: ex.plan,
  ambient: ex.ambient,
  seed: draw.seed,
  faults,
  size: draw.size,
  gauges: ex.started.gauges,
  worn: draw.worn,
  spares: sparesOf(ex),
});

export const rigOfDraw = (ex: Exercise, draw: Draw, faults = draw.faults): Rig =>
  ex.family.rig.create(rigOptionsOf(ex, draw, faults));
