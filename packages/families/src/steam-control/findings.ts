import type { JobView } from '@firm-needle/core/procedure';
import type { Gathering, Recommendation } from '../define/index.js';
import { OVERSIZE, PAST, psi } from './parts.js';
import { stopIs } from '../shared/seen.js';
import * as now from './state.js';
import { advisedDecision } from './moves.js';

const KINDS: Readonly<Record<now.Kind, string>> = {
  sub: 'one whose differential is subtracted',
  add: 'one whose differential is added',
  ounce: 'one marked in ounces',
  limit: 'a limit with a reset button',
};

/** What marking, siphon, pointers and readings add up to. */
export function findings(job: JobView, { add }: Gathering): void {
  const say = (setting: string, when: 'found' | 'left'): string | undefined => {
    const f = job.figure(setting, when);
    return f && job.say(f.value, setting);
  };
  const [foundOut, leftOut] = [say('cutOut', 'found'), say('cutOut', 'left')];
  const left = now.turned(job) && now.landed(job);
  if (now.misread(job))
    add(
      'warn',
      'misread',
      `Planned as ${KINDS[job.opening.variant as now.Kind]}; its scale says ${KINDS[now.kind(job)]}${foundOut ? `, and it ran to ${foundOut}` : ''}.`,
      left ? 'It is set as it is marked now.' : 'Plan it as it is marked.',
    );
  const upper = job.opening.limits['cutOut']?.upper;
  const found = job.figure('cutOut', 'found');
  const above = now.pumpedTo(job);
  if (!found && above !== undefined && upper !== undefined && above > upper)
    add(
      'warn',
      'over-cap',
      `It stood closed at ${job.say(above, 'cutOut')} still${left ? `; it trips at ${leftOut} now` : ''}.`,
      'More pressure is no more heat: it only burns more.',
      'cutOut',
    );
  if (found && upper !== undefined && found.value - found.budget.U > upper)
    add(
      'warn',
      'over-cap',
      left
        ? `It tripped at ${foundOut}; it trips at ${leftOut} now.`
        : `It trips at ${foundOut}; ${job.say(upper, 'cutOut')} is the most wanted here.`,
      'More pressure is no more heat: it only burns more.',
      'cutOut',
    );
  if (now.welded(job))
    add(
      'replace',
      'welded',
      'Its contact stays closed, whatever the pressure.',
      'Replace it; the burner stays locked off until then.',
      'cutOut',
    );
  if (now.burnt(job))
    add('replace', 'burnt', 'It is burnt or wet inside.', 'Replace it, and find where the water came from.');
  if (now.scatters(job))
    add('replace', 'scatter', 'It never acts at the same pressure twice.', 'Replace it.', 'cutOut');
  const lowest = now.atItsLowest(job);
  if (lowest)
    add(
      'replace',
      'diff-wide',
      `It cannot hold both points: at its lowest it acts at ${job.say(lowest.out, 'cutOut')} and ${job.say(lowest.in, 'cutIn')}.`,
      'Replace it by one with a narrower differential.',
      'differential',
    );
  else if (now.staysOpen(job))
    add(
      'replace',
      'no-reset',
      now.turned(job)
        ? 'Turned down, it does not close again: no heat.'
        : 'It does not close again: no heat.',
      'Replace it.',
      'cutIn',
    );
  else if (now.stayedOpen(job))
    add(
      'say',
      'no-reset',
      `It did not close again as it was found; it closes at ${say('cutIn', 'left') ?? 'a pressure again'} now.`,
      'Mended in this job.',
      'cutIn',
    );
  if (now.hasMercury(job))
    add(
      advisedDecision(job).say.startsWith('A mercury') ? 'replace' : 'say',
      'mercury',
      'It switches by a mercury bulb.',
      'Offer another one; the bulb is recovered by the rules, never binned.',
    );
  if (now.tilted(job))
    add(
      'warn',
      'tilted',
      now.levelled(job) > 0 || job.fact('control') === 'on'
        ? 'It hung off its mark; it hangs plumb now.'
        : 'It hangs off its mark.',
      'Every degree moves both points.',
    );
  const siphon = now.siphon(job);
  if (siphon === 'none')
    add(
      'warn',
      'no-siphon',
      'There is no siphon: steam has its way to the element.',
      'Fit one, filled with water, before it runs again.',
    );
  if (siphon === 'blocked')
    add(
      'warn',
      'siphon-blocked',
      'The siphon was shut: the control felt nothing.',
      'Cleared in this job; boiler water that foams shuts it again.',
    );
  if (siphon === 'dry') add('say', 'siphon-dry', 'No water stood in the siphon.', 'Filled in this job.');
  seenLive(job, add);
  const stuck = now.stuck(job);
  if (stuck) add(stopIs(stuck.code), stuck.code, stuck.because, 'Stop here; replace it or change the plan.');
  const [scale, truth] = [now.pointerNow(job, 'main-pointer'), job.figure(now.lead(job), 'left')];
  if (scale !== undefined && truth && Math.abs(scale - truth.value) > Math.max(truth.budget.U, psi(0.2)))
    add(
      'say',
      'scale-off',
      `Its scale says ${job.say(scale, 'cutOut')}, the gauge ${job.say(truth.value, 'cutOut')}.`,
      'Go by the tag, not by the pointer.',
    );
}

