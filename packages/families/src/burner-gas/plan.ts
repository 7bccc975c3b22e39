import type { LadderPart, PlanFigure } from '@firm-needle/core/family';
import type { Plan } from '@firm-needle/core/procedure';
import { fromCanonical, showWithUnit, toCanonical } from '@firm-needle/core/quantity';
import type { Limits } from '@firm-needle/core/verdict';
import type { Gathering } from '../define/index.js';
import {
  AIR_DIVISION,
  DOUBT,
  GAS_DIVISION,
  hasManifold,
  inches,
  MANIFOLD_HALF,
  parts,
  read,
  STATIC_HALF,
  switchesOf,
  TRIED_TO,
} from './parts.js';
import { derated, heightOf } from './reckoned.js';

const said = (pa: number, step = 0.1): string => showWithUnit(pa, { unit: 'inH2O', step });
/** A burner is never brought so far over its most [assumed]. */
const OVERFIRED = inches(1.5);
type Planned = Pick<Plan, 'values' | 'plate' | 'choices' | 'variant' | 'school'>;

export const gasDivision = (plan: Pick<Plan, 'plate'>): number =>
  plan.plate['gasDivision']?.value ?? GAS_DIVISION;
export const airDivision = (plan: Pick<Plan, 'plate'>): number =>
  plan.plate['airDivision']?.value ?? AIR_DIVISION;
export const divisionOf = (plan: Pick<Plan, 'plate'>, setting: string): number =>
  setting === 'lowGas' || setting === 'highGas' ? gasDivision(plan) : airDivision(plan);

const halfOf = (chosen: Pick<Plan, 'choices'>): number =>
  MANIFOLD_HALF[chosen.choices?.['fuel'] === 'propane' ? 'propane' : 'natural'];

export function limits(
  values: Readonly<Record<string, number>>,
  plate: Plan['plate'],
  chosen: Pick<Plan, 'variant' | 'school' | 'choices'>,
): Readonly<Record<string, Limits>> {
  const { static: rest, manifold } = values;
  const out: Record<string, Limits> = {};
  const ceiling = plate['ceiling']?.value ?? Infinity;
  if (rest !== undefined)
    out['static'] = { lower: rest - STATIC_HALF, upper: Math.min(rest + STATIC_HALF, ceiling) };
  if (plate['flowLeast']) out['supplyFlow'] = { lower: plate['flowLeast'].value };
  if (manifold !== undefined && hasManifold(chosen))
    out['manifold'] = {
      lower: plate['manifoldLow']?.value ?? manifold - halfOf(chosen),
      upper: plate['manifoldHigh']?.value ?? manifold + halfOf(chosen),
    };
  if (plate['lockMost']) out['lockUp'] = { upper: plate['lockMost'].value };
  for (const x of switchesOf(chosen)) {
    const value = values[x];
    if (value === undefined) continue;
    const half = divisionOf({ plate }, x);
    const least = x === 'airTrip' ? (plate['airLeast']?.value ?? 0) : 0;
    out[x] = { lower: Math.min(value, Math.max(value - half, least)), upper: value + half };
  }
  return out;
}

/** Nothing is brought nearer to what it must not reach than its manometer is doubtful. */
export function never(plan: Plan, setting: string): number {
  const { plate } = read(plan);
  if (setting === 'static' || setting === 'supplyFlow') return (plate.ceiling ?? Infinity) - DOUBT;
  // A little over its most is seen at once and brought down; what it locks up at is where it must not come as it burns.
  if (setting === 'manifold')
    return plate.lockMost ?? (plan.limits['manifold']?.upper ?? Infinity) + OVERFIRED;
  if (setting === 'lockUp') return plate.lockMost ?? Infinity;
  return setting === 'highGas' ? tried(plan) : Infinity;
}
/** So high is a high-gas switch tried, Pa. */
export const tried = (plan: Pick<Plan, 'plate' | 'values'>): number =>
  TRIED_TO * Math.max(plan.plate['lockMost']?.value ?? 0, plan.values['highGas'] ?? 0);

export function worst(plan: Plan, slot: string): number {
  const { v, plate } = read(plan);
  if (slot === 'air') return Math.max(v.airTrip ?? 0, v.mainTrip ?? 0) * 2;
  return Math.max(v.static ?? 0, plate.ceiling ?? 0, switchesOf(plan).length > 0 ? tried(plan) : 0);
}

