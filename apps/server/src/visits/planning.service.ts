import type { RecordSaved, Saved, Sent, Week } from '@firm-needle/contract';
import { Injectable } from '@nestjs/common';
import { InjectConnection, InjectModel } from '@nestjs/sequelize';
import { daysAfter } from '@firm-needle/core/history';
import { Op, QueryTypes, type Sequelize, type Transaction } from 'sequelize';
import { isRealDay } from '../common/fields.js';
import { notFound, Problem, wrongField } from '../common/problem.js';
import { keepRecord, mayWrite } from '../common/records.js';
import { inTransaction } from '../common/transaction.js';
import type { Actor } from '../common/user.js';
import { isPast } from '../controls/register.service.js';
import { Control, Equipment, Job, Site, User, Visit, VisitControl } from '../database/models.js';
import { viewPerson } from '../people/people.views.js';
import type { VisitBody } from './visits.dto.js';
import { visitsWhere } from './visitRows.js';

const WEEK_DAYS = 7;
/** More than a firm sends out in a week that anybody can look at. */
const MOST_VISITS = 500;
const OF_THE_WEEK = `SELECT id FROM visits WHERE organisation_id = :firm AND cancelled IS NULL AND day >= :from AND day < :to
  ORDER BY day, stop, id LIMIT ${MOST_VISITS}`;
/** How long a control takes of which nobody has signed a job yet, minutes [common practice, no source]. */
const USUAL_MINUTES = 60;
/** A job that was open longer was left over night. */
const MOST_MINUTES = 480;

/** Who goes where and when. */
@Injectable()
export class PlanningService {
  constructor(
    @InjectModel(Visit) private readonly visits: typeof Visit,
    @InjectModel(VisitControl) private readonly links: typeof VisitControl,
    @InjectModel(Control) private readonly controls: typeof Control,
    @InjectModel(Site) private readonly sites: typeof Site,
    @InjectModel(User) private readonly users: typeof User,
    @InjectModel(Job) private readonly jobs: typeof Job,
    @InjectConnection() private readonly db: Sequelize,
  ) {}

  /** A week of all people: who is there, what they hold, and what is planned for them. */
  async week(actor: Actor, from: string): Promise<Sent<Week>> {
    mayWrite(actor);
    if (!isRealDay(from)) throw wrongField('from', 'The calendar has no such day.');
    const organisationId = actor.organisation.id;
    const week = { firm: organisationId, from, to: daysAfter(from, WEEK_DAYS) };
    const [people, visits, took] = await Promise.all([
      this.users.findAll({
        where: { organisationId, disabledAt: null, role: { [Op.ne]: 'reader' } },
        attributes: { exclude: ['passwordHash'] },
        order: ['name'],
      }),
      visitsWhere(this.db, OF_THE_WEEK, week),
      this.took(week),
    ]);
    return {
      from,
      people: people.map((p) => viewPerson(p, actor)),
      visits: visits.map((v) => ({
        ...v,
        minutes: v.controls.reduce((a, c) => a + (took.get(String(c.id)) ?? USUAL_MINUTES), 0),
      })),
    };
  }

  /** Minutes that each of the controls of a week's visits took so far, on average. */
  private async took(week: Record<string, string>): Promise<ReadonlyMap<string, number>> {
    const rows = await this.db.query<{ id: string; minutes: string }>(
      `SELECT j.control_id AS id, AVG(TIMESTAMPDIFF(MINUTE, j.opened_at, j.signed_at)) AS minutes FROM jobs j
       JOIN (SELECT DISTINCT l.control_id FROM (${OF_THE_WEEK}) w JOIN visit_controls l ON l.visit_id = w.id) c
         ON c.control_id = j.control_id
       WHERE j.signed_at IS NOT NULL AND TIMESTAMPDIFF(MINUTE, j.opened_at, j.signed_at) BETWEEN 1 AND ${MOST_MINUTES}
       GROUP BY j.control_id`,
      { replacements: week, type: QueryTypes.SELECT },
    );
    return new Map(rows.map((r) => [r.id, Math.round(Number(r.minutes))]));
  }