function seenLive(job: JobView, add: Gathering['add']): void {
  const live = now.answerAt(job, 'live');
  if (now.byPassed(job))
    add(
      'warn',
      'by-passed',
      'The burner lights without this control.',
      'That is its wiring: left locked off until it is mended.',
    );
  else if (live === 'runs-on')
    add(
      'replace',
      'runs-on',
      `The burner ran on past ${job.say((job.plan.values['cutOut'] ?? 0) + PAST, 'cutOut')}; it is left locked off.`,
      'On the pump it acted: look at the siphon, the tapping and the contact, and replace it.',
    );
  if (now.runsPast(job))
    add(
      'warn',
      'runs-past',
      'On its boiler it ran past where it should stop; it is left locked off.',
      'Look at its siphon and tapping first, then at the control on a hand pump.',
      'cutOut',
    );
  if ((live === 'met' || now.loadTakesAll(job)) && !now.byPassed(job))
    add(
      'say',
      'not-seen',
      'The load took all the steam: its cut-out was not reached. That is no fault.',
      'Its circuit was proved instead.',
    );
  if (live === 'no-start')
    add('replace', 'no-start', 'On its boiler it did not start the burner again.', 'Replace it.');
  if (live === 'other')
    add(
      'warn',
      'other-stop',
      'Another control stopped the burner first.',
      'Find which one, and what it says of the boiler.',
    );
  const times = now.firedOver(job);
  if (times !== undefined && times > OVERSIZE)
    add(
      'warn',
      'oversize',
      `The burner fires ${times.toFixed(1)} times what condenses.`,
      'Not this control: firing rate, vents, shut radiators.',
    );
}

/** What must be true before "set" can be signed. */
export function unproved(job: JobView, { lacks: need }: Gathering): void {
  for (const s of now.judged(job)) {
    const { title } = job.setting(s);
    if (!job.landed(s) && job.verdict(s, 'left')?.word !== 'near')
      need(
        `${s}-out`,
        s,
        `${title} does not stand inside its limits.`,
        'Adjust on, or end the job another way.',
      );
    else if (!now.proved(job))
      need(
        `${s}-unproved`,
        s,
        `${title} was not proved by pairs that agree since the screw was last touched.`,
        'Read another pair.',
      );
  }
  if (now.siphon(job) === 'none')
    need(
      'no-siphon',
      '',
      'Steam has its way to the element: there is no siphon.',
      'Fit one before it is called set.',
    );
  if (job.plan.school === 'pump' && !now.seenLive(job))
    need(
      'not-seen-live',
      '',
      'It was not seen to stop and start its burner, and its circuit was not proved.',
      'Prove it on the boiler, or end the job another way.',
    );
}

/** A control that fires unasked, or that has no siphon, is not left as if all were well. */
export function recommend(job: JobView, usual: Recommendation): Recommendation {
  if (usual.outcome === 'replace') return usual;
  if (now.byPassed(job))
    return {
      outcome: 'unfinished',
      because: 'The burner lights without this control: its wiring is mended first.',
    };
  if (now.runsPast(job))
    return {
      outcome: 'unfinished',
      because: 'It ran past where it should stop: its siphon is looked at first.',
    };
  if (now.loadTakesAll(job) && now.seenLive(job))
    return { outcome: 'left-as-found', because: 'The load takes all the steam; its circuit was proved.' };
  if (now.siphon(job) === 'none')
    return { outcome: 'unfinished', because: 'There is no siphon: it is fitted first.' };
  const decision = now.decision(job);
  if (decision === undefined)
    return { outcome: 'unfinished', because: 'The as-found readings are not complete.' };
  if (decision === 'adjust' && now.turned(job)) return usual;
  if (decision === 'adjust' && !job.finds) return usual;
  return now.allInside(job) || now.landed(job) || decision === 'leave'
    ? {
        outcome: 'left-as-found',
        because:
          decision === 'leave'
            ? advisedDecision(job).say
            : 'Held plumb, everything stands inside its limits.',
      }
    : usual;
}
