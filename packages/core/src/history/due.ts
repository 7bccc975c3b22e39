/** Months between checks where a site agreed nothing else [common practice, no source]. */
export const USUAL_INTERVAL_MONTHS = 12;
/** Days in which what was found bad is to be seen to [common practice, no source]. */
export const FOLLOW_UP_DAYS = 14;
/** A day that the customer named is kept by a check so many days before it [common practice, no source]. */
const NEAR_ENOUGH_DAYS = 31;
const DAY_MS = 86400e3;

/**
 * The ISO date on which a control is next due.
 * @param last ISO date of the last signed check
 * @param months agreed interval
 * @example nextDue('2030-01-31', 1) // '2030-02-28'
 */
export function nextDue(last: string, months = USUAL_INTERVAL_MONTHS): string {
  const [y = 0, m = 1, d = 1] = last.slice(0, 10).split('-').map(Number);
  const first = new Date(Date.UTC(y, m - 1 + months, 1));
  const days = new Date(Date.UTC(first.getUTCFullYear(), first.getUTCMonth() + 1, 0)).getUTCDate();
  first.setUTCDate(Math.min(d, days));
  return first.toISOString().slice(0, 10);
}

/** Some days after an ISO day. */
export const daysAfter = (day: string, days: number): string =>
  new Date(Date.parse(`${day.slice(0, 10)}T00:00:00Z`) + days * DAY_MS).toISOString().slice(0, 10);

/**
 * Why a control is due: it was never set · the interval the firm keeps · one that the law or an insurer sets · a day the customer
 * named · its settings will leave their limits · a gauge that proved it failed later · the last job ended otherwise than set.
 */
export type DueKind = 'first' | 'rule' | 'law' | 'customer' | 'drift' | 'doubt' | 'follow-up';

export interface DueReason {
  readonly kind: DueKind;
  /** ISO day. */
  readonly day: string;
  /** In words, for whoever plans. */
  readonly because: string;
}

/** What is known of a control when its next date is worked out; all days ISO. */
export interface DueFacts {
  /** When it was entered. */
  readonly since: string;
  /** The last job that proved it. */
  readonly checked?: string;
  /** Months between checks, where the usual ones are not kept. */
  readonly months?: number;
  readonly law?: { readonly months: number; readonly by: string };
  readonly customer?: string;
  /** When a setting is expected to leave its limits, and which. */
  readonly leaves?: { readonly day: string; readonly because: string };
  /** What later checks cast on the gauges that proved it. */
  readonly doubts?: readonly { readonly day: string; readonly because: string }[];
  /** A job since then that did not end well. */
  readonly followUp?: { readonly day: string; readonly because: string };
}

const every = (months: number): string =>
  months === 12
    ? 'yearly'
    : months % 12 === 0
      ? `every ${months / 12} years`
      : months === 1
        ? 'monthly'
        : `every ${months} months`;

/** Every reason for a control to be due, the soonest first; never empty. */
export function dueReasons(facts: DueFacts): readonly DueReason[] {
  const { checked, months = USUAL_INTERVAL_MONTHS, law, customer, leaves, doubts = [], followUp } = facts;
  const out: DueReason[] = [];
  if (checked === undefined) {
    // A day that was agreed for the first time is when it is wanted.
    if (customer === undefined)
      out.push({ kind: 'first', day: facts.since, because: 'never set and proved yet' });
  } else {
    out.push({ kind: 'rule', day: nextDue(checked, months), because: every(months) });
    if (law)
      out.push({
        kind: 'law',
        day: nextDue(checked, law.months),
        because: `${every(law.months)}, by ${law.by}`,
      });
    if (leaves) out.push({ kind: 'drift', ...leaves });
  }
  if (customer !== undefined && (checked === undefined || checked < daysAfter(customer, -NEAR_ENOUGH_DAYS)))
    out.push({ kind: 'customer', day: customer, because: 'asked for by the customer' });
  const doubt = [...doubts].sort((a, b) => a.day.localeCompare(b.day))[0];
  if (doubt) out.push({ kind: 'doubt', ...doubt });
  if (followUp)
    out.push({ kind: 'follow-up', day: daysAfter(followUp.day, FOLLOW_UP_DAYS), because: followUp.because });
  return out.sort((a, b) => a.day.localeCompare(b.day));
}
