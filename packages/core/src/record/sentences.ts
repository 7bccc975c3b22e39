// What a customer wants to know, in three plain sentences: what was found, what was done, when to come back.
import type { Sheet, SheetRow } from '../family/index.js';
import type { DueReason } from '../history/index.js';
import { symbolOf } from '../quantity/index.js';
import type { VerdictWord } from '../verdict/index.js';
import { shownIn } from './table.js';

export interface Ending {
  /** How it ended, in the family's words; undefined where it is not signed. */
  readonly outcome: string | undefined;
  /** Why it was left early. */
  readonly leaving?: string;
  /** What was signed is not what the record proves. */
  readonly unproved: boolean;
  readonly next?: DueReason;
  /** Days in words. */
  day(iso: string): string;
}

/** Names as a sentence lists them: `cut-in, cut-out and precharge`. */
export const listed = (names: readonly string[]): string =>
  names.length < 2 ? (names[0] ?? '') : `${names.slice(0, -1).join(', ')} and ${names.at(-1)}`;

const upper = (text: string): string => text.charAt(0).toUpperCase() + text.slice(1);
const ended = (text: string): string => (/[.!?…]$/.test(text) ? text : `${text}.`);
const lower = (title: string): string => title.replace(/^[A-Z](?=[a-z])/, (c) => c.toLowerCase());
const FOUND_AS: readonly (readonly [VerdictWord, string])[] = [
  ['out', 'outside limits'],
  ['near', 'too near a limit to be sure'],
  ['in', 'within limits'],
];

/** A reason as far as it goes into a sentence; the whole of it stands among what was noticed. */
const MOST_REASON = 160;
const inShort = (text: string): string => {
  const line = text.replace(/\s+/g, ' ').trim();
  return line.length <= MOST_REASON ? line : `${line.slice(0, MOST_REASON).replace(/\s\S*$/, '')} …`;
};

/** A setting's figure with its unit. */
const said = (sheet: Sheet, r: SheetRow, value: number): string =>
  `${shownIn(sheet, r.setting, value)} ${symbolOf(r.unit)}`.trim();

function foundSaid(sheet: Sheet): string {
  const named = (r: SheetRow): string => `${lower(r.title)} ${said(sheet, r, r.found?.value ?? 0)}`;
  const parts = FOUND_AS.flatMap(([word, as]) => {
    const rows = sheet.rows.filter((r) => r.found?.verdict?.word === word);
    if (rows.length === 0) return [];
    return [`${as}: ${listed(rows.map((r) => (word === 'in' ? lower(r.title) : named(r))))}`];
  });
  if (parts.length > 0) return `Found ${parts.join('; ')}.`;
  const read = sheet.rows.filter((r) => r.found);
  return read.length > 0 ? `Found: ${listed(read.map(named))}.` : 'Nothing was read as it was found.';
}

function doneSaid(sheet: Sheet, { outcome, leaving, unproved }: Ending): string {
  const moved = sheet.net.map((n) => `${lower(n.adjuster)} ${n.text}`);
  const stands = sheet.rows.filter((r) => !r.due && r.left?.verdict);
  const done =
    sheet.turns.length === 0
      ? 'Nothing was adjusted'
      : `Adjusted: ${listed(moved)}${
          stands.length > 0
            ? `; now ${listed(stands.map((r) => `${lower(r.title)} ${said(sheet, r, r.left?.value ?? 0)}`))}`
            : ''
        }`;
  if (outcome === undefined) return `${done}. The work is not signed yet.`;
  return `${done}. ${ended(`${upper(outcome)}${unproved ? ', but not proved' : ''}${leaving ? `: ${lower(inShort(leaving))}` : ''}`)}`;
}

function nextSaid({ next, day, outcome }: Ending): string {
  if (outcome === undefined) return 'When to come back is said once it is signed.';
  return next
    ? `To be looked at again by ${day(next.day)}: ${ended(next.because)}`
    : 'No later date stands on this sheet.';
}

/** What was found, what was done, when to come back. */
export const summaryOf = (
  sheet: Sheet,
  ending: Ending,
): readonly [found: string, done: string, next: string] => [
  foundSaid(sheet),
  doneSaid(sheet, ending),
  nextSaid(ending),
];
