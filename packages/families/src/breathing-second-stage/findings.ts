import type { JobView } from '@firm-needle/core/procedure';
import { showWithUnit } from '@firm-needle/core/quantity';
import type { Gathering } from '../define/index.js';
import { stopIs } from '../shared/seen.js';
import * as now from './state.js';

const REBUILD = 'Out of use: a rebuild by the maker’s manual and parts, a job of its own.';
const MENDED = new Map([
  ['exhaust', 'Its exhaust valve'],
  ['diaphragm', 'Its diaphragm'],
  ['ring', 'Its cover ring'],
]);

export function findings(job: JobView, { add }: Gathering): void {
  const look = now.answerAt(job, 'look');
  if (look === 'cracked') add('replace', 'cracked', 'Cracked.', REBUILD);
  if (look === 'sand') add('say', 'washed', 'Sand or salt: it was washed.', 'Told to whoever wears it.');
  if (look === 'mouthpiece') add('say', 'mouthpiece', 'Its mouthpiece was changed.', 'Disinfected.');
  if (now.caseLeaks(job))
    add('replace', 'case-leaks', 'Its dry case does not hold: water would come in.', REBUILD);
  else {
    const part = MENDED.get(now.caseMended(job) ?? '');
    if (part)
      add(
        'say',
        'case-mended',
        `${part} let air in; it was seen to, and the case holds.`,
        'No effort was read through it.',
      );
  }
  const first = now.firstUnproved(job);
  if (first)
    add(
      'warn',
      'first-unproved',
      `Its first stage comes first: ${first}`,
      'That one is worked on, then this one read on it.',
      'ip',
    );
  if (now.firstOut(job)) {
    const ip = job.readings('ip').at(-1)?.value;
    add(
      'warn',
      'first-out',
      ip === undefined
        ? 'Its line climbs: its first stage comes first.'
        : `Its line stands at ${job.say(ip, 'ip')}, or climbs: its first stage comes first.`,
      'Nothing was turned here: the first stage is set, or rebuilt, then this one read.',
      'ip',
    );
  }
  if (now.seatCut(job))
    add('replace', 'seat-cut', 'It is never silent: seat or orifice edge is cut.', REBUILD);
  else if (now.hissed(job))
    add(
      'say',
      'free-flow',
      `It leaked gas at rest${now.hissing(job) ? '' : '; it is silent now'}.`,
      'Heard for a minute after.',
    );
  if (now.bent(job)) add('replace', 'lever', 'Its lever never comes to the hiss: bent.', REBUILD);
  else if (now.weak(job))
    add(
      'warn',
      'lever-low',
      'Its purge is weak: the lever stands low.',
      'Its nut, in to the hiss and half a turn back.',
    );
  else if (job.state.observations.some((o) => o.body.answer === 'weak'))
    add(
      'say',
      'lever-set',
      'Its purge was weak; the lever was set, and it is strong.',
      'The effort was read after.',
    );
  if (now.scatters(job))
    add(
      'replace',
      'scatter',
      `Its draws differ by ${showWithUnit(now.range(now.draws(job)), { unit: 'inH2O', step: 0.05 })}: the poppet sticks.`,
      REBUILD,
      'effort',
    );
  if (now.parts(job))
    add(
      'replace',
      'parts',
      'It is out of its range, and no screw of it moves that: spring, seat or orifice.',
      REBUILD,
      'effort',
    );
  const found = job.figure('effort', 'found');
  if (found && job.verdict('effort', 'found')?.word === 'out') {
    const left = now.turned(job) ? job.figure('effort', 'left') : undefined;
    const { upper = Infinity } = job.limits('effort', 'found');
    add(
      'say',
      found.value > upper ? 'stiff' : 'light',
      `It opened at ${job.say(found.value, 'effort')}${left ? `; it opens at ${job.say(left.value, 'effort')} now` : ''}.`,
      found.value > upper ? 'Stiff: it tires who breathes.' : 'Light: it flows by itself.',
      'effort',
    );
  }
  const stuck = now.stuck(job);
  if (stuck) add(stopIs(stuck.code), stuck.code, stuck.because, 'Seat, spring or orifice: by the manual.');
  if (now.gaugeHurt(job))
    add(
      'warn',
      'gauge-hurt',
      'The suction gauge’s zero moved: efforts are in doubt.',
      'Another gauge, read again.',
      'effort',
    );
}

const AGAIN = 'Read it again, or end the job another way.';

/** What is missing for calling it set, or right as found. */
export function unproved(job: JobView, { lacks }: Gathering): void {
  const first = now.firstUnproved(job);
  if (first) lacks('first-unproved', 'ip', `Its first stage comes first: ${first}`, 'End it as unfinished.');
  if (now.stopped(job))
    lacks(
      'stopped',
      'effort',
      'What was found is no matter of a turn.',
      'End it as out of use, or unfinished.',
    );
  if (now.effortDue(job))
    lacks('effort-due', 'effort', 'Its effort was not read since something was changed.', AGAIN);
  else if (!job.proved('effort')) lacks('effort-due', 'effort', 'Its effort is not proved.', AGAIN);
  else if (job.verdict('effort', 'left')?.word === 'out')
    lacks('effort-out', 'effort', 'Its effort is outside its range.', AGAIN);
  if (job.readings('ip').length === 0) lacks('ip-due', 'ip', 'Its line was not read.', AGAIN);
  if (now.hissing(job)) lacks('hisses', 'effort', 'It hisses.', 'End it another way.');
  if (now.weak(job)) lacks('weak', 'effort', 'Its purge is weak.', 'Its lever first.');
  if ((now.turned(job) || !job.finds) && !now.proved(job))
    lacks(
      'not-closed',
      'effort',
      'It was not closed up and read anew: case, line, a minute of silence, five draws.',
      'All of it once more.',
    );
  if (now.decided(job) === 'adjust' && !now.turned(job) && job.finds && !now.allInside(job))
    lacks(
      'not-turned',
      'effort',
      'To be adjusted, and nothing was turned.',
      'A permit, or another pair of hands.',
    );
  if (now.gaugeHurt(job))
    lacks(
      'gauge-hurt',
      'effort',
      'The suction gauge’s zero moved in this job.',
      'Another gauge, read again.',
    );
}