  /** Keeps a visit: new, or one version on; moved, given to somebody else, or cancelled with its reason. */
  async save(actor: Actor, id: string, body: VisitBody): Promise<RecordSaved> {
    mayWrite(actor);
    return inTransaction(this.db, async (transaction) => {
      const known = await this.visits.findByPk(id, { transaction, lock: transaction.LOCK.UPDATE });
      const own = known?.organisationId === actor.organisation.id ? known : undefined;
      await this.mayBe(actor, own, body, transaction);
      const values = {
        siteId: body.siteId,
        technicianId: body.technicianId,
        day: body.day,
        stop: body.stop,
        purpose: body.purpose ?? null,
        cancelled: body.cancelled ?? null,
      };
      const { row, same } = await keepRecord(
        this.visits,
        actor,
        { id, version: body.version, values, what: 'visit' },
        ({ day, technicianId, stop, version, cancelled }) => ({
          id,
          day,
          technicianId,
          stop,
          version,
          cancelled,
        }),
        transaction,
      );
      const before = await this.links.findAll({ where: { visitId: id }, order: ['position'], transaction });
      const stands = before.map((l) => l.controlId).join() === body.controls.join();
      if (same && !stands && known)
        throw new Problem(409, 'id-reused', 'That visit was kept with other controls.', {
          remedy: 'Load it anew and change it from there.',
        });
      if (!stands) {
        await this.links.destroy({ where: { visitId: id }, transaction });
        await this.links.bulkCreate(
          body.controls.map((controlId, i) => ({ visitId: id, controlId, position: i + 1 })),
          { transaction },
        );
      }
      return { id, version: row.version };
    });
  }

  /** What of the carry list is packed; the last one to tick is right. */
  async pack(actor: Actor, id: string, items: readonly string[]): Promise<Saved> {
    mayWrite(actor);
    const visit = await this.visits.findOne({ where: { id, organisationId: actor.organisation.id } });
    if (!visit) throw notFound('visit');
    await visit.update({ packed: [...new Set(items)] });
    return { id };
  }

  private async mayBe(
    actor: Actor,
    known: Visit | undefined,
    body: VisitBody,
    transaction: Transaction,
  ): Promise<void> {
    const organisationId = actor.organisation.id;
    if (!isRealDay(body.day))
      throw wrongField('day', 'The calendar has no such day.', 'Choose a day such as 2030-01-31.');
    if (body.day !== known?.day && isPast(body.day))
      throw wrongField('day', `${body.day} is past.`, 'Choose today or a day to come.');
    const site = await this.sites.findOne({ where: { id: body.siteId, organisationId }, transaction });
    if (!site) throw wrongField('siteId', 'There is no such site here.', 'Choose one of your sites.');
    if (!known && site.retiredAt)
      throw wrongField('siteId', `${site.name} was retired.`, 'Take it back first.');
    const who = await this.users.findOne({ where: { id: body.technicianId, organisationId }, transaction });
    if (!who || who.role === 'reader')
      throw wrongField('technicianId', 'Nobody like that works here.', 'Choose one of your people.');
    if (who.disabledAt && body.technicianId !== known?.technicianId)
      throw wrongField('technicianId', `${who.name}’s account is disabled.`, 'Choose somebody else.');
    await this.belong(body, known, transaction);
    await this.jobsStay(body, known, transaction);
  }

  /** The controls of a visit stand at its site, and are not retired unless they were on it before. */
  private async belong(body: VisitBody, known: Visit | undefined, transaction: Transaction): Promise<void> {
    if (body.controls.length === 0 && !body.cancelled)
      throw wrongField('controls', 'A visit with nothing to do there.', 'Choose what is to be looked at.');
    const controls = await this.controls.findAll({
      where: { id: body.controls },
      include: { model: Equipment, required: true, where: { siteId: body.siteId } },
      transaction,
    });
    const before = known ? await this.links.findAll({ where: { visitId: known.id }, transaction }) : [];
    for (const id of body.controls) {
      const control = controls.find((c) => c.id === id);
      if (!control)
        throw wrongField('controls', 'One of them does not stand at this site.', 'Choose those of the site.');
      if (control.retiredAt && !before.some((l) => l.controlId === id))
        throw wrongField('controls', `${control.name} was retired.`, 'Leave it out, or take it back first.');
    }
  }

  /** What was begun on a visit stays on it. */
  private async jobsStay(body: VisitBody, known: Visit | undefined, transaction: Transaction): Promise<void> {
    if (!known) return;
    const begun = await this.jobs.findAll({ where: { visitId: known.id }, include: Control, transaction });
    const dropped = begun.find(
      (j) => body.siteId !== known.siteId || body.cancelled || !body.controls.includes(j.controlId),
    );
    if (dropped)
      throw new Problem(409, 'begun', `${dropped.control?.name ?? 'A job'} was begun on this visit.`, {
        remedy: 'Leave it on the visit; what is not done can go to another one.',
      });
  }
}
