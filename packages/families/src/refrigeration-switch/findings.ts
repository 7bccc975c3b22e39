import type { JobView } from '@firm-needle/core/procedure';
import { ambientOf } from '@firm-needle/core/family';
import type { Gathering, Recommendation } from '../define/index.js';
import { advisedDecision, freesAt } from './moves.js';
import { hasHigh, hasLow, lowByKnob, read } from './parts.js';
import { OVER_FAN, OVER_NORMAL, SHORT_CYCLE } from './bounds.js';
import { floorOf, saturated } from './plan.js';
import { hpDiffOf } from './ladder.js';
import { stopIs } from '../shared/seen.js';
import * as now from './state.js';

type Say = (setting: string, when: 'found' | 'left') => string | undefined;
const sayer =
  (job: JobView): Say =>
  (setting, when) => {
    const f = job.figure(setting, when);
    return f && job.say(f.value, setting);
  };

/** What plates, readings and looks add up to. */
export function findings(job: JobView, { add }: Gathering): void {
  const seen = now.other(job);
  if (seen)
    add(
      'warn',
      seen,
      seen === 'other-type'
        ? 'It is another kind of switch than planned.'
        : 'Its label names another refrigerant.',
      seen === 'other-type' ? 'Plan it as it is.' : 'Find out what is in it before anything is set.',
    );
  if (now.unlocked(job))
    add(
      'warn',
      'unlocked',
      job.fact('plates') === 'on'
        ? 'Its locking plates were missing; they are fitted now.'
        : 'Its locking plates are missing.',
      'Without them a spindle moves by itself.',
    );
  if (hasLow(job.plan)) lowSide(job, add, sayer(job));
  if (hasHigh(job.plan)) highSide(job, add, sayer(job));
  if (now.scatters(job))
    add('replace', 'scatter', 'It never acts at the same pressure twice.', 'Replace it.');
  if (now.byPassed(job))
    add(
      'warn',
      'by-passed',
      'It runs with the contact open: wired past the switch.',
      'That is its wiring: left locked off until it is mended.',
    );
  if (now.leaked(job))
    add(
      'warn',
      'leak',
      now.leaking(job) ? 'A port leaks.' : 'A port leaked; it is tight now.',
      now.leaking(job) ? 'It is mended before the job is called set.' : 'Mended in this job.',
    );
  if (now.unlike(job)) {
    const { plate } = read(job.plan);
    const planned = [plate.suction, plate.discharge].flatMap((p, i) =>
      p === undefined ? [] : [job.say(p, i === 0 ? 'suction' : 'discharge')],
    );
    add(
      'say',
      'unlike-before',
      `It runs at other pressures than it should${planned.length > 0 ? ` (planned ${planned.join(' and ')})` : ''}.`,
      'Not this switch: charge, air in it, fan, coil.',
    );
  }
  const stuck = now.stuck(job);
  if (stuck) add(stopIs(stuck.code), stuck.code, stuck.because, 'Stop here; replace it or change the plan.');
}

