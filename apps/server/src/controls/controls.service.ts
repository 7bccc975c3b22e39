import { Injectable } from '@nestjs/common';
import { InjectConnection, InjectModel } from '@nestjs/sequelize';
import type { Control as ControlAnswer, PlanSaved, Sent } from '@firm-needle/contract';
import { makePlan, retype, type SheetRow, type SheetTurn } from '@firm-needle/core/family';
import type { Outcome, Plan } from '@firm-needle/core/procedure';
import { ambientAt } from '@firm-needle/core/quantity';
import { familyExists, loadFamily } from '@firm-needle/families';
import { QueryTypes, type Sequelize } from 'sequelize';
import { forbidden, notFound, Problem } from '../common/problem.js';
import type { Actor } from '../common/user.js';
import {
  Control,
  ControlPlan,
  DueReasonRow,
  Equipment,
  FittedDevice,
  GaugeRow,
  Job,
  Site,
} from '../database/models.js';
import { LinksService } from './links.service.js';
import { addPlan } from './planVersions.js';

const MOST_PLAN_BYTES = 32 * 1024;

/** As many jobs as a page shows. */
const MOST_JOBS = 50;

/** Parts of a result, as the database answers them: JSON as text, or read already. */
interface ResultParts {
  readonly jobId: string;
  readonly outcome: Outcome | null;
  readonly objections: string | readonly unknown[];
  readonly rows: string | readonly SheetRow[] | null;
  readonly turns: string | readonly SheetTurn[] | null;
}
const parsed = <T>(v: string | T): T => (typeof v === 'string' ? (JSON.parse(v) as T) : v);

@Injectable()
export class ControlsService {
  constructor(
    @InjectModel(Control) private readonly controls: typeof Control,
    @InjectModel(ControlPlan) private readonly plans: typeof ControlPlan,
    @InjectModel(FittedDevice) private readonly devices: typeof FittedDevice,
    @InjectModel(Job) private readonly jobs: typeof Job,
    @InjectModel(GaugeRow) private readonly gauges: typeof GaugeRow,
    @InjectModel(DueReasonRow) private readonly reasons: typeof DueReasonRow,
    @InjectConnection() private readonly db: Sequelize,
    private readonly links: LinksService,
  ) {}

  /** The control in the actor's reach, or a refusal. */
  async reach(actor: Actor, id: string): Promise<Control & { equipment: Equipment & { site: Site } }> {
    const control = await this.controls.findOne({
      where: { id, organisationId: actor.organisation.id },
      include: { model: Equipment, include: [Site] },
    });
    const site = control?.equipment?.site;
    if (!control || !site || (actor.site && actor.site !== site.id)) throw notFound('control');
    return control as Control & { equipment: Equipment & { site: Site } };
  }

  async one(actor: Actor, id: string): Promise<Sent<ControlAnswer>> {
    const c = await this.reach(actor, id);
    const [plan, device, jobs, results, gauge, links, reasons] = await Promise.all([
      this.plans.findOne({
        where: { controlId: id },
        attributes: ['plan', 'version'],
        order: [['version', 'DESC']],
        raw: true,
      }),
      this.devices.findOne({ where: { controlId: id, removedOn: null }, raw: true }),
      this.jobs.findAll({
        where: { controlId: id },
        attributes: ['id', 'openedAt', 'signedAt', 'visitId'],
        order: [['openedAt', 'DESC']],
        limit: MOST_JOBS,
        raw: true,
      }),
      this.resultsOf(id),
      c.gaugeId ? this.gauges.findByPk(c.gaugeId) : null,
      this.links.choices(c),
      this.reasons.findAll({
        where: { controlId: id },
        attributes: ['kind', 'day', 'because'],
        order: ['day'],
        raw: true,
      }),
    ]);
    return {
      id: c.id,
      name: c.name,
      family: c.family,
      available: familyExists(c.family),
      due: c.due,
      reasons: reasons.map(({ kind, day, because }) => ({ kind, day, because })),
      story: c.story,
      months: c.months,
      lawMonths: c.lawMonths,
      lawBy: c.lawBy,
      customerDay: c.customerDay,
      version: c.version,
      retired: c.retiredAt !== null,
      equipment: { id: c.equipment.id, name: c.equipment.name, notes: c.equipment.notes },
      site: { id: c.equipment.site.id, name: c.equipment.site.name, altitude_m: c.equipment.site.altitudeM },
      gauge: gauge ? { ...gauge.body, id: gauge.id } : null,
      plan: plan ? { ...parsed(plan.plan), version: plan.version } : null,
      links,
      device: device
        ? {
            id: device.id,
            label: device.label,
            fittedOn: device.fittedOn,
            learned: parsed(device.learned),
            rig: actor.organisation.demo ? parsed(device.rig) : null,
          }
        : null,
      jobs: jobs.map((j) => {
        const r = results.find((x) => x.jobId === j.id);
        return {
          id: j.id,
          openedAt: j.openedAt,
          signedAt: j.signedAt,
          visitId: j.visitId,
          outcome: r?.outcome ?? null,
          proved: r ? parsed(r.objections).length === 0 : null,
          rows: parsed(r?.rows) ?? [],
          turns: parsed(r?.turns) ?? [],
        };
      }),
    };
  }

