import type { Gathering, Recommendation } from '../define/index.js';
import type { JobView } from '@firm-needle/core/procedure';
import { advisedDecision } from './walk.js';
import { RATED_BAND, SHORTEST_RUN_S } from './parts.js';
import { airFindings, airUnproved } from '../shared/soap.js';
import { stopIs } from '../shared/seen.js';
import * as now from './state.js';

/** What the readings, observations and turns add up to. */
export function findings(job: JobView, gathering: Gathering): void {
  const { add } = gathering;
  airFindings(job, gathering);
  if (now.climbs(job))
    add(
      'replace',
      'does-not-stop',
      'The pump does not stop: contacts welded, or the sensing tube is blocked.',
      'Replace the switch. Leave it locked off until then.',
    );
  if (now.stalls(job))
    add(
      'warn',
      'below-cut-out',
      'The pump runs on and the pressure stays below cut-out.',
      'Look at the well, the pump and for a leak; the switch is not the fault.',
    );
  if (now.noStart(job))
    add(
      'replace',
      'does-not-start',
      'The pump does not start on falling pressure.',
      'Prove the supply and the sensing tube, then replace the switch.',
    );
  if (now.waterAtValve(job))
    add(
      'replace',
      'ruptured-bladder',
      'Water at the air valve: the bladder is ruptured.',
      'Replace the tank.',
      'precharge',
    );
  if (now.unrepeatable(job) && !now.climbs(job))
    add(
      'replace',
      'unrepeatable',
      'The switch acts at a different pressure each cycle: blocked tube or burned contacts.',
      'Replace the switch.',
      'cutOut',
    );
  const fall = now.fallAtRest(job);
  if (job.answer('rest') === 'falls')
    add(
      'warn',
      'falls-at-rest',
      `The pressure falls${fall === undefined ? '' : ` ${job.sayWidth(60 * fall, 'cutOut')} a minute`} with nothing drawn: check valve or a leak.`,
      'Find it before it wears the pump.',
    );
  const precharge = job.figure('precharge', 'found');
  const low = job.opening.limits['precharge']?.lower;
  const run = job.figure('runTime', 'found');
  if (precharge && low !== undefined && now.chargedAsDrive(job))
    add(
      'warn',
      'charged-as-drive',
      `Precharge was found at ${job.say(precharge.value, 'precharge')}: 70 % of a pressure, the rule for a drive.`,
      `On a pressure switch it is two under cut-in: ${job.say(job.opening.values['precharge'] ?? 0, 'precharge')}.`,
      'precharge',
    );
  else if (precharge && low !== undefined && precharge.value < low)
    add(
      'warn',
      'precharge-low',
      `Precharge was found at ${job.say(precharge.value, 'precharge')}, ${job.say((job.opening.values['precharge'] ?? 0) - precharge.value, 'precharge')} low.`,
      'Air is lost over years: read it at every visit.',
      'precharge',
    );
  if (run && run.value < SHORTEST_RUN_S) {
    const left = job.figure('runTime', 'left');
    const charged = precharge && low !== undefined && precharge.value >= low;
    if (now.waterAtValve(job) || (precharge && !charged && low !== undefined && precharge.value < low * 0.6))
      add(
        'warn',
        'waterlogged',
        `The pump ran only ${Math.round(run.value)} s a cycle: the tank is waterlogged.`,
        'Restore the precharge and watch the run time.',
        'runTime',
      );
    else if (charged && (left ?? run).value < SHORTEST_RUN_S)
      add(
        'warn',
        'tank-small',
        `The pump runs only ${Math.round((left ?? run).value)} s a cycle with the precharge right.`,
        'The tank is too small for this pump.',
        'runTime',
      );
  }
  if (now.emptiesFirst(job) && now.fillsAgain(job))
    add(
      'say',
      'emptied-first',
      'Cut-in lay under the precharge: the tank was empty before the pump started.',
      'Mended in this job.',
      'cutIn',
    );
  else if (now.emptiesFirst(job))
    add(
      'warn',
      'empties-first',
      'Cut-in lies under the precharge: the tank is empty before the pump starts.',
      'Raise cut-in or bleed the precharge to two under it.',
      'cutIn',
    );
  const pair = now.ratedPair(job);
  for (const [at, setting] of [
    ['in', 'cutIn'],
    ['out', 'cutOut'],
  ] as const) {
    const [is, planned] = [pair[at], job.plan.values[setting]];
    if (is !== undefined && planned !== undefined && Math.abs(is - planned) > RATED_BAND)
      add(
        'warn',
        `off-rated-${at}`,
        `${job.setting(setting).title} is planned at ${job.say(planned, setting)}; the switch is rated for ${job.say(is, setting)}.`,
        'Another switch for another pair: far from its own its springs do not repeat.',
        setting,
      );
  }
  const when = differentialSeen(job);
  const diff = when && job.figure('differential', when);
  if (diff && when && job.verdict('differential', when)?.word === 'out')
    add(
      'replace',
      diff.value < ((when === 'found' ? job.opening : job.plan).values['differential'] ?? 0)
        ? 'differential-narrowed'
        : 'differential-widened',
      `The differential is ${job.say(diff.value, 'differential')}.`,
      'A worn switch: replace it.',
      'differential',
    );
  if (now.dripped(job))
    add(
      'warn',
      'relief-drips',
      'The relief dripped: the setting is too near it.',
      'Lock off, lower the setting, read again.',
      'cutOut',
    );
  const stuck = now.stuckBy(job);
  if (stuck)
    add(stopIs(stuck.code), stuck.code, stuck.because, 'Stop here; replace the switch or change the plan.');
}

