import type { RecordSaved, Saved } from '@firm-needle/contract';
import { Injectable } from '@nestjs/common';
import { InjectConnection, InjectModel } from '@nestjs/sequelize';
import { families, familyExists } from '@firm-needle/families';
import type { Sequelize, Transaction } from 'sequelize';
import { v5 as derived } from 'uuid';
import { isRealDay } from '../common/fields.js';
import { notFound, Problem, wrongField } from '../common/problem.js';
import { keepRecord, mayWrite } from '../common/records.js';
import { inTransaction } from '../common/transaction.js';
import type { Actor } from '../common/user.js';
import { Control, Equipment, FittedDevice, Job } from '../database/models.js';
import { DueService } from '../due/due.service.js';
import { viewControl } from '../sites/sites.views.js';
import type { ControlBody, ControlCopyBody, DeviceBody } from './controls.dto.js';
import { CopiesService } from './copies.service.js';
import { OpenJobs } from './openJobs.js';

const DAY_MS = 86400e3;

/** Whether a day lies behind everybody's today: it may still be yesterday somewhere. */
export const isPast = (day: string): boolean => Date.parse(`${day}T00:00:00Z`) < Date.now() - 2 * DAY_MS;

/** What is written in the book of controls: which there are, where, of what kind, and with what device. */
@Injectable()
export class RegisterService {
  constructor(
    @InjectModel(Control) private readonly controls: typeof Control,
    @InjectModel(Equipment) private readonly equipment: typeof Equipment,
    @InjectModel(FittedDevice) private readonly devices: typeof FittedDevice,
    @InjectModel(Job) private readonly jobs: typeof Job,
    @InjectConnection() private readonly db: Sequelize,
    private readonly open: OpenJobs,
    private readonly copies: CopiesService,
    private readonly due: DueService,
  ) {}

  /** Keeps a control: new, or one version on. */
  async save(actor: Actor, id: string, body: ControlBody): Promise<RecordSaved> {
    mayWrite(actor);
    return inTransaction(this.db, async (transaction) => {
      const known = await this.controls.findByPk(id, { include: Equipment, transaction });
      const own = known?.organisationId === actor.organisation.id ? known : undefined;
      const equipment = await this.place(actor, body.equipmentId, transaction);
      await this.mayChange(own, equipment, body, transaction);
      const values = {
        equipmentId: body.equipmentId,
        name: body.name,
        family: body.family,
        story: body.story ?? null,
        months: body.months ?? null,
        lawMonths: body.lawMonths ?? null,
        lawBy: body.lawBy ?? null,
        customerDay: body.customerDay ?? null,
        retiredAt: body.retired ? (own?.retiredAt ?? new Date()) : null,
        ...(own ? {} : { planVersion: 0, due: null, gaugeId: null }),
      };
      const { row, same } = await keepRecord(
        this.controls,
        actor,
        { id, version: body.version, values, what: 'control' },
        (c) => ({ ...viewControl(c), equipmentId: c.equipmentId }),
        transaction,
      );
      if (!known) await this.copies.fitFirst(row, transaction);
      if (!same) await this.due.refresh(id, transaction);
      return { id, version: row.version };
    });
  }

  /** Another device under the same control: learned turns and drift start again, the history stays. */
  async fit(actor: Actor, id: string, deviceId: string, body: DeviceBody): Promise<Saved> {
    mayWrite(actor);
    if (!isRealDay(body.fittedOn))
      throw wrongField('fittedOn', 'The calendar has no such day.', 'Type a day such as 2030-01-31.');
    return inTransaction(this.db, async (transaction) => {
      const control = await this.own(actor, id, transaction);
      const known = await this.devices.findByPk(deviceId, { transaction });
      if (known) {
        if (known.controlId !== id)
          throw new Problem(409, 'id-reused', 'That device belongs to another control.');
        return { id: deviceId };
      }
      const before = await this.devices.findOne({ where: { controlId: id, removedOn: null }, transaction });
      if (before && body.fittedOn < before.fittedOn)
        throw wrongField(
          'fittedOn',
          `The device before it was fitted on ${before.fittedOn}.`,
          'Type the day on which it was replaced.',
        );
      await before?.update({ removedOn: body.fittedOn }, { transaction });
      await this.devices.create(
        {
          id: deviceId,
          organisationId: control.organisationId,
          controlId: id,
          label: body.label,
          fittedOn: body.fittedOn,
          removedOn: null,
          learned: {},
          rig: null,
        },
        { transaction },
      );
      await this.due.refresh(id, transaction);
      return { id: deviceId };
    });
  }

