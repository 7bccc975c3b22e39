import { Injectable } from '@nestjs/common';
import { InjectModel } from '@nestjs/sequelize';
import type { Transaction } from 'sequelize';
import { Problem } from '../common/problem.js';
import { Control, Equipment, Job } from '../database/models.js';

/** Whether work stands open where something is about to be moved or retired. */
@Injectable()
export class OpenJobs {
  constructor(@InjectModel(Job) private readonly jobs: typeof Job) {}

  /** @throws Problem 409 where a job is open on a control, a piece of equipment or a site */
  async refuseAt(
    at: { readonly control?: string; readonly equipment?: string; readonly site?: string },
    transaction: Transaction,
  ): Promise<void> {
    const open = await this.jobs.findOne({
      where: { signedAt: null, ...(at.control ? { controlId: at.control } : {}) },
      include: {
        model: Control,
        required: true,
        ...(at.equipment ? { where: { equipmentId: at.equipment } } : {}),
        ...(at.site ? { include: [{ model: Equipment, required: true, where: { siteId: at.site } }] } : {}),
      },
      transaction,
    });
    if (open)
      throw new Problem(409, 'job-open', `A job is open on ${open.control?.name ?? 'a control there'}.`, {
        remedy: 'Sign it first, or leave it unfinished with its reason.',
      });
  }
}
