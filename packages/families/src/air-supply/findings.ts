import type { JobView } from '@firm-needle/core/procedure';
import { showWithUnit } from '@firm-needle/core/quantity';
import type { Gathering, Recommendation } from '../define/index.js';
import { advisedDecision } from './moves.js';
import { COOLING, GUN_HALF, read, WATCH_S } from './parts.js';
import { made } from './reckoned.js';
import { stopIs } from '../shared/seen.js';
import * as now from './state.js';
import * as compressor from './compressor.js';
import * as losses from './losses.js';

const cfm = (q: number): string => showWithUnit(q, { unit: 'cfm', step: 0.1 });

/** What look, cycle, hold and knobs add up to. */
export function findings(job: JobView, { add }: Gathering): void {
  const { plate } = read(job.plan);
  const say = (setting: string, when: 'found' | 'left'): string => {
    const f = job.figure(setting, when);
    return f ? job.say(f.value, setting) : 'nothing';
  };
  const left = now.turned(job) && job.landed('gunFlow');
  tankSide(job, add);
  const followed = losses.everFollowed(job);
  const wall = job.figure('wallFlow', 'found');
  const { lower, upper } = job.limits('wallFlow', 'found');
  const over = wall !== undefined && upper !== undefined && wall.value > upper;
  if (followed || over) {
    const first = job.readings('gunFlow')[0]?.value;
    const low = followed?.body.value?.value;
    const by =
      first !== undefined && low !== undefined && low < first
        ? ` by ${job.sayWidth(first - low, 'gunFlow')}`
        : '';
    const standsNow =
      left && losses.swung(job) !== 'followed' ? `; it is at ${say('wallFlow', 'left')} now` : '';
    add(
      'warn',
      'wall-high',
      followed
        ? `Wall at ${say('wallFlow', 'found')}: the gun followed the tank${by}${standsNow}.`
        : `Wall ${standsNow ? 'was' : 'is'} at ${say('wallFlow', 'found')}, and the tank holds ${job.say(upper ?? 0, 'wallFlow')}${standsNow}.`,
      'A regulator above what the tank holds only follows it.',
      'wallFlow',
    );
  }
  if (wall && lower !== undefined && wall.value < lower)
    add(
      'warn',
      'wall-low',
      left
        ? `Wall was at ${say('wallFlow', 'found')}, too little for gun and hose; it is at ${say('wallFlow', 'left')} now.`
        : `Wall at ${say('wallFlow', 'found')}: too little for the gun’s need and its hose, ${job.say(lower, 'wallFlow')}.`,
      'The gun has what is left after its hose.',
      'wallFlow',
    );
  if (losses.windowEmpty(job))
    add(
      'warn',
      'window-empty',
      `Nothing fits: the gun needs ${job.say(losses.least(job), 'wallFlow')} at the wall, the tank holds ${job.say(losses.ceiling(job) ?? 0, 'wallFlow')} there.`,
      opens(job),
      'wallFlow',
    );
  if (now.starved(job) || now.neverStands(job))
    add(
      'warn',
      'starved',
      'The gun takes more than is made: it falls and does not stand.',
      'Not a knob: pump, receiver, hose, or a smaller gun.',
      'gunFlow',
    );
  const lost = losses.lost(job);
  if (losses.lossBig(job) && lost)
    add(
      'warn',
      'loss-big',
      `With the gun wide open ${job.sayWidth(lost.measured, 'gunFlow')} are lost on the way, where the hose takes ${job.sayWidth(lost.hose ?? 0, 'gunFlow')}.`,
      'Couplers, a kink, or a narrower hose than the plate says.',
    );
  if (compressor.creeps(job))
    add(
      'replace',
      'creeps',
      'The wall climbs with nothing drawn: its seat does not shut.',
      'Replace the regulator, or its seat.',
      'wallLock',
    );
  if (now.tooHighStanding(job))
    add(
      'warn',
      'stands-high',
      `Standing, the wall is at ${job.say(now.last(job, 'wallLock') ?? 0, 'wallLock')}: far over what flows.`,
      'A seat that begins to leak, or a regulator too small.',
      'wallLock',
    );
  if (losses.against(job))
    add(
      'say',
      'supply-effect',
      'The gun rose a little as the tank fell: regulators of one stage do.',
      'No fault.',
    );
  if (compressor.hoseBad(job))
    add(
      'warn',
      'hose-bad',
      'A hose or coupling was unsafe; it was changed before air went on.',
      'Look at the others.',
    );
  const stuck = now.stuck(job);
  if (stuck)
    add(
      stopIs(stuck.code),
      stuck.code,
      stuck.because,
      // A tank's own gauge is coarse: what it cannot tell of the switch condemns nothing.
      stuck.code === 'unsafe' &&
        now.nut(job) !== undefined &&
        ['cutIn', 'cutOut'].some((x) => job.verdict(x, 'left')?.word === 'near')
        ? 'Stop here. By this gauge it may stand right already: read it with a finer one first.'
        : 'Stop here; replace it, or change the plan.',
    );
  const fed = made(job);
  const recovery =
    job.figure('recovery', now.turned(job) ? 'left' : 'found') ?? job.figure('recovery', 'found');
  if (recovery)
    add(
      'say',
      'recovers',
      `From ${say('sustained', 'found')} with the trigger held it is full again in ${job.say(recovery.value, 'recovery')}.`,
      'So long a painter waits between long passes.',
      'recovery',
    );
  if (fed !== undefined && !now.weak(job))
    add(
      'say',
      'makes',
      `The compressor makes about ${cfm(fed)}${plate.fad === undefined ? '' : ` of the ${cfm(plate.fad)} on its plate`}.`,
      'Free air, reckoned from the pump-up of its receiver.',
    );
}

