// Files by which of their columns counts, and by how their cells are written.
import { N, as, at, DT, AIR, PSI, two, usual, type Named } from './testing.form.js';

export const CELLS: readonly Named[] = [
  [
    'setpoint and actual',
    { heading: ['Time (s)', 'Setpoint (psi)', 'Actual (psi)'], row: (i, p) => [i * DT, 50, p] },
    usual({ says: ['pressure'] }),
  ],
  [
    'barometer and line',
    {
      heading: ['Time (s)', 'Barometer (psi)', 'Line (psi)'],
      row: (i, p) => [i * DT, (14.7 + i / 900).toFixed(2), p],
    },
    usual({ says: ['pressure'] }),
  ],
  [
    'temperature before it',
    { heading: ['Time (s)', 'Temp (°F)', 'Pressure (psi)'], row: (i, p) => [i * DT, 70 + i / 10, p] },
    usual(),
  ],
  [
    'two that were measured',
    {
      heading: ['Time (s)', 'Tank pressure (psi)', 'Pump pressure (psi)'],
      row: (i, p) => [i * DT, p, p + 3],
    },
    usual({ says: ['pressure'] }),
  ],
  [
    'a long preamble',
    {
      before: [
        'Logger 12',
        'Serial,4711',
        'Started,2030-01-05',
        ...Array.from({ length: 14 }, (_, i) => `Channel ${i},on,${i}`),
        '',
      ],
      heading: ['Time (s)', 'Pressure (psi)'],
      row: (i, p) => [i * DT, p],
    },
    usual({ says: ['header'] }),
  ],
  [
    'a unit before the table',
    {
      before: ['Site,North', 'Pressure unit,bar', ''],
      heading: ['Time (s)', 'Pressure'],
      row: (i, p) => [i * DT, p],
    },
    as(1e5, { says: ['unit', 'header'] }),
  ],
  [
    'no unit anywhere',
    { heading: ['Time (s)', 'Pressure'], row: (i, p) => [i * DT, p] },
    { refused: 'unit-missing' },
  ],
  [
    'a comma that can be either',
    {
      heading: ['Time (s)', 'Pressure (kPa)'],
      row: (i, p) => [i * DT, `"${Math.round(p * 6)},${two(i % 100)}4"`],
    },
    { refused: 'number-form' },
  ],
  [
    'three places after a comma',
    {
      heading: ['Zeit (s)', 'Druck (kPa)'],
      delimiter: ';',
      row: (i, p) => [i * DT, `${Math.floor(p)},${(1000 * (p % 1)).toFixed(0).padStart(3, '0')}`],
    },
    as(1e3, { says: ['numbers'] }),
  ],
  [
    'thousands by commas',
    {
      heading: ['Time (s)', 'Pressure (Pa)'],
      row: (i, p) => [i * DT, `"${Math.floor(p)},${(1000 * (p % 1)).toFixed(1).padStart(5, '0')}"`],
    },
    as(1000),
  ],
  [
    'thousands by a narrow space',
    {
      heading: ['Time (s)', 'Pressure (Pa)'],
      delimiter: ';',
      row: (i, p) => [i * DT, `${Math.floor(p)}\u202F${(1000 * (p % 1)).toFixed(0).padStart(3, '0')}`],
    },
    as(1000),
  ],
  [
    'thousands by points',
    {
      heading: ['Zeit (s)', 'Druck (Pa)'],
      delimiter: ';',
      row: (i, p) => [i * DT, `${Math.floor(p)}.${(1000 * (p % 1)).toFixed(0).padStart(3, '0')},0`],
    },
    as(1000),
  ],
  [
    'no reading as -9999',
    { heading: ['Time (s)', 'psi'], row: (i, p) => [i * DT, i % 30 === 11 ? -9999 : p] },
    usual({ n: N - 3, lost: 3, mean: NaN }),
  ],
  [
    'no reading as 999.9',
    { heading: ['Time (s)', 'psi'], row: (i, p) => [i * DT, i % 30 === 11 ? '999.9' : p] },
    usual({ n: N - 3, lost: 3, mean: NaN, says: ['sentinels'] }),
  ],
  [
    'no reading as OL',
    {
      heading: ['Time (s)', 'psi'],
      row: (i, p) => [i * DT, i % 30 === 11 ? 'OL' : i % 30 === 12 ? '----' : p],
    },
    usual({ n: N - 6, lost: 6, mean: NaN }),
  ],
  ['in. w.c.', { heading: ['Time (s)', 'Pressure (in. w.c.)'], row: (i, p) => [i * DT, p] }, as(249.08891)],
  ['mm Hg', { heading: ['Time (s)', 'Pressure (mm Hg)'], row: (i, p) => [i * DT, p] }, as(133.322387415)],
  ['oz/in²', { heading: ['Time (s)', 'Pressure (oz/in²)'], row: (i, p) => [i * DT, p] }, as(PSI / 16)],
  ['cmH2O', { heading: ['Time (s)', 'Pressure (cmH2O)'], row: (i, p) => [i * DT, p] }, as(98.0665)],
  [
    'torr',
    { heading: ['Time (s)', 'Pressure (Torr)'], row: (i, p) => [i * DT, p] },
    as(133.322387415, { says: ['basis'] }, -AIR),
  ],
  [
    'micron',
    { heading: ['Time (s)', 'Pressure (micron)'], row: (i, p) => [i * DT, p] },
    as(0.133322387415, { says: ['basis'] }, -AIR),
  ],
  [
    'what a vacuum pump stands at',
    { heading: ['Time (s)', 'Vacuum pump oil (psi)'], row: (i, p) => [i * DT, p] },
    usual(),
  ],
  [
    'one time far ahead',
    {
      heading: ['Time', 'psi'],
      row: (i, p) => [i === 40 ? `2031-01-05 ${at(i)}` : `2030-01-05 ${at(i)}`, p],
    },
    usual({ n: N - 1, lost: 1, mean: NaN }),
  ],
  [
    'a minus of another kind',
    { heading: ['Time (s)', 'Pressure (kPa)'], row: (i, p) => [i * DT, `\u2212${p}`] },
    as(-1e3),
  ],
  [
    'a switch beside it',
    {
      heading: ['Time (s)', 'Pressure (psi)', 'Contact'],
      row: (i, p) => [i * DT, p, i % 20 < 10 ? 'closed' : 'open'],
    },
    usual(),
  ],
  [
    'headings again in the middle',
    {
      heading: ['Time (s)', 'psi'],
      row: (i, p) => [i * DT, p],
      order: (r) => [...r.slice(0, 50), 'Time (s),psi', ...r.slice(50)],
    },
    usual({ lost: 1 }),
  ],
  ['a comma at the end', { heading: ['Time (s)', 'psi', ''], row: (i, p) => [i * DT, p, ''] }, usual()],
  ['one column', { heading: ['psi'], row: (_, p) => [p] }, { refused: 'one-column' }],
];
