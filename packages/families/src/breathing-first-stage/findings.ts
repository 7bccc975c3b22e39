import type { JobView } from '@firm-needle/core/procedure';
import type { Gathering } from '../define/index.js';
import { stopIs } from '../shared/seen.js';
import { isFresh, isIndustrial, judgedOf, parts, read, RICH } from './parts.js';
import { stopOf } from './plan.js';
import * as now from './state.js';

type Add = Gathering['add'];
const REBUILD = 'Out of use: a rebuild by the maker’s manual and parts, a job of its own.';

export function findings(job: JobView, { add }: Gathering): void {
  if (isIndustrial(job.plan)) return industrial(job, add);
  seen(job, add);
  seat(job, add);
  const effect = job.figure('effect', 'left') ?? job.figure('effect', 'found');
  if (now.effectOut(job))
    add(
      'replace',
      'effect',
      `Full and low supply stand ${job.sayWidth(Math.abs(effect?.value ?? 0), 'effect')} apart: its balance seal, or a wrong part.`,
      REBUILD,
      'effect',
    );
  if (now.sticks(job)) add('replace', 'sticks', 'It never comes to the same figure twice.', REBUILD, 'ipLow');
  moved(job, add);
}

function seen(job: JobView, add: Add): void {
  const looked = now.answerAt(job, 'look');
  if (looked === 'wet') add('replace', 'wet', 'Wet inside, or cracked.', REBUILD);
  if (looked === 'filter')
    add(
      'say',
      'filter-stained',
      'Its filter is stained: what came in with the gas is told to its owner.',
      'Changed when it is next rebuilt.',
    );
  if (now.soiled(job))
    add(
      'replace',
      'unclean',
      'Grease or oil where richer gas is used: not clean for oxygen.',
      'Nothing is opened to it before it was cleaned by the rules.',
    );
  else if ((read(job.plan).plate.oxygen ?? 0) > RICH && looked !== undefined)
    add(
      'say',
      'rich',
      'Read with clean gas on a clean bench: it stays clean for oxygen only so.',
      'Once on ordinary air it is for air only.',
    );
  if (now.answerAt(job, 'sag') === 'sags')
    add(
      'say',
      'supply-short',
      'The supply sagged while it was purged; it was opened fully, and read again.',
      'No fault of the stage.',
    );
  if (now.filter(job))
    add(
      'replace',
      'filter',
      'It dips too far though its supply holds: its filter is blocked.',
      REBUILD,
      'dip',
    );
  if (now.leaksOut(job))
    add(
      'warn',
      'leaks-out',
      'A joint bubbles though it was made again.',
      'Another hose or seal, then from the beginning.',
    );
  else if (job.state.observations.some((o) => o.body.answer === 'joint'))
    add(
      'say',
      'joint',
      'A joint leaked; it was made again, and is tight.',
      'A leak outward hides one inward: watched only after.',
    );
  if (now.soaped(job) === 'holes')
    add('replace', 'inner-leak', 'It bubbles at its ambient holes: a seal or the diaphragm inside.', REBUILD);
}

function seat(job: JobView, add: Add): void {
  if (now.ran(job))
    add(
      'replace',
      'seat-failed',
      now.turned(job)
        ? 'It ran past where it was to be stopped, after it was adjusted: shut and bled.'
        : 'It went past where it was to be stopped: the seat does not close. Shut and bled.',
      REBUILD,
      'ipFull',
    );
  if (now.hissesStill(job))
    add(
      'warn',
      'relief-early',
      'The relief opens early, and so did another.',
      'A gauge that can be trusted, and a relief of another make.',
    );
  else if (now.hissed(job))
    add(
      'say',
      'relief-early',
      'The relief opened early; another was fitted, and it was read again.',
      'It hid the rest.',
    );
  const crept = now.crept(job);
  if (now.rises(job))
    add(
      'replace',
      'seat-leaks',
      `With its supply on it rises on${crept === undefined ? '' : `, ${job.sayWidth(crept, 'creep')} while it was watched`}: the seat leaks.`,
      REBUILD,
      'creep',
    );
  else if (crept !== undefined && crept > job.agreement('stood'))
    add(
      'say',
      'bedding',
      `It crept ${job.sayWidth(crept, 'creep')}, then stood${isFresh(job.plan) ? ': a fresh seat does' : ''}.`,
      'Looked at again when it is next due.',
      'creep',
    );
}