/**
 * Whose differential says that the switch is worn: as found where that decides, else as it stands where no turn brings both points
 * nearer; a tank that was empty first hid it until then.
 */
function differentialSeen(job: JobView): 'found' | 'left' | undefined {
  if (advisedDecision(job).code === 'replace') return 'found';
  return now.stuckBy(job)?.code === 'in-limits' && job.plan.school !== 'set-both' ? 'left' : undefined;
}

/** What must be true before "set" can be signed. */
export function unproved(job: JobView, gathering: Gathering): void {
  const { lacks: need } = gathering;
  airUnproved(job, gathering);
  if (now.prechargeDue(job) && !now.waterAtValve(job))
    need(
      'precharge-due',
      'precharge',
      'Precharge is due: cut-in moved after it was last read.',
      'Isolate, drain to zero and read it.',
    );
  else if (!job.landed('precharge'))
    need(
      'precharge-out',
      'precharge',
      'Precharge does not stand inside its limits.',
      'Add or bleed air and read it again.',
    );
  for (const s of ['cutIn', 'cutOut']) {
    const def = job.setting(s);
    // Near can be signed with its reason; out cannot.
    if (!job.landed(s) && job.verdict(s, 'left')?.word !== 'near')
      need(
        `${s}-out`,
        s,
        `${def.title} does not stand inside its limits.`,
        'Adjust on, or end the job another way.',
      );
    else if (!job.proved(s))
      need(`${s}-unproved`, s, `${def.title} was not proved by two cycles that agree.`, 'Run another cycle.');
  }
}

/** A switch that is left says why by the decision that was taken. */
export function recommend(job: JobView, usual: Recommendation): Recommendation {
  if (usual.outcome === 'replace') return usual;
  const decision = now.decision(job);
  // Decided by what the points are, though no proof of them is there.
  if (decision === 'replace' && advisedDecision(job).code === 'replace')
    return { outcome: 'replace', because: advisedDecision(job).say };
  if (decision === undefined || (decision === 'leave' && !now.settled(job)))
    return { outcome: 'unfinished', because: 'The as-found readings are not complete.' };
  return decision !== 'adjust' || job.state.turns.length === 0
    ? { outcome: 'left-as-found', because: advisedDecision(job).say }
    : usual;
}