/** What would open the window: the largest of what closes it. */
function opens(job: JobView): string {
  const lost = losses.lost(job)?.measured ?? 0;
  const { plate, v } = read(job.plan);
  if (lost > (plate.need ?? 0) / 3) return `A wider hose: it takes ${job.sayWidth(lost, 'gunFlow')}.`;
  const held = now.last(job, 'sustained');
  return held !== undefined && held < (v.cutIn ?? 0) - 5e4
    ? 'A larger receiver or pump: the tank does not hold under the trigger.'
    : 'A higher cut-in, or a gun that needs less.';
}

function tankSide(job: JobView, add: Gathering['add']): void {
  const { plate } = read(job.plan);
  if (compressor.reliefBad(job))
    add(
      'warn',
      'relief-bad',
      'Its relief does not work: it was not run.',
      'Replace the relief before any air goes in.',
    );
  const even = now.evenAt(job);
  const wants = job.plan.values['gunFlow'];
  if (even !== undefined && wants !== undefined)
    add(
      'say',
      'pattern',
      `The painter’s pattern is even at ${job.say(even, 'gunFlow')}; planned are ${job.say(wants, 'gunFlow')}.`,
      Math.abs(even - wants) > GUN_HALF
        ? 'Change the plan, with its reason: the wall follows from it.'
        : undefined,
      'gunFlow',
    );
  const start = compressor.noStart(job);
  if (start)
    add(
      'replace',
      'no-start',
      `It does not start${start.body.value ? ` at ${job.say(start.body.value.value, 'cutIn')}` : ''}.`,
      'Its switch or its motor: replace what does not act.',
      'cutIn',
    );
  const stop = compressor.noStop(job);
  if (stop)
    add(
      'replace',
      'no-stop',
      `It ran past ${job.say(stop.body.value?.value ?? 0, 'cutOut')} and was switched off; left locked off.`,
      'Replace its switch.',
      'cutOut',
    );
  const out = job.figure('cutOut', 'found');
  if (now.reliefNear(job))
    add(
      'warn',
      'relief-near',
      job.figure('cutOut', 'left') && now.turned(job) && now.nut(job) === undefined
        ? `It stopped ${out ? `at ${job.say(out.value, 'cutOut')}` : 'where its relief opens'}; it stops at ${job.say(job.figure('cutOut', 'left')?.value ?? 0, 'cutOut')} now.`
        : `It stops ${out ? `at ${job.say(out.value, 'cutOut')}` : 'where its relief opens'}, and the relief opens at ${job.say(plate.relief ?? 0, 'cutOut')}.`,
      'The switch is lowered; the relief is never raised.',
      'cutOut',
    );
  const fell = now.fell(job);
  if (now.leaks(job) && fell !== undefined) {
    add(
      'warn',
      'leak',
      `At rest it falls ${job.sayWidth((fell * 60) / WATCH_S, 'gunFlow')} a minute.`,
      `Of that ${job.sayWidth(COOLING, 'gunFlow')} may still be cooling; soap the joints, the drain and the check.`,
    );
  }
  const part = now.makes(job);
  if (now.weak(job))
    add(
      'warn',
      'weak',
      part === undefined
        ? 'It runs on and the pressure stands: the pump does not make it.'
        : `It makes ${Math.round(part * 100)} % of what its plate says, ${cfm(made(job) ?? 0)}.`,
      'Not a knob: filter, belt, valves, rings.',
    );
  if (now.shortCycles(job, 'found')) {
    const after = now.turned(job) ? job.figure('starts', 'left') : undefined;
    add(
      'warn',
      'short-cycle',
      `It may start ${Math.round((job.figure('starts', 'found') ?? job.figure('starts', 'left'))?.value ?? 0)} times an hour${
        after && !now.shortCycles(job, 'left') ? `; now ${Math.round(after.value)}` : ''
      }.`,
      'A wider differential or a larger receiver spares its motor.',
      'starts',
    );
  }
}

