import type { Caution } from '@firm-needle/core/family';
import type { FactDef } from '@firm-needle/core/procedure';

export const cautions: readonly Caution[] = [
  {
    key: 'life',
    title: 'A life-safety system',
    text: 'Impairment notice, fire watch, the authority’s consent and the alarm company’s word before anything is touched. Licensed practice and listed parts only.',
  },
  {
    key: 'discharge',
    title: 'Where it discharges',
    text: 'The whole of a pump may come out at once: path clear, drain able to take it, nobody near the outlet.',
  },
  {
    key: 'hammer',
    title: 'Water hammer',
    text: 'Turn slowly; open and shut test valves slowly. It opens fast and closes slowly.',
  },
  {
    key: 'shafts',
    title: 'Shafts turn, exhaust gathers',
    text: 'Guards on, sleeves tight, ears covered. A diesel wants its exhaust outside.',
  },
  {
    key: 'up',
    title: 'Never left screwed up',
    text: 'A pilot left up after the search is a relief that is not there. It is set, or it is put back as found.',
  },
  {
    key: 'manual',
    title: 'Manual, code and authority first',
    text: 'NFPA 20 and 25 or what holds where you are, the maker’s manual and the authority stand above this app.',
  },
];

export const permits = [{ id: 'fire', title: 'May impair and test fire protection' }] as const;

export const facts: Readonly<Record<string, Readonly<Record<string, FactDef>>>> = {
  cautions: { read: { title: 'Cautions read', say: 'Read the cautions.' } },
  impairment: {
    given: {
      title: 'Impairment given',
      say: 'Give the impairment notice, post the fire watch, tell authority and alarm company.',
      cautions: ['life'],
    },
    lifted: { title: 'Impairment lifted', say: 'Lift the impairment.' },
  },
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
};
