// What is hidden in an installation: the constants of its device, where everything stands, and what is wrong with it.
import type { Plan } from '@firm-needle/core/procedure';
import { spreadFactor, type Random, type RigState, type Thread } from '@firm-needle/core/rig';
import { inches, read } from './parts.js';

export const FAULTS = {
  'supply-high': 'Supply regulator set high',
  'pipe-small': 'Pipe too small',
  'supply-seat': 'Supply regulator does not shut',
  seat: 'Appliance regulator does not shut',
  vent: 'Vent of the regulator blocked',
  'manifold-off': 'Manifold set elsewhere',
  'low-dial': 'Low-gas dial off',
  'high-dial': 'High-gas dial off',
  'air-dial': 'Combustion air dial off',
  'main-dial': 'Main air dial off',
  'fan-dirty': 'Fan or filter dirty',
  'welded-low': 'Low-gas switch welded',
  'welded-high': 'High-gas switch welded',
  'air-stuck': 'Combustion air switch stuck made',
  'loose-dial': 'Low-gas dial loose',
  water: 'Water in the tubing',
  'port-leaks': 'A joint bubbles',
  'gas-about': 'Gas leaks in the room',
  'burns-badly': 'Burns badly',
  'zero-off': 'Gas manometer zero off',
};

export type Fault = keyof typeof FAULTS;

export interface State extends RigState {
  /** Gauge, Pa: at the appliance, after its regulator, and in the air tube. */
  supply: number;
  after: number;
  tube: number;
  /** What the supply and the appliance regulator are set to, Pa. */
  supplySet: number;
  afterSet: number;
  /** Where the switches really trip, Pa. */
  low: number;
  high: number;
  air: number;
  main: number;
  /** Where each trips this once. */
  lowNow: number;
  highNow: number;
  airNow: number;
  mainNow: number;
  /** Where the dials stand. */
  dials: Record<string, number>;
  latched: 0 | 1;
  contacts: [number, number, number, number];
  /** What was to be brought to its point stood open from the start. */
  barred: 0 | 1;
  /** Which switch was watched last, for what it trips at is drawn anew. */
  watched: number;
  out: number;
  metered: number;
  lastTube: number;
}

/** What of an installation stays as it is: pressures Pa, times s. */
export interface Device {
  readonly droop: number;
  readonly rise: number;
  readonly pipe: number;
  readonly afterDroop: number;
  readonly afterRise: number;
  readonly lag: number;
  readonly fan: number;
  readonly mainFan: number;
  readonly nominal: number;
  readonly nominalSupply: number;
  readonly gains: Readonly<Record<string, number>>;
  readonly creeps: number;
  readonly waterHead: number;
  readonly turnS: number;
  readonly lowBefore: boolean;
  readonly highBefore: boolean;
  readonly behind: boolean;
  readonly bare: boolean;
  readonly thread: Thread;
}

interface Draws {
  /** Of this installation, and of its fitted device alone. */
  readonly random: Random;
  readonly own: Random;
  readonly size: number;
  readonly has: (fault: Fault) => boolean;
}
type Standing = Omit<State, 'time' | 'zeroed' | 'stands' | 'screws' | 'spare'>;

