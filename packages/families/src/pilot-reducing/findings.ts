import type { JobView } from '@firm-needle/core/procedure';
import type { Gathering } from '../define/index.js';
import { impairmentStays } from '../shared/impairment.js';
import { parts, psi, read } from './parts.js';
import * as now from './state.js';

const MENDED = new Map([
  ['air', 'There was air in the cover.'],
  ['flow', 'Too little was drawn.'],
  ['cock', 'A cock of the pilot circuit was shut.'],
  ['strainer', 'The pilot’s strainer was blocked.'],
]);
/** An outlet this near to the inlet is not reduced at all. */
const UNREDUCED = psi(6);

export function findings(job: JobView, { add }: Gathering): void {
  for (const cause of new Set(now.mended(job)))
    add('say', `was-${cause}`, MENDED.get(cause) ?? cause, 'Mended in this job.');
  const [inlet, flowing] = [parts.last(job, 'inlet'), parts.last(job, 'flowing')];
  const target = read(job.plan).v.flowing;
  if (inlet !== undefined && target !== undefined && inlet - target < psi(10))
    add(
      'warn',
      'inlet-low',
      `The inlet has only ${job.say(inlet, 'inlet')}.`,
      'Too little for this outlet: look upstream before the valve is blamed.',
    );
  if (now.answerAt(job, 'why-still') === 'none') {
    const unreduced = inlet !== undefined && flowing !== undefined && inlet - flowing < UNREDUCED;
    add(
      'replace',
      unreduced ? 'diaphragm' : 'does-not-follow',
      unreduced
        ? 'The outlet stands at the inlet, wherever the pilot is set: the diaphragm is torn, or the cover has no pressure.'
        : 'The outlet does not follow the pilot.',
      'Isolate, open and repair; nothing of the screw will mend it.',
    );
  }
  if (now.answerAt(job, 'why-hunts') === 'none')
    add(
      'replace',
      'hunts',
      'It swings and no cause was found.',
      'Not to be set while it swings: pilot, restriction, tubing.',
    );
  if (now.rises(job))
    add(
      'replace',
      'seat-leaks',
      'With nothing drawn the outlet rises on.',
      'Debris in the seat or a worn seat: clean it, then set.',
    );
  if (impairmentStays(job))
    add(
      'warn',
      'impaired',
      'The impairment stays: the valve is not in order.',
      'Owner and authority were told; fire watch until it is mended.',
    );
  const rise = job.figure('rise', 'left')?.value;
  if (rise !== undefined && rise > psi(10) && !now.creeps(job))
    add(
      'warn',
      'rise-large',
      `Lock-up stands ${job.say(rise, 'rise')} over flowing.`,
      'About 5 is usual: seat or pilot.',
    );
}

const AGAIN = 'Read it again, or end the job another way.';

export function unproved(job: JobView, { lacks }: Gathering): void {
  for (const id of ['flowing', 'lockUp'])
    if (job.due(id) || !job.proved(id))
      lacks(`${id}-due`, id, `${job.setting(id).title} is not proved since the pilot was moved.`, AGAIN);
  for (const id of ['flowing', 'rise', 'lockUp'])
    if (job.verdict(id, 'left')?.word === 'out')
      lacks(`${id}-out`, id, `${job.setting(id).title} is outside its limits.`, AGAIN);
  if (now.answerAt(job, 'creep') !== 'stands')
    lacks('not-watched', 'lockUp', 'Lock-up was not seen to stand for a minute.', AGAIN);
}
