import type { PressureBasis } from './headings.js';
import type { NumberForm } from './numbers.js';
import type { DayOrder, TimeForm, TimeUnit } from './times.js';

/** Something that was taken as so without the file saying it, or out of several: told, and changeable. */
export interface Assumption {
  readonly about:
    | 'header'
    | 'sheet'
    | 'time'
    | 'days'
    | 'pressure'
    | 'unit'
    | 'basis'
    | 'ambient'
    | 'numbers'
    | 'sentinels'
    | 'rows';
  readonly said: string;
}

/** Which column of a table is what, and how it is written. Remembered for the next file of the same logger. */
export interface ColumnMap {
  readonly time: {
    readonly index: number;
    readonly form: TimeForm;
    /** What one of a column of numbers is, s. */
    readonly seconds: number;
    /** 1970 in a column of numbers that counts from another day, s. */
    readonly zero?: number;
    /** A time of day in a column of its own, beside the date. */
    readonly clock?: number;
    /** AM or PM in a column of its own. */
    readonly half?: number;
    readonly order?: DayOrder;
    /** Only one date was seen yet: the second says which order it is. */
    readonly alone?: true;
    /** Several rows stand at each time, which is written to so many seconds only: they are spread over it. */
    readonly spread?: number;
  };
  readonly pressure: {
    readonly index: number;
    readonly unit: string;
    readonly basis: PressureBasis;
    /** A vacuum written as numbers above nought. */
    readonly below?: true;
  };
  readonly states: Readonly<Record<string, number>>;
  /** Unit of a measured flow, where the heading names it. */
  readonly flowUnit?: string;
  readonly decimal: '.' | ',';
  readonly group?: NumberForm['group'];
  /** Figures that stand for no reading. */
  readonly sentinels: readonly number[];
  /** The newest row stands first. */
  readonly descending?: true;
  /** Rows before the first reading. */
  readonly header: number;
  readonly assumptions: readonly Assumption[];
}

/** What a person says that the columns of a table are. Indexes from 0. */
export interface ColumnChoice {
  readonly time: number;
  readonly pressure: number;
  readonly unit: string;
  /** Channels of `CHANNELS` by name. */
  readonly states: Readonly<Record<string, number>>;
  readonly basis?: PressureBasis;
  readonly order?: DayOrder;
  readonly timeForm?: TimeForm;
  readonly decimal?: '.' | ',';
  /** What one of a column of numbers is, where that is the time. */
  readonly timeUnit?: TimeUnit;
  /** What parts the cells: where it is no comma, a comma is the decimal mark. */
  readonly delimiter?: string;
  /** Rows before the first reading; the last of them is the heading. */
  readonly header?: number;
  /** The air outside, Pa absolute: it is taken off absolute pressures. */
  readonly ambient?: number;
}

/** What may be said before anything is proposed; the rest is found. */
export type Said = Partial<ColumnChoice>;

/** Rows of a table, as they were split. */
export type Rows = readonly (readonly string[])[];