function lowSide(job: JobView, add: Gathering['add'], say: Say): void {
  const floor = job.say(floorOf(job.plan), 'lpStop');
  if (now.ranOn(job))
    add(
      now.decision(job) === 'adjust' && now.blind(job) ? 'warn' : 'replace',
      'no-lp-stop',
      `It ran on at ${floor}: it does not stop.`,
      'Replace it where its differential does not bring it back; locked off until then.',
      'lpStop',
    );
  else if (now.firstRanOn(job))
    add(
      'warn',
      'no-lp-stop',
      `It ran on at ${floor} as found; it stops at ${say('lpStop', 'left') ?? 'a pressure again'} now.`,
      'Its differential was wider than its start allows.',
      'lpStop',
    );
  const found = job.figure('lpStop', 'found');
  if (found && found.value < floorOf(job.plan))
    add(
      'warn',
      'vacuum-stop',
      `${job.state.turns.length > 0 && job.landed('lpStop') ? 'It stopped' : 'It stops'} at ${say('lpStop', 'found')}, under the floor of ${floor}${
        job.state.turns.length > 0 && job.landed('lpStop') ? `; it stops at ${say('lpStop', 'left')} now` : ''
      }.`,
      'Below its floor a leak draws in air, or water freezes.',
      'lpStop',
    );
  const first = now.firstNotMade(job)?.body.value?.value;
  const still = stillOf(job);
  if (now.notMade(job) || first !== undefined)
    add(
      now.notMade(job) && !now.blind(job) ? 'replace' : 'warn',
      'no-lp-start',
      `It was not made at ${job.say(first ?? still ?? 0, 'lpStart')}${
        now.notMade(job) ? '' : `; it makes at ${say('lpStart', 'left') ?? 'a pressure again'} now`
      }.`,
      still === undefined
        ? 'Nothing cools while it does not start.'
        : `Standing still it comes to ${job.say(still, 'lpStart')} and no higher.`,
      'lpStart',
    );
  if (now.knobRefuses(job))
    add(
      'replace',
      'knob-refuses',
      'Its low knob does not close it, though the pressure is up.',
      'Replace it.',
      'lpStop',
    );
  const [start, stop] = ['lpStart', 'lpStop'].map((x) => job.figure(x, 'found')?.value);
  if (start !== undefined && stop !== undefined && start - stop < SHORT_CYCLE) {
    const e = [job.figure('lpStart', 'left'), job.figure('lpStop', 'left')];
    const left = e[0] && e[1] && now.turned(job) ? job.say(e[0].value - e[1].value, 'lpDiff') : undefined;
    add(
      'warn',
      'short-cycle',
      `Its differential ${left ? 'was' : 'is'} ${job.say(start - stop, 'lpDiff')}${left ? `; it is ${left} now` : ''}: it starts too often.`,
      'Widen it, or say why it must be so narrow.',
      'lpDiff',
    );
  }
  if (now.climbed(job))
    add(
      'warn',
      'no-receiver',
      'Its discharge climbed as the liquid was shut: nothing holds that liquid. Its suction valve starved it instead.',
      'Plan it so, and say how it is charged.',
    );
  if (now.pumpsBack(job))
    add(
      'say',
      'pumps-back',
      'The pressure comes back by itself with the valve shut: a valve leaks.',
      'Not this switch: the liquid valve, or the compressor’s own.',
    );
  if (now.cleared(job) > 0)
    add(
      'warn',
      'tube-blocked',
      'Its tube was shut: it felt the pressure late.',
      'Cleared or changed in this job, and its points read again.',
    );
}

/** What stands still in its room comes to so much, Pa. */
function stillOf(job: JobView): number | undefined {
  const ambient = ambientOf(job.started.site);
  return ambient.ok ? saturated(job.plan, read(job.plan).plate.room, 'dew', ambient.value) : undefined;
}