export function hiddenIn(
  plan: Plan,
  { random, own, size, has }: Draws,
): { readonly device: Device; readonly state: Standing; readonly zero: number } {
  const { v, choice } = read(plan);
  const between = (a: number, b: number): number => a + (b - a) * random.next();
  const side = (): number => (random.normal() < 0 ? -1 : 1);
  const lowBefore = choice.lowTap === 'before';
  const highBefore = choice.highTap === 'before';
  const behind = choice.lockTap === 'behind' && plan.variant === 'train';
  const bare = plan.variant === 'furnace';
  const rest = v.static ?? inches(12);
  const nominal = v.manifold ?? inches(3.5);
  const nominalSupply = rest;
  const droop = inches(0.2 + 0.4 * own.next());
  const rise = inches(0.3 + 0.6 * own.next());
  const pipe = inches(0.2 + 0.3 * own.next()) + (has('pipe-small') ? inches(between(2.6, 3.4)) * size : 0);
  const afterDroop = inches(0.05 + 0.15 * own.next());
  const afterRise = inches(0.4 + 0.6 * own.next());
  const lag = 0.3 + 0.5 * own.next();
  const proves = v.airTrip ?? inches(0.5);
  const fan = has('fan-dirty')
    ? proves * (1 + between(0.04, 0.09) / size)
    : Math.max(proves * (1.9 + 0.5 * own.next()), inches(0.6));
  const mainFan = (v.mainTrip ?? inches(1)) * (1.7 + 0.4 * own.next());
  const gains = {
    supply: inches(1.4) * spreadFactor(own, 0.3),
    appliance: inches(0.8) * spreadFactor(own, 0.35),
    low: spreadFactor(own, 0.06),
    high: spreadFactor(own, 0.06),
    air: spreadFactor(own, 0.06),
    main: spreadFactor(own, 0.06),
  };
  const creeps = inches(between(0.25, 0.5) / 60) * size;
  const waterHead = inches(between(0.5, 1.1)) * size * side();
  const turnS = between(30, 45);
  const thread = { play: 0.04 * own.next(), travel: 9 };
  const high = has('supply-high') ? inches(between(2.2, 3.4)) * size : inches(0.12) * random.normal();
  const off = has('manifold-off')
    ? inches(between(0.7, 1.2)) * size * side()
    : inches(0.06) * random.normal();
  const gas = (fault: 'low-dial' | 'high-dial'): number =>
    has(fault) ? inches(between(1.3, 1.7)) * size * side() : inches(0.1) * random.normal();
  const air = (fault: 'air-dial' | 'main-dial'): number =>
    has(fault) ? -inches(between(0.26, 0.34)) * size : inches(0.02) * random.normal();
  const [low, lift, proved, main] = [
    v.lowGas ?? inches(2),
    v.highGas ?? inches(8),
    v.airTrip ?? inches(0.5),
    v.mainTrip ?? inches(1),
  ];
  // What a dial says and what it does differ by its own offset, which nobody put there.
  const claims = {
    low: inches(0.4) * own.normal(),
    high: inches(0.4) * own.normal(),
    air: inches(0.08) * own.normal(),
    main: inches(0.08) * own.normal(),
  };
  const state: Standing = {
    supply: rest + high,
    after: nominal + afterDroop + off + afterRise,
    tube: 0,
    supplySet: rest - rise + high,
    afterSet: nominal + afterDroop + off,
    low: Math.max(inches(0.3), low + gas('low-dial')),
    high: lift + gas('high-dial'),
    air: Math.max(inches(0.08), proved + air('air-dial')),
    main: Math.max(inches(0.1), main + air('main-dial')),
    lowNow: low,
    highNow: lift,
    airNow: proved,
    mainNow: main,
    dials: {
      low: low + claims.low,
      high: lift + claims.high,
      air: proved + claims.air,
      main: main + claims.main,
    },
    latched: 0,
    contacts: [1, 1, 1, 1],
    barred: 0,
    watched: 0,
    out: 0,
    metered: 0,
    lastTube: 0,
    handles: {
      power: 1,
      cock: 1,
      burner: 0,
      stage: 0,
      ports: 0,
      input: 0,
      valve: 0,
      bleed: 0,
      bulb: 0,
      fan: 0,
      tube: 0,
      let: 0,
      meter: 0,
      dial: 0,
      blown: 0,
      vent: 0,
    },
  };
  const zero = has('zero-off') ? inches(between(0.3, 0.6)) * size * side() : 0;
  return {
    device: {
      droop,
      rise,
      pipe,
      afterDroop,
      afterRise,
      lag,
      fan,
      mainFan,
      nominal,
      nominalSupply,
      gains,
      creeps,
      waterHead,
      turnS,
      lowBefore,
      highBefore,
      behind,
      bare,
      thread,
    },
    state,
    zero,
  };
}