  /** A control like another one, beside it on the same equipment. */
  async copy(actor: Actor, id: string, body: ControlCopyBody): Promise<RecordSaved> {
    mayWrite(actor);
    return inTransaction(this.db, async (transaction) => {
      const from = await this.own(actor, body.from, transaction);
      if (from.gaugeId)
        throw wrongField(
          'from',
          'A gauge has one control of its own.',
          'Enter the other gauge under Gauges.',
        );
      const known = await this.controls.findByPk(id, { transaction });
      if (known) {
        if (known.organisationId !== actor.organisation.id)
          throw new Problem(409, 'id-reused', 'That control id is taken.');
        return { id, version: known.version };
      }
      const { equipmentId } = from;
      const to = { id, planId: derived('first plan', id), equipmentId, name: body.name };
      await this.copies.make(actor, to, from, transaction);
      return { id, version: 1 };
    });
  }

  private async own(actor: Actor, id: string, transaction: Transaction): Promise<Control> {
    const control = await this.controls.findOne({
      where: { id, organisationId: actor.organisation.id },
      transaction,
      lock: transaction.LOCK.UPDATE,
    });
    if (!control) throw notFound('control');
    return control;
  }

  private async place(actor: Actor, id: string, transaction: Transaction): Promise<Equipment> {
    const equipment = await this.equipment.findOne({
      where: { id, organisationId: actor.organisation.id },
      transaction,
    });
    if (!equipment)
      throw wrongField('equipmentId', 'There is no such equipment here.', 'Keep the equipment first.');
    return equipment;
  }

  /** Everything about a change that the fields alone do not say. */
  private async mayChange(
    known: Control | undefined,
    place: Equipment,
    body: ControlBody,
    transaction: Transaction,
  ): Promise<void> {
    if (body.family !== known?.family) await this.mayBe(known, body.family, transaction);
    if (body.lawMonths && !body.lawBy)
      throw wrongField('lawBy', 'Who sets this interval?', 'Name the law, the insurer or the authority.');
    const { customerDay } = body;
    if (customerDay && customerDay !== known?.customerDay) {
      if (!isRealDay(customerDay))
        throw wrongField('customerDay', 'The calendar has no such day.', 'Type a day such as 2030-01-31.');
      if (isPast(customerDay))
        throw wrongField('customerDay', `${customerDay} is past.`, 'Type a day to come, or leave it empty.');
    }
    if (!known) {
      if (place.retiredAt)
        throw wrongField(
          'equipmentId',
          `${place.name} was retired.`,
          'Take it back first, or choose another.',
        );
      return;
    }
    const moves = known.equipment?.siteId !== place.siteId;
    if (known.gaugeId && (moves || body.retired))
      throw new Problem(409, 'of-a-gauge', 'This is the control of a gauge: it goes where the gauge goes.', {
        remedy: 'Retire the gauge under Gauges.',
      });
    if (moves || (body.retired && !known.retiredAt))
      await this.open.refuseAt({ control: known.id }, transaction);
  }

  private async mayBe(known: Control | undefined, family: string, transaction: Transaction): Promise<void> {
    const choose = 'Choose one of the kinds that are offered.';
    if (!familyExists(family))
      throw wrongField('family', `No kind of control is called "${family}".`, choose);
    if (families().find((f) => f.id === family)?.subject === 'gauge')
      throw wrongField('family', 'Gauges are entered under Gauges, and have a control of their own.', choose);
    if (
      known &&
      ((await this.jobs.count({ where: { controlId: known.id }, transaction })) > 0 || known.planVersion > 0)
    )
      throw wrongField(
        'family',
        'Its plan and its jobs are those of the kind it is.',
        'Enter a new control, and retire this one.',
      );
  }
}
