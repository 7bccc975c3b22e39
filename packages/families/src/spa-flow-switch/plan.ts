import type { LadderPart } from '@firm-needle/core/family';
import type { JobView, Plan } from '@firm-needle/core/procedure';
import type { Gathering } from '../define/index.js';
import { read } from './parts.js';
import { edgeAt, position } from './state.js';

/** Clicks to either side of where it was found that are always drawn. */
const DRAWN = 12;

export function check(plan: Plan, _: number, { judge }: Gathering): void {
  const within = read(plan).plate.opensWithin;
  if (within !== undefined && within > 10)
    judge(
      'warn',
      'opens-slowly',
      'opensWithin',
      `Opening within ${within} s is long: the heater may run on without water.`,
      'Look it up in the manual.',
    );
}

/** The wheel, in clicks from where it was found: its edges, the window between them, and where it stands. */
export function ladder(_: Plan, job?: JobView): readonly LadderPart[] {
  const [closes, opens] = job ? [edgeAt(job, 'closes'), edgeAt(job, 'opens')] : [];
  const at = job ? position(job) : 0;
  const parts: LadderPart[] = [
    { part: 'spine', lower: -DRAWN, upper: DRAWN, title: 'Clicks', drawn: true },
    {
      part: 'mark',
      setting: 'wheel',
      value: at,
      title: at === 0 ? 'Wheel as found' : 'Wheel now',
      movable: false,
    },
  ];
  if (closes !== undefined)
    parts.push(
      { part: 'mark', setting: 'closes', value: closes, title: 'Just closes', movable: false },
      { part: 'zone', lower: closes + 0.5, upper: Math.max(closes + 8, DRAWN), title: 'open at low speed' },
    );
  if (opens !== undefined)
    parts.push(
      { part: 'mark', setting: 'opens', value: opens, title: 'Just opens', movable: false },
      {
        part: 'zone',
        lower: Math.min(opens - 8, -DRAWN),
        upper: opens - 0.5,
        title: 'closed with pumps off',
        below: true,
      },
    );
  if (closes !== undefined && opens !== undefined)
    parts.push({ part: 'window', lower: opens, upper: closes, title: 'window' });
  return parts;
}
