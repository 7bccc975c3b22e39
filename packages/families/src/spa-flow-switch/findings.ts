import type { Gathering, Recommendation } from '../define/index.js';
import type { JobView } from '@firm-needle/core/procedure';
import { MOST_TRIES, narrow, works } from './walk.js';
import * as now from './state.js';

const MENDED = new Map([
  ['filter', 'The filter was dirty.'],
  ['valve', 'A valve was not open.'],
  ['air', 'There was air in the pump, or too little water.'],
]);

const LOW_FLOW = 'Low flow, not the switch: filter, valves, water level, pump.';

/** A window too narrow for the switch to be at fault, in words. */
function lowFlow(job: JobView): string | undefined {
  if (!narrow(job) || now.stuck(job)) return undefined;
  return now.missed(job, 'closes')
    ? 'At low speed it closes nowhere on the wheel.'
    : `The window is ${now.windowOf(job)} clicks wide.`;
}

/** What the observations add up to. */
export function findings(job: JobView, { add }: Gathering): void {
  if (now.answerAt(job, 'message') === 'stays')
    add(
      'replace',
      'board',
      'The flow message stays with the switch lead off.',
      'The control board does not listen to its switch: that is a matter for the board, not for the wheel.',
    );
  if (now.stuck(job))
    add(
      'replace',
      'stuck-closed',
      'The switch stays closed with no water moving, as far as the wheel goes.',
      'Replace it. Until then the heater stays off.',
    );
  for (const cause of new Set(now.mended(job)))
    add(
      'say',
      `was-${cause}`,
      MENDED.get(cause) ?? cause,
      'Mended in this job; the edges were measured with it mended.',
    );
  const low = lowFlow(job);
  if (low !== undefined) add('warn', 'low-flow', low, LOW_FLOW);
  if (job.plan.school === 'first' && now.placeWorks(job))
    add(
      'say',
      'margin-unknown',
      'It was set to the first place that works: how much is left to either side is not known.',
      'Where the fault comes back, clean the filter and measure both edges.',
    );
  if (goesNowhere(job))
    add(
      'replace',
      'not-both',
      'There is no place at which it is closed with water moving and open without it.',
      'Replace the switch; its flow was looked at.',
    );
  const against = now.contradiction(job);
  const again = now.answerAt(job, 'prove-low-again');
  if (against)
    add(
      again === 'open' ? 'replace' : 'warn',
      'contradiction',
      `It was open at ${against.open} clicks, and closed before at ${against.closed}.`,
      again === 'open'
        ? 'It does not repeat: replace it.'
        : again === 'closed'
          ? 'The second look agrees with the first; both are kept.'
          : 'Start again at low speed and look once more.',
    );
  if (tooLate(job))
    add(
      'replace',
      'opens-late',
      `It opens ${job.figure('delay', 'left')?.value.toFixed(1) ?? 'more than 20'} s after the pumps stop, wherever it stands.`,
      'Neither edge leaves a place that works: replace it, and see whether water runs on through the heater.',
    );
  if (now.answerAt(job, 'prove-high') === 'open')
    add('replace', 'opens-high', 'It opens at high speed.', 'More flow must not open it: replace it.');
  if (now.answerAt(job, 'heats') === 'not')
    add('warn', 'no-heat', 'The heater did not run.', 'The switch is not the only thing that keeps it off.');
}

/** The quick school found no place for both, and nothing was wrong with the flow. */
const goesNowhere = (job: JobView): boolean =>
  job.plan.school === 'first' &&
  now.tries(job) > 0 &&
  !now.placeWorks(job) &&
  !now.stuck(job) &&
  (now.answerAt(job, 'cause') === 'none' || now.tries(job) >= MOST_TRIES);

/** It was moved toward closing as often as is sensible and still opens too late. */
function tooLate(job: JobView): boolean {
  const tries = job.state.turns.filter((t) => t.body.at.key === 'nearer').length;
  const late = job.verdict('delay', 'left')?.word === 'out' || now.answerAt(job, 'prove-off') === 'stays';
  return late && (tries >= 2 || now.answerAt(job, 'prove-off') === 'stays') && !now.stuck(job);
}

/** Closed at low speed, closed at high speed where there is one, open in time: all since the wheel was last moved. */
export function unproved(job: JobView, { lacks }: Gathering): void {
  const moved = job.state.turns.at(-1)?.order ?? 0;
  const since = (key: string): string | undefined =>
    job.state.observations.filter((o) => o.body.at.key === key && o.order > moved).at(-1)?.body.answer;
  const need = (code: string, message: string): void =>
    lacks(code, 'wheel', message, 'Prove it, or end the job another way.');
  if (moved === 0 && !works(job)) need('not-set', 'The wheel was not moved, and it did not work as found.');
  if (moved > 0) {
    if ((since('prove-low-again') ?? since('prove-low')) !== 'closed')
      need('low-due', 'It was not seen closed at low speed since it was moved.');
    if (job.plan.variant === 'two-speed' && since('prove-high') !== 'closed')
      need('high-due', 'It was not seen closed at high speed since it was moved.');
    if (since('prove-off') !== 'opened' || job.verdict('delay', 'left')?.word === 'out')
      need('off-due', 'It was not seen to open in time since it was moved.');
  }
}

/** Too little flow is no fault of the switch, and nothing is set on it. */
export function recommend(job: JobView, usual: Recommendation): Recommendation {
  const low = usual.outcome !== 'replace' ? lowFlow(job) : undefined;
  return low === undefined ? usual : { outcome: 'unfinished', because: `${low} ${LOW_FLOW}` };
}
