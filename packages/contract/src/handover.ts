// What is handed over: photos, sheets behind a link, calendars.
import type { RecordDoc } from '@firm-needle/core/record';

export interface PhotoKept {
  readonly hash: string;
  readonly width: number;
  readonly height: number;
  readonly bytes: number;
}

/** A photo of a control itself, under an id made on the device. */
export interface ControlPhotoForm {
  readonly hash: string;
  readonly width: number;
  readonly height: number;
  readonly text: string;
  readonly removed?: boolean;
}

export interface ControlPhoto {
  readonly id: string;
  readonly hash: string;
  readonly width: number;
  readonly height: number;
  readonly text: string;
  readonly at: string;
  /** The job it was taken in; null where it is of the control itself. */
  readonly job: string | null;
}

/** A link to one sheet. */
export interface SharedLink {
  readonly id: string;
  readonly createdAt: string;
  readonly by: string;
  readonly expiresAt: string;
  readonly withdrawnAt: string | null;
  readonly opened: number;
}

/** A link as it is made: its token is told once and not kept. */
export interface NewLink {
  readonly id: string;
  readonly token: string;
  readonly expiresAt: string;
}

/** What stands behind a link. */
export interface SharedSheet {
  readonly doc: RecordDoc;
  readonly expiresAt: string;
}

/** A calendar's secret address, told once. */
export interface NewCalendar {
  readonly id: string;
  readonly token: string;
}

export interface OpenCalendar {
  readonly id: string;
  readonly own: boolean;
  readonly createdAt: string;
}

/** What becomes of a line of a file that is read in: it makes something new, all of it stands already, or it cannot be taken. */
export type Fate = 'new' | 'known' | 'refused';

/** A CSV file as it is read in: first only looked at, then taken in whole or not at all. */
export interface ImportState {
  readonly id: string;
  readonly name: string;
  readonly state: 'reading' | 'ready' | 'applying' | 'done' | 'failed' | 'cancelled';
  /** Lines looked at (or, while it is taken in, taken) so far. */
  readonly lines: number;
  readonly counts: Readonly<Record<Fate, number>> & {
    readonly sites: number;
    readonly equipment: number;
    readonly controls: number;
  };
  /** What was assumed of the file: delimiter, columns that are not known. */
  readonly said: readonly string[];
  readonly problem: string | null;
}

export interface ImportLine {
  readonly line: number;
  readonly fate: Fate;
  readonly message: string;
  readonly cells: Readonly<Record<string, string>>;
}

/** What a dossier brought in. */
export interface DossierTaken {
  readonly site: string;
  readonly name: string;
  readonly jobs: number;
  readonly events: number;
  /** Jobs whose fold by this program differs from what was frozen when they were signed. */
  readonly differ: number;
}
