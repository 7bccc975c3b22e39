import type { Plan } from '@firm-needle/core/procedure';
import { toCanonical } from '@firm-needle/core/quantity';
import { two } from '@firm-needle/core/rig';
import { impairmentFact } from '../shared/impairment.js';
import { defineParts } from '../define/index.js';
import * as reckoned from './reckoned.js';
import { psi } from '../shared/units.js';

export { psi };

/** Opening over the highest normal pressure: least, aimed at, most [common practice, no source: 10 to 15 psi]. */
export const LEAST_MARGIN = psi(10);
export const MARGIN = psi(12.5);
export const MOST_MARGIN = psi(15);
/** One turn of the usual spring of 20 to 200 psi [common practice, no source: half a turn is about 14 psi]. */
export const USUAL_PER_TURN = psi(28);
/** A spring that gives this much more or less a turn than its table is another spring. */
export const RATE_BAND = 0.25;
/** Speed that the relief is there for: 110 %, pressure with its square [NFPA 20, from memory]. */
export const OVERSPEED = 1.1;

export const isElectric = ({ variant }: Pick<Plan, 'variant'>): boolean => variant === 'electric';
export const isVariable = ({ variant }: Pick<Plan, 'variant'>): boolean => variant === 'variable';

const reading = { slot: 'system', from: 5, to: 600, sd: 0.3, dof: 10 } as const;
const derived = { ...reading, had: 'derived' } as const;

