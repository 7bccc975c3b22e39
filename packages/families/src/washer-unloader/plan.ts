import type { Gathering } from '../define/index.js';
import type { LadderPart, PlanFigure } from '@firm-needle/core/family';
import type { Plan } from '@firm-needle/core/procedure';
import { fromCanonical, showWithUnit, toCanonical } from '@firm-needle/core/quantity';
import { nozzleNumber, nozzlePressure } from '@firm-needle/core/reckon';
import type { Limits } from '@firm-needle/core/verdict';
import {
  DIAGNOSE_SPIKE,
  GAUGE_FACTOR,
  HALF_BAND,
  LEAST_SPIKE,
  lossOver,
  MOST_SPIKE,
  psi,
  read,
  USUAL_SPIKE,
} from './parts.js';

const say = (p: number): string => showWithUnit(p, { unit: 'psi', step: 1 });
/** Pressure that the whole flow makes through a nozzle given by its flow at 4000 psi, Pa; 0 where one is not known. */
export function fullFlowPressure(flow: number, nozzle: number): number {
  const p = nozzlePressure(fromCanonical(nozzle, 'gpm'), flow);
  return p.ok ? p.value : 0;
}

/** Nozzle that passes a flow at a pressure, as its flow at 4000 psi, m³/s; 0 where one is not known. */
export function nozzleFor(flow: number, pressure: number): number {
  const n = nozzleNumber(flow, pressure);
  return n.ok ? toCanonical(n.value, 'gpm') : 0;
}

export const limits = (
  values: Readonly<Record<string, number>>,
  plate: Plan['plate'],
): Readonly<Record<string, Limits>> => {
  const band = (id: string): Limits => {
    const v = values[id];
    return v === undefined ? {} : { lower: v - HALF_BAND, upper: v + HALF_BAND };
  };
  const weakest = plate['weakest']?.value;
  return {
    head: band('head'),
    working: band('working'),
    spike: { lower: LEAST_SPIKE, upper: MOST_SPIKE },
    trapped: weakest === undefined ? {} : { upper: weakest },
  };
};

/** The working pressure never comes so near to the weakest part that what is trapped over it could pass it. */
export function never(plan: Plan, setting: string): number {
  const weakest = plan.plate['weakest']?.value ?? Infinity;
  const loss = lossOver(plan);
  return setting === 'trapped'
    ? weakest
    : weakest - (plan.values['spike'] ?? USUAL_SPIKE) - loss.value - loss.half;
}

export const worst = (plan: Plan): number =>
  Math.max(GAUGE_FACTOR * (plan.plate['rating']?.value ?? 0), (plan.values['trapped'] ?? 0) + psi(100));

export function check(plan: Plan, _: number, { judge: add }: Gathering): void {
  const { v, plate } = read(plan);
  const { head, trapped, spike } = v;
  const { rating, weakest, springMost: most, flow, nozzle } = plate;
  const { port, bypass } = read(plan).choice;
  if (port === 'before')
    add(
      'refuse',
      'before-check',
      'trapped',
      'Before the unloader’s check a gauge reads near nothing in bypass: what is trapped is not seen there.',
      'Fit it after the check, or at the gun.',
    );
  if (bypass === 'other')
    add(
      'refuse',
      'bypass-return',
      'head',
      'The bypass must return to a place without pressure; against pressure the unloader cannot open.',
      'Lead it to the inlet or the tank first.',
    );
  if (head === undefined) return;
  if (rating !== undefined && head > rating)
    add(
      'refuse',
      'above-rating',
      'head',
      `${say(head)} is above the pump’s rating ${say(rating)}.`,
      'Plan at most what the pump is rated for.',
    );
  if (weakest !== undefined && trapped !== undefined && trapped > weakest)
    add(
      'refuse',
      'spike-above-weakest',
      'head',
      `Trapped, ${say(trapped)} stands on a part rated ${say(weakest)}.`,
      'Lower the working pressure, or fit a stronger part.',
    );
  if (spike !== undefined && spike >= DIAGNOSE_SPIKE)
    add(
      'warn',
      'spike-planned-large',
      'spike',
      `${say(spike)} over working is planned.`,
      'Usual are 300 to 400 psi; more wants a reason.',
    );
  if (flow !== undefined && nozzle !== undefined && fullFlowPressure(flow, nozzle) < head)
    add(
      'refuse',
      'nozzle-too-big',
      'head',
      `All of the flow makes only ${say(fullFlowPressure(flow, nozzle))} through this nozzle.`,
      `For ${say(head)} it takes a number ${(nozzleFor(flow, head) / toCanonical(1, 'gpm')).toFixed(1)}.`,
    );
  if (most !== undefined && head > most)
    add(
      'refuse',
      'spring-too-weak',
      'head',
      `The unloader’s spring reaches ${say(most)}.`,
      'It takes another spring; its colour means nothing between makers.',
    );
}

export function figures(plan: Plan): readonly PlanFigure[] {
  const { values, plate } = plan;
  const out: PlanFigure[] = [];
  const [flow, nozzle, head] = [plate['flow']?.value, plate['nozzle']?.value, values['head']];
  if (flow !== undefined && nozzle !== undefined)
    out.push({
      id: 'fullFlow',
      title: 'With no water bypassed',
      dimension: 'pressure',
      unit: 'psi',
      value: fullFlowPressure(flow, nozzle),
      step: 10,
      because: 'Q = N √(P/4000 psi): above this only the spike grows',
    });
  if (flow !== undefined && head !== undefined)
    out.push({
      id: 'nozzle',
      title: 'Nozzle that just fits',
      dimension: 'flow',
      unit: 'gpm',
      value: nozzleFor(flow, head),
      step: 0.1,
      because: 'its flow at 4000 psi',
    });
  const loss = lossOver(plan);
  if (loss.value > 0)
    out.push({
      id: 'loss',
      title: 'Lost to the gauge',
      dimension: 'pressure',
      unit: 'psi',
      value: loss.value,
      step: 1,
      because: `${loss.because}; give or take ${say(loss.half)}, with water moving only`,
    });
  return out;
}

/** The spike stands on the working pressure; both below the weakest part. */
export function ladder(plan: Plan): readonly LadderPart[] {
  const out: LadderPart[] = [];
  const { values, plate } = plan;
  const weakest = plate['weakest']?.value;
  if (weakest !== undefined)
    out.push({
      part: 'zone',
      lower: weakest,
      upper: Infinity,
      title: `Weakest part ${Math.round(weakest / psi(1))}`,
    });
  const most = plate['springMost']?.value;
  if (most !== undefined) out.push({ part: 'spine', lower: 0, upper: most, title: 'Spring' });
  const [head, working, trapped] = [values['head'], values['working'], values['trapped']];
  if (working !== undefined) {
    out.push({ part: 'band', setting: 'working', lower: working - HALF_BAND, upper: working + HALF_BAND });
    if (head !== undefined && head - working > psi(1)) {
      out.push({ part: 'mark', setting: 'head', value: head, title: 'At the head', movable: true });
      out.push({ part: 'mark', setting: 'working', value: working, title: 'Working', movable: false });
    } else out.push({ part: 'mark', setting: 'head', value: working, title: 'Working', movable: true });
  }
  if (trapped !== undefined && head !== undefined) {
    out.push({
      part: 'mark',
      setting: 'trapped',
      value: trapped,
      title: 'Trapped',
      movable: false,
      hung: true,
    });
    out.push({ part: 'bracket', setting: 'spike', from: head, to: trapped, title: 'Spike' });
  }
  return out;
}
