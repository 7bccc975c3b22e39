import type { Gathering, Recommendation } from '../define/index.js';
import type { JobView } from '@firm-needle/core/procedure';
import { DISPLAY_OFF } from './parts.js';
import { looksLikeSwitchRule } from './plan.js';
import { airFindings, airUnproved } from '../shared/soap.js';
import { stopIs } from '../shared/seen.js';
import * as now from './state.js';

export function findings(job: JobView, gathering: Gathering): void {
  const { add } = gathering;
  airFindings(job, gathering);
  const hunted = job.state.observations.some((o) => o.body.answer === 'hunts');
  if (now.waterAtValve(job))
    add(
      'replace',
      'ruptured-bladder',
      'Water at the air valve: the bladder is ruptured.',
      'Replace the tank.',
      'precharge',
    );
  const over = now.displayOver(job);
  if (over !== undefined && now.sensorOff(job))
    add(
      'replace',
      'sensor-off',
      `The drive’s display shows ${job.sayWidth(Math.abs(over), 'setPoint')} ${over > 0 ? 'more' : 'less'} than the gauge: its sensor is off.`,
      'Replace the sensor or trim it by its manual; the set point must not make up for it.',
      'setPoint',
    );
  if (now.unexplained(job))
    add(
      'replace',
      'hunts',
      'It hunts with the charge right and the sensor’s line bled.',
      'Gain, or a sensor in a bad place: by the drive’s manual, not by its set point.',
      'setPoint',
    );
  if (job.answered('why-hunts', 'air'))
    add('say', 'was-air', 'There was air in the sensor’s line.', 'Mended in this job.');
  const found = job.figure('precharge', 'found');
  const { lower, upper } = job.opening.limits['precharge'] ?? {};
  if (found && lower !== undefined && upper !== undefined && (found.value < lower || found.value > upper)) {
    const should = job.say(job.opening.values['precharge'] ?? 0, 'precharge');
    const stood = job.say(found.value, 'precharge');
    if (looksLikeSwitchRule(found.value, job.opening.values))
      add(
        'warn',
        'charged-as-switch',
        `Precharge was found at ${stood}: two under cut-in, the rule for a pressure switch.`,
        `On a drive it is 70 % of the set point: ${should}.`,
        'precharge',
      );
    else if (found.value < lower * 0.5)
      add(
        'warn',
        'waterlogged',
        `Precharge was found at ${stood}, of ${should}: the tank is waterlogged${hunted ? ', and the drive hunted on it' : ''}.`,
        'Air is lost over years: read it at every visit.',
        'precharge',
      );
    else
      add(
        'warn',
        found.value < lower ? 'precharge-low' : 'precharge-high',
        `Precharge was found at ${stood}, of ${should}.`,
        'Read it at every visit.',
        'precharge',
      );
  }
  if (now.outrun(job) || now.short(job))
    add(
      'warn',
      'outrun',
      'The pump runs at its most and the pressure stands lower: it can give no more.',
      'Look at the well, the pump and for a leak; the setting is not the fault.',
      'fullDraw',
    );
  const falls = now.fallsBy(job);
  if (now.droops(job) && falls !== undefined)
    add(
      'replace',
      'droops',
      `It falls by ${job.sayWidth(falls, 'fullDraw')} at full draw, with speed to spare.`,
      'Its gain, its sensor’s place or a limit in its programme: by the drive’s manual, not by its set point.',
      'fullDraw',
    );
  if (now.leaks(job))
    add(
      'warn',
      'never-sleeps',
      now.seen(job, 'why-runs') === 'leak'
        ? 'It runs on with nothing drawn: a tap or pipe leaks.'
        : now.seen(job, 'why-runs') === 'valve'
          ? 'It runs on with nothing drawn: the check valve lets the water back.'
          : 'It runs on with nothing drawn: water goes somewhere.',
      now.runsOn(job) ? 'Find the leak, or the check valve that lets it back.' : 'The customer was shown.',
    );
  const programmed = now.programmedOver(job);
  if (
    programmed !== undefined &&
    Math.abs(programmed) > DISPLAY_OFF &&
    !now.sensorOff(job) &&
    !now.outrun(job)
  )
    add(
      'warn',
      'not-as-programmed',
      `It is told ${job.sayWidth(Math.abs(programmed), 'setPoint')} ${programmed > 0 ? 'more' : 'less'} than it holds.`,
      'Look whether another set point is in use, and at the drive’s limits.',
      'setPoint',
    );
  if (now.unguarded(job))
    add(
      'warn',
      'no-dry-run',
      'Dry-run protection is off, or there is none.',
      'Switch it on by the drive’s manual before it is left.',
    );
  if (!now.wakeDue(job) && !now.sensorOff(job) && job.verdict('wake', 'left')?.word === 'out')
    add(
      'warn',
      'wake-off',
      `It wakes at ${job.say(job.figure('wake', 'left')?.value ?? 0, 'wake')}, not where its plate says.`,
      'Look at its wake-up setting in the manual.',
      'wake',
    );
  if (now.stuck(job)) {
    const advice = job.advice('keys');
    if (advice.stop !== null)
      add(stopIs(advice.stop), advice.stop, advice.because, 'Stop here and look at the drive.', 'setPoint');
  }
}

export function unproved(job: JobView, gathering: Gathering): void {
  const { lacks } = gathering;
  airUnproved(job, gathering);
  if (!now.held(job))
    lacks(
      'not-held',
      'setPoint',
      'The set point was not read twice inside its limits.',
      'Draw a trickle and read it, or end the job another way.',
    );
  if (!now.full(job))
    lacks(
      'not-full',
      'fullDraw',
      'It was not seen to hold at full draw.',
      'Open every tap and read it, or end the job another way.',
    );
  if (!job.landed('precharge'))
    lacks(
      'precharge-out',
      'precharge',
      'Precharge does not stand inside its limits.',
      'Add or bleed air and read it again.',
    );
  if (now.runsOn(job))
    lacks(
      'runs-on',
      'setPoint',
      'It never sleeps, and nobody found why.',
      'Look where the water goes, or end the job another way.',
    );
  if (now.refillDue(job))
    lacks(
      'refill-due',
      'setPoint',
      'It was not seen to come up again after draining.',
      'Refill and read it.',
    );
}

/** A pump that does not reach the set point is no fault of the setting. */
export const recommend = (job: JobView, usual: Recommendation): Recommendation =>
  now.short(job) && usual.outcome !== 'replace'
    ? { outcome: 'left-as-found', because: 'The pump does not reach the set point; nothing was changed.' }
    : usual;
