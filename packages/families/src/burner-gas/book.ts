// The book before a turn, and whether a turn is advised: asked of every screw and dial.
import { branch, type JobView, type Node } from '@firm-needle/core/procedure';
import { read, s } from './parts.js';
import * as now from './state.js';

/** The supply is looked up once, whether it is first turned at rest or as it burns. */
const looked = (j: JobView, id: string): boolean =>
  (id === 'supply' || id === 'rest' ? ['supply', 'rest'] : [id]).some(
    (x) => j.answer(`book-${x}`) !== undefined,
  );

/** Before the first turn of each: a remembered figure is looked up. */
export const book = (
  id: 'supply' | 'rest' | 'appliance' | 'dials',
  figures: (job: JobView) => string,
): Node =>
  branch(
    (j) => !looked(j, id),
    [
      s.observe(
        `book-${id}`,
        'The book',
        (j) =>
          `Open the book at page ${read(j.plan).plate.page ?? '?'}. Planned ${figures(j)}: is that what it says?`,
        {
          same: { title: 'As planned', advised: true },
          differs: 'It says otherwise: nothing is turned',
        },
        {
          cautions: ['manual'],
          asksPlan: true,
          why: 'A figure from memory is how a burner is set wrong.',
        },
      ),
    ],
  );
export const agreed = (id: string) => (j: JobView) => !now.bookDiffers(j) && looked(j, id);
export const planned = (job: JobView, settings: readonly string[]): string =>
  settings
    .flatMap((x) => {
      const value = job.plan.values[x];
      return value === undefined ? [] : [`${job.setting(x).title.toLowerCase()} ${job.say(value, x)}`];
    })
    .join(', ');

export const byAdvice = (j: JobView, id: now.Screw): boolean => j.advice(id).stop === null;