/** What must be true before "set" can be signed. */
export function unproved(job: JobView, { lacks: need }: Gathering): void {
  if (compressor.reliefBad(job))
    need('not-run', '', 'It was not run: its relief does not work.', 'Replace the relief first.');
  if (compressor.noStop(job)) need('runs-on', 'cutOut', 'It does not stop.', 'Replace its switch.');
  if (now.setsSwitch(job) && now.nut(job) !== undefined)
    need(
      'switch-out',
      'cutOut',
      'Its switch does not stand where it should.',
      'Set it, or end the job another way.',
    );
  for (const x of ['gunFlow', ...(now.gunScrew(job) ? ['wallFlow'] : [])]) {
    const { title } = job.setting(x);
    if (!job.landed(x) && job.verdict(x, 'left')?.word !== 'near')
      need(
        `${x}-out`,
        x,
        `${title}: it does not stand inside its limits.`,
        'Adjust on, or end the job another way.',
      );
  }
  if (losses.swung(job) === 'followed')
    need('follows', 'wallFlow', 'The gun follows the tank.', 'Lower the wall under what the tank holds.');
  if (!now.proved(job))
    need(
      'unproved',
      'gunFlow',
      'Not proved: locked, then the gun twice, the wall, the swing and standing.',
      'Read them once more.',
    );
}

export function recommend(job: JobView, usual: Recommendation): Recommendation {
  if (compressor.reliefBad(job))
    return { outcome: 'unfinished', because: 'Its relief does not work: it was not run.' };
  if (usual.outcome === 'replace') return usual;
  const decided = now.decision(job);
  if (decided === undefined)
    return { outcome: 'unfinished', because: 'The as-found readings are not complete.' };
  if (decided === 'replace') return { outcome: 'replace', because: advisedDecision(job).say };
  if (decided === 'leave') return { outcome: 'left-as-found', because: advisedDecision(job).say };
  if (losses.windowEmpty(job))
    return {
      outcome: now.turned(job) || !job.finds ? 'unfinished' : 'left-as-found',
      because: 'Nothing fits between gun and tank: no knob mends that.',
    };
  return usual;
}
