import {
  ambientAt,
  fromCanonical,
  parseNumber,
  parsePair,
  parseQuantity,
  showWithUnit,
  toCanonical,
  unitsOf,
  type Typed,
} from '@firm-needle/core/quantity';
import {
  columnFactor,
  darcyLoss,
  drawdown,
  fluids,
  hazenWilliamsLoss,
  nozzleFlow,
  nozzleNumber,
  nozzlePressure,
  saturationPressure,
  saturationSlope,
  saturationTemperatureAt,
  speedIn,
  waterHead,
} from '@firm-needle/core/reckon';
import { refuse } from '@firm-needle/core/result';
import type { Field, Sum } from './answer.ts';
import { reckon, line, sized, pressure } from './answer.ts';

const altitude: Field = { id: 'altitude', label: 'Altitude', start: '0 m' };

const units: Sum = {
  id: 'units',
  title: 'Units',
  fields: [
    { id: 'p', label: 'A pressure with its unit', start: '11.2 inH2O', hint: '8oz, 14,5 kPa, 1 1/2 psi …' },
  ],
  source: 'Exact definitions: ISO 80000-4, NIST SP 811. inH2O is the conventional one.',
  answer: ({ p = '' }) =>
    reckon((must) => {
      const typed = must(parseQuantity(p, 'pressure', 'psi'));
      return unitsOf('pressure')
        .filter((u) => !u.kind && u.id !== typed.unit)
        .sort((a, b) => ORDER.indexOf(a.id) - ORDER.indexOf(b.id))
        .map((u) => line(u.id, sized(fromCanonical(typed.value, u.id))));
    }),
};
const ORDER = [
  'psi',
  'kPa',
  'bar',
  'inH2O',
  'mbar',
  'ozf/in2',
  'inHg',
  'mmHg',
  'ftH2O',
  'mmH2O',
  'kgf/cm2',
  'MPa',
  'hPa',
  'Pa',
  'atm',
  'cmH2O',
];

const kinds: Sum = {
  id: 'kinds',
  title: 'Gauge and absolute',
  fields: [
    { id: 'p', label: 'Pressure', start: '40 psi', hint: 'psia or bara for an absolute one' },
    altitude,
    { id: 'barometer', label: 'Barometer, if read', start: '', hint: 'in place of the altitude' },
  ],
  source: 'Ambient by the U.S. Standard Atmosphere, 1976, or by the barometer.',
  answer: ({ p = '', altitude: h = '', barometer = '' }) =>
    reckon((must) => {
      const typed = must(parseQuantity(p, 'pressure', 'psi'));
      const ambient = barometer.trim()
        ? must(parseQuantity(barometer, 'pressure', 'mbar')).value
        : must(ambientAt(must(parseQuantity(h, 'length', 'm')).value));
      if (typed.kind === 'difference')
        must(
          refuse('wrong-kind', 'A pressure difference is neither gauge nor absolute.', {
            remedy: 'Type what a gauge shows, or an absolute pressure such as 54 psia.',
          }),
        );
      const absolute = typed.kind === 'absolute';
      const other = absolute ? typed.value - ambient : typed.value + ambient;
      if (!absolute && other < 0)
        must(
          refuse('below-vacuum', 'That is below vacuum here.', {
            bound: `${pressure(-ambient)} gauge`,
            remedy: 'Check the sign, or whether it was absolute.',
          }),
        );
      return [
        line(absolute ? 'gauge' : 'absolute', pressure(other)),
        line('ambient', pressure(ambient, 0.01)),
      ];
    }),
};

