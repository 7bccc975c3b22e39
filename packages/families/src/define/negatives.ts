// What must not compile, one mistake a call: a type that stopped checking fails the build. Nothing imports this.
import { defineParts } from './parts.js';

const none = {
  plate: {},
  slots: {},
  settings: {},
  screws: {},
  cautions: {},
  handles: {},
  facts: {},
} as const;
const outlet = { title: 'Outlet', medium: 'water' } as const;
const setting = { title: 'Flowing', short: 'flow', from: 2, to: 600, sd: 0.3 } as const;
const screw = {
  title: 'Screw',
  ways: ['in', 'out'],
  tool: 'key',
  perTurn: 1,
  spread: 0.5,
  step: 1,
  largest: 2,
} as const;

defineParts({
  ...none,
  slots: { outlet },
  // @ts-expect-error a place that is not there
  settings: { flowing: { ...setting, slot: 'inlet' } },
});
defineParts({
  ...none,
  slots: { outlet },
  settings: { flowing: { ...setting, slot: 'outlet' } },
  // @ts-expect-error a screw that moves what is not there
  screws: { pilot: { ...screw, moves: { lockUp: [1, 0] } } },
});
defineParts({
  ...none,
  slots: { outlet },
  settings: { flowing: { ...setting, slot: 'outlet' } },
  // @ts-expect-error a screw that is aimed at what is not there
  screws: { pilot: { ...screw, moves: { flowing: [1, 0] }, aims: ['lockUp'] } },
});
defineParts({
  ...none,
  cautions: { stored: { title: 'Stored', text: '…' } },
  // @ts-expect-error a fact with a caution that is not there
  facts: { inlet: { open: { title: 'Open', say: '…', cautions: ['live'] } } },
});

const { steps: s, read } = defineParts({
  ...none,
  plate: { supply: { title: 'Supply', unit: 'psi', from: 0, to: 600 } },
  slots: { outlet },
  settings: { flowing: { ...setting, slot: 'outlet' } },
  screws: { pilot: { ...screw, moves: { flowing: [1, 0] } } },
  cautions: { stored: { title: 'Stored', text: '…' } },
  handles: { draw: { title: 'Draw', positions: [] } },
  facts: { flow: { enough: { title: 'Enough', say: '…' } } },
});
// @ts-expect-error a setting that is not there
s.read('a', 'lockUp', '', '', { phase: 'found' });
// @ts-expect-error a place that is not there
s.zero('b', 'inlet', '', '');
// @ts-expect-error a screw that is not there
s.turn('c', 'range', '', '');
// @ts-expect-error a value that the fact does not have
s.confirm('d', '', '', { needs: { flow: 'lots' } });
// @ts-expect-error a fact that is not there
s.confirm('e', '', '', { sets: { power: 'on' } });
// @ts-expect-error a caution that is not there
s.confirm('f', '', '', { cautions: ['live'] });
// @ts-expect-error a handle that is not there
s.confirm('g', '', '', { hands: { tap: 1 } });
// @ts-expect-error a setting that the plan does not have
export const noSetting = read({ values: {}, plate: {} }).v.lockUp;
// @ts-expect-error a parameter that the plate does not have
export const noParameter = read({ values: {}, plate: {} }).plate.relief;
const { read: choose } = defineParts({
  ...none,
  choices: { feeds: { title: 'Feeds', options: { use: 'In use', fire: 'Fire protection' } } },
});
// @ts-expect-error a choice that is not there
export const noChoice = choose({ values: {}, plate: {} }).choice.fuel;
// @ts-expect-error an option that the choice does not have
export const noOption = choose({ values: {}, plate: {} }).choice.feeds === 'gas';
