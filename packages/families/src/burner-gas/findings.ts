import type { JobView } from '@firm-needle/core/procedure';
import { fromCanonical, showWithUnit, toCanonical } from '@firm-needle/core/quantity';
import type { Gathering, Recommendation } from '../define/index.js';
import { advisedDecision } from './moves.js';
import { byFigure, read, switchesOf, toDial, type SwitchSetting } from './parts.js';
import { clocked } from './reckoned.js';
import * as now from './state.js';

/** Three figures: a hand that starts and stops tells no more. */
const btu = (w: number): string =>
  showWithUnit(toCanonical(Number(fromCanonical(w, 'Btu/h').toPrecision(3)), 'Btu/h'), {
    unit: 'Btu/h',
    step: 1,
  });
type Add = Gathering['add'];

/** What sniffing, pressures, switches and flame add up to. */
export function findings(job: JobView, { add }: Gathering): void {
  tightness(job, add);
  pressures(job, add);
  for (const x of switchesOf(job.plan)) switched(job, x, add);
  const stuck = now.stuckSwitch(job);
  if (stuck)
    add(
      'replace',
      stuck.code,
      stuck.code === 'welded'
        ? `${job.setting(stuck.setting).title}: it never opens. Left shut and locked off.`
        : 'The air switch stays made without air. Left shut and locked off.',
      'Replace it; no switch is by-passed, not for a minute.',
      stuck.setting,
    );
  if (now.water(job))
    add(
      'say',
      'water',
      'Water stood in the tubing; it was blown dry, and read again.',
      'It reads as a column of its own.',
    );
  const away = now.stuck(job);
  if (away) add('replace', away.code, away.because, 'Stop here; replace it, or change the plan.');
  if (now.bookDiffers(job))
    add(
      'warn',
      'book-differs',
      'The book says otherwise than the plan: nothing was turned for it.',
      'Plan what the book says, with its page.',
    );
  const [before, after] = [clocked(job, 'clock-before'), clocked(job, 'clock-after')];
  const { input } = read(job.plan).plate;
  const burnt = after ?? before;
  if (burnt !== undefined)
    add(
      'say',
      'input',
      `By the meter it burns ${btu(burnt)}${after !== undefined && before !== undefined ? `, ${btu(before)} before` : ''}${input === undefined ? '' : `; its plate says ${btu(input)}`}.`,
      'One turn of the dial, by what the gas holds; a meter at 2 psi passes an eighth more than it shows.',
    );
  for (const x of switchesOf(job.plan)) {
    const [tripped, wanted, stood] = [now.trippedAt(job, x), job.plan.values[x], now.stoodAt(job, x)];
    if (tripped === undefined || wanted === undefined || stood === undefined) continue;
    const off = now.dialError(job, x) ?? 0;
    const { lower = -Infinity, upper = Infinity } = job.limits(x, 'left');
    add(
      'warn',
      `${x === 'lowGas' ? 'low' : 'high'}-carried`,
      `${job.setting(x).title} was proved at ${job.say(stood, x)} by its dial, which shows ${job.sayWidth(Math.abs(off), x)} too ${off < 0 ? 'little' : 'much'}: found tripping at ${job.say(tripped, x)}, set to ${job.say(wanted, x)} ± ${job.sayWidth(now.carriedWithin(job, x), x)} by that.`,
      now.carriedWithin(job, x) > (upper - lower) / 2
        ? 'That is wider than its limits: proved only there. Trip it by its pressure as soon as a tap lets it.'
        : 'Proved only there: trip it by its pressure where its tap lets it.',
      x,
    );
  }
  if (byFigure(job.plan) && now.turned(job))
    add(
      'warn',
      'not-proved',
      'Switches were set by their dials only: not proved.',
      'Trip each by its pressure.',
    );
}