  /** What the control's page shows of each result; the rest of a sheet stays in the database. */
  private resultsOf(id: string): Promise<readonly ResultParts[]> {
    return this.db.query<ResultParts>(
      `SELECT job_id AS jobId, outcome, objections, JSON_EXTRACT(result, '$.rows') AS \`rows\`,
         JSON_EXTRACT(result, '$.turns') AS turns
       FROM job_results WHERE control_id = ?`,
      { replacements: [id], type: QueryTypes.SELECT },
    );
  }

  /** Stores a plan version after checking it by the family's own rules. */
  async savePlan(actor: Actor, id: string, planId: string, version: number, plan: Plan): Promise<PlanSaved> {
    if (actor.role === 'reader') throw forbidden('Your account may look, not change.');
    if (JSON.stringify(plan).length > MOST_PLAN_BYTES)
      throw new Problem(413, 'too-large', `A plan is at most ${MOST_PLAN_BYTES / 1024} kB.`);
    const control = await this.reach(actor, id);
    if (!familyExists(control.family))
      throw new Problem(
        422,
        'family-unknown',
        `Controls of the kind ${control.family} cannot be planned yet.`,
      );
    const solved = await this.checked(control, plan, version);
    const known = await this.plans.findByPk(planId);
    if (known) {
      if (known.controlId !== id)
        throw new Problem(409, 'id-reused', 'That plan id belongs to another control.');
      return { id: planId, version: known.version };
    }
    return this.db.transaction(async (transaction) => {
      const locked = await this.controls.findByPk(id, { transaction, lock: transaction.LOCK.UPDATE });
      if (!locked) throw notFound('control');
      if (version !== locked.planVersion + 1)
        throw new Problem(
          409,
          'plan-moved-on',
          `The plan is at version ${locked.planVersion}; this one was made from version ${version - 1}.`,
          {
            remedy: 'Load the newer plan, look at it, and change it again.',
          },
        );
      await addPlan(this.plans, locked, { id: planId, plan: solved, authorId: actor.id }, transaction);
      return { id: planId, version };
    });
  }

  /** Puts another control beside this one in a role, or clears it. */
  async link(
    actor: Actor,
    id: string,
    role: string,
    to: string | null,
  ): Promise<{ role: string; to: string | null }> {
    if (actor.role === 'reader') throw forbidden('Your account may look, not change.');
    await this.links.put(await this.reach(actor, id), role, to);
    return { role, to };
  }

  /** The plan solved anew from what was given: values and limits are never taken from outside. */
  private async checked(
    control: Control & { equipment: { site: Site } },
    plan: Plan,
    version: number,
  ): Promise<Plan> {
    const family = await loadFamily(control.family);
    const draft = retype(family, plan);
    if (!draft.ok) {
      const { code, message, where = 'plan', bound, remedy } = draft.refusal;
      throw new Problem(422, code, message, {
        errors: [{ field: where, message, ...(bound ? { bound } : {}) }],
        ...(remedy ? { remedy } : {}),
      });
    }
    // The plate of a gauge's own control is what the gauge says.
    const own = control.gaugeId ? await this.gauges.findByPk(control.gaugeId) : null;
    const plate = own ? (family.plateOf?.(own.body) ?? draft.value.plate) : draft.value.plate;
    const solved = makePlan(family, { ...draft.value, plate }, version);
    const ambient = ambientAt(control.equipment.site.altitudeM);
    const bad = family
      .check(solved, ambient.ok ? ambient.value : 101325)
      .find((f) => f.severity === 'refuse');
    if (bad)
      throw new Problem(422, bad.code, bad.message, {
        errors: [{ field: bad.about ?? 'plan', message: bad.message }],
        ...(bad.remedy ? { remedy: bad.remedy } : {}),
      });
    return solved;
  }
}