export const parts = defineParts({
  choices: {
    check: { title: 'Opening', options: { measure: 'Measured', look: 'Not due: seen dry at churn' } },
  },
  plate: {
    churn: {
      title: 'Net churn pressure',
      unit: 'psi',
      from: 20,
      to: 500,
      required: true,
      hint: 'of the pump alone, at its governed speed',
    },
    suctionMost: {
      title: 'Suction, highest',
      unit: 'psi',
      from: 0,
      to: 200,
      required: true,
      hint: 'static; 0 from a tank below',
    },
    suctionLeast: { title: 'Suction, lowest', unit: 'psi', from: -10, to: 200 },
    rating: { title: 'Weakest component rated', unit: 'psi', from: 100, to: 600, required: true },
    perTurn: {
      title: 'Pilot spring, one turn',
      unit: 'psi',
      from: 2,
      to: 150,
      required: true,
      hint: 'from the pilot’s spring table',
    },
    springLeast: { title: 'Pilot spring from', unit: 'psi', from: 0, to: 300 },
    springMost: { title: 'Pilot spring up to', unit: 'psi', from: 20, to: 600 },
    speed: { title: 'Governed speed', unit: 'rpm', from: 300, to: 6000 },
    size: { title: 'Valve size', unit: 'in', from: 0.75, to: 12, hint: 'as listed' },
  },
  slots: {
    system: { title: 'System gauge, upstream of the relief', medium: 'water' },
    suction: { title: 'Suction gauge', medium: 'water' },
  },
  settings: {
    opening: { ...derived, title: 'Opens at', short: 'opens', givable: true, derive: reckoned.opening },
    margin: {
      ...derived,
      title: 'Over the highest normal',
      short: 'margin',
      givable: true,
      from: 0,
      to: 100,
      derive: reckoned.margin,
    },
    reseat: { ...derived, title: 'Closes again at', short: 'reseat', derive: reckoned.reseat },
    perTurn: {
      ...derived,
      title: 'Pilot, one turn',
      short: 'a turn',
      from: 1,
      to: 200,
      derive: reckoned.perTurn,
    },
    churn: { ...reading, title: 'System at churn', short: 'churn', cycles: 2 },
    suction: { ...reading, cycles: 2, title: 'Suction', short: 'suction', slot: 'suction', from: -14 },
    normal: { ...derived, title: 'Highest normal pressure', short: 'normal', derive: reckoned.normal },
    closes: { ...reading, title: 'Just closed, at churn', short: 'closed' },
    closesDrawn: { ...reading, title: 'Just closed, header drawn', short: 'drawn' },
    runs: { ...reading, title: 'While it runs', short: 'runs' },
  },
  screws: {
    pilot: {
      title: 'Pilot screw',
      ways: ['clockwise', 'counter-clockwise'],
      seenFrom: 'seen from the screw’s head',
      tool: 'wrench for the lock nut',
      // What a turn does is found in the job, from two pressures at which it just closed.
      perTurn: USUAL_PER_TURN,
      spread: 0.5,
      moves: {},
      step: 1 / 16,
      largest: 6,
      underPressure: true,
    },
    speed: {
      title: 'Speed',
      kind: 'scale',
      unit: '%',
      ways: ['up', 'down'],
      tool: 'the drive’s own keys',
      perTurn: 1,
      spread: 0.1,
      moves: {},
      step: toCanonical(0.5, '%'),
      largest: toCanonical(12, '%'),
      underPressure: true,
    },
  },
  cautions: {
    life: {
      title: 'A life-safety system',
      text: 'Impairment notice, fire watch, the authority’s consent and the alarm company’s word before anything is touched. Licensed practice and listed parts only.',
    },
    discharge: {
      title: 'Where it discharges',
      text: 'The whole of a pump may come out at once: path clear, drain able to take it, nobody near the outlet.',
    },
    hammer: {
      title: 'Water hammer',
      text: 'Turn slowly; open and shut test valves slowly. It opens fast and closes slowly.',
    },
    shafts: {
      title: 'Shafts turn, exhaust gathers',
      text: 'Guards on, sleeves tight, ears covered. A diesel wants its exhaust outside.',
    },
    up: {
      title: 'Never left screwed up',
      text: 'A pilot left up after the search is a relief that is not there. It is set, or it is put back as found.',
    },
    manual: {
      title: 'Manual, code and authority first',
      text: 'NFPA 20 and 25 or what holds where you are, the maker’s manual and the authority stand above this app.',
    },
  },
  handles: {
    pump: { title: 'Pump', positions: two('Stopped', 'Running') },
    header: { title: 'Test header', positions: two('Shut', 'Open') },
    gauges: { title: 'Gauges', positions: two('Vented', 'Connected') },
    at: { title: 'System gauge', positions: two('As found', 'Upstream') },
    sensing: { title: 'Sensing line', positions: two('As found', 'Clean') },
  },
  facts: {
    cautions: { read: { title: 'Cautions read', say: 'Read the cautions.' } },
    impairment: impairmentFact('life'),
    path: {
      clear: {
        title: 'Discharge path clear',
        say: 'See that the discharge path is clear and its outlet can be seen.',
        cautions: ['discharge'],
      },
    },
    pump: {
      churn: {
        title: 'Pump at churn',
        say: 'Start the pump with nothing drawn.',
        cautions: ['shafts'],
        hands: { pump: 1, header: 0 },
      },
      off: { title: 'Pump stopped', say: 'Stop the pump.', hands: { pump: 0 } },
    },
    gauges: {
      on: { title: 'Gauges connected', say: 'Open the cocks of both gauges slowly.', hands: { gauges: 1 } },
    },
    point: {
      upstream: {
        title: 'Gauge upstream',
        say: 'Move the system gauge to the point upstream of the relief.',
        hands: { at: 1 },
      },
    },
    sensing: {
      clean: {
        title: 'Sensing line clean',
        say: 'Isolate, clean the pilot’s sensing line and strainer, open again.',
        hands: { sensing: 1 },
      },
    },
  },
});
export const { steps: s, read } = parts;

/** Governed churn of the pump alone and the most suction, by the plate. */
export const normalByPlate = ({ plate }: Pick<Plan, 'plate'>): number => {
  const { churn = 0, suctionMost = 0 } = read({ values: {}, plate }).plate;
  return churn + suctionMost;
};
