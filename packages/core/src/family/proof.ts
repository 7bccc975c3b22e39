import { offer, type Finding, type FoldedJob, type Outcome } from '../procedure/index.js';
import type { Family } from './contract.js';

/**
 * Why an outcome is not what the log proves; empty where it is. The same for the screen that signs and for the server that records.
 * Nothing is asked of an outcome that claims nothing (replace, unfinished).
 */
export function objections(family: Family, job: FoldedJob, outcome: Outcome): readonly Finding[] {
  if (outcome === 'replace' || outcome === 'unfinished') return [];
  const out: Finding[] = [];
  const object = (code: string, message: string, about?: string): void => {
    out.push({ severity: 'refuse', code, message, ...(about ? { about } : {}) });
  };
  const { now } = offer(family.procedure(job.plan), job);
  if (now && !job.state.leaving)
    object('not-walked', `Not every step was taken: ${now.step.title} was still to come.`);
  if (job.state.leaving) object('left-early', `It was left early: ${job.state.leaving.body.reason}`);
  if (outcome === 'set') out.push(...family.unproved(job));
  else {
    const { outcome: comes, because } = family.recommend(job);
    if (comes === 'replace' || comes === 'unfinished') object('comes-to-less', because);
  }
  return out;
}
