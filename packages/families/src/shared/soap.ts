import { type JobView, type Node, branch, type ObserveStep } from '@firm-needle/core/procedure';
import type { Gathering } from '../define/gather.js';

export const waterAtValve = (job: JobView): boolean =>
  job.state.observations.some((o) => o.body.answer === 'water');
/** The air valve was opened: air came, or water. */
export const looked = (job: JobView): boolean => job.readings('precharge').length > 0 || waterAtValve(job);

/**
 * Before the tank is filled again: a core that leaks is mended while nothing but air stands behind it.
 * @param found whether nothing is to be done to the air: then it is soaped as it was found, and not once more at the end
 */
export const soapAirValve = (found: '' | 'found-'): readonly Node[] => [
  branch(
    (j) => looked(j) && !waterAtValve(j) && (found !== '' || soapedOnce(j) === undefined),
    [
      soaped(`${found}soap`, 'Soap the air valve', 'Soap the air valve. Bubbles?'),
      branch(
        (j) => soapedOnce(j) === 'bubbles',
        [
          {
            kind: 'confirm',
            key: `${found}core`,
            title: 'Core tightened or changed',
            say: 'Tighten the valve’s core. If it still bubbles, let the air out, change the core and charge it again.',
            cautions: ['stored'],
            tools: ['core tool, spare core'],
          },
          soaped(`${found}soap-again`, 'Soap it again', 'Soap the air valve again. Bubbles?'),
        ],
      ),
    ],
  ),
];
/** What was seen on the soaped valve, unless air was put in or let out since it was found. */
const soapedOnce = (job: JobView): string | undefined => job.answer('soap') ?? foundSoap(job, 'found-soap');
const soapedAgain = (job: JobView): string | undefined =>
  job.answer('soap-again') ?? foundSoap(job, 'found-soap-again');
const foundSoap = (job: JobView, key: string): string | undefined =>
  job.lastMove('precharge') > 0 ? undefined : job.answer(key);
const bubbles = (job: JobView): boolean => soapedOnce(job) === 'bubbles';
/** The core was tightened and still leaks: its charge will not last. */
const airLeaks = (job: JobView): boolean => soapedAgain(job) === 'bubbles';
/** What the soap on the air valve says. */
export function airFindings(job: JobView, { add }: Gathering): void {
  if (airLeaks(job))
    add('warn', 'air-leaks', 'The air valve goes on leaking.', 'Change its core, or the tank.', 'precharge');
  else if (bubbles(job))
    add('say', 'was-core', 'The core of the air valve leaked.', 'Mended in this job.', 'precharge');
}
/** A charge that leaks away is no setting. */
export function airUnproved(job: JobView, { lacks }: Gathering): void {
  if (airLeaks(job))
    lacks(
      'air-leaks',
      'precharge',
      'The air valve leaks: the charge will not last.',
      'Change its core, and charge again.',
    );
}
function soaped(key: string, title: string, say: string): ObserveStep {
  return {
    kind: 'observe',
    key,
    title,
    say,
    tools: ['soap solution'],
    hands: { airGauge: 0 },
    choices: [
      { code: 'tight', title: 'Tight, cap on', advised: () => true },
      { code: 'bubbles', title: 'Bubbles' },
    ],
  };
}
