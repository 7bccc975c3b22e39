// Shared by this family's tests: a gauge to check, the things it is held against, and whole scripted checks.
import { draftOf, makePlan, startJob } from '@firm-needle/core/family';
import type { Gauge } from '@firm-needle/core/gauge';
import type { Plan, StartedBody } from '@firm-needle/core/procedure';
import { ambientAt } from '@firm-needle/core/quantity';
import { expectOk } from '@firm-needle/core/result';
import { ScriptedTechnician, type Manner, type ScriptedJob } from '@firm-needle/core/script';
import { family as gaugeCheck } from './index.js';

export const HIGH_SIDE: Gauge = {
  id: 'h',
  label: 'H-1',
  kind: 'bourdon',
  unit: 'psi',
  lower: 0,
  upper: 500,
  division: 5,
  readable: 0.5,
  accuracy: { standard: 'B40.100', grade: '1A' },
  medium: 'refrigerant',
};
export const DRAUGHT: Gauge = {
  ...HIGH_SIDE,
  id: 'd',
  label: 'D-1',
  kind: 'diaphragm',
  unit: 'inH2O',
  upper: 20,
  division: 0.5,
  medium: 'air',
};
export const REFERENCE: Gauge = {
  ...HIGH_SIDE,
  id: 'r',
  label: 'R-1',
  kind: 'digital',
  division: 0.1,
  readable: 1,
  accuracy: { standard: 'stated', percentOfSpan: 0.1 },
};
export const COLUMN: Gauge = {
  ...REFERENCE,
  id: 'u',
  label: 'U-1',
  kind: 'u-tube',
  unit: 'inH2O',
  upper: 24,
  division: 0.1,
  readable: 0.5,
  column_C: 20,
};
export const THERMOMETER: Gauge = {
  id: 't',
  label: 'K-1',
  kind: 'thermometer',
  unit: 'degF',
  lower: -40,
  upper: 220,
  division: 0.1,
  readable: 1,
  accuracy: { standard: 'stated', percentOfSpan: 0.35 },
};

export const AMBIENT = expectOk(ambientAt(120));

export function checkPlan(variant: string, gauge: Gauge = HIGH_SIDE, school = 'zero-only'): Plan {
  return makePlan(gaugeCheck, {
    ...draftOf(gaugeCheck, variant, gaugeCheck.plateOf?.(gauge) ?? {}),
    school,
  });
}

export const checkStarted = (
  plan: Plan,
  gauge: Gauge = HIGH_SIDE,
  over: Partial<Parameters<typeof startJob>[1]> = {},
): StartedBody =>
  expectOk(
    startJob(gaugeCheck, {
      plan,
      site: { id: 's', name: 'A bench', altitude_m: 120 },
      control: { id: 'c', name: 'A gauge', equipment: 'Gauges' },
      technician: 'A technician',
      permits: [],
      gauges: {
        test: gauge,
        reference: gauge.unit === 'inH2O' ? COLUMN : REFERENCE,
        thermometer: THERMOMETER,
      },
      rule: 'guarded',
      ...over,
    }),
  );

export function scriptedCheck(
  plan: Plan,
  faults: readonly string[],
  seed: number,
  gauge: Gauge = HIGH_SIDE,
  manner?: Manner,
): ScriptedJob {
  const rig = gaugeCheck.rig.create({ plan, seed, ambient: AMBIENT, faults });
  return new ScriptedTechnician(gaugeCheck, rig, checkStarted(plan, gauge), manner ? { manner } : {}).run();
}
