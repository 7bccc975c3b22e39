import type { Gathering } from '../define/index.js';
import type { GaugeEvidence } from '@firm-needle/core/family';
import { NEIGHBOURHOOD, spanOf } from '@firm-needle/core/gauge';
import type { JobView, Outcome } from '@firm-needle/core/procedure';
import {
  agreeingSpan,
  AIR_DIFFERS,
  airDiffers,
  expectedSpan,
  pointErrors,
  restOf,
  setAtSpan,
} from './judge.js';
import { fluidOf, isCompared, POINTS } from './points.js';
import * as now from './state.js';

/** The highest part of the scale below which no point is out, if that is worth having. */
function goodUpTo(job: JobView): number | undefined {
  const bad = POINTS.filter((p) => now.pointOut(job, p.id)).map((p) => p.part);
  if (bad.length === 0) return undefined;
  const below = POINTS.map((p) => p.part).filter((part) => part < Math.min(...bad));
  const most = Math.max(0, ...below);
  return most >= 0.4 ? most : undefined;
}

/** What the check adds up to. */
export function findings(job: JobView, { add }: Gathering): void {
  const gauge = job.gauge('test');
  const zero = job.zero('test');
  if (zero && !zero.fit && !setAtSpan(job))
    add(
      'replace',
      'zero-unfit',
      `${gauge?.label ?? 'The gauge'}: ${zero.because}`,
      'A bent pointer or a worn movement: take it out of use and have it repaired.',
    );
  if (job.answer('tap') === 'moves')
    add(
      'warn',
      'sticks',
      'The needle jumps when the case is tapped: it sticks.',
      'Tap before every reading; have the movement cleaned.',
    );
  if (job.answer('suits') === 'no')
    add(
      'warn',
      'not-for-it',
      'This set is not made for the refrigerant of the cylinder: it was not connected.',
      'Check it on a pump, or on the refrigerant that it is marked for.',
    );
  const rest = restOf(job);
  if (rest && fluidOf(job.plan)) {
    if (!rest.settled && rest.n >= 2)
      add(
        'warn',
        'not-at-rest',
        'The cylinder’s surface was still changing: it was not at rest.',
        'The result is in doubt by more than is counted; repeat it after a night indoors.',
        'cylinder',
      );
    if (airDiffers(rest))
      add(
        'warn',
        'air-differs',
        `The air differs by ${job.sayWidth(rest.gap, 'air')} from the cylinder (${job.sayWidth(AIR_DIFFERS, 'air')} is the most).`,
        'The cylinder’s temperature is used, and doubted by half the gap more.',
        'cylinder',
      );
  }
  const spans = job.readings('span').filter((r) => r.kept.body.at.phase === 'found');
  const run = agreeingSpan(job, 'found');
  const first = spans[0];
  const settledAt = run[0];
  const step = gauge ? spanOf(gauge).readableStep : 0;
  if (first && settledAt && first.value - settledAt.value > step)
    add(
      'say',
      'air-in-hose',
      `The first reading was ${job.sayWidth(first.value - settledAt.value, 'span')} too high: there was air in the hose.`,
      'It was bled until two readings agreed.',
      'span',
    );
  spanFindings(job, add);
  const bad = POINTS.filter((p) => now.pointOut(job, p.id));
  const upTo = goodUpTo(job);
  if (bad.length > 0)
    add(
      upTo === undefined ? 'replace' : 'warn',
      'points-out',
      `Outside its class at ${bad.map((p) => `${p.part * 100} % ${p.way === 'up' ? 'rising' : 'falling'}`).join(', ')}.`,
      upTo === undefined
        ? 'Take it out of use; a zero screw cannot mend its span.'
        : `Use it no higher than ${job.say(valueAt(job, upTo), 'up1')}, or have it repaired.`,
    );
  if (job.verdict('hysteresis', 'found')?.word === 'out')
    add(
      'warn',
      'hysteresis-wide',
      `It reads ${job.sayWidth(job.figure('hysteresis', 'found')?.value ?? 0, 'hysteresis')} apart rising and falling.`,
      'A strained tube or a sticking movement: have it repaired.',
      'hysteresis',
    );
}

const valueAt = (job: JobView, part: number): number =>
  job.plan.values[POINTS.find((p) => p.part === part)?.id ?? ''] ?? 0;

