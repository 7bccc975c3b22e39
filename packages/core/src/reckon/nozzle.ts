import { accept, refuse, type Result } from '../result.js';

const PSI = 6894.757293168361;
const GPM = 0.003785411784 / 60;
/** Nozzle numbers are US gallons a minute at this pressure [published nozzle charts, from memory]. */
const AT = 4000 * PSI;

const positive = (value: number, what: string): Result<number> =>
  value > 0
    ? accept(value)
    : refuse('not-positive', `${what} must be above zero.`, { bound: '> 0', remedy: 'Type it again.' });

/** Flow of a nozzle, m³/s, from its number (US gpm at 4 000 psi) and the pressure at it, Pa: Q = N √(p / 4 000 psi). */
export function nozzleFlow(number: number, pressure: number): Result<number> {
  const n = positive(number, 'The nozzle number');
  const p = positive(pressure, 'The pressure');
  return n.ok ? (p.ok ? accept(n.value * GPM * Math.sqrt(p.value / AT)) : p) : n;
}

/** The nozzle number that gives a flow (m³/s) at a pressure (Pa). */
export function nozzleNumber(flow: number, pressure: number): Result<number> {
  const q = positive(flow, 'The flow');
  const p = positive(pressure, 'The pressure');
  return q.ok ? (p.ok ? accept(q.value / GPM / Math.sqrt(p.value / AT)) : p) : q;
}

/** Pressure at a nozzle of a number that passes a flow (m³/s), Pa. */
export function nozzlePressure(number: number, flow: number): Result<number> {
  const n = positive(number, 'The nozzle number');
  const q = positive(flow, 'The flow');
  return n.ok ? (q.ok ? accept(AT * (q.value / (n.value * GPM)) ** 2) : q) : n;
}
