// A cylinder regulator of another gas: read, soaped and watched, nothing opened. Nobody breathes from it.
import { branch, type Procedure } from '@firm-needle/core/procedure';
import { showWithUnit } from '@firm-needle/core/quantity';
import { standard } from '../define/index.js';
import { parts, read, s } from './parts.js';
import { stopOf } from './plan.js';
import * as now from './state.js';

const say = (p: number): string => showWithUnit(p, { unit: 'psi', step: 1 });

export const industrial: Procedure = standard(parts, {
  cautions: 'Not for breathing. Read the cautions.',
  first: [
    s.observe(
      'look',
      'Looked over',
      'Nothing connected. Gas and thread agree, no grease, glass whole, not past its mark?',
      { clean: { title: 'All in order', advised: true }, wet: 'One of them is not' },
      { needs: { cautions: 'read' }, cautions: ['fuel', 'oxygen'] },
    ),
  ],
  zeros: [
    {
      slot: 'outlet',
      title: 'Zero of the gauge',
      say: 'Outlet vented: read the zero of the gauge on it.',
      hands: { bleed: 1, supply: 0 },
      again: { say: 'Outlet vented: read its zero once more.' },
    },
  ],
  asFound: [
    branch(
      (j) => !now.stopped(j),
      [
        s.confirm('knob-out', 'Knob out, chained', 'Knob out, cock shut, cylinder chained.', {
          cautions: ['whip', 'relief'],
          sets: { relief: 'inline', line: 'closed' },
          hands: { knob: 0, cock: 0, bleed: 0, relief: 1 },
        }),
        s.observe(
          'open',
          'Opened slowly',
          (j) =>
            `Stand aside, open the cylinder slowly. Past ${say(stopOf(j.plan))}: shut it. Where does the outlet stand?`,
          { nothing: { title: 'At nothing', advised: true }, climbs: 'It climbs' },
          {
            cautions: ['slow', 'whip'],
            sets: { supply: 'full' },
            hands: { supply: 2 },
            seconds: 20,
            watches: 'outlet',
          },
        ),
        branch(
          (j) => !now.stopped(j),
          [
            s.observe(
              'soap',
              'Soaped',
              'Soap inlet, bonnet and relief.',
              {
                tight: { title: 'Tight', advised: true },
                joint: 'The inlet bubbles: made again, tight',
                holes: 'Bonnet or relief bubbles',
              },
              { needs: { supply: 'full' }, cautions: ['fuel'] },
            ),
            branch(
              (j) => !now.stopped(j),
              [
                s.read(
                  'delivered',
                  'delivery',
                  'Delivered, flowing',
                  (j) =>
                    `Cock cracked to a safe vent, knob in to ${say(read(j.plan).v.delivery ?? 0)}: read it flowing.`,
                  {
                    phase: 'found',
                    needs: { supply: 'full' },
                    hands: { cock: 1, knob: 1 },
                    cautions: ['fuel'],
                    instead: { hisses: 'The relief hisses', never: 'Never twice the same' },
                  },
                ),
                branch(
                  (j) => !now.stopped(j),
                  [
                    s.wait('locks', 'Locks up', 'Cock shut. Let it stand for a minute.', 60, {
                      hands: { cock: 0 },
                    }),
                    s.read('locked', 'locked', 'Locked up', 'Cock shut still: read where it locked up.', {
                      phase: 'found',
                      needs: { supply: 'full' },
                      hands: { cock: 0 },
                      needed: true,
                      instead: { rises: 'It rises on', hisses: 'The relief hisses' },
                    }),
                    s.observe(
                      'stands',
                      'Stands five minutes',
                      'Watch it for five minutes.',
                      { stands: { title: 'It stands', advised: true }, rises: 'It rises on' },
                      { seconds: 300, needs: { supply: 'full' }, watches: 'outlet', needed: true },
                    ),
                    s.observe(
                      'inlet',
                      'Inlet holds',
                      'Shut the cylinder for a minute: does its own gauge hold?',
                      { holds: { title: 'It holds', advised: true }, falls: 'It falls' },
                      { seconds: 60, sets: { supply: 'shut' }, hands: { supply: 0 } },
                    ),
                  ],
                ),
              ],
            ),
          ],
        ),
      ],
    ),
  ],
  close: [
    s.confirm(
      'drain',
      'Drained, knob out',
      'Cylinder shut. Drain it to a safe vent, knob out: both needles rest.',
      {
        cautions: ['dead', 'fuel'],
        sets: { supply: 'shut', line: 'bled' },
        hands: { supply: 0, cock: 0, bleed: 1, knob: 0 },
      },
    ),
  ],
  last: [
    s.confirm(
      'tag',
      'Tagged',
      (j) =>
        `Tag: not for breathing; ${now.stopped(j) ? 'out of use, and why' : 'what it holds, date, when next'}.`,
    ),
  ],
});
