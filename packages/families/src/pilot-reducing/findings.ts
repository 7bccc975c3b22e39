import { gathering } from '../shared/gather.js';
import { zeroFindings, zeroRefusals } from '../shared/zeros.js';
import type { Finding, JobView, Outcome } from '@firm-needle/core/procedure';
import { creptAway } from './procedure.js';
import { psi } from './settings.js';
import * as now from './state.js';

const MENDED: Readonly<Record<string, string>> = {
  air: 'There was air in the cover.',
  flow: 'Too little was drawn.',
  cock: 'A cock of the pilot circuit was shut.',
  strainer: 'The pilot’s strainer was blocked.',
};
/** An outlet this near to the inlet is not reduced at all. */
const UNREDUCED = psi(6);

export function findings(job: JobView): readonly Finding[] {
  const { out, add } = gathering();
  for (const cause of new Set(now.mended(job)))
    add('say', `was-${cause}`, MENDED[cause] ?? cause, 'Mended in this job.');
  const inlet = job.readings('inlet').at(-1)?.value;
  const flowing = job.readings('flowing').at(-1)?.value;
  const target = job.plan.values['flowing'];
  if (inlet !== undefined && target !== undefined && inlet - target < psi(10))
    add(
      'warn',
      'inlet-low',
      `The inlet has only ${job.say(inlet, 'inlet')}.`,
      'Too little for this outlet: look upstream before the valve is blamed.',
    );
  if (now.answerAt(job, 'why-still') === 'none')
    add(
      'replace',
      inlet !== undefined && flowing !== undefined && inlet - flowing < UNREDUCED
        ? 'diaphragm'
        : 'does-not-follow',
      inlet !== undefined && flowing !== undefined && inlet - flowing < UNREDUCED
        ? 'The outlet stands at the inlet, wherever the pilot is set: the diaphragm is torn, or the cover has no pressure.'
        : 'The outlet does not follow the pilot.',
      'Isolate, open and repair; nothing of the screw will mend it.',
    );
  if (now.answerAt(job, 'why-hunts') === 'none')
    add(
      'replace',
      'hunts',
      'It swings and no cause was found.',
      'Not to be set while it swings: pilot, restriction, tubing.',
    );
  if (now.creeps(job) || creptAway(job))
    add(
      'replace',
      'seat-leaks',
      'With nothing drawn the outlet rises on.',
      'Debris in the seat or a worn seat: clean it, then set.',
    );
  const rise = job.figure('rise', 'left')?.value;
  if (rise !== undefined && rise > psi(10) && !now.creeps(job))
    add(
      'warn',
      'rise-large',
      `Lock-up stands ${job.say(rise, 'rise')} over flowing.`,
      'About 5 is usual: seat or pilot.',
    );
  out.push(...zeroFindings(job, ['outlet', 'inlet']));
  return out;
}

export function unproved(job: JobView): readonly Finding[] {
  const out: Finding[] = [];
  const lacks = (code: string, message: string, about: string): void => {
    out.push({
      severity: 'refuse',
      code,
      message,
      about,
      remedy: 'Read it again, or end the job another way.',
    });
  };
  for (const id of ['flowing', 'lockUp'])
    if (job.due(id) || !job.proved(id))
      lacks(`${id}-due`, `${job.setting(id).title} is not proved since the pilot was moved.`, id);
  for (const id of ['flowing', 'rise', 'lockUp'])
    if (job.verdict(id, 'left')?.word === 'out')
      lacks(`${id}-out`, `${job.setting(id).title} is outside its limits.`, id);
  if (now.answerAt(job, 'creep') !== 'stands')
    lacks('not-watched', 'Lock-up was not seen to stand for a minute.', 'lockUp');
  out.push(...zeroRefusals(job, ['outlet', 'inlet']));
  return out;
}

export function recommend(job: JobView): { readonly outcome: Outcome; readonly because: string } {
  const replace = findings(job).find((f) => f.severity === 'replace');
  if (replace) return { outcome: 'replace', because: replace.message };
  const lacking = unproved(job)[0];
  if (lacking) return { outcome: 'unfinished', because: lacking.message };
  return job.state.turns.some((t) => t.body.adjuster === 'pilot')
    ? { outcome: 'set', because: 'Flowing comes back, and lock-up stands.' }
    : { outcome: 'left-as-found', because: 'Flowing and lock-up are within limits as found.' };
}
