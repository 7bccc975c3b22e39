import type { Gathering, Recommendation } from '../define/index.js';
import type { JobView } from '@firm-needle/core/procedure';
import { insidePlain } from '@firm-needle/core/verdict';
import { impairmentStays } from '../shared/impairment.js';
import { LEAST_MARGIN } from './parts.js';
import { atChurn } from './reckoned.js';
import * as now from './state.js';

/** Net churn this far from the plate's is a pump to be tested [common practice, no source]. */
const CHURN_BAND = 0.05;
/** Speed this far under the governed one is not governed speed [common practice, no source]. */
const SPEED_BAND = 0.03;

export function findings(job: JobView, { add }: Gathering): void {
  const over = now.speedOver(job);
  if (now.overspeeds(job))
    add(
      'replace',
      'overspeed',
      `It runs at ${Math.round(100 * (over ?? 1))} % of its governed speed.`,
      'The governor first: the relief is set at governed speed.',
    );
  else if (over !== undefined && over < 1 - SPEED_BAND)
    add(
      'warn',
      'underspeed',
      `It runs at ${Math.round(100 * over)} % of its governed speed.`,
      'Find out why before its churn is believed.',
    );
  if (now.leaks(job))
    add(
      'replace',
      'seat-leaks',
      now.weepsUp(job)
        ? 'It runs with the pilot well above the system: the seat does not close.'
        : 'Once open it does not close again.',
      'Debris in the seat, or a worn one: clean or repair it, then set.',
    );
  if (now.whyDry(job) === 'end')
    add(
      'replace',
      'spring-end',
      'The pilot is at the end of its spring and the relief stays dry.',
      'The spring does not reach this pressure: take another from its table.',
    );
  if (now.whyDry(job) === 'none')
    add(
      'replace',
      'never-opens',
      'It does not open, however low the pilot is turned.',
      'Pilot or main valve: isolate and repair.',
    );
  if (now.wrongSpring(job)) {
    const here = job.figure('perTurn', 'left')?.value ?? 0;
    add(
      'replace',
      'wrong-spring',
      `One turn does ${job.say(here, 'perTurn')} here, ${job.say(job.plan.plate['perTurn']?.value ?? 0, 'perTurn')} by the plate: another spring.`,
      'Fit the listed spring; do not set this one.',
      'perTurn',
    );
  }
  if (now.onCover(job) && now.traced(job) === 'upstream')
    add(
      'replace',
      'pressure-falls',
      'The system falls far as a little runs.',
      'Pump or suction: test them before the relief is set.',
    );
  if (now.traced(job) === 'cover' || now.answer(job, 'where') === 'cover')
    add(
      'warn',
      'was-cover',
      'The gauge taken for the system’s stood on the cover: it shows control pressure.',
      'Moved upstream in this job; mark it.',
    );
  if (now.lookedOnly(job))
    add(
      'say',
      'not-measured',
      'It was dry at churn. Where it opens was not measured this time.',
      'Measure it when it is due.',
      'opening',
    );
  if (now.whyDry(job) === 'sensing')
    add(
      'warn',
      'was-sensing',
      'The sensing line was blocked: the relief would not have opened.',
      'Cleaned in this job; look for what blocked it.',
    );
  if (now.ranAtChurn(job))
    add(
      'warn',
      'ran-at-churn',
      'It ran at churn as it was found: it stood below the system.',
      'A margin of 10 to 15 psi keeps it dry.',
      'margin',
    );
  const [margin, opening] = [job.figure('margin', 'found'), job.figure('opening', 'found')];
  const rating = job.plan.plate['rating']?.value;
  if (job.finds && margin && !now.hopeless(job)) {
    if (rating !== undefined && opening && opening.value > rating)
      add(
        'warn',
        'above-rating',
        `It was found to open at ${job.say(opening.value, 'opening')}, above the weakest component’s ${job.say(rating, 'opening')}.`,
        'As found it protected nothing.',
        'opening',
      );
    else if (marginWrong(job, margin.value) && !now.ranAtChurn(job))
      add(
        'warn',
        margin.value < LEAST_MARGIN ? 'margin-small' : 'margin-large',
        `It was found ${job.sayWidth(margin.value, 'margin')} over the highest normal pressure.`,
        '10 to 15 psi is usual.',
        'margin',
      );
  }
  const [churn, suction] = [atChurn(job, 'churn'), atChurn(job, 'suction')];
  const plated = job.plan.plate['churn']?.value;
  if (churn && suction && plated !== undefined && !now.overspeeds(job)) {
    const net = churn.value - suction.value;
    if (now.implausible(job))
      add(
        'warn',
        'churn-implausible',
        `Net churn was read as ${job.say(net, 'churn')}; by the plate it is ${job.say(plated, 'churn')}. It was not that which was read.`,
        'Are both gauges connected, at the right places, and their cocks open? Read again.',
        'churn',
      );
    else if (Math.abs(net / plated - 1) > CHURN_BAND)
      add(
        'warn',
        'churn-differs',
        `Net churn is ${job.say(net, 'churn')}, ${job.say(plated, 'churn')} by the plate.`,
        'Test the pump by its curve.',
        'churn',
      );
  }
  if (now.answer(job, 'casing') === 'dry')
    add(
      'warn',
      'casing-dry',
      'The casing relief did not run at churn: the pump heats its own water.',
      'Stop it soon; set or replace the casing relief before a longer run.',
    );
  // A governor that runs away takes the room first: that is said.
  if (now.noRoom(job) && !now.overspeeds(job))
    add(
      'replace',
      'no-room',
      'The pump’s own highest pressure leaves no room for the relief under the weakest component’s rating.',
      'Not to be set: pump, components and authority first.',
      'opening',
    );
  if (now.neverAsSet(job))
    add(
      'warn',
      'proof-differs',
      'However often it was set, it opened elsewhere than it was set to.',
      'Look what slips, and search anew.',
      'opening',
    );
  if (impairmentStays(job))
    add(
      'warn',
      'impaired',
      'The impairment stays: the relief is not in order.',
      'Owner and authority were told; fire watch until it is mended.',
    );
}

