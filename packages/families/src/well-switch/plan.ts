import type { Gathering } from '../define/index.js';
import { worstAir } from '../shared/tank.js';
import type { LadderPart, PlanFigure } from '@firm-needle/core/family';
import type { Plan } from '@firm-needle/core/procedure';
import { showWithUnit } from '@firm-needle/core/quantity';
import { drawdown } from '@firm-needle/core/reckon';
import type { Limits } from '@firm-needle/core/verdict';
import { reliefAtLeast } from '../shared/relief.js';
import { HALF_BAND, parts, PRECHARGE_UNDER, psi, RELIEF_MARGIN, SHORTEST_RUN_S, read } from './parts.js';

const say = (pa: number): string => showWithUnit(pa, { unit: 'psi', step: 0.1 });

export const limits = (values: Readonly<Record<string, number>>): Readonly<Record<string, Limits>> => {
  const out: Record<string, Limits> = { runTime: { lower: SHORTEST_RUN_S } };
  for (const [id, half] of Object.entries(HALF_BAND)) {
    const v = values[id];
    if (v !== undefined) out[id] = { lower: v - half, upper: v + half };
  }
  return out;
};

const plateOf = (plan: Plan, id: string): number | undefined => plan.plate[id]?.value;
const valueOf = (plan: Plan, id: string): number => plan.values[id] ?? NaN;

export function never(plan: Plan, setting: string): number {
  if (setting === 'precharge') return plateOf(plan, 'airMax') ?? plateOf(plan, 'relief') ?? psi(100);
  const relief = plateOf(plan, 'relief');
  return Math.min(
    relief === undefined ? psi(75) : reliefAtLeast(relief),
    plateOf(plan, 'weakest') ?? Infinity,
  );
}

export const worst = (plan: Plan, slot: string): number =>
  slot === 'air' ? worstAir(plan) : (plateOf(plan, 'relief') ?? psi(75)) * 1.1;

export function figures(plan: Plan, ambient: number): readonly PlanFigure[] {
  const volume = plateOf(plan, 'tankVolume');
  const flow = plateOf(plan, 'pumpFlow');
  const [cutIn, cutOut, precharge] = ['cutIn', 'cutOut', 'precharge'].map((s) => valueOf(plan, s)) as [
    number,
    number,
    number,
  ];
  if (volume === undefined || ![cutIn, cutOut, precharge].every(Number.isFinite)) return [];
  const given = drawdown(volume, precharge, cutIn, cutOut, ambient);
  const out: PlanFigure[] = [
    {
      id: 'drawdown',
      title: 'Drawdown',
      dimension: 'volume',
      unit: 'L',
      value: given,
      step: 0.1,
      because: `Water between cut-out and cut-in at ${showWithUnit(ambient, { unit: 'kPa', step: 0.1 })} ambient.`,
    },
  ];
  if (flow !== undefined)
    out.push({
      id: 'runTime',
      title: 'Run time expected',
      dimension: 'time',
      unit: 's',
      value: given / flow,
      step: 1,
      because: 'Drawdown over pump flow, nothing drawn meanwhile.',
    });
  return out;
}