const saturation: Sum = {
  id: 'saturation',
  title: 'Saturation, pressure and temperature',
  fields: [
    {
      id: 'fluid',
      label: 'Fluid',
      start: 'R410A',
      options: fluids().map((f) => ({ value: f.id, title: f.title })),
    },
    {
      id: 'at',
      label: 'A temperature or a pressure',
      start: '83 degF',
      hint: '83 degF, 28 degC, 245 psi, 180 psia',
    },
    { id: 'doubt', label: 'Thermometer ±', start: '2 degF' },
    altitude,
  ],
  source:
    'Equations from memory, each checked at chart values; water by IAPWS-IF97. Refused outside the checked range.',
  answer: ({ fluid = '', at = '', doubt = '', altitude: h = '' }) =>
    reckon((must) => {
      const ambient = must(ambientAt(must(parseQuantity(h, 'length', 'm')).value));
      const temperature = parseQuantity(at, 'temperature', 'degF');
      const asPressure = parseQuantity(at, 'pressure', 'psi');
      if (temperature.ok && !/^[\s\d.,+−-]+$/.test(at)) {
        const T = temperature.value.value;
        const s = must(saturationPressure(fluid, T));
        const u =
          Math.abs(spanOf(must(parseQuantity(doubt, 'temperature', 'degF')))) *
          must(saturationSlope(fluid, T));
        const lines = [
          line('gauge', `${pressure(s.bubble - ambient)} ± ${showWithUnit(u, { unit: 'psi', step: 0.1 })}`),
          line('absolute', pressure(s.bubble)),
        ];
        return Math.abs(s.dew - s.bubble) > 1
          ? [...lines, line('dew, gauge', pressure(s.dew - ambient))]
          : lines;
      }
      const p = must(asPressure);
      const T = must(saturationTemperatureAt(fluid, p.value, p.kind ?? 'gauge', ambient));
      return [
        line(
          'temperature',
          `${showWithUnit(T, { unit: 'degF', step: 0.1 })}, ${showWithUnit(T, { unit: 'degC', step: 0.1 })}`,
        ),
        line('slope', `${(must(saturationSlope(fluid, T)) / toCanonical(1, 'psi') / 1.8).toFixed(2)} psi/°F`),
      ];
    }),
};

/** A temperature difference as typed: without the scale's offset, K. */
const spanOf = (t: Typed): number => t.value - fromZero(t.unit);
const fromZero = (unit: string): number =>
  unit === 'degC' ? 273.15 : unit === 'degF' ? 459.67 * (5 / 9) : 0;

const head: Sum = {
  id: 'head',
  title: 'Head of water',
  fields: [
    { id: 'height', label: 'Gauge below the point by', start: '12 ft', hint: 'negative where it is above' },
    { id: 'water', label: 'Water temperature', start: '20 degC' },
  ],
  source: 'ρ·g·h; density by Kell, checked against IAPWS.',
  answer: ({ height = '', water = '' }) =>
    reckon((must) => {
      const h = must(parseQuantity(height, 'length', 'ft')).value;
      const t = must(parseQuantity(water, 'temperature', 'degC')).value - 273.15;
      const p = must(waterHead(h, t));
      const one = must(columnFactor(t)) * 249.08891;
      return [
        line(p >= 0 ? 'the gauge reads high by' : 'the gauge reads low by', pressure(Math.abs(p), 0.01)),
        line('1 in of this water', `${one.toFixed(2)} Pa`),
      ];
    }),
};

const tank: Sum = {
  id: 'tank',
  title: 'Tank: precharge, differential, drawdown',
  fields: [
    { id: 'pair', label: 'Cut-in/cut-out', start: '40/60' },
    { id: 'volume', label: 'Tank volume', start: '80 gal' },
    { id: 'flow', label: 'Pump flow', start: '10 gpm' },
    altitude,
  ],
  source: 'Boyle, absolute pressures. Precharge two psi under cut-in: common practice.',
  answer: ({ pair = '', volume = '', flow = '', altitude: h = '' }) =>
    reckon((must) => {
      const [low, high] = must(parsePair(pair, 'psi'));
      if (high.value <= low.value)
        must(
          refuse('cut-out-not-above-cut-in', 'Cut-out is not above cut-in.', {
            remedy: 'Type the lower one first.',
          }),
        );
      const v = must(parseQuantity(volume, 'volume', 'galUS')).value;
      const q = must(parseQuantity(flow, 'flow', 'gpm')).value;
      const ambient = must(ambientAt(must(parseQuantity(h, 'length', 'm')).value));
      const precharge = low.value - toCanonical(2, 'psi');
      const given = drawdown(v, precharge, low.value, high.value, ambient);
      return [
        line('precharge', pressure(precharge)),
        line('differential', pressure(high.value - low.value)),
        line(
          'drawdown',
          `${showWithUnit(given, { unit: 'galUS', step: 0.1 })}, ${showWithUnit(given, { unit: 'L', step: 0.1 })}`,
        ),
        line(
          'run time',
          `${Math.round(given / q)} s${given / q < 60 ? ', under the 60 s that cools a motor' : ''}`,
        ),
      ];
    }),
};

