import type { Help, LevelId, RunKind, RunRecord, Word } from '@firm-needle/core/practice';

/** A run of practice that is over, as the firm keeps it; never among its jobs. */
export interface PracticeRun {
  readonly id: string;
  readonly person: { readonly id: string; readonly name: string };
  readonly kind: RunKind;
  readonly family: string;
  readonly variant: string;
  readonly level: LevelId;
  readonly help: Help;
  readonly startedAt: string;
  readonly endedAt: string;
  readonly word: Word;
  readonly unlucky: boolean;
  readonly k: number | null;
  readonly sentence: string;
  /** Faults that were hidden, could be known, and were not named. */
  readonly missed: readonly string[];
  readonly grave: number;
  /** How sure one was, and whether rightly. */
  readonly sure: { readonly c: number; readonly right: boolean } | null;
  readonly test: string | null;
  readonly shared: boolean;
  /** Why a supervisor called its draw unfair. */
  readonly unfair: string | null;
  /** Who looked at it, and when. */
  readonly looks: readonly { readonly by: string; readonly at: string }[];
}

/** A run with everything that was entered and done. */
export interface WholePracticeRun extends PracticeRun {
  readonly record: RunRecord;
}

/** A test that a supervisor set: the same seed for all, one try each. */
export interface PracticeTest {
  readonly id: string;
  readonly family: string;
  readonly variant: string;
  readonly level: LevelId;
  readonly sealed: string;
  readonly until: string;
  readonly by: string;
  readonly note: string | null;
  /** What the one who asks made of it. */
  readonly mine: { readonly run: string; readonly word: Word | null } | null;
  /** How many have ended it; supervisors alone are told. */
  readonly ended: number | null;
}

export interface PracticeTestForm {
  readonly family: string;
  readonly variant: string;
  readonly level: LevelId;
  readonly until: string;
  readonly note?: string;
}

/** One person on one kind. Counts, for who teaches; no ranking. */
export interface PracticeRow {
  readonly person: { readonly id: string; readonly name: string };
  readonly family: string;
  readonly last: string;
  readonly runs: number;
  readonly highest: LevelId | null;
  readonly grave: number;
  readonly tests: readonly { readonly day: string; readonly word: Word }[];
  readonly missed: { readonly fault: string; readonly times: number; readonly of: number } | null;
}

export interface PracticeOverview {
  readonly rows: readonly PracticeRow[];
  /** What was missed most in the whole firm, from five people up. */
  readonly teach: { readonly family: string; readonly fault: string; readonly times: number } | null;
}
