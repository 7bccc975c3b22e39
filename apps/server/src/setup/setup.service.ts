import type { SetupState } from '@firm-needle/contract';
import { Injectable } from '@nestjs/common';
import { InjectConnection, InjectModel } from '@nestjs/sequelize';
import type { Sequelize } from 'sequelize';
import { v7 as uuid } from 'uuid';
import { AuthService } from '../auth/auth.service.js';
import { hashPassword } from '../auth/passwords.js';
import { Problem } from '../common/problem.js';
import type { Actor, ActorRequest } from '../common/user.js';
import { alone } from '../database/lock.js';
import { Organisation, User } from '../database/models.js';
import type { SetupBody } from './setup.controller.js';

const LOCK = 'firm-needle-setup';
const LOCK_WAIT_S = 10;

/** The first page of an empty installation. */
@Injectable()
export class SetupService {
  constructor(
    @InjectModel(Organisation) private readonly organisations: typeof Organisation,
    @InjectModel(User) private readonly users: typeof User,
    @InjectConnection() private readonly db: Sequelize,
    private readonly auth: AuthService,
  ) {}

  async state(): Promise<SetupState> {
    const any = await this.organisations.findOne({ order: ['createdAt'] });
    return { needed: any === null, demo: any?.demo ?? false };
  }

  /** Those who try at once wait here, and not each on a connection of its own. */
  private turn: Promise<unknown> = Promise.resolve();

  /** @throws Problem 409 where there is a firm already, however many try at once */
  begin(body: SetupBody, request: ActorRequest): Promise<{ token: string; actor: Actor }> {
    const mine = this.turn.then(() => this.make(body, request));
    this.turn = mine.catch(() => undefined);
    return mine;
  }

  private async make(body: SetupBody, request: ActorRequest): Promise<{ token: string; actor: Actor }> {
    if (!(await this.state()).needed) throw taken();
    const passwordHash = await hashPassword(body.password);
    await alone(this.db, LOCK, LOCK_WAIT_S, async () => {
      if ((await this.organisations.count()) > 0) throw taken();
      const organisationId = uuid();
      await this.organisations.create({
        id: organisationId,
        name: body.firm,
        demo: false,
        rule: 'guarded',
        createdAt: new Date(),
      });
      await this.users.create({
        id: uuid(),
        organisationId,
        login: body.login,
        name: body.name,
        role: 'supervisor',
        permits: [],
        siteId: null,
        passwordHash,
      });
    });
    return this.auth.signIn(body.login, body.password, request.ip ?? '', request.headers['user-agent']);
  }
}

const taken = (): Problem =>
  new Problem(409, 'firm-exists', 'There is a firm here already.', {
    remedy: 'Sign in; a supervisor adds people.',
  });