const nozzle: Sum = {
  id: 'nozzle',
  title: 'Nozzle',
  fields: [
    { id: 'number', label: 'Number', start: '4', hint: 'leave one of the three empty' },
    { id: 'pressure', label: 'Pressure at it', start: '2500 psi' },
    { id: 'flow', label: 'Flow', start: '' },
  ],
  source: 'Number = US gpm at 4 000 psi; Q = N √(p/4 000). Published nozzle charts, from memory.',
  answer: ({ number = '', pressure: p = '', flow = '' }) =>
    reckon((must) => {
      const typed = [number, p, flow].filter((t) => t.trim() !== '').length;
      if (typed !== 2)
        must(
          refuse('two-of-three', 'Two of the three give the third.', { remedy: 'Leave exactly one empty.' }),
        );
      const n = number.trim() ? must(parseNumber(number)) : undefined;
      const pa = p.trim() ? must(parseQuantity(p, 'pressure', 'psi')).value : undefined;
      const q = flow.trim() ? must(parseQuantity(flow, 'flow', 'gpm')).value : undefined;
      if (n !== undefined && pa !== undefined) {
        const f = must(nozzleFlow(n, pa));
        return [
          line(
            'flow',
            `${showWithUnit(f, { unit: 'gpm', step: 0.01 })}, ${showWithUnit(f, { unit: 'L/min', step: 0.1 })}`,
          ),
        ];
      }
      if (n !== undefined && q !== undefined)
        return [line('pressure', pressure(must(nozzlePressure(n, q)), 1))];
      return [line('number', must(nozzleNumber(q ?? 0, pa ?? 0)).toFixed(2))];
    }),
};

/** Walls of pipes: roughness (m) and the C of Hazen and Williams that goes with it. [handbooks, from memory] */
const WALLS = {
  smooth: { title: 'Rubber, plastic', roughness: 0, c: 150 },
  copper: { title: 'Copper', roughness: 1.5e-6, c: 140 },
  steel: { title: 'New steel', roughness: 4.5e-5, c: 120 },
  iron: { title: 'Old iron', roughness: 2.6e-4, c: 100 },
} as const;

const loss: Sum = {
  id: 'loss',
  title: 'Hose and pipe',
  fields: [
    { id: 'flow', label: 'Flow', start: '4 gpm' },
    { id: 'bore', label: 'Bore', start: '3/8 in' },
    { id: 'length', label: 'Length', start: '50 ft' },
    {
      id: 'wall',
      label: 'Wall',
      start: 'smooth',
      options: Object.entries(WALLS).map(([value, { title }]) => ({ value, title })),
    },
  ],
  source:
    'Water at 20 °C. Darcy and Weisbach with friction by Colebrook and White; Hazen and Williams for pipes of two inches and more. A psi a foot is common practice for washer hose, no source.',
  answer: ({ flow = '', bore = '', length = '', wall = 'smooth' }) =>
    reckon((must) => {
      const run = {
        flow: must(parseQuantity(flow, 'flow', 'gpm')).value,
        bore: must(parseQuantity(bore, 'length', 'in')).value,
        length: must(parseQuantity(length, 'length', 'ft')).value,
      };
      const { roughness, c } = WALLS[wall as keyof typeof WALLS] ?? WALLS.smooth;
      const lost = must(darcyLoss(run, roughness));
      return [
        line('lost', pressure(lost)),
        line('speed', `${speedIn(run.flow, run.bore).toFixed(1)} m/s`),
        ...(run.bore >= 0.05
          ? [line(`Hazen and Williams, C ${c}`, pressure(must(hazenWilliamsLoss(run, c))))]
          : [line('at a psi a foot', pressure(toCanonical(fromCanonical(run.length, 'ft'), 'psi'), 1))]),
      ];
    }),
};

export const SUMS: readonly Sum[] = [units, kinds, saturation, head, tank, nozzle, loss];
