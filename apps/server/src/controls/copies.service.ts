import { Injectable } from '@nestjs/common';
import { InjectModel } from '@nestjs/sequelize';
import type { Transaction } from 'sequelize';
import { v5 as derived } from 'uuid';
import type { Actor } from '../common/user.js';
import { Control, ControlPlan, FittedDevice } from '../database/models.js';
import { DueService } from '../due/due.service.js';
import { addPlan } from './planVersions.js';

/** What a device is called until somebody names it. */
export const UNNAMED_DEVICE = 'As found';

/** A control's set-up under another: kind, intervals and plan, without its past. */
@Injectable()
export class CopiesService {
  constructor(
    @InjectModel(Control) private readonly controls: typeof Control,
    @InjectModel(ControlPlan) private readonly plans: typeof ControlPlan,
    @InjectModel(FittedDevice) private readonly devices: typeof FittedDevice,
    private readonly due: DueService,
  ) {}

  async make(
    actor: Actor,
    to: { readonly id: string; readonly planId: string; readonly equipmentId: string; readonly name: string },
    from: Control,
    transaction: Transaction,
  ): Promise<Control> {
    const { organisationId, family, months, lawMonths, lawBy } = from;
    const control = await this.controls.create(
      {
        id: to.id,
        organisationId,
        equipmentId: to.equipmentId,
        name: to.name,
        family,
        planVersion: 0,
        due: null,
        story: null,
        gaugeId: null,
        months,
        lawMonths,
        lawBy,
      },
      { transaction },
    );
    await this.fitFirst(control, transaction);
    const plan = await this.plans.findOne({
      where: { controlId: from.id },
      order: [['version', 'DESC']],
      transaction,
    });
    if (plan)
      await addPlan(this.plans, control, { id: to.planId, plan: plan.plan, authorId: actor.id }, transaction);
    await this.due.refresh(control.id, transaction);
    return control;
  }

  /** The device that is there when a control is entered: nothing is known of it yet. */
  async fitFirst(control: Control, transaction: Transaction): Promise<void> {
    await this.devices.create(
      {
        id: derived('first device', control.id),
        organisationId: control.organisationId,
        controlId: control.id,
        label: UNNAMED_DEVICE,
        fittedOn: new Date().toISOString().slice(0, 10),
        removedOn: null,
        learned: {},
        rig: null,
      },
      { transaction },
    );
  }
}
