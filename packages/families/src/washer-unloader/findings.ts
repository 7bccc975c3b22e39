import type { Gathering } from '../define/index.js';
import type { JobView } from '@firm-needle/core/procedure';
import { fromCanonical } from '@firm-needle/core/quantity';
import { stopIs } from '../shared/seen.js';
import { nozzleFor } from './plan.js';
import * as now from './state.js';

/** What readings and turns add up to. */
export function findings(job: JobView, { add }: Gathering): void {
  if (now.hunts(job))
    add(
      'replace',
      'air-inlet',
      'The working pressure swings and never stands.',
      'Air in the inlet: suction hose, strainer, water supply; then valves.',
    );
  if (now.bleeds(job))
    add(
      'replace',
      'check-leaks',
      'What is trapped bleeds away and the machine cycles.',
      'Check seat of the unloader, or a leak at gun or hose: mend it before anything is turned.',
    );
  const working = now.atFullTravel(job);
  const { flow, nozzle } = job.plan.plate;
  if (now.knee(job) && working !== undefined) {
    const head = working + ((job.plan.values['head'] ?? 0) - (job.plan.values['working'] ?? 0));
    const number = flow ? nozzleFor(flow.value, head) : undefined;
    const wear =
      number !== undefined && nozzle
        ? ` It passes what a number ${fromCanonical(number, 'gpm').toFixed(1)} passes, not ${fromCanonical(nozzle.value, 'gpm').toFixed(1)}.`
        : '';
    if (!job.landed('working'))
      add(
        'replace',
        'full-travel-low',
        `With no water bypassed it makes only ${job.say(head, 'head')}.${wear}`,
        'Nozzle worn or too big, belt slipping, inlet starved, pump valves: not the unloader.',
      );
    else
      add('say', 'at-the-knee', 'No water is bypassed any more.', 'Turning on would only raise the spike.');
  }
  if (now.spent(job))
    add(
      'replace',
      'spring',
      'Neither pressure follows the handle any more.',
      'Wrong or tired spring: match it to the pump’s rating by its range, not its colour.',
    );
  const stuck = now.stuck(job);
  if (stuck)
    add(
      stopIs(stuck.code),
      stuck.code,
      stuck.because,
      'Stop here: look at spring, seat and nozzle.',
      'working',
    );
  if (now.spiky(job) && !now.knee(job))
    add(
      'replace',
      'spike-large',
      `${job.say(job.figure('spike', 'left')?.value ?? job.figure('spike', 'found')?.value ?? 0, 'spike')} over a working pressure that is right.`,
      'Too small a nozzle, or a sticking piston: diagnose before turning further.',
    );
  if (now.answerAt(job, 'repeats') === 'cycles')
    add('replace', 'cycles', 'It cycles by itself with the trigger released.', 'Check seat or gun leak.');
}

const AGAIN = 'Read it again, or end the job another way.';

export function unproved(job: JobView, { lacks }: Gathering): void {
  for (const id of ['working', 'trapped'])
    if (job.due(id) || !job.proved(id))
      lacks(`${id}-due`, id, `${job.setting(id).title} is not proved since the handle was moved.`, AGAIN);
  if (job.verdict('spike', 'left')?.word === 'out')
    lacks('spike-out', 'spike', 'The spike is outside its limits.', AGAIN);
  if (job.verdict('working', 'left')?.word === 'out')
    lacks('working-out', 'working', 'The working pressure is outside its limits.', AGAIN);
  if (now.answerAt(job, 'repeats') !== 'repeats')
    lacks('not-cycled', 'working', 'It was not seen to repeat over five pulls.', AGAIN);
}