function spanFindings(job: JobView, add: Gathering['add']): void {
  const verdict = job.verdict('error', 'found');
  const figure = job.figure('error', 'found');
  const expected = expectedSpan(job);
  if (!verdict || !figure || !expected) return;
  const by = `${job.sayWidth(Math.abs(figure.value), 'error')} ${figure.value > 0 ? 'too high' : 'too low'}`;
  if (verdict.word === 'out')
    add(
      'replace',
      'span-out',
      `Zero is right and the span is wrong: it reads ${by} at ${job.say(expected.value, 'span')}.`,
      'A zero screw cannot mend that: mark it for repair, or limit it to this neighbourhood.',
      'error',
    );
  else if (verdict.word === 'near')
    add(
      'say',
      'span-near',
      now.spanDoubtful(job)
        ? `It reads ${by}, more than its class permits, within the ${job.sayWidth(figure.budget.U, 'error')} that this check can tell.`
        : `It agrees within ${job.sayWidth(figure.budget.U, 'error')}; this check cannot tell better.`,
      'A better thermometer or a better gauge tells more.',
      'error',
    );
  const again = (job.state.zeros.get('test') ?? []).at(-1);
  if (setAtSpan(job))
    add(
      'warn',
      'zero-spoiled',
      again && now.everZeroed(job)
        ? `The needle was set at the span pressure; its zero now stands at ${job.say(again.body.before.value, 'error')}.`
        : 'The needle was set at the span pressure; its zero is spoiled by as much.',
      `Restricted to ${neighbourhood(job, expected.value)}, until it is repaired.`,
      'error',
    );
}

function neighbourhood(job: JobView, at: number): string {
  const gauge = job.gauge('test');
  const half = gauge ? NEIGHBOURHOOD * spanOf(gauge).span : 0;
  return `${job.say(at - half, 'span')} to ${job.say(at + half, 'span')}`;
}

/** What is missing before it can be signed as fit. */
export function unproved(job: JobView, { add }: Gathering): void {
  const lacks = (code: string, message: string, remedy: string): void => add('refuse', code, message, remedy);
  const outcome = recommend(job).outcome;
  if (!now.everZeroed(job)) lacks('zero-missing', 'Its zero was not read.', 'Read it vented.');
  if (outcome === 'replace' || outcome === 'restricted')
    lacks('not-fit', recommend(job).because, 'Sign it as what it is.');
  if (fluidOf(job.plan) && !job.figure('error', 'found'))
    lacks('span-missing', 'Its span was not checked.', 'Read it at the cylinder, or sign it as unfinished.');
  const lacking = isCompared(job.plan) ? POINTS.filter((p) => !job.figure(p.id, 'found')) : [];
  if (lacking.length > 0)
    lacks(
      'points-missing',
      `${lacking.length} of ${POINTS.length} points were not read.`,
      'Read them, or sign it as unfinished.',
    );
}

/** How the check should end, and why. */
export function recommend(job: JobView): { readonly outcome: Outcome; readonly because: string } {
  const ends = (outcome: Outcome, because: string): { outcome: Outcome; because: string } => ({
    outcome,
    because,
  });
  const zero = job.zero('test');
  if (!zero) return ends('unfinished', 'Its zero was not read.');
  const better = isCompared(job.plan) ? job.zero('reference') : undefined;
  if (better && !better.fit) return ends('unfinished', `The better gauge proves nothing: ${better.because}`);
  if (setAtSpan(job))
    return ends('restricted', 'Its needle was set at the span pressure: good near that pressure only.');
  if (!zero.fit) return ends('replace', zero.because);
  if (now.spanOut(job))
    return ends('replace', 'Its zero is right and its span is wrong: the screw cannot mend that.');
  if (now.spanDoubtful(job))
    return ends(
      'restricted',
      'Its span looks wrong by more than its class, but this check cannot tell: compare it with a better gauge before it is trusted.',
    );
  if (POINTS.some((p) => now.pointOut(job, p.id))) {
    const upTo = goodUpTo(job);
    return upTo === undefined
      ? ends('replace', 'It is outside its class.')
      : ends('restricted', `It is within its class up to ${job.say(valueAt(job, upTo), 'up1')} only.`);
  }
  if (fluidOf(job.plan) && !job.figure('error', 'found'))
    return ends('unfinished', 'Its span was not checked.');
  if (isCompared(job.plan) && pointErrors(job).length < POINTS.length)
    return ends('unfinished', 'Not every point was read.');
  const said = job.verdict('error', 'found');
  const how =
    said === undefined
      ? isCompared(job.plan)
        ? ' Every point is within its class, or as near as this can tell.'
        : ' Its span was not checked.'
      : said.word === 'in'
        ? ' Its span is within its class.'
        : ` Its span agrees within ${job.sayWidth(job.figure('error', 'found')?.budget.U ?? 0, 'error')}.`;
  return now.zeroWasSet(job)
    ? ends('set', `Its zero was set.${how}`)
    : ends('left-as-found', `Its zero stands within its limit.${how}`);
}

/** What it showed of the gauge under test: its errors, and which way its screw raises the needle. */
export function evidence(job: JobView): readonly GaugeEvidence[] {
  const when = setAtSpan(job) ? 'left' : 'found';
  const error = job.figure('error', when);
  const expected = expectedSpan(job);
  const errors =
    error && expected
      ? [{ at: expected.value, error: error.value, U: error.budget.U, way: 'steady' as const }]
      : pointErrors(job);
  const raises = job.answer('way');
  return [
    {
      slot: 'test',
      errors,
      ...(raises === 'clockwise' || raises === 'counter-clockwise' ? { raises } : {}),
    },
  ];
}
