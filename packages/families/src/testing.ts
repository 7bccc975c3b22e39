// Shared by the core's tests: a plan, gauges and a started job that are plausible but nobody's.
import { family as wellSwitch } from './well-switch/index.js';
import {
  draftOf,
  give,
  makePlan,
  startJob,
  typePlate,
  typeSetting,
  type Family,
} from '@firm-needle/core/family';
import type { Gauge } from '@firm-needle/core/gauge';
import {
  FoldedJob,
  JobLog,
  offer,
  type JobView,
  PAYLOAD_VERSION,
  type JobBody,
  type JobEvent,
  type Plan,
  type StartedBody,
} from '@firm-needle/core/procedure';
import { ambientAt } from '@firm-needle/core/quantity';
import { expectOk } from '@firm-needle/core/result';
import { ScriptedTechnician, type Manner, type ScriptedJob } from '@firm-needle/core/script';
import { installed, workedOn, type Installed, type Kit as FamilyKit } from './define/kit.js';
import { psi } from './shared/units.js';

export { psi };

export const AMBIENT = expectOk(ambientAt(300));

export function planOf(
  given: Readonly<Record<string, string>> = { cutIn: '43 psi' },
  plate: Readonly<Record<string, string>> = {},
): Plan {
  const typed = Object.entries({ tankVolume: '280 L', pumpFlow: '33 L/min', relief: '81 psi', ...plate }).map(
    ([id, text]) => [id, expectOk(typePlate(wellSwitch, id, text))] as const,
  );
  let draft = draftOf(wellSwitch, '40-60', Object.fromEntries(typed));
  for (const [setting, text] of Object.entries(given))
    draft = give(draft, setting, expectOk(typeSetting(wellSwitch, setting, text)));
  return makePlan(wellSwitch, draft);
}

export const WATER: Gauge = {
  id: 'w',
  label: 'T-1',
  kind: 'bourdon',
  unit: 'psi',
  lower: 0,
  upper: 100,
  division: 1,
  readable: 0.5,
  accuracy: { standard: 'B40.100', grade: '2A' },
  medium: 'water',
};
export const AIR: Gauge = { ...WATER, id: 'a', label: 'T-2', upper: 60, division: 0.5, medium: 'air' };

export const startedOf = (plan: Plan, over: Partial<Parameters<typeof startJob>[1]> = {}): StartedBody =>
  expectOk(
    startJob(wellSwitch, {
      plan,
      site: { id: 's', name: 'A site', altitude_m: 300 },
      control: { id: 'c', name: 'A switch', equipment: 'A well' },
      technician: 'A technician',
      permits: ['mains'],
      gauges: { system: WATER, air: AIR },
      rule: 'guarded',
      ...over,
    }),
  );

/** A log under construction by hand, an event a minute unless told otherwise. */
export class HandLog {
  readonly log = new JobLog('job');
  private n = 0;
  minute = 0;

  add(body: JobBody, over: Partial<JobEvent> = {}): JobEvent {
    const event: JobEvent = {
      id: `e${++this.n}`,
      job: 'job',
      version: PAYLOAD_VERSION,
      after: this.log.events.at(-1)?.id ?? null,
      device: 'tablet',
      author: 'me',
      wall: new Date(Date.UTC(2030, 0, 1, 8, this.minute++)).toISOString(),
      mono: 0,
      body,
      ...over,
    };
    this.log.append(event);
    return event;
  }

  read(
    setting: string,
    value: number,
    key: string,
    phase: 'found' | 'adjust' | 'left' = 'found',
    pass = '1',
    sets?: Readonly<Record<string, string>>,
  ): JobEvent {
    return this.add({
      kind: 'read',
      setting,
      slot: setting === 'precharge' ? 'air' : 'system',
      value: { text: String(value), unit: 'psi', value: psi(value) },
      state: 'typed',
      at: { key, pass, phase },
      ...(sets ? { sets } : {}),
    });
  }
}

/** One plausible installation of a family, for its tests. */
export interface Kit {
  readonly variant: string;
  readonly plate: Readonly<Record<string, string>>;
  readonly given: Readonly<Record<string, string>>;
  readonly gauges: Readonly<Record<string, Gauge>>;
  readonly permits?: readonly string[];
}

