// Where a control feeds or guards fire protection: nothing is touched before the authority knows, and the impairment is lifted only
// where what was impaired is in order again.
import { branch, type JobView, type Node } from '@firm-needle/core/procedure';

export const FIRE_PERMIT = { id: 'fire', title: 'May impair and test fire protection' } as const;

/** Whether fire protection is out of service: a fact of the job. */
export const impairmentFact = <const C extends string>(caution: C) =>
  ({
    given: {
      title: 'Impairment given',
      say: 'Give the impairment notice, post the fire watch, tell authority and alarm company.',
      cautions: [caution],
      timed: true,
    },
    lifted: { title: 'Impairment lifted', say: 'Lift the impairment.', timed: true },
  }) as const;

/** Taken out of service, before anything else is done. */
export const impair = (caution: string): Node => ({
  kind: 'confirm',
  key: 'impairment',
  title: 'Impairment given',
  say: 'Impairment notice given, fire watch posted, authority and alarm company told.',
  cautions: [caution],
  needs: { cautions: 'read' },
  sets: { impairment: 'given' },
  permit: FIRE_PERMIT.id,
});

/**
 * Put back into service, or left out of it.
 * @param what it is called where it is not in order
 * @param inOrder what was impaired is set and proved, or was found right; a job that is left early never is
 */
export const endImpairment = (caution: string, what: string, inOrder: (job: JobView) => boolean): Node =>
  branch(
    (j) => !j.state.leaving && inOrder(j),
    [
      {
        kind: 'confirm',
        key: 'lifted',
        title: 'Impairment lifted',
        say: 'Lift the impairment: authority, alarm company and owner told, fire watch stood down.',
        cautions: [caution],
        sets: { impairment: 'lifted' },
      },
    ],
    [
      {
        kind: 'confirm',
        key: 'impaired',
        title: 'Impairment stays',
        say: `${what} is not in order: the impairment stays. Tell owner and authority, and leave the tag on it.`,
        cautions: [caution],
      },
    ],
  );

/** Whether the impairment stayed: a finding of every such job. */
export const impairmentStays = (job: JobView): boolean => job.state.taken.has('impaired');