function tightness(job: JobView, add: Add): void {
  if (now.leak(job))
    return add(
      'warn',
      'leak',
      'Gas in the room: its cock was shut, and it was called.',
      'Nothing is done there until it is tight.',
    );
  if (now.bubbled(job))
    add(
      'say',
      'joint',
      'A joint of the tubing or a port bubbled; it was made again, and is tight.',
      'Soaped once more.',
    );
  if (now.supplyCreeps(job))
    add(
      'replace',
      'supply-creeps',
      'The supply rises on with nothing burning: its regulator does not shut. Gas left shut.',
      'Replace the supply regulator, or its seat.',
      'static',
    );
  if (now.seat(job))
    add(
      'replace',
      'seat',
      'It rises on after the regulator with the burner off: its seat does not shut. Gas left shut.',
      'Replace the valve, or its regulator.',
      'lockUp',
    );
  if (now.ventStays(job))
    add('replace', 'vent-stays', 'It swings still, its vent cleared.', 'Replace the regulator.', 'manifold');
  else if (now.vent(job))
    add(
      'warn',
      'vent',
      'It was slow and swung; its vent was cleared, and it stands.',
      'A regulator breathes through its vent.',
      'manifold',
    );
  if (now.co(job))
    add(
      'warn',
      'co',
      'Flame, carbon monoxide or draught are not as the book wants: shut down.',
      'Find out why before it burns again.',
    );
  if (now.cannotFire(job))
    add(
      'warn',
      'no-light',
      'It does not light: left shut.',
      'Its ignition, its fan or its gas: no more tries than the book allows.',
    );
  else if (now.noLight(job))
    add(
      'warn',
      'lights-again',
      'It did not light; a switch stood in its way, and it lights now.',
      'See which dial was moved.',
    );
}

function pressures(job: JobView, add: Add): void {
  const { plate } = read(job.plan);
  const say = (setting: string, when: 'found' | 'left'): string => {
    const f = job.figure(setting, when);
    return f ? job.say(f.value, setting) : 'nothing';
  };
  const was = now.wasOver(job);
  if (was !== undefined && plate.ceiling !== undefined)
    add(
      'warn',
      'over-ceiling',
      now.over(job)
        ? `The supply at ${job.say(now.last(job, 'static') ?? was, 'static')} is over the valve’s ${job.say(plate.ceiling, 'static')}: not fired.`
        : `The supply was at ${job.say(was, 'static')}, over the valve’s ${job.say(plate.ceiling, 'static')}; it is at ${job.say(now.last(job, 'static') ?? 0, 'static')} now.`,
      'A valve that saw too much is looked at by the book.',
      'static',
    );
  const droop = now.droops(job);
  if (droop !== undefined)
    add(
      'warn',
      'droop',
      `The supply sags ${job.sayWidth(droop, 'static')} at full fire: pipe or regulator are small.`,
      'Not a screw: raised for it, it stands too high at rest.',
      'supplyFlow',
    );
  const found = job.figure('manifold', 'found');
  const { lower = -Infinity, upper = Infinity } = job.limits('manifold', 'found');
  if (found && (found.value < lower || found.value > upper)) {
    const book = `${job.say(lower, 'manifold')} to ${job.say(upper, 'manifold')}`;
    add(
      'warn',
      'manifold-out',
      job.landed('manifold') && now.turned(job)
        ? `The burner was at ${say('manifold', 'found')}, the book says ${book}; it is at ${say('manifold', 'left')} now.`
        : `The burner is at ${say('manifold', 'found')}; the book says ${book}.`,
      'Carbon monoxide is measured after every change.',
      'manifold',
    );
  }
  const lock = job.figure('lockUp', 'left') ?? job.figure('lockUp', 'found');
  if (lock && plate.lockMost !== undefined && lock.value - lock.budget.U > plate.lockMost)
    add(
      'warn',
      'locks-high',
      `It locks up at ${job.say(lock.value, 'lockUp')}, over the ${job.say(plate.lockMost, 'lockUp')} of the book.`,
      'Its seat, or a spring of another range.',
      'lockUp',
    );
}

function switched(job: JobView, x: SwitchSetting, add: Add): void {
  const { title } = job.setting(x);
  const found = job.figure(x, 'found');
  const left = job.figure(x, 'left');
  const { lower = -Infinity, upper = Infinity } = job.limits(x, 'found');
  const moved = job.state.turns.some((t) => t.body.adjuster === now.DIALS[x]);
  const set = moved && job.landed(x) && left;
  const air = x === 'airTrip' || x === 'mainTrip';
  if (found && (found.value < lower || found.value > upper))
    add(
      'warn',
      air && found.value < lower ? 'air-low' : 'trip-off',
      air && found.value < lower
        ? set
          ? `${title} at ${job.say(left.value, x)} now; it proved air at ${job.say(found.value, x)}, which is too little.`
          : `${title} at ${job.say(found.value, x)}: it proves air where there is too little.`
        : set
          ? `${title} at ${job.say(left.value, x)} now; it tripped at ${job.say(found.value, x)}.`
          : `${title} at ${job.say(found.value, x)}; the book says ${job.say(job.plan.values[x] ?? 0, x)}.`,
      'Proved by its trip, and not by its dial.',
      x,
    );
  if (!found && now.notMade(job, x))
    add(
      'warn',
      'not-made',
      `${title}: it stood open in normal use.`,
      'Its dial, or what it watches: look at both.',
      x,
    );
  margin(job, x, add);
  const off = now.dialOff(job, x);
  if (off)
    add(
      'warn',
      'dial-off',
      `${title}: its dial stood at ${job.say(off.shown, x)}, and it tripped at ${job.say(off.trips, x)}.`,
      'Go by the tag, not by the dial.',
      x,
    );
}

