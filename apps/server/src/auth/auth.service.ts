import { createHash, randomBytes } from 'node:crypto';
import { Injectable } from '@nestjs/common';
import { InjectConnection, InjectModel } from '@nestjs/sequelize';
import { hash, verify } from '@node-rs/argon2';
import type { Sequelize } from 'sequelize';
import { Organisation, Session, User } from '../database/models.js';
import { Problem } from '../common/problem.js';
import { permitsOn } from '../common/permits.js';
import type { Actor } from '../common/user.js';

export const SESSION_COOKIE = 'firm_needle_session';
const SESSION_DAYS = 30;
/** Tries at one account from anywhere, and from one address at any account, within the window. */
const MOST_TRIES = 8;
const MOST_FROM_ADDRESS = 40;
/** What a sign-in name is made of; nothing else can belong to an account. */
const LOGIN = /^[a-z0-9._@-]{1,60}$/;
const WINDOW_S = 300;

const digest = (text: string): string => createHash('sha256').update(text).digest('hex');

/** Argon2id with the library's defaults (19 MiB, two passes: OWASP's recommendation, from memory). */
export const hashPassword = (password: string): Promise<string> => hash(password);

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
  async signIn(login: string, password: string, address: string): Promise<{ token: string; actor: Actor }> {
    const name = login.toLowerCase();
    await this.throttle(digest(`address ${address}`), MOST_FROM_ADDRESS);
    const user = LOGIN.test(name)
      ? await this.users.findOne({ where: { login: name }, include: Organisation })
      : null;
    // By the account that is meant, however its name was written; where there is none, by what was written.
    const account = digest(user ? `user ${user.id}` : `name ${name}`);
    await this.throttle(account, MOST_TRIES);
    const right = await verify(user?.passwordHash ?? (await this.decoy), password);
    if (!user || !right)
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
    });
    await this.db.query('DELETE FROM login_attempts WHERE key_hash = ?', { replacements: [account] });
    // Only what was wrong counts against an address: a whole firm may sit behind one.
    await this.db.query('UPDATE login_attempts SET tries = GREATEST(0, tries - 1) WHERE key_hash = ?', {
      replacements: [digest(`address ${address}`)],
    });
    return { token, actor: actorFrom(user) };
  }

  async actorOf(token: string): Promise<Actor | undefined> {
    const session = await this.sessions.findByPk(digest(token), {
      include: { model: User, include: [Organisation] },
    });
    if (!session?.user || session.expiresAt.getTime() < Date.now()) return undefined;
    return actorFrom(session.user);
  }

  async signOut(token: string): Promise<void> {
    await this.sessions.destroy({ where: { tokenHash: digest(token) } });
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
