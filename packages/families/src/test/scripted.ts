import { type Family, typePlate, makePlan, draftOf, startJob } from '@firm-needle/core/family';
import { expectOk } from '@firm-needle/core/result';
import { ScriptedTechnician } from '@firm-needle/core/script';
import { WATER, AMBIENT } from '../testing.js';

/** A whole job by the scripted technician, as plain JSON. */
export function script(family: Family, seed: number, fault: string): readonly unknown[] {
  const plates: Readonly<Record<string, Readonly<Record<string, string>>>> = {
    'well-switch': { tankVolume: '280 L', pumpFlow: '33 L/min', relief: '81 psi' },
    'fire-relief': {
      churn: '128 psi',
      suctionMost: '24 psi',
      suctionLeast: '10 psi',
      rating: '175 psi',
      perTurn: '27 psi',
    },
    'spa-flow-switch': {},
  };
  const plate = Object.fromEntries(
    Object.entries(plates[family.meta.id] ?? {}).map(([id, t]) => [id, expectOk(typePlate(family, id, t))]),
  );
  const plan = makePlan(family, draftOf(family, family.variants[0]?.id ?? '', plate));
  const gauges = Object.fromEntries(
    family.slots.map((s) => [s.id, { ...WATER, id: s.id, label: s.id, upper: 300, medium: s.medium }]),
  );
  const started = expectOk(
    startJob(family, {
      plan,
      site: { id: 's', name: 'A site', altitude_m: 300 },
      control: { id: 'c', name: 'A control', equipment: 'Something' },
      technician: 'A technician',
      permits: family.permits.map((p) => p.id),
      gauges,
      rule: 'guarded',
    }),
  );
  const rig = family.rig.create({ plan, seed, ambient: AMBIENT, faults: fault ? [fault] : [] });
  const { log } = new ScriptedTechnician(family, rig, started, { job: 'job' }).run();
  return JSON.parse(JSON.stringify(log.events)) as unknown[];
}
export type Bag = Record<string, unknown>;
