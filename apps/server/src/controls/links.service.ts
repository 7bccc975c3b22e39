import { Injectable } from '@nestjs/common';
import { InjectConnection, InjectModel } from '@nestjs/sequelize';
import type { ControlLink as LinkAnswer } from '@firm-needle/contract';
import type { Linked, LinkRole, Links } from '@firm-needle/core/family';
import type { Plan } from '@firm-needle/core/procedure';
import { familyExists, loadFamily } from '@firm-needle/families';
import { Op, type Sequelize } from 'sequelize';
import { Problem } from '../common/problem.js';
import { Control, ControlLink, ControlPlan, Equipment, JobResult } from '../database/models.js';

type Placed = Control & { equipment: Equipment };

/** As much of a control as says what can stand beside it. */
type Standing = Pick<Control, 'id' | 'organisationId' | 'family'> & {
  readonly equipment: Pick<Equipment, 'siteId'>;
};

/** Which control stands beside which, in the roles that their kinds know. */
@Injectable()
export class LinksService {
  constructor(
    @InjectModel(Control) private readonly controls: typeof Control,
    @InjectModel(ControlLink) private readonly links: typeof ControlLink,
    @InjectModel(ControlPlan) private readonly plans: typeof ControlPlan,
    @InjectModel(JobResult) private readonly results: typeof JobResult,
    @InjectConnection() private readonly db: Sequelize,
  ) {}

  /** Who stands beside a control, by role: each with its plan in force and how its last signed job ended. */
  async of(control: Omit<Standing, 'equipment'>): Promise<Links> {
    const roles = await this.rolesOf(control);
    if (roles.length === 0) return {};
    const rows = await this.links.findAll({ where: { controlId: control.id } });
    const out: Record<string, Linked> = {};
    for (const row of rows) {
      if (!roles.some((r) => r.id === row.role)) continue;
      const other = await this.controls.findOne({
        where: { id: row.toId, organisationId: control.organisationId },
      });
      if (other) out[row.role] = await this.asItStands(other);
    }
    return out;
  }

  /** For each role: who stands in it, and which controls of the same site could. */
  async choices(control: Standing): Promise<readonly LinkAnswer[]> {
    const roles = await this.rolesOf(control);
    if (roles.length === 0) return [];
    const held = await this.of(control);
    const others = await this.beside(control, [...new Set(roles.flatMap((r) => r.kinds))]);
    const plans = new Map<string, Plan | undefined>();
    for (const o of others) plans.set(o.id, await this.planOf(o));
    return roles.map((role) => ({
      role: role.id,
      to: held[role.id] ?? null,
      could: others
        .filter((o) => role.kinds.includes(o.family) && fits(role, plans.get(o.id)))
        .map((o) => ({ id: o.id, name: o.name, equipment: o.equipment.name })),
    }));
  }

  /**
   * Puts a control in a role beside another, or clears it.
   * @throws Problem 404 for a role that its kind does not know, 422 for a control that cannot stand there
   */
  async put(control: Placed, roleId: string, to: string | null): Promise<void> {
    const role = (await this.rolesOf(control)).find((r) => r.id === roleId);
    if (!role)
      throw new Problem(404, 'role-unknown', `A control of this kind has no "${roleId.slice(0, 40)}".`);
    await this.db.transaction(async (transaction) => {
      // Two who choose at once: the second waits, and is the one that stands.
      await this.controls.findByPk(control.id, { transaction, lock: transaction.LOCK.UPDATE });
      if (to !== null) {
        const other = (await this.beside(control, role.kinds)).find((o) => o.id === to);
        if (!other || !fits(role, await this.planOf(other)))
          throw new Problem(422, 'cannot-stand-there', `That control cannot be the ${role.title}.`, {
            errors: [
              { field: 'to', message: 'It is of another kind, at another site, or this control itself.' },
            ],
            remedy: 'Choose one of those that are offered.',
          });
      }
      await this.links.destroy({ where: { controlId: control.id, role: roleId }, transaction });
      if (to !== null)
        await this.links.create({ controlId: control.id, role: roleId, toId: to }, { transaction });
    });
  }

  private async rolesOf(control: Pick<Control, 'family'>): Promise<readonly LinkRole[]> {
    return familyExists(control.family) ? ((await loadFamily(control.family)).links ?? []) : [];
  }

  /** The other controls of the same site and of some kinds. */
  private async beside(control: Standing, kinds: readonly string[]): Promise<Placed[]> {
    const all = await this.controls.findAll({
      where: {
        organisationId: control.organisationId,
        family: { [Op.in]: [...kinds] },
        retiredAt: null,
        id: { [Op.ne]: control.id },
      },
      include: { model: Equipment, where: { siteId: control.equipment.siteId } },
      order: [['name', 'ASC']],
    });
    return all as Placed[];
  }

  private async planOf(control: Control): Promise<Plan | undefined> {
    return (await this.plans.findOne({ where: { controlId: control.id }, order: [['version', 'DESC']] }))
      ?.plan;
  }

  private async asItStands(control: Control): Promise<Linked> {
    const [plan, last] = await Promise.all([
      this.planOf(control),
      this.results.findOne({
        where: { controlId: control.id, signedAt: { [Op.ne]: null }, practice: false },
        order: [
          ['signedAt', 'DESC'],
          ['jobId', 'DESC'],
        ],
      }),
    ]);
    return {
      control: control.id,
      name: control.name,
      values: plan?.values ?? {},
      ...(last?.signedAt && last.outcome
        ? {
            signed: {
              at: last.signedAt.toISOString(),
              outcome: last.outcome,
              proved: last.objections.length === 0,
            },
          }
        : {}),
    };
  }
}

/** What nobody has planned yet can be anything. */
const fits = (role: LinkRole, plan: Plan | undefined): boolean =>
  plan === undefined || (role.fits?.(plan) ?? true);