export function figures(plan: Plan, ambient: number): readonly PlanFigure[] {
  const { plate } = read(plan);
  const part = derated(heightOf(ambient));
  return plate.input === undefined || part > 0.999
    ? []
    : [
        {
          id: 'derated',
          title: 'Input at this height',
          dimension: 'power',
          unit: 'Btu/h',
          value: rounded(plate.input * part),
          step: 100,
          because: 'By its orifice and the book, never by the manifold.',
        },
      ];
}

/** Three figures of Btu an hour. */
const rounded = (w: number): number => toCanonical(Number(fromCanonical(w, 'Btu/h').toPrecision(3)), 'Btu/h');

const missing = (plan: Plan, { lacks }: Gathering): void => {
  for (const p of parts.plate)
    if (p.required && plan.plate[p.id] === undefined)
      lacks(
        'plate-missing',
        p.id,
        `${p.title} is not on the plate yet.`,
        p.id === 'page'
          ? 'Open the book, and type the page its figures stand on.'
          : 'Read it from the equipment and type it.',
      );
};

/** What a tap sees as it burns: the least, and the most that stands there, Pa; undefined where the plan does not say. */
function seenAt(
  plan: Planned,
  tap: 'lowTap' | 'highTap',
): { least?: number | undefined; most?: number | undefined } {
  const { v, plate, choice } = read(plan);
  if (choice[tap] === 'before') return { least: plate.flowLeast, most: v.static };
  return hasManifold(plan) ? { least: plan.values['manifold'], most: v.manifold } : {};
}

export function check(plan: Plan, _: number, found: Gathering): void {
  const { judge: add } = found;
  const { v, plate, choice } = read(plan);
  missing(plan, found);
  const { static: rest, manifold } = v;
  if (rest !== undefined && plate.ceiling !== undefined && rest > plate.ceiling - DOUBT)
    add(
      'refuse',
      'over-ceiling',
      'static',
      `The supply at ${said(rest)} is not under the valve’s most, ${said(plate.ceiling)}, by the ${said(DOUBT)} that a manometer is doubtful.`,
      'Lower it. What the valve bears is never raised.',
    );
  if (hasManifold(plan)) manifoldOf(plan, found);
  if (plate.flowLeast !== undefined && rest !== undefined && plate.flowLeast > rest)
    add(
      'refuse',
      'least-over-static',
      'static',
      `At full fire ${said(plate.flowLeast)} are wanted, and at rest there are ${said(rest)}.`,
      'Raise the supply, or look the figure up once more.',
    );
  if (manifold !== undefined && hasManifold(plan) && rest !== undefined && manifold >= rest)
    add(
      'refuse',
      'manifold-over-supply',
      'manifold',
      `The manifold at ${said(manifold)} is not under the supply at ${said(rest)}: nothing would flow.`,
      'Lower it, or look both up once more.',
    );
  const propane = choice.fuel === 'propane';
  if (manifold !== undefined && hasManifold(plan) && plate.manifoldHigh === undefined) {
    const [from, to] = propane ? [8, 12] : [2, 5];
    if (manifold < inches(from) || manifold > inches(to))
      add(
        'warn',
        'unlike-fuel',
        'manifold',
        `${said(manifold)} is unusual for ${propane ? 'propane: 10 to 11' : 'natural gas: 3.5'} is common.`,
        'Common practice, no source: the book’s page decides. Is the fuel right?',
      );
  }
  switches(plan, found);
}

function manifoldOf(plan: Plan, { judge: add }: Gathering): void {
  const { v, plate } = read(plan);
  const { manifoldLow: low, manifoldHigh: high } = plate;
  if (low !== undefined && high !== undefined && low >= high)
    add(
      'refuse',
      'book-crossed',
      'manifold',
      `The book’s least ${said(low)} is not under its most ${said(high)}.`,
      'Look them up once more.',
    );
  else if (
    v.manifold !== undefined &&
    ((low !== undefined && v.manifold < low) || (high !== undefined && v.manifold > high))
  )
    add(
      'refuse',
      'manifold-outside-book',
      'manifold',
      `The manifold at ${said(v.manifold)} is outside the book’s ${low === undefined ? '' : `${said(low)} to `}${high === undefined ? 'least' : said(high)}.`,
      'Plan what the book allows.',
    );
  if (plate.lockMost !== undefined && v.manifold !== undefined && plate.lockMost <= v.manifold)
    add(
      'refuse',
      'lock-under-manifold',
      'manifold',
      `It may lock up at ${said(plate.lockMost)}, and burns at ${said(v.manifold)}.`,
      'Look both up once more.',
    );
}

