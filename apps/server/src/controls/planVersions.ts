import type { Plan } from '@firm-needle/core/procedure';
import type { Transaction } from 'sequelize';
import type { Control, ControlPlan } from '../database/models.js';

/** The next version of a control's plan; the control is held by the caller's lock. @returns its number */
export async function addPlan(
  plans: typeof ControlPlan,
  control: Control,
  { id, plan, authorId }: { readonly id: string; readonly plan: Plan; readonly authorId: string },
  transaction: Transaction,
): Promise<number> {
  const version = control.planVersion + 1;
  await plans.create(
    {
      id,
      organisationId: control.organisationId,
      controlId: control.id,
      version,
      plan: { ...plan, version },
      authorId,
      createdAt: new Date(),
    },
    { transaction },
  );
  await control.update({ planVersion: version }, { transaction });
  return version;
}
