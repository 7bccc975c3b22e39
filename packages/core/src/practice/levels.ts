/** How a run is practised: with its fault named, hidden, or set by a supervisor, the same for all. */
export const RUN_KINDS = ['lesson', 'run', 'test'] as const;
export type RunKind = (typeof RUN_KINDS)[number];

/** What the procedure helps with, most first: each gives away less. */
export const HELPS = ['full', 'no-values', 'no-next', 'bare'] as const;
export type Help = (typeof HELPS)[number];

export const HELP_SAID: Readonly<Record<Help, { readonly title: string; readonly what: string }>> = {
  full: { title: 'Full', what: 'The next move, its reason, and what to expect.' },
  'no-values': { title: 'No values', what: 'The next move and its reason; no amounts, nothing to expect.' },
  'no-next': { title: 'No next move', what: 'All steps by alphabet; you pick which comes next.' },
  bare: { title: 'Bare', what: 'The bench, the gauge, and an empty sheet. Steps are names alone.' },
};

/** A level fixes what may be drawn, never the physics. Parts and bounds are tuned on scripted runs [assumed]. */
export interface Level {
  readonly id: LevelId;
  readonly title: string;
  readonly what: string;
  /** How often there is no fault, one, or two, %. */
  readonly faults: readonly [none: number, one: number, two: number];
  /** What a fault shifts in its reading, in the ± of that reading: at least and at most. */
  readonly d: readonly [number, number];
  /** Most divisions by which a needle stands off at nothing. */
  readonly zero: number;
  /** The gauges are worn: their slope is off by 2 to 4 %, and they stick. */
  readonly worn: boolean;
  /** Stories that lead elsewhere. */
  readonly falseLeads: number;
  /** A gauge's certificate may have lapsed. */
  readonly overdue: boolean;
  /** The most help that there is. */
  readonly help: Help;
}

export type LevelId = 1 | 2 | 3 | 4;

export const LEVELS: readonly Level[] = [
  {
    id: 1,
    title: 'First',
    what: 'At most one fault, and it shows plainly; a setting may be off beside it. A sound gauge. What you are told is true.',
    faults: [40, 60, 0],
    d: [4, Infinity],
    zero: 1,
    worn: false,
    falseLeads: 0,
    overdue: false,
    help: 'full',
  },
  {
    id: 2,
    title: 'Usual',
    what: 'At most one fault, of the usual size, and perhaps a setting that is off. The gauge has a zero to look at.',
    faults: [30, 70, 0],
    d: [2, 4],
    zero: 2,
    worn: false,
    falseLeads: 0,
    overdue: false,
    help: 'full',
  },
  {
    id: 3,
    title: 'Hard',
    what: 'Up to two faults, some hardly to be told. A worn gauge; one thing you are told leads elsewhere.',
    faults: [25, 50, 25],
    d: [1, 3],
    zero: 4,
    worn: true,
    falseLeads: 1,
    overdue: false,
    help: 'no-values',
  },
  {
    id: 4,
    title: 'Test',
    what: 'As hard, and nothing helps but your own order of work. A certificate may have lapsed.',
    faults: [30, 45, 25],
    d: [0.5, 3],
    zero: 4,
    worn: true,
    falseLeads: 1,
    overdue: true,
    help: 'bare',
  },
];

export const levelOf = (id: number): Level => {
  const level = LEVELS.find((l) => l.id === id);
  if (!level) throw new Error(`There is no level ${id}.`);
  return level;
};

/** What may be chosen at a level: its most help, and less. */
export const helpsAt = (level: Level): readonly Help[] => HELPS.slice(HELPS.indexOf(level.help));

/** How sure one may be of what one found. */
export const SURENESS = [
  { c: 0.5, title: 'A guess' },
  { c: 0.75, title: 'Fairly sure' },
  { c: 0.95, title: 'Sure' },
] as const;