/** Low gas under the least that is normal, high gas over the most, air under what the fan gives. */
function switches(plan: Plan, { judge: add }: Gathering): void {
  const { v, plate } = read(plan);
  if (switchesOf(plan).length === 0) return;
  const margin = gasDivision(plan) / 2 + DOUBT;
  const { lowGas, highGas, airTrip } = v;
  const low = seenAt(plan, 'lowTap').least;
  const high = seenAt(plan, 'highTap').most;
  if (lowGas !== undefined && low !== undefined) {
    if (lowGas >= low)
      add(
        'refuse',
        'low-over-normal',
        'lowGas',
        `Low gas at ${said(lowGas)} is not under what its tap sees as it burns, ${said(low)}.`,
        'Lower it, or look at which tap it feels.',
      );
    else if (lowGas > low - margin)
      add(
        'warn',
        'low-thin',
        'lowGas',
        `Low gas stands only ${said(low - lowGas)} under what its tap sees.`,
        'It may drop out in normal use.',
      );
  }
  if (highGas !== undefined && high !== undefined) {
    if (highGas <= high)
      add(
        'refuse',
        'high-under-normal',
        'highGas',
        `High gas at ${said(highGas)} is not over what its tap sees, ${said(high)}.`,
        'Raise it, or look at which tap it feels.',
      );
    else if (highGas < high + margin)
      add(
        'warn',
        'high-thin',
        'highGas',
        `High gas stands only ${said(highGas - high)} over what its tap sees.`,
        'It may trip in normal use.',
      );
  }
  if (lowGas !== undefined && highGas !== undefined && lowGas >= highGas)
    add(
      'refuse',
      'low-over-high',
      'lowGas',
      `Low gas at ${said(lowGas)} is not under high gas at ${said(highGas)}.`,
      'One of them is wrong.',
    );
  if (airTrip !== undefined && plate.airLeast !== undefined && airTrip < plate.airLeast)
    add(
      'refuse',
      'air-under-proving',
      'airTrip',
      `At ${said(airTrip, 0.01)} there is not yet air enough to burn: the book wants ${said(plate.airLeast, 0.01)} proved.`,
      'Raise it. It is never set under its proving level.',
    );
}

/** Two scales: the air is a tenth of the gas. */
export function ladder(plan: Plan): readonly LadderPart[] {
  const { v, plate } = read(plan);
  const out: LadderPart[] = [];
  const round = (pa: number): string => said(pa).replace(/\.0(?=\s)/, '');
  const mark = (setting: string, value: number | undefined, title: string, scale: 'gas' | 'air'): void => {
    if (value === undefined) return;
    const { lower, upper } = plan.limits[setting] ?? {};
    if (lower !== undefined && upper !== undefined) out.push({ part: 'band', setting, lower, upper, scale });
    out.push({ part: 'mark', setting, value, title, movable: true, scale });
  };
  if (plate.ceiling !== undefined)
    out.push({
      part: 'zone',
      lower: plate.ceiling,
      upper: Infinity,
      title: `Valve ${round(plate.ceiling)}`,
      scale: 'gas',
    });
  mark('static', v.static, 'Supply', 'gas');
  if (hasManifold(plan)) mark('manifold', v.manifold, 'Manifold', 'gas');
  if (switchesOf(plan).length === 0) return out;
  mark('highGas', v.highGas, 'High gas', 'gas');
  mark('lowGas', v.lowGas, 'Low gas', 'gas');
  if (plate.airLeast !== undefined)
    out.push({
      part: 'zone',
      lower: 0,
      upper: plate.airLeast,
      title: 'no proof of air',
      below: true,
      scale: 'air',
    });
  mark('mainTrip', v.mainTrip, 'Main air', 'air');
  mark('airTrip', v.airTrip, 'Combustion air', 'air');
  return out;
}