export function check(plan: Plan, ambient: number, { judge: add }: Gathering): void {
  const [cutIn, cutOut, differential, precharge] = ['cutIn', 'cutOut', 'differential', 'precharge'].map((s) =>
    valueOf(plan, s),
  ) as [number, number, number, number];
  for (const p of parts.plate)
    if (p.required && plateOf(plan, p.id) === undefined)
      add(
        'refuse',
        'plate-missing',
        p.id,
        `${p.title} is not on the plate yet.`,
        'Read it from the equipment and type it.',
      );
  if (!(cutOut > cutIn))
    add(
      'refuse',
      'cut-out-not-above-cut-in',
      'cutOut',
      `Cut-out ${say(cutOut)} is not above cut-in ${say(cutIn)}.`,
      `Raise cut-out above ${say(cutIn)} or lower cut-in.`,
    );
  else if (differential < psi(10))
    add(
      'warn',
      'differential-narrow',
      'differential',
      `A differential of ${say(differential)} cycles the pump often.`,
      '20 psi is the norm.',
    );
  if (precharge > cutIn)
    add(
      'refuse',
      'precharge-above-cut-in',
      'precharge',
      `Precharge ${say(precharge)} is above cut-in ${say(cutIn)}: the tank is empty before the pump starts.`,
      `Set it to ${say(cutIn - PRECHARGE_UNDER)}, two under cut-in.`,
    );
  else if (Math.abs(cutIn - PRECHARGE_UNDER - precharge) > HALF_BAND.precharge)
    add(
      'warn',
      'precharge-off-rule',
      'precharge',
      `Precharge ${say(precharge)} is not two under cut-in (${say(cutIn - PRECHARGE_UNDER)}).`,
    );
  const relief = plateOf(plan, 'relief');
  const drive =
    'Lower cut-out. Where that pressure is needed, propose a constant-pressure drive; never fit a higher relief to make room.';
  if (relief !== undefined) {
    if (relief <= cutOut)
      add(
        'refuse',
        'relief-below-cut-out',
        'cutOut',
        `The relief opens at ${say(relief)}, not above cut-out ${say(cutOut)}.`,
        drive,
      );
    else if (relief - cutOut < RELIEF_MARGIN - 1)
      add(
        'refuse',
        'relief-margin',
        'cutOut',
        `Cut-out ${say(cutOut)} leaves ${say(relief - cutOut)} under the relief; 10 psi is the least.`,
        drive,
      );
  }
  const weakest = plateOf(plan, 'weakest');
  if (weakest !== undefined && weakest < cutOut + RELIEF_MARGIN - 1)
    add(
      'refuse',
      'weakest-part',
      'cutOut',
      `The weakest part is rated ${say(weakest)}; cut-out ${say(cutOut)} comes too near.`,
      drive,
    );
  const airMax = plateOf(plan, 'airMax');
  if (airMax !== undefined && precharge > airMax)
    add(
      'refuse',
      'air-limit',
      'precharge',
      `Precharge ${say(precharge)} is above the tank’s air limit ${say(airMax)}.`,
    );
  if (cutOut > psi(80))
    add(
      'warn',
      'code-limit',
      'cutOut',
      `Above 80 psi common plumbing codes ask for a reducing valve (IPC 604.8, UPC 608.2, from memory).`,
    );
  const run = figures(plan, ambient).find((f) => f.id === 'runTime');
  const both = plan.school === 'set-both';
  if (both && read(plan).choice.both === 'none')
    add(
      'refuse',
      'reason-missing',
      'differential',
      'Setting both points moves the factory differential: the reason is not said.',
      'Choose the reason, or leave the differential.',
    );
  if (run && cutOut > cutIn && run.value < SHORTEST_RUN_S)
    add(
      both ? 'refuse' : 'warn',
      'run-time-short',
      'runTime',
      `The pump would run ${Math.round(run.value)} s a cycle; ${SHORTEST_RUN_S} s is the least that cools it.`,
      'A larger tank or a wider differential lengthens the run.',
    );
}

export function ladder(plan: Plan): readonly LadderPart[] {
  const v = plan.values;
  const out: LadderPart[] = [];
  const relief = plateOf(plan, 'relief');
  if (relief !== undefined)
    out.push({
      part: 'zone',
      lower: relief,
      upper: Infinity,
      title: `Relief ${Math.round(relief / psi(1))}`,
    });
  const weakest = plateOf(plan, 'weakest');
  if (weakest !== undefined)
    out.push({
      part: 'zone',
      lower: weakest,
      upper: Infinity,
      title: `Weakest part ${Math.round(weakest / psi(1))}`,
    });
  for (const id of ['cutIn', 'cutOut', 'precharge'] as const) {
    const value = v[id];
    if (value === undefined) continue;
    const title = id === 'cutIn' ? 'Cut-in' : id === 'cutOut' ? 'Cut-out' : 'Precharge';
    out.push({ part: 'band', setting: id, lower: value - HALF_BAND[id], upper: value + HALF_BAND[id] });
    out.push({
      part: 'mark',
      setting: id,
      value,
      title,
      movable: true,
      ...(id === 'precharge' ? { hung: true } : {}),
    });
  }
  if (v['cutIn'] !== undefined && v['cutOut'] !== undefined)
    out.push({
      part: 'bracket',
      setting: 'differential',
      from: v['cutIn'],
      to: v['cutOut'],
      title: 'Differential',
    });
  return out;
}