/** Surely outside its limits as found, or so by its figure and set for that. */
const marginWrong = (job: JobView, value: number): boolean =>
  job.verdict('margin', 'found')?.word === 'out' ||
  (now.wasSet(job) && !insidePlain(value, job.limits('margin', 'found')));

export function unproved(job: JobView, { lacks }: Gathering): void {
  if (now.implausible(job))
    lacks(
      'churn-implausible',
      'churn',
      'What was read at churn cannot be this pump.',
      'Look at the gauges and read again.',
    );
  if (!job.figure('margin', 'left') || job.verdict('margin', 'left')?.word === 'out')
    lacks(
      'margin-out',
      'margin',
      'The opening does not stand 10 to 15 psi over the highest normal pressure.',
      'Set it again, or end the job another way.',
    );
  if (job.verdict('opening', 'left')?.word === 'out')
    lacks('above-rating', 'opening', 'It would open above the weakest component’s rating.', 'Turn it down.');
  if (!now.seenToOpen(job))
    lacks(
      'not-proved',
      'opening',
      'It was not seen to open since it was set.',
      'Prove it by count or by speed.',
    );
  else if (now.neverAsSet(job))
    lacks(
      'proof-differs',
      'opening',
      'It opens elsewhere than it is set to, however often it is set.',
      'Search anew, or look what slips.',
    );
  if (now.answer(job, 'dry-left') !== 'dry')
    lacks(
      'not-dry',
      'opening',
      'The outlet was not seen dry for a minute.',
      'Watch it, or end the job another way.',
    );
}

/** The margin that was found, with its doubt. */
function overSaid(job: JobView): string {
  const margin = job.figure('margin', 'found');
  return margin
    ? `${job.sayWidth(margin.value, 'margin')} ± ${job.sayWidth(margin.budget.U, 'margin')}`
    : '10 to 15 psi';
}

/** What was not set was either found right, or not looked into to the end. */
export function recommend(job: JobView, usual: Recommendation): Recommendation {
  if (usual.outcome === 'replace' || now.wasSet(job)) return usual;
  if (now.lookedOnly(job))
    return {
      outcome: 'left-as-found',
      because: 'Dry at churn as it was found; where it opens was not measured this time, and its date stays.',
    };
  return now.foundRight(job) && now.answer(job, 'dry-left') === 'dry'
    ? {
        outcome: 'left-as-found',
        because: `It opens ${overSaid(job)} over the highest normal pressure, and closes.`,
      }
    : { outcome: 'unfinished', because: 'The search is not complete.' };
}