function highSide(job: JobView, add: Gathering['add'], say: Say): void {
  const { plate } = read(job.plan);
  const found = job.figure('hpStop', 'found');
  const { upper = Infinity } = job.limits('hpStop', 'found');
  const moved = now.turnedSide(job, 'high') && job.landed('hpStop');
  if (found && found.value - found.budget.U > upper)
    add(
      'warn',
      'hp-high',
      moved
        ? `Its high side stopped at ${say('hpStop', 'found')}; it stops at ${say('hpStop', 'left')} now.`
        : `Its high side stops at ${say('hpStop', 'found')}, over ${job.say(upper, 'hpStop')}.`,
      'It protects what it stands before: never set over what that allows.',
      'hpStop',
    );
  const normal = plate.discharge ?? job.readings('discharge').at(-1)?.value;
  if (
    found &&
    ((plate.fanOn !== undefined && found.value < plate.fanOn + OVER_FAN) ||
      (normal !== undefined && found.value < normal + OVER_NORMAL))
  )
    add(
      'warn',
      'hp-nuisance',
      moved
        ? `Its high side stopped at ${say('hpStop', 'found')}, before the fans could help; it stops at ${say('hpStop', 'left')} now.`
        : `Its high side stops at ${say('hpStop', 'found')}, before the fans can help.`,
      'It trips for nothing on a warm day.',
      'hpStop',
    );
  const not = now.notStopped(job);
  if (not)
    add(
      'replace',
      'no-hp-stop',
      `Its high side did not stop it${not.body.value ? ` at ${job.say(not.body.value.value, 'hpStop')}` : ''}; it was stopped by hand.`,
      'Replace it; locked off until then.',
      'hpStop',
    );
  if (now.refuses(job))
    add(
      'replace',
      'no-reset',
      `It does not close again, though the pressure is under ${freesAt(job)}.`,
      `Its fixed differential is ${job.say(hpDiffOf(job.plan), 'hpStop')}: above that a knob is refused, and that is no fault.`,
      'hpReset',
    );
  if (now.resetItself(job))
    add(
      'replace',
      'self-reset',
      'It starts by itself where a knob is planned: its latch is worn.',
      'Replace it; locked off until then.',
      'hpReset',
    );
  if (now.levelled(job))
    add(
      'warn',
      'hp-not-reached',
      'The system does not come to its high stop: that side is not proved.',
      'Prove it with nitrogen on the isolated switch.',
      'hpStop',
    );
}

/** What must be true before "set" can be signed. */
export function unproved(job: JobView, { lacks: need }: Gathering): void {
  for (const side of now.sides(job))
    for (const x of now.judgedOf(job, side)) {
      const { title } = job.setting(x);
      if (!job.landed(x) && job.verdict(x, 'left')?.word !== 'near')
        need(
          `${x}-out`,
          x,
          `${title}: it does not stand inside its limits.`,
          'Adjust on, or end the job another way.',
        );
      else if (now.toProve(job, side))
        need(
          `${x}-unproved`,
          x,
          `${title}: not proved by two readings that agree, one of them since the plates went on.`,
          'Read it once more.',
        );
    }
  if (lowByKnob(job.plan) && now.knobRefuses(job))
    need('knob', 'lpStop', 'Its low knob does not close it.', 'Replace it.');
  if (now.leaking(job)) need('leaking', '', 'A port leaks.', 'Mend it, and leak-check it once more.');
  if (now.byPassed(job))
    need('wired-past', '', 'It runs with the contact open.', 'Its wiring is mended first.');
  if (now.other(job)) need('not-as-planned', '', 'It is not what was planned.', 'Plan it as it is.');
}

/** One that is wired past, or leaks, or is not what was planned, is not left as if all were well. */
export function recommend(job: JobView, usual: Recommendation): Recommendation {
  if (now.other(job))
    return { outcome: 'unfinished', because: 'It is not what was planned: it is planned as it is first.' };
  if (now.byPassed(job))
    return { outcome: 'unfinished', because: 'It runs with the contact open: its wiring is mended first.' };
  if (usual.outcome === 'replace') return usual;
  if (now.leaking(job)) return { outcome: 'unfinished', because: 'A port leaks: it is mended first.' };
  const decided = now.decision(job);
  if (decided === undefined)
    return { outcome: 'unfinished', because: 'The as-found readings are not complete.' };
  if (decided === 'replace') return { outcome: 'replace', because: advisedDecision(job).say };
  if (now.levelled(job) || (now.raisedEnough(job) && decided === 'adjust' && usual.outcome !== 'set'))
    return {
      outcome: 'unfinished',
      because: 'Its high side is proved with nitrogen: the system is not raised to it again.',
    };
  if (decided === 'adjust') return usual;
  return {
    outcome: 'left-as-found',
    because: advisedDecision(job).say,
  };
}
