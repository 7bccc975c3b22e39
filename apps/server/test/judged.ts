// Shared by what tries the judge: jobs as an honest device writes them, and as a forged request would.
import { chooseGauges, startJob } from '@firm-needle/core/family';
import type { Gauge } from '@firm-needle/core/gauge';
import type { JobBody, JobEvent, Plan, StartedBody } from '@firm-needle/core/procedure';
import { ambientAt, toCanonical } from '@firm-needle/core/quantity';
import { expectOk } from '@firm-needle/core/result';
import { ScriptedTechnician } from '@firm-needle/core/script';
import { loadFamily } from '@firm-needle/families';
import { v7 as uuid } from 'uuid';
import { Control } from '../src/database/models.js';
import { event, get, here, openStand, post } from './stand.js';

export const psi = (n: number): number => toCanonical(n, 'psi');

export interface ControlAnswer {
  readonly id: string;
  readonly family: string;
  readonly name: string;
  readonly due: string | null;
  readonly plan: Plan;
  readonly site: StartedBody['site'];
  readonly equipment: { readonly name: string };
}
export let control: ControlAnswer;
export let gauges: Gauge[];

/** The stand with a control to work on, and the register's gauges. */
export async function openJudged(): Promise<void> {
  await openStand();
  control = (await get(`/controls/${here.controlId}`)).body as ControlAnswer;
  gauges = ((await get('/gauges')).body as { items: Gauge[] }).items;
}

/** The start of a job as an honest device writes it. */
export async function started(over: Partial<StartedBody> = {}, on = control): Promise<StartedBody> {
  const family = await loadFamily(on.family);
  const picked = Object.fromEntries(
    chooseGauges(family, on.plan, gauges).flatMap((c) =>
      c.ranked[0] ? [[c.slot.id, c.ranked[0].gauge] as const] : [],
    ),
  );
  const body = expectOk(
    startJob(family, {
      plan: on.plan,
      site: on.site,
      control: { id: on.id, name: on.name, equipment: on.equipment.name },
      technician: 'I. Marrable',
      permits: ['mains'],
      gauges: picked,
      rule: 'guarded',
    }),
  );
  return { ...body, ...over };
}

/** Entries in a row, each after the one before. */
export function chained(
  job: string,
  bodies: readonly (JobBody | object)[],
  over: Partial<JobEvent> = {},
): JobEvent[] {
  let after: string | null = null;
  return bodies.map((body, i) => {
    const e = event(job, body as JobBody, { after, wall: new Date(Date.now() + i).toISOString(), ...over });
    after = e.id;
    return e;
  });
}

/** A whole honest job on the rig, as its device would send it. */
export async function honest(job: string, seed: number, body?: StartedBody): Promise<readonly JobEvent[]> {
  const start = body ?? (await started());
  const family = await loadFamily(start.family);
  const rig = family.rig.create({
    plan: start.plan,
    seed,
    ambient: expectOk(ambientAt(start.site.altitude_m)),
    faults: [],
  });
  const script = new ScriptedTechnician(family, rig, start, {
    job,
    author: here.me.id,
    device: 'test',
    from: Date.now() - 7200_000,
    makeId: uuid,
  });
  script.run();
  return script.log.events;
}

export const send = async (job: string, events: readonly JobEvent[], as = here.cookie) =>
  post(`/jobs/${job}/events`, { events }, as);
export const dueOf = async (): Promise<string | null> => (await Control.findByPk(control.id))?.due ?? null;
export const resultOf = async (job: string) =>
  (await get(`/jobs/${job}`)).body as {
    signedAt: string | null;
    result: { outcome: string; objections: string[]; sheet: { rows: { setting: string }[] } } | null;
  };
