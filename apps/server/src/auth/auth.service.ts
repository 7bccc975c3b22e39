import { createHash, randomBytes } from 'node:crypto';
import { Injectable } from '@nestjs/common';
import { InjectConnection, InjectModel } from '@nestjs/sequelize';
import { verify } from '@node-rs/argon2';
import type { OpenSession, Role, Sent } from '@firm-needle/contract';
import { Op, QueryTypes, type Sequelize } from 'sequelize';
import { Organisation, Session, User } from '../database/models.js';
import { notFound, Problem, wrongField } from '../common/problem.js';
import { permitsOn, type HeldPermit } from '../common/permits.js';
import type { Actor } from '../common/user.js';
import { hashPassword, LOGIN } from './passwords.js';
import { changesSoFar, forgetActors, remember, remembered } from './remembered.js';

export const SESSION_COOKIE = 'firm_needle_session';
const SESSION_DAYS = 30;
/** Tries at one account from anywhere, and from one address at any account, within the window. */
const MOST_TRIES = 8;
const MOST_FROM_ADDRESS = 40;
const WINDOW_S = 300;

/** A session is marked as seen so often at most. */
const SEEN_EVERY_MS = 300_000;
/** As much of a session's stored hash as its owner is shown to name it by. */
const SESSION_NAME = 16;
const MOST_AGENT = 200;

const digest = (text: string): string => createHash('sha256').update(text).digest('hex');

/** A session with whose it is, as the database answers it. */
interface SessionRow {
  readonly seenAt: Date | null;
  readonly id: string;
  readonly login: string;
  readonly name: string;
  readonly role: Role;
  readonly permits: string | HeldPermit[];
  readonly site: string | null;
  readonly firm: string;
  readonly firmName: string;
  readonly demo: number;
  readonly rule: Actor['organisation']['rule'];
}

@Injectable()
export class AuthService {
  /** Verified against when the login is unknown, so that both refusals take the same time. */
  private readonly decoy = hashPassword(randomBytes(12).toString('hex'));

  constructor(
    @InjectModel(User) private readonly users: typeof User,
    @InjectModel(Session) private readonly sessions: typeof Session,
    @InjectConnection() private readonly db: Sequelize,
  ) {}

  /** A new session's token for the right login and password; throttled, and no word on which part was wrong. */
  async signIn(
    login: string,
    password: string,
    address: string,
    agent?: string,
  ): Promise<{ token: string; actor: Actor }> {
    const name = login.toLowerCase();
    await this.throttle(digest(`address ${address}`), MOST_FROM_ADDRESS);
    const user = LOGIN.test(name)
      ? await this.users.findOne({ where: { login: name }, include: Organisation })
      : null;
    // By the account that is meant, however its name was written; where there is none, by what was written.
    const account = digest(user ? `user ${user.id}` : `name ${name}`);
    await this.throttle(account, MOST_TRIES);
    const right = await verify(user?.passwordHash ?? (await this.decoy), password);
    if (!user || !right || user.disabledAt)
      throw new Problem(401, 'wrong-sign-in', 'That name and password do not belong together.', {
        remedy: 'Type both again. After several tries you will have to wait.',
      });
    const token = randomBytes(32).toString('base64url');
    const now = Date.now();
    await this.sessions.create({
      tokenHash: digest(token),
      userId: user.id,
      createdAt: new Date(now),
      expiresAt: new Date(now + SESSION_DAYS * 86400e3),
      agent: agent?.slice(0, MOST_AGENT) ?? null,
      seenAt: new Date(now),
    });
    await this.db.query('DELETE FROM login_attempts WHERE key_hash = ?', { replacements: [account] });
    // Only what was wrong counts against an address: a whole firm may sit behind one.
    await this.db.query('UPDATE login_attempts SET tries = GREATEST(0, tries - 1) WHERE key_hash = ?', {
      replacements: [digest(`address ${address}`)],
    });
    return { token, actor: actorFrom(user) };
  }

