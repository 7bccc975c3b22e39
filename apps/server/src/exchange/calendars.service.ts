import type { NewCalendar, OpenCalendar } from '@firm-needle/contract';
import { Injectable } from '@nestjs/common';
import { InjectConnection, InjectModel } from '@nestjs/sequelize';
import ical, { ICalCalendarMethod } from 'ical-generator';
import { QueryTypes, type Sequelize } from 'sequelize';
import { v7 as uuid } from 'uuid';
import { notFound, Problem } from '../common/problem.js';
import { maySupervise, mayWrite } from '../common/records.js';
import { hashOf, newSecret } from '../common/secret.js';
import type { Actor } from '../common/user.js';
import { CalendarRow } from '../database/models.js';

/** Calendars of one person that stand at a time. */
const MOST_CALENDARS = 10;
/** Days back and forth that a calendar tells of. */
const BACK_DAYS = 60;
const FORTH_DAYS = 400;
const MOST_ENTRIES = 5000;

interface VisitRow {
  readonly id: string;
  readonly day: string;
  readonly stop: number;
  readonly purpose: string | null;
  readonly site: string;
  readonly address: string | null;
  readonly access: string | null;
  readonly technician: string | null;
  readonly controls: string | null;
}

interface DueRow {
  readonly id: string;
  readonly day: string;
  readonly control: string;
  readonly site: string;
  readonly equipment: string;
  readonly because: string | null;
}

/** Visits and due dates for a calendar program, under a secret address that can be withdrawn. */
@Injectable()
export class CalendarsService {
  constructor(
    @InjectModel(CalendarRow) private readonly calendars: typeof CalendarRow,
    @InjectConnection() private readonly db: Sequelize,
  ) {}

  /** @param own one's own visits alone; else everybody's and what is due, for a supervisor */
  async make(actor: Actor, own: boolean): Promise<NewCalendar> {
    mayWrite(actor);
    if (!own) maySupervise(actor);
    const standing = await this.calendars.count({ where: { userId: actor.id, withdrawnAt: null } });
    if (standing >= MOST_CALENDARS)
      throw new Problem(409, 'too-many', `You have ${MOST_CALENDARS} calendar addresses.`, {
        remedy: 'Withdraw one that is not used.',
      });
    const { token, hash } = newSecret();
    const id = uuid();
    await this.calendars.create({
      id,
      organisationId: actor.organisation.id,
      userId: actor.id,
      tokenHash: hash,
      own,
      createdAt: new Date(),
    });
    return { id, token };
  }

  async list(actor: Actor): Promise<readonly OpenCalendar[]> {
    const rows = await this.calendars.findAll({
      where: { userId: actor.id, withdrawnAt: null },
      order: [['createdAt', 'DESC']],
    });
    return rows.map((c) => ({ id: c.id, own: c.own, createdAt: c.createdAt.toISOString() }));
  }

  async withdraw(actor: Actor, id: string): Promise<void> {
    const row = await this.calendars.findOne({ where: { id, userId: actor.id } });
    if (!row) throw notFound('calendar');
    if (row.withdrawnAt === null) await row.update({ withdrawnAt: new Date() });
  }

  /** The calendar as iCalendar [RFC 5545]. */
  async text(token: string, origin: string): Promise<string> {
    const row = await this.calendars.findOne({ where: { tokenHash: hashOf(token) } });
    // Whoever lost their account loses what they had their calendar read by.
    const [person] = row
      ? await this.db.query<{ firm: string; role: string; name: string }>(
          `SELECT o.name AS firm, u.role, u.name FROM users u JOIN organisations o ON o.id = u.organisation_id
           WHERE u.id = ? AND u.disabled_at IS NULL`,
          { replacements: [row.userId], type: QueryTypes.SELECT },
        )
      : [];
    if (!row || !person || (!row.own && person.role !== 'supervisor')) throw notFound('calendar');
    if (row.withdrawnAt !== null)
      throw new Problem(410, 'withdrawn', 'This calendar was withdrawn.', {
        remedy: 'Make a new address in the app.',
      });
    const calendar = ical({
      name: row.own ? `${person.firm}: ${person.name}` : person.firm,
      prodId: { company: 'Firm Needle', product: 'Firm Needle', language: 'EN' },
      method: ICalCalendarMethod.PUBLISH,
      ttl: 3600,
    });
    for (const v of await this.visits(row))
      calendar.createEvent({
        id: `visit-${v.id}@firm-needle`,
        start: noon(v.day),
        allDay: true,
        summary: `${v.site}${v.purpose ? `: ${v.purpose}` : ''}`,
        description: [
          row.own ? '' : `${v.technician ?? 'Nobody yet'}, stop ${v.stop}`,
          v.controls ?? '',
          v.access ? `Access: ${v.access}` : '',
        ]
          .filter(Boolean)
          .join('\n'),
        ...(v.address ? { location: v.address } : {}),
        url: `${origin}/due`,
      });
    if (!row.own)
      for (const d of await this.due(row))
        calendar.createEvent({
          id: `due-${d.id}@firm-needle`,
          start: noon(d.day),
          allDay: true,
          summary: `Due: ${d.control}, ${d.site}`,
          description: [d.equipment, d.because ?? ''].filter(Boolean).join('\n'),
          url: `${origin}/controls/${d.id}`,
        });
    return calendar.toString();
  }

  private visits({ organisationId, userId, own }: CalendarRow): Promise<VisitRow[]> {
    return this.db.query<VisitRow>(
      `SELECT v.id, CAST(v.day AS CHAR) AS day, v.stop, v.purpose, s.name AS site, s.address, s.access, u.name AS technician,
         (SELECT GROUP_CONCAT(c.name ORDER BY l.position SEPARATOR ', ') FROM visit_controls l JOIN controls c ON c.id = l.control_id
            WHERE l.visit_id = v.id) AS controls
       FROM visits v JOIN sites s ON s.id = v.site_id LEFT JOIN users u ON u.id = v.technician_id
       WHERE v.organisation_id = ? AND v.cancelled IS NULL AND (? = 0 OR v.technician_id = ?)
         AND v.day BETWEEN UTC_DATE() - INTERVAL ${BACK_DAYS} DAY AND UTC_DATE() + INTERVAL ${FORTH_DAYS} DAY
       ORDER BY v.day, v.stop, v.id LIMIT ${MOST_ENTRIES}`,
      { replacements: [organisationId, own ? 1 : 0, userId], type: QueryTypes.SELECT },
    );
  }

  private due({ organisationId }: CalendarRow): Promise<DueRow[]> {
    return this.db.query<DueRow>(
      `SELECT c.id, CAST(c.due AS CHAR) AS day, c.name AS control, s.name AS site, e.name AS equipment,
         (SELECT d.because FROM due_reasons d WHERE d.control_id = c.id ORDER BY d.day, d.kind LIMIT 1) AS because
       FROM controls c JOIN equipment e ON e.id = c.equipment_id JOIN sites s ON s.id = e.site_id
       WHERE c.organisation_id = ? AND c.retired_at IS NULL AND e.retired_at IS NULL AND s.retired_at IS NULL
         AND c.due IS NOT NULL AND c.due <= UTC_DATE() + INTERVAL ${FORTH_DAYS} DAY
       ORDER BY c.due, c.id LIMIT ${MOST_ENTRIES}`,
      { replacements: [organisationId], type: QueryTypes.SELECT },
    );
  }
}

/** A day as a moment that is on it in every zone that people live in. */
const noon = (day: string): Date => new Date(`${day}T12:00:00Z`);
