import type { Page, Person, RecordSaved } from '@firm-needle/contract';
import { Injectable } from '@nestjs/common';
import { InjectConnection, InjectModel } from '@nestjs/sequelize';
import { verify } from '@node-rs/argon2';
import { families, loadFamily } from '@firm-needle/families';
import { Op, UniqueConstraintError, type Sequelize, type Transaction } from 'sequelize';
import { forgetActors } from '../auth/remembered.js';
import { hashPassword } from '../auth/passwords.js';
import { isRealDay } from '../common/fields.js';
import { afterNamed, cursorOf, pageOf, type PageQuery } from '../common/page.js';
import { Problem, wrongField } from '../common/problem.js';
import { keepRecord, maySupervise, mayWrite } from '../common/records.js';
import { inTransaction } from '../common/transaction.js';
import type { Actor } from '../common/user.js';
import { Organisation, Session, Site, User } from '../database/models.js';
import type { PersonBody } from './people.controller.js';
import { viewPerson } from './people.views.js';

/** Who works for the firm, what they may, and who may look. */
@Injectable()
export class PeopleService {
  constructor(
    @InjectModel(User) private readonly users: typeof User,
    @InjectModel(Session) private readonly sessions: typeof Session,
    @InjectModel(Site) private readonly sites: typeof Site,
    @InjectModel(Organisation) private readonly organisations: typeof Organisation,
    @InjectConnection() private readonly db: Sequelize,
  ) {}

  async list(actor: Actor, page: PageQuery): Promise<Page<Person>> {
    mayWrite(actor);
    const limit = page.limit ?? 100;
    const rows = await this.users.findAll({
      where: { organisationId: actor.organisation.id, ...afterNamed('name', page.after) },
      order: ['name', 'id'],
      limit: limit + 1,
    });
    return pageOf(
      rows.map((u) => viewPerson(u, actor)),
      limit,
      (p) => cursorOf(p.name, p.id),
    );
  }

  async save(actor: Actor, id: string, body: PersonBody): Promise<RecordSaved> {
    maySupervise(actor);
    await this.checked(actor, body);
    const passwordHash = await this.newHash(actor, id, body.password);
    try {
      const saved = await inTransaction(this.db, async (transaction) => {
        // Two supervisors who disable each other: one after the other.
        await this.organisations.findByPk(actor.organisation.id, {
          transaction,
          lock: transaction.LOCK.UPDATE,
        });
        return this.write(actor, id, body, passwordHash, transaction);
      });
      forgetActors();
      return saved;
    } catch (error) {
      if (error instanceof UniqueConstraintError && 'login' in error.fields)
        throw wrongField('login', `Somebody signs in as ${body.login} already.`, 'Choose another name.');
      throw error;
    }
  }

  /** The hash of a password that is another than the one they have: a request that comes again changes nothing. */
  private async newHash(actor: Actor, id: string, password: string | undefined): Promise<string | undefined> {
    if (password === undefined) return undefined;
    const known = await this.users.findOne({
      where: { id, organisationId: actor.organisation.id },
      attributes: ['passwordHash'],
    });
    return known && (await verify(known.passwordHash, password)) ? undefined : hashPassword(password);
  }

  private async write(
    actor: Actor,
    id: string,
    body: PersonBody,
    passwordHash: string | undefined,
    transaction: Transaction,
  ): Promise<RecordSaved> {
    const known = await this.users.findByPk(id, { transaction });
    // Nothing is said of who works elsewhere.
    if (known && known.organisationId !== actor.organisation.id)
      throw new Problem(409, 'id-reused', 'That person id is taken.');
    if (!known && passwordHash === undefined)
      throw wrongField('password', 'A new person needs a password to begin with.', 'Type one and tell them.');
    const leaves = body.disabled === true || body.role !== 'supervisor';
    if (known?.role === 'supervisor' && !known.disabledAt && leaves)
      await this.notTheLast(known, transaction);
    const values = {
      login: body.login,
      name: body.name,
      role: body.role,
      permits: body.permits.map(({ id: permit, until }) => (until ? { id: permit, until } : permit)),
      siteId: body.role === 'reader' ? (body.siteId ?? null) : null,
      disabledAt: body.disabled ? (known?.disabledAt ?? new Date()) : null,
      ...(passwordHash === undefined ? {} : { passwordHash }),
    };
    const { row, same } = await keepRecord(
      this.users,
      actor,
      { id, version: body.version, values, what: 'person' },
      (u) => viewPerson(u, actor),
      transaction,
    );
    // Who may no longer, or has another password, is out at once.
    if (known && !same && (row.disabledAt || passwordHash !== undefined))
      await this.sessions.destroy({ where: { userId: id }, transaction });
    return { id, version: row.version };
  }

  private async notTheLast(person: User, transaction: Transaction): Promise<void> {
    const others = await this.users.count({
      where: {
        organisationId: person.organisationId,
        role: 'supervisor',
        disabledAt: null,
        id: { [Op.ne]: person.id },
      },
      transaction,
    });
    if (others === 0)
      throw new Problem(409, 'last-supervisor', `${person.name} is the only supervisor left.`, {
        remedy: 'Make somebody else one first.',
      });
  }

  private async checked(actor: Actor, body: PersonBody): Promise<void> {
    const known = await permitIds();
    for (const p of body.permits) {
      if (!known.has(p.id))
        throw wrongField('permits', `No permit is called "${p.id}".`, 'Choose from the list.');
      if (p.until !== undefined && !isRealDay(p.until))
        throw wrongField('permits', 'The calendar has no such day.', 'Type a day such as 2030-01-31.');
    }
    if (!body.siteId) return;
    const site = await this.sites.findOne({
      where: { id: body.siteId, organisationId: actor.organisation.id },
    });
    if (!site) throw wrongField('siteId', 'There is no such site here.', 'Choose one of your sites.');
  }
}

let permits: Promise<ReadonlySet<string>> | undefined;

/** The permits that any kind of control asks for. */
const permitIds = (): Promise<ReadonlySet<string>> =>
  (permits ??= Promise.all(families().map((f) => loadFamily(f.id))).then(
    (all) => new Set(all.flatMap((f) => f.permits.map((p) => p.id))),
  ));
