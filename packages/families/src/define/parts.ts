// What a family is made of, named once: every id is inferred from the definition itself and checked wherever it is named again.
import type { Caution, LinkRole, PlanChoice, PlateParameter } from '@firm-needle/core/family';
import type { Medium } from '@firm-needle/core/gauge';
import type {
  AdjusterDef,
  FactDef,
  GaugeSlot,
  JobView,
  Plan,
  SettingDef,
  Words,
} from '@firm-needle/core/procedure';
import { intervalToCanonical, toCanonical, unit as unitOf } from '@firm-needle/core/quantity';
import type { HandleDef } from '@firm-needle/core/rig';
import { stepsFor, type Steps } from './steps.js';

type Ids<T> = keyof T & string;
type Table<V> = Readonly<Record<string, V>>;

/** A parameter of the plate; bounds in its own unit. */
export interface PlateSpec {
  readonly title: string;
  readonly unit: string;
  readonly from: number;
  readonly to: number;
  readonly required?: boolean;
  readonly hint?: string;
}

export interface SlotSpec extends Omit<GaugeSlot, 'id'> {
  readonly medium: Medium;
}

/** A setting; widths and bounds in its own unit, psi where it says none. */
export interface SettingSpec<Slot extends string> {
  readonly title: string;
  readonly short: string;
  /** Empty where no gauge reads it. */
  readonly slot: Slot | '';
  readonly unit?: string;
  readonly from: number;
  readonly to: number;
  readonly catch?: SettingDef['catch'];
  readonly had?: SettingDef['had'];
  readonly cycles?: number;
  /** How well it repeats from cycle to cycle, and on how many degrees of freedom that stands. */
  readonly sd: number;
  readonly dof?: number;
  readonly caught?: number;
  readonly givable?: boolean;
  readonly step?: number;
  readonly traced?: string;
  /** For a time: the setting whose reading carries the seconds. */
  readonly timed?: string;
  /** For a time: what it is the time since, fact by fact. */
  readonly since?: SettingDef['since'];
  /** For a time: what spoils it, fact by fact. */
  readonly spoilt?: SettingDef['spoilt'];
  readonly derive?: SettingDef['derive'];
  readonly meant?: SettingDef['meant'];
  readonly open?: SettingDef['open'];
}

/** An adjuster. What it moves, and how strongly beside the first, is also what it is aimed at, unless `aims` leaves some out. */
export interface ScrewSpec<Setting extends string> {
  readonly title: string;
  readonly kind?: AdjusterDef['kind'];
  readonly unit?: string;
  readonly ways: readonly [string, string];
  readonly seenFrom?: string;
  readonly tool: string;
  /** Change of the first setting that it moves by one unit clockwise, in that setting's unit. */
  readonly perTurn: number;
  readonly spread: number;
  readonly backlash?: number;
  /** Setting → ratio to the first, and the spread of that ratio. */
  readonly moves: { readonly [S in Setting]?: readonly [ratio: number, spread: number] };
  readonly aims?: readonly Setting[] | ((plan: Plan) => readonly Setting[]);
  readonly step: number;
  readonly largest: number;
  readonly strict?: boolean;
  readonly underPressure?: boolean;
}

export interface FactSpec<Caution_ extends string, Handle extends string> {
  readonly title: string;
  readonly say: Words;
  readonly cautions?: readonly Caution_[];
  readonly hands?: { readonly [H in Handle]?: number };
}

/** What is chosen in a plan that is no number: option → what it is called, the usual one first. */
export interface ChoiceSpec {
  readonly title: string;
  readonly options: Table<string>;
  readonly when?: PlanChoice['when'];
}

/** What another control can be to one of this kind; `gives` names a setting of that other kind. */
export interface LinkSpec<Plate extends string> extends Omit<LinkRole, 'id' | 'gives'> {
  readonly gives: { readonly [P in Plate]?: string };
}

export type CautionSpec = Omit<Caution, 'key'>;
export type HandleSpec = Omit<HandleDef, 'id'>;

/** What the parts of one family are called. */
export interface Names {
  readonly plate: string;
  readonly slot: string;
  readonly setting: string;
  readonly screw: string;
  readonly caution: string;
  readonly handle: string;
  readonly facts: Table<string>;
  readonly choices: Table<string>;
}

/** A plan with the names of its family: a setting or a parameter that is not there does not compile. */
export interface OwnPlan<N extends Names> {
  readonly v: { readonly [S in N['setting']]?: number };
  readonly plate: { readonly [P in N['plate']]?: number };
  readonly choice: { readonly [C in keyof N['choices']]: N['choices'][C] };
}

export interface Parts<N extends Names> {
  readonly plate: readonly PlateParameter[];
  readonly links: readonly LinkRole[];
  readonly choices: readonly PlanChoice[];
  readonly slots: readonly GaugeSlot[];
  readonly settings: readonly SettingDef[];
  readonly adjusters: readonly AdjusterDef[];
  readonly facts: Table<Table<FactDef>>;
  readonly cautions: readonly Caution[];
  readonly handles: readonly HandleDef[];
  /** The steps of this family, each checked against its names. */
  readonly steps: Steps<N>;
  /** A plan by the names of this family. */
  read(plan: Pick<Plan, 'values' | 'plate' | 'choices'>): OwnPlan<N>;
  /** A screw of this family as the rig turns it. */
  screw(id: N['screw']): AdjusterDef;
  /** The newest figure of a setting, and whether it was ever had. */
  last(job: JobView, setting: N['setting']): number | undefined;
}

/** The names in a set of parts: `NamesIn<typeof parts>`. */
export type NamesIn<P> = P extends Parts<infer N> ? N : never;