/** Plans, starts, rigs and whole jobs of one installation, each with what a test wants otherwise. */
export class TestBench {
  constructor(
    private readonly family: Family,
    private readonly kit: Kit,
  ) {}

  plan(over: Partial<Kit> = {}): Plan {
    const { family, kit } = this;
    const plate = Object.entries({ ...kit.plate, ...over.plate }).map(
      ([id, text]) => [id, expectOk(typePlate(family, id, text))] as const,
    );
    let draft = draftOf(family, over.variant ?? kit.variant, Object.fromEntries(plate));
    for (const [setting, text] of Object.entries({ ...kit.given, ...over.given }))
      draft = give(draft, setting, expectOk(typeSetting(family, setting, text)));
    return makePlan(family, draft);
  }

  started(plan = this.plan(), over: Partial<Parameters<typeof startJob>[1]> = {}): StartedBody {
    return expectOk(
      startJob(this.family, {
        plan,
        site: { id: 's', name: 'A site', altitude_m: 300 },
        control: { id: 'c', name: 'A control', equipment: 'Its equipment' },
        technician: 'A technician',
        permits: this.kit.permits ?? [],
        gauges: this.kit.gauges,
        rule: 'guarded',
        ...over,
      }),
    );
  }

  /** @param manner of the hands; careful ones where it is not said */
  scripted(fault: string, seed: number, plan = this.plan(), manner?: Manner): ScriptedJob {
    const faults = fault ? [fault] : [];
    const started = this.started(plan);
    const { gauges } = started;
    const rig = this.family.rig.create({ plan, seed, ambient: AMBIENT, faults, gauges });
    return new ScriptedTechnician(this.family, rig, started, manner ? { manner } : {}).run();
  }

  /** Codes of the refusals of a plan. */
  refusals(plan: Plan): readonly string[] {
    return this.findings(plan, 'refuse');
  }

  findings(plan: Plan, severity: 'refuse' | 'warn'): readonly string[] {
    return this.family
      .check(plan, AMBIENT)
      .filter((f) => f.severity === severity)
      .map((f) => f.code);
  }

  /** Codes of what a job came to. */
  codes(view: JobView): readonly string[] {
    return this.family.findings(view).map((f) => f.code);
  }
}

/** One scripted job on a rig with the given faults. */
export function scripted(
  faults: readonly string[],
  seed: number,
  plan = planOf(),
  family: Family = wellSwitch,
): ScriptedJob {
  const started = startedOf(plan);
  const { gauges } = started;
  const rig = family.rig.create({ plan, seed, ambient: AMBIENT, faults, gauges });
  return new ScriptedTechnician(family, rig, started).run();
}

/** An event at a step. */
export const atStep =
  (key: string) =>
  (body: JobBody): boolean =>
    'at' in body && body.at?.key === key;

/** A job up to the first event that holds, then left: the steps that are still asked for. */
export function leftAfter(
  family: Family,
  { log: { events } }: ScriptedJob,
  here: (body: JobBody) => boolean,
): readonly string[] {
  const until = events.findIndex((e) => here(e.body));
  if (until < 0) throw new Error('It never came to that.');
  const h = new HandLog();
  for (const e of events.slice(0, until + 1)) h.add(e.body);
  h.add({ kind: 'leave', outcome: 'unfinished', reason: 'called away' });
  const view = new FoldedJob(family, h.log.state);
  return offer(family.procedure(view.plan), view).walk.flatMap((i) =>
    i.status === 'now' || i.status === 'ahead' ? [i.step.key] : [],
  );
}

/** Jobs on the installations of a family's own kit, by the names of its variants. */
export const kitJobs = (family: Family, kit: FamilyKit) => {
  const siteOf = (name: string): Installed => {
    const variant = kit.variants.find((v) => v.name === name);
    if (!variant) throw new Error(`No variant is called "${name}".`);
    return installed(family, kit, variant);
  };
  return {
    siteOf,
    /** @param fault `none`, or faults with spaces between */
    onKit: (name: string, fault: string, seed: number, size = 1): ScriptedJob =>
      workedOn(siteOf(name), { seed, size, faults: fault === 'none' ? [] : fault.split(' ') }),
  };
};

/** The keys of the steps that a job took, in order. */
export const keysOf = (job: ScriptedJob): readonly string[] =>
  job.log.events.flatMap(({ body }) => ('at' in body && body.at ? [body.at.key] : []));