function moved(job: JobView, add: Add): void {
  for (const x of ['ipFull', 'ipLow'] as const) {
    const found = job.figure(x, 'found');
    const left = now.turned(job) ? job.figure(x, 'left') : undefined;
    const word = job.verdict(x, 'found')?.word;
    if (!found || word !== 'out') continue;
    const { lower = -Infinity } = job.limits(x, 'found');
    add(
      'say',
      found.value < lower ? 'out-low' : 'out-high',
      `${job.setting(x).title} was ${job.say(found.value, x)}, ${found.value < lower ? 'under' : 'over'} its window${left ? `; it is ${job.say(left.value, x)} now` : ''}.`,
      found.value < lower
        ? 'A spring that tired, or a seat changed.'
        : 'A seat that bedded in stands higher.',
      x,
    );
  }
  const stuck = now.stuck(job);
  if (stuck) add(stopIs(stuck.code), stuck.code, stuck.because, 'Spring, pack or seat: by the manual.');
  const seconds = now.answerAt(job, 'seconds');
  if (seconds === 'later')
    add(
      'warn',
      'seconds-due',
      'Its second stages were not read at this pressure: out of use until they are.',
      'Each is read after its first stage.',
    );
  else if (seconds === 'here')
    add('say', 'seconds-next', 'Its pressure was moved: its second stages are read next.', 'In this visit.');
}

function industrial(job: JobView, add: Add): void {
  add('say', 'not-for-breathing', 'Not for breathing.', 'Read as it stands; nothing was opened.');
  if (now.answerAt(job, 'look') === 'wet')
    add('replace', 'unfit', 'It does not suit its gas, or is past its mark.', 'Out of use.');
  if (now.answerAt(job, 'open') === 'climbs')
    add(
      'replace',
      'seat-failed',
      'With its knob out the outlet climbs: the seat does not shut.',
      'Replace it.',
    );
  if (now.hissed(job))
    add('warn', 'relief-early', 'Its relief opens where it should not.', 'Out of use until it was changed.');
  if (now.rises(job) || now.answerAt(job, 'stands') === 'rises')
    add('replace', 'seat-leaks', 'Locked up, it rises on: the seat leaks.', 'Replace it.', 'locked');
  if (now.soaped(job) === 'holes')
    add('replace', 'inner-leak', 'It bubbles at its bonnet, or its relief.', 'Replace it.');
  if (now.answerAt(job, 'inlet') === 'falls')
    add(
      'warn',
      'inlet-falls',
      'With the cylinder shut its inlet falls.',
      'Its inlet joint, or the cylinder’s valve.',
    );
  const rise = job.verdict('rise', 'found');
  if (rise?.word === 'out')
    add('replace', 'rise', rise.because, 'Its seat, or a spring of another range.', 'rise');
}

const AGAIN = 'Read it again, or end the job another way.';

/** What is missing for calling it set, or right as found. */
export function unproved(job: JobView, { lacks }: Gathering): void {
  const { plan } = job;
  for (const x of judgedOf(plan)) {
    const { title } = job.setting(x);
    if (job.due(x)) lacks(`${x}-due`, x, `${title} was not read since it was moved.`, AGAIN);
    else if (!job.proved(x)) lacks(`${x}-due`, x, `${title} is not proved.`, AGAIN);
    else if (job.verdict(x, 'left')?.word === 'out')
      lacks(`${x}-out`, x, `${title} is outside its window.`, AGAIN);
  }
  if (now.stopped(job))
    lacks('stopped', 'stood', 'What was found is no matter of a turn.', 'End it as out of use.');
  if (isIndustrial(plan)) {
    if (now.answerAt(job, 'stands') !== 'stands')
      lacks('not-watched', 'locked', 'It was not seen to stand for five minutes.', AGAIN);
    if (now.answerAt(job, 'inlet') === 'falls')
      lacks('inlet-falls', 'locked', 'Its inlet does not hold.', 'End it another way.');
    return;
  }
  if ((now.crept(job) ?? Infinity) > (job.limits('creep', 'left').upper ?? Infinity))
    lacks('creep-out', 'creep', 'It crept more than a seat in order does, or was not watched.', AGAIN);
  if (now.soaped(job) === undefined) lacks('not-soaped', 'stood', 'It was not soaped at full supply.', AGAIN);
  if ((now.turned(job) || !job.finds) && !now.proved(job))
    lacks(
      'not-locked',
      'stood',
      'It was not locked and read anew from nothing.',
      'Cap on and tight, settled, then everything once more.',
    );
  if (now.decided(job) === 'adjust' && !now.turned(job) && job.finds)
    lacks(
      'not-turned',
      'ipFull',
      'To be adjusted, and nothing was turned.',
      'A permit, or another pair of hands.',
    );
  if (parts.last(job, 'ipFull') !== undefined && (parts.last(job, 'ipFull') ?? 0) > stopOf(plan))
    lacks('over-stop', 'ipFull', 'It stands over what the relief may open at.', 'End it as out of use.');
}
