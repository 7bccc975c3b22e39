import { randomInt } from 'node:crypto';
import type { Page, PracticeTest } from '@firm-needle/contract';
import { sealed } from '@firm-needle/core/practice';
import { familyExists, loadKit } from '@firm-needle/families';
import { Injectable } from '@nestjs/common';
import { InjectModel } from '@nestjs/sequelize';
import { Op, UniqueConstraintError } from 'sequelize';
import { isRealDay } from '../common/fields.js';
import { notFound, Problem, wrongField } from '../common/problem.js';
import { maySupervise, mayWrite } from '../common/records.js';
import type { Actor } from '../common/user.js';
import { User } from '../database/models.js';
import { PracticeRunRow, PracticeTestRow, PracticeTry } from './models.js';
import type { TestBody } from './practice.controller.js';

const SEEDS = 2 ** 32;
const today = (): string => new Date().toISOString().slice(0, 10);

/** Tests: one draw for everybody, one try each. */
@Injectable()
export class PracticeTestsService {
  constructor(
    @InjectModel(PracticeTestRow) private readonly tests: typeof PracticeTestRow,
    @InjectModel(PracticeTry) private readonly tries: typeof PracticeTry,
    @InjectModel(PracticeRunRow) private readonly runs: typeof PracticeRunRow,
    @InjectModel(User) private readonly users: typeof User,
  ) {}

  async open(actor: Actor): Promise<Page<PracticeTest>> {
    mayWrite(actor);
    const rows = await this.tests.findAll({
      where: { organisationId: actor.organisation.id, until: { [Op.gte]: today() } },
      order: ['until', 'id'],
      limit: 100,
    });
    return { items: await this.shown(actor, rows), next: null };
  }

  async set(actor: Actor, id: string, body: TestBody): Promise<PracticeTest> {
    maySupervise(actor);
    const { family, variant, level, until, note } = body;
    if (!familyExists(family)) throw wrongField('family', `There is no kind "${family}".`);
    if (!(await loadKit(family)).variants.some((v) => v.name === variant))
      throw wrongField('variant', `There is no installation "${variant}" of this kind.`);
    if (!isRealDay(until) || until < today())
      throw wrongField('until', 'The last day of a test lies ahead.', 'Choose today or a later day.');
    const known = await this.tests.findByPk(id);
    if (known && known.organisationId !== actor.organisation.id)
      throw new Problem(409, 'id-reused', 'That test id is taken.');
    // What people have begun is not drawn anew under them.
    const row =
      known ??
      (await this.tests.create({
        id,
        organisationId: actor.organisation.id,
        family,
        variant,
        level,
        sealed: sealed({ seed: randomInt(SEEDS - 1), level }),
        until,
        note: note ?? null,
        createdBy: actor.id,
        createdAt: new Date(),
      }));
    const [test] = await this.shown(actor, [row]);
    if (!test) throw notFound('test');
    return test;
  }

  /** @throws Problem 409 where the one try was begun as another run */
  async start(actor: Actor, id: string, run: string): Promise<PracticeTest> {
    mayWrite(actor);
    const row = await this.tests.findOne({ where: { id, organisationId: actor.organisation.id } });
    if (!row) throw notFound('test');
    if (row.until < today()) throw new Problem(409, 'test-over', `It was open until ${row.until}.`);
    await this.claim(actor, id, run);
    const [test] = await this.shown(actor, [row]);
    if (!test) throw notFound('test');
    return test;
  }

  /** The one try at a test is this run: begun now, or already. */
  async claim(actor: Actor, testId: string, runId: string): Promise<void> {
    try {
      await this.tries.create({ testId, userId: actor.id, runId, startedAt: new Date() });
    } catch (error) {
      if (!(error instanceof UniqueConstraintError)) throw error;
      const own = await this.tries.findOne({ where: { testId, userId: actor.id } });
      if (own?.runId !== runId)
        throw new Problem(409, 'one-try', 'A test is tried once, and this one was begun already.', {
          remedy: 'Go on with it on the device on which it was begun.',
        });
    }
  }

  private async shown(actor: Actor, rows: readonly PracticeTestRow[]): Promise<PracticeTest[]> {
    const ids = rows.map((r) => r.id);
    const [tries, ended, people] = await Promise.all([
      this.tries.findAll({ where: { testId: ids, userId: actor.id } }),
      this.runs.findAll({ where: { testId: ids }, attributes: ['id', 'testId', 'word'] }),
      this.users.findAll({ where: { id: rows.map((r) => r.createdBy) }, attributes: ['id', 'name'] }),
    ]);
    return rows.map((r) => {
      const own = tries.find((t) => t.testId === r.id);
      return {
        id: r.id,
        family: r.family,
        variant: r.variant,
        level: r.level,
        sealed: r.sealed,
        until: r.until,
        by: people.find((p) => p.id === r.createdBy)?.name ?? '',
        note: r.note,
        mine: own ? { run: own.runId, word: ended.find((e) => e.id === own.runId)?.word ?? null } : null,
        ended: actor.role === 'supervisor' ? ended.filter((e) => e.testId === r.id).length : null,
      };
    });
  }
}