/** Names the parts of a family. One mistake a call shows best: a broken early part widens the rest. */
export function defineParts<
  const Plate extends Table<PlateSpec>,
  const Slots extends Table<SlotSpec>,
  const Settings extends Table<SettingSpec<NoInfer<Ids<Slots>>>>,
  const Screws extends Table<ScrewSpec<NoInfer<Ids<Settings>>>>,
  const Cautions extends Table<CautionSpec>,
  const Handles extends Table<HandleSpec>,
  const Facts extends Table<Table<FactSpec<NoInfer<Ids<Cautions>>, NoInfer<Ids<Handles>>>>>,
  const Choices extends Table<ChoiceSpec> = Record<never, never>,
>(spec: {
  readonly plate: Plate;
  readonly links?: Table<LinkSpec<NoInfer<Ids<Plate>>>>;
  readonly slots: Slots;
  readonly settings: Settings;
  readonly screws: Screws;
  readonly cautions: Cautions;
  readonly handles: Handles;
  readonly facts: Facts;
  readonly choices?: Choices;
}): Parts<{
  readonly plate: Ids<Plate>;
  readonly slot: Ids<Slots>;
  readonly setting: Ids<Settings>;
  readonly screw: Ids<Screws>;
  readonly caution: Ids<Cautions>;
  readonly handle: Ids<Handles>;
  readonly facts: { readonly [F in Ids<Facts>]: Ids<Facts[F]> };
  readonly choices: { readonly [C in Ids<Choices>]: Ids<Choices[C]['options']> };
}> {
  const settings = list(spec.settings).map(([id, s]) => settingOf(id, s));
  const adjusters = list(spec.screws).map(([id, s]) => adjusterOf(id, s, settings));
  const choices = list<ChoiceSpec>(spec.choices ?? {}).map(([id, c]) => choiceOf(id, c));
  return {
    choices,
    links: list<LinkSpec<Ids<Plate>>>(spec.links ?? {}).map(([id, l]) => ({
      ...l,
      id,
      gives: l.gives as Table<string>,
    })),
    plate: list(spec.plate).map(([id, p]) => plateOf(id, p)),
    slots: list(spec.slots).map(([id, s]) => ({ ...s, id })),
    settings,
    adjusters,
    facts: spec.facts as Table<Table<FactDef>>,
    cautions: list(spec.cautions).map(([key, c]) => ({ key, ...c })),
    handles: list(spec.handles).map(([id, h]) => ({ ...h, id })),
    steps: stepsFor(settings),
    read: oncePer(({ values, plate, choices: chosen }: Plan) => ({
      v: values as never,
      plate: Object.fromEntries(Object.entries(plate).map(([k, p]) => [k, p.value])) as never,
      choice: Object.fromEntries(choices.map((c) => [c.id, chosen?.[c.id] ?? c.options[0]?.id])) as never,
    })),
    screw: (id) => found(adjusters, id),
    last: (job, setting) => job.readings(setting).at(-1)?.value,
  };
}

/** What is made of something that never changes, made once. */
function oncePer<T extends object, R>(make: (of: T) => R): (of: T) => R {
  const made = new WeakMap<T, R>();
  return (of) => {
    let is = made.get(of);
    if (is === undefined) made.set(of, (is = make(of)));
    return is;
  };
}

const list = <V>(table: Table<V>): [string, V][] => Object.entries(table);

function found<T extends { readonly id: string }>(all: readonly T[], id: string): T {
  const one = all.find((x) => x.id === id);
  if (!one) throw new Error(`Nothing is called "${id}".`);
  return one;
}

const choiceOf = (id: string, { title, options, when }: ChoiceSpec): PlanChoice => ({
  id,
  title,
  ...(when ? { when } : {}),
  options: list(options).map(([option, name]) => ({ id: option, title: name })),
});

const plateOf = (id: string, { from, to, unit, required = false, ...rest }: PlateSpec): PlateParameter => ({
  id,
  ...rest,
  unit,
  dimension: unitOf(unit).dimension,
  lower: toCanonical(from, unit),
  upper: toCanonical(to, unit),
  required,
});

function settingOf(id: string, s: SettingSpec<string>): SettingDef {
  const { unit = 'psi', from, to, sd, dof = 20, caught = 0, timed, ...rest } = s;
  const width = (n: number): number => intervalToCanonical(n, unit);
  return {
    had: 'reading',
    catch: 'firm',
    cycles: 1,
    givable: false,
    ...rest,
    ...(timed ? { from: timed } : {}),
    id,
    unit,
    dimension: unitOf(unit).dimension as SettingDef['dimension'],
    lower: toCanonical(from, unit),
    upper: toCanonical(to, unit),
    repeatability: { sd: width(sd), dof },
    caught: width(caught),
  };
}

function adjusterOf(id: string, s: ScrewSpec<string>, settings: readonly SettingDef[]): AdjusterDef {
  const {
    kind = 'turn',
    unit = kind,
    perTurn,
    spread,
    backlash = 0,
    moves,
    aims,
    step,
    underPressure,
    ...rest
  } = s;
  const moved = Object.entries(moves).map(([setting, [ratio, ratioSpread] = [1, 0]]) => ({
    setting,
    ratio,
    ratioSpread,
  }));
  const lead = settings.find((x) => x.id === moved[0]?.setting)?.unit;
  const aimed = aims ?? moved.map((m) => m.setting);
  return {
    ...rest,
    id,
    kind,
    unit,
    prior: { perTurn: lead ? intervalToCanonical(perTurn, lead) : perTurn, spread, backlash, moves: moved },
    quantum: step,
    underPressure: underPressure ?? false,
    aims: typeof aimed === 'function' ? aimed : () => aimed,
  };
}