  /** Who a session belongs to; asked with every request, so in one statement and without what models are made of. */
  async actorOf(token: string): Promise<Actor | undefined> {
    const tokenHash = digest(token);
    const known = remembered(tokenHash);
    if (known) return known;
    const asked = changesSoFar();
    const [row] = await this.db.query<SessionRow>(
      `SELECT s.seen_at AS seenAt, u.id, u.login, u.name, u.role, u.permits, u.site_id AS site,
         o.id AS firm, o.name AS firmName, o.demo, o.rule
       FROM sessions s JOIN users u ON u.id = s.user_id JOIN organisations o ON o.id = u.organisation_id
       WHERE s.token_hash = ? AND s.expires_at > UTC_TIMESTAMP(3) AND u.disabled_at IS NULL`,
      { replacements: [tokenHash], type: QueryTypes.SELECT },
    );
    if (!row) return undefined;
    if (Date.now() - Number(row.seenAt ?? 0) > SEEN_EVERY_MS)
      await this.sessions.update({ seenAt: new Date() }, { where: { tokenHash } });
    const { id, login, name, role, site, firm, firmName, demo, rule } = row;
    const permits = typeof row.permits === 'string' ? (JSON.parse(row.permits) as HeldPermit[]) : row.permits;
    const actor: Actor = {
      id,
      login,
      name,
      role,
      permits: permitsOn(permits, new Date().toISOString().slice(0, 10)),
      organisation: { id: firm, name: firmName, demo: Boolean(demo), rule },
      site,
    };
    remember(tokenHash, actor, asked);
    return actor;
  }

  /** One's own sessions, the newest first. */
  async sessionsOf(actor: Actor, token: string): Promise<Sent<OpenSession[]>> {
    const rows = await this.sessions.findAll({
      where: { userId: actor.id, expiresAt: { [Op.gt]: new Date() } },
      order: [['createdAt', 'DESC']],
      limit: 100,
    });
    return rows.map((s) => ({
      id: s.tokenHash.slice(0, SESSION_NAME),
      agent: s.agent,
      createdAt: s.createdAt,
      seenAt: s.seenAt,
      current: s.tokenHash === digest(token),
    }));
  }

  /** Ends one of one's own sessions. */
  async end(actor: Actor, id: string): Promise<void> {
    const rows = await this.sessions.findAll({ where: { userId: actor.id } });
    const session = rows.find((s) => s.tokenHash.slice(0, SESSION_NAME) === id);
    if (!session) throw notFound('session');
    await session.destroy();
    forgetActors();
  }

  /** A new password of one's own; every other session of theirs ends by it. */
  async change(actor: Actor, current: string, next: string, token: string): Promise<void> {
    const user = await this.users.findByPk(actor.id);
    // Guessed at like a sign-in, and held up like one.
    await this.throttle(digest(`user ${actor.id}`), MOST_TRIES);
    if (!user || !(await verify(user.passwordHash, current)))
      throw wrongField('current', 'That is not your password now.', 'Type it again.');
    await user.update({ passwordHash: await hashPassword(next) });
    await this.sessions.destroy({ where: { userId: actor.id, tokenHash: { [Op.ne]: digest(token) } } });
    forgetActors();
    await this.db.query('DELETE FROM login_attempts WHERE key_hash = ?', {
      replacements: [digest(`user ${actor.id}`)],
    });
  }

  async signOut(token: string): Promise<void> {
    await this.sessions.destroy({ where: { tokenHash: digest(token) } });
    forgetActors();
  }

  /** Counts tries in the database, so that several servers throttle together. */
  private async throttle(key: string, most: number): Promise<void> {
    await this.db.query(
      `INSERT INTO login_attempts (key_hash, tries, window_start) VALUES (?, 1, UTC_TIMESTAMP(3))
       ON DUPLICATE KEY UPDATE
         tries = IF(window_start < UTC_TIMESTAMP(3) - INTERVAL ${WINDOW_S} SECOND, 1, tries + 1),
         window_start = IF(window_start < UTC_TIMESTAMP(3) - INTERVAL ${WINDOW_S} SECOND, UTC_TIMESTAMP(3), window_start)`,
      { replacements: [key] },
    );
    const [rows] = await this.db.query('SELECT tries FROM login_attempts WHERE key_hash = ?', {
      replacements: [key],
    });
    const tries = (rows as { tries: number }[])[0]?.tries ?? 0;
    if (tries > most)
      throw new Problem(429, 'too-many-tries', 'Too many tries. Wait five minutes.', {
        retryAfter_s: WINDOW_S,
      });
  }
}

export function actorFrom(user: User): Actor {
  const org = user.organisation;
  if (!org) throw new Error('A user was loaded without the organisation.');
  return {
    id: user.id,
    login: user.login,
    name: user.name,
    role: user.role,
    permits: permitsOn(user.permits, new Date().toISOString().slice(0, 10)),
    organisation: { id: org.id, name: org.name, demo: org.demo, rule: org.rule },
    site: user.siteId,
  };
}
