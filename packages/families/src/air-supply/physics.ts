import type { RigState } from '@firm-needle/core/rig';
import { psi } from './parts.js';

export const FAULTS = {
  'wall-high': 'Wall regulator set above what the tank holds',
  'wall-low': 'Wall regulator set too low',
  'gun-off': 'Gun control set elsewhere',
  'pump-worn': 'Pump worn',
  leak: 'Tank or joint leaks',
  'narrow-hose': 'A narrower hose than the plate says',
  creep: 'Wall regulator creeps',
  'diff-narrow': 'Switch differential too narrow',
  'not-relieving': 'Wall regulator does not relieve',
  'relief-near': 'Stops where the relief opens',
  'no-stop': 'Switch does not stop it',
  'no-start': 'Switch does not start it',
  'relief-stuck': 'Relief stuck',
  'small-receiver': 'Gun takes more than is made',
  'zero-off': 'Gun gauge zero off',
};
export const ROOM = 293;
/** Free air, m³/s for a cubic foot a minute; gallons in m³. */
export const CFM = 4.719474e-4;
export const MOTOR_S = 1;
/** Square of pressure that twelve of those lose in fifty feet of three eighths, psi² [read off a library's run, not reckoned here]. */
export const LOSES = 595;
export const FLUTTER = psi(0.25);
export const SETTLES_S = 0.4;
export const CREEPS = psi(0.12);
export const NOISE = { gun: psi(0.1), wall: psi(0.15), tank: psi(0.15) };
export interface State extends RigState {
  /** Gauge, Pa: tank, wall, gun; free air that flows, m³/s; gas in the tank, K. */
  tank: number;
  wall: number;
  gun: number;
  flow: number;
  gas: number;
  contact: 0 | 1;
  runs: 0 | 1;
  waits: number;
  wallSet: number;
  gunSet: number;
  valve: number;
  inSet: number;
  outSet: number;
  inNow: number;
  outNow: number;
  /** Tank a minute ago, for who watches it. */
  marks: number[];
}