function margin(job: JobView, x: SwitchSetting, add: Add): void {
  const m = now.marginOf(job, x);
  if (!m || m.has >= m.wants) return;
  const has = job.sayWidth(Math.max(0, m.has), x);
  if (x === 'lowGas')
    add(
      'warn',
      'low-near',
      `Low gas trips ${has} under normal use: it may drop out.`,
      'Its dial by the book, or the supply.',
      x,
    );
  else if (x === 'highGas')
    add(
      'warn',
      'high-thin',
      `High gas trips only ${has} over what its tap sees.`,
      'No fault; it may trip in normal use.',
      x,
    );
  else
    add(
      'warn',
      'air-thin',
      `The fan gives ${job.say(now.last(job, 'airNormal') ?? 0, 'airNormal')}, and air is proved at ${job.say(now.last(job, x) ?? 0, x)}.`,
      'Filter, fan or duct: the dial is not lowered for it.',
      x,
    );
}

/** What must be true before "set" can be signed. */
export function unproved(job: JobView, { lacks: need }: Gathering): void {
  if (now.leak(job)) need('gas-about', '', 'Gas was about.', 'Nothing is set there until it is tight.');
  if (now.co(job)) need('co-bad', '', 'It does not burn as the book wants.', 'Find out why.');
  if (now.cannotFire(job)) need('never-lit', 'supplyFlow', 'It does not light.', 'Find out why.');
  if (now.bookDiffers(job)) need('book', '', 'The book says otherwise than the plan.', 'Plan what it says.');
  if (byFigure(job.plan))
    need('by-figure', '', 'Its switches were set by their dials only.', 'Trip each by its pressure.');
  for (const x of switchesOf(job.plan))
    if (toDial(job.plan, x) && now.dialError(job, x) === undefined)
      need(
        'not-run',
        x,
        `${job.setting(x).title}: its dial was not run to what stands there.`,
        'Run it, or trip it.',
      );
  if (job.answer('relight') === undefined && !now.leftShut(job))
    need('not-relit', '', 'It was not relit and measured.', 'Relight it by the book.');
  if (now.starved(job))
    need('starved', 'manifold', 'The supply sags, and the burner is starved.', 'A larger pipe or regulator.');
  for (const x of now.judged(job))
    if (!job.landed(x) && job.verdict(x, 'left')?.word !== 'near')
      need(
        `${x}-out`,
        x,
        `${job.setting(x).title}: it does not stand inside its limits.`,
        'Adjust on, or end the job another way.',
      );
  if (!byFigure(job.plan) && !now.proved(job))
    need(
      'unproved',
      '',
      'Not proved: caps and covers on, then each pressure and each trip once more.',
      'Read what is missing.',
    );
}

export function recommend(job: JobView, usual: Recommendation): Recommendation {
  if (now.leak(job)) return { outcome: 'unfinished', because: 'Gas was about: nothing was done.' };
  if (usual.outcome === 'replace') return usual;
  if (now.co(job))
    return { outcome: 'unfinished', because: 'It does not burn as the book wants: shut down.' };
  if (now.cannotFire(job)) return { outcome: 'unfinished', because: 'It does not light: left shut.' };
  if (now.provesTooLittle(job))
    return { outcome: 'unfinished', because: 'It proves air where there is too little: left shut.' };
  if (now.standsOpen(job)) return { outcome: 'unfinished', because: 'A switch stands open: left shut.' };
  if (now.bookDiffers(job))
    return { outcome: 'unfinished', because: 'The book says otherwise than the plan.' };
  const decided = now.decision(job);
  if (decided === undefined)
    return { outcome: 'unfinished', because: 'The as-found readings are not complete.' };
  if (decided === 'replace') return { outcome: 'replace', because: advisedDecision(job).say };
  if (decided === 'leave')
    return now.over(job)
      ? { outcome: 'unfinished', because: 'The supply stands over what the valve bears.' }
      : { outcome: 'left-as-found', because: advisedDecision(job).say };
  if (byFigure(job.plan))
    return { outcome: 'left-as-found', because: 'Its switches were set by their dials only: not proved.' };
  return usual;
}
