// What is looked at, listened to and read, as found and once more as left; walk.ts says in which order, and what is turned between.
import { branch, until, type JobView, type Node, type Phase } from '@firm-needle/core/procedure';
import { showWithUnit } from '@firm-needle/core/quantity';
import { BREATHING_PERMIT } from '../shared/breathing.js';
import { s } from './parts.js';
import { stopOf } from './plan.js';
import * as now from './state.js';

export const PERMIT = BREATHING_PERMIT.id;
export const pastStop = (j: JobView): string =>
  `Past ${showWithUnit(stopOf(j.plan), { unit: 'psi', step: 1 })}: shut.`;
export const goOn = (then: readonly Node[]): Node => branch((j) => !now.stopped(j), then);

export const bled = (key: string): Node =>
  s.confirm(key, 'Shut and bled', 'Suction gauge off first. Supply shut, purge until nothing comes.', {
    cautions: ['low-range', 'dead'],
    sets: { gauge: 'off', supply: 'shut', line: 'bled' },
    hands: { draw: 0, shutoff: 0, thumb: 0, supply: 0, bleed: 1, purge: 0 },
  });

/** A case that lets air in reads light, or never opens: no effort is read through a leak. */
export const tightCase = (prefix: string): readonly Node[] => {
  const holds = (key: string, title: string): Node =>
    s.observe(
      `${prefix}${key}`,
      title,
      'Line vented, bleed shut. Draw to the least of its range and shut off. Does it hold?',
      { holds: { title: 'It holds', advised: true }, sinks: 'It sinks' },
      {
        seconds: 10,
        needs: { supply: 'shut' },
        sets: { gauge: 'on', side: 'closed' },
        hands: { side: 0, shutoff: 1, draw: 2 },
        cautions: ['low-range'],
        why: 'A fifth lost in ten seconds is little; more is a leak.',
      },
    );
  return [
    holds('case', 'Case holds'),
    branch(
      (j) => now.answerAt(j, 'case') === 'sinks' && !now.caseLeaks(j),
      [
        s.observe(
          `${prefix}case-which`,
          'Which of them leaks?',
          'Look at exhaust valve, diaphragm, cover ring: cleaned or changed.',
          { exhaust: 'Exhaust valve', diaphragm: 'Diaphragm', ring: 'Cover ring', none: 'None of them' },
          { permit: PERMIT, hands: { draw: 0, shutoff: 0, case: 1 }, sets: { gauge: 'off' } },
        ),
        branch((j) => !now.caseLeaks(j), [holds('case-again', 'Case holds, once more')]),
      ],
    ),
  ];
};

/** What its line stands at: its first stage comes first. */
export const readIp = (key: string, phase: Phase, times: 4 | 10 = 4): Node =>
  s.read(
    key,
    'ip',
    'Intermediate pressure',
    (j) =>
      `Suction gauge off. Open slowly, purge ${times === 4 ? 'four' : 'ten'} times, read the line. ${pastStop(j)}`,
    {
      phase,
      watched: true,
      needs: { relief: 'inline' },
      sets: { gauge: 'off', supply: 'on', line: 'closed' },
      hands: { draw: 0, shutoff: 0, bleed: 0, supply: 1, purge: times },
      cautions: ['slow', 'relief', 'low-range', 'ears'],
      instead: { climbs: 'It climbs on' },
    },
  );

/** Silent at rest, a strong purge. What hisses late has a first stage that climbs. */
export const listened = (prefix: string): readonly Node[] => [
  s.observe(
    `${prefix}listen`,
    'Listened to',
    'Hands off for a minute, listen. Then one short purge.',
    {
      silent: { title: 'Silent, strong purge', advised: true },
      hisses: 'It hisses at once',
      late: 'It hisses late',
      weak: 'The purge is weak',
    },
    { seconds: 60, needs: { supply: 'on', gauge: 'off' }, hands: { purge: 1 }, cautions: ['ears'] },
  ),
  branch(
    (j) => now.answerAt(j, 'listen') === 'late',
    [
      s.observe(
        `${prefix}ip-risen`,
        'Has its line risen?',
        'Read the line once more: has it risen since?',
        { risen: 'It has risen', same: 'The same: it leaks itself' },
        { needs: { supply: 'on' }, watches: 'ip' },
      ),
    ],
  ),
];

export const ready = (key: string): Node =>
  s.confirm(
    key,
    'Gauge on',
    'Knob out, vane at minus, suction gauge on. No purge, no breath out from here.',
    {
      cautions: ['low-range'],
      needs: { supply: 'on' },
      sets: { gauge: 'on' },
      hands: { purge: 0, thumb: 0, shutoff: 1 },
    },
  );

export const draw = (key: string, phase: Phase, title: string): Node =>
  s.read(
    key,
    'effort',
    title,
    'Draw slowly until it opens, heard and seen on the line: the highest suction. Case level, alike each time.',
    {
      phase,
      needs: { gauge: 'on', supply: 'on', side: 'closed' },
      hands: { draw: 1 },
      why: 'Opening takes three seconds or more: a quick draw reads low.',
      needed: true,
      instead: { never: 'It never opens' },
    },
  );
export const drawn = (prefix: string, phase: Phase, times: number): readonly Node[] => [
  ...Array.from({ length: times }, (_, i) =>
    draw(`${prefix}draw-${i + 1}`, phase, `Draw ${i + 1} of ${times}`),
  ),
  until((j) => !now.differs(j), [draw(`${prefix}draw-more`, phase, 'One draw more')]),
];
