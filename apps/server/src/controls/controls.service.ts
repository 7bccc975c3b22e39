import { Injectable } from '@nestjs/common';
import { InjectConnection, InjectModel } from '@nestjs/sequelize';
import type { Control as ControlAnswer, PlanSaved, Sent } from '@firm-needle/contract';
import { makePlan, retype } from '@firm-needle/core/family';
import type { Plan } from '@firm-needle/core/procedure';
import { ambientAt } from '@firm-needle/core/quantity';
import { familyExists, loadFamily } from '@firm-needle/families';
import type { Sequelize } from 'sequelize';
import { notFound, Problem } from '../common/problem.js';
import { mayWrite } from '../common/records.js';
import type { Actor } from '../common/user.js';
import { Control, ControlPlan, Equipment, GaugeRow, Site } from '../database/models.js';
import { asControl, controlHead, jobsOf } from './controlRows.js';
import { LinksService } from './links.service.js';
import { addPlan } from './planVersions.js';

const MOST_PLAN_BYTES = 32 * 1024;

@Injectable()
export class ControlsService {
  constructor(
    @InjectModel(Control) private readonly controls: typeof Control,
    @InjectModel(ControlPlan) private readonly plans: typeof ControlPlan,
    @InjectModel(GaugeRow) private readonly gauges: typeof GaugeRow,
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

  /** Its page: asked for with every job, so in as few statements as it can be. */
  async one(actor: Actor, id: string): Promise<Sent<ControlAnswer>> {
    const [head, jobs] = await Promise.all([controlHead(this.db, actor, id), jobsOf(this.db, id)]);
    if (!head) throw notFound('control');
    const { organisationId, family, siteId } = head;
    const links = await this.links.choices({ id, organisationId, family, equipment: { siteId } });
    return asControl(head, jobs, links, actor.organisation.demo);
  }

  /** Stores a plan version after checking it by the family's own rules. */
  async savePlan(actor: Actor, id: string, planId: string, version: number, plan: Plan): Promise<PlanSaved> {
    mayWrite(actor);
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
    mayWrite(actor);
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
