import { createHash } from 'node:crypto';
import type {
  Page,
  PracticeOverview,
  PracticeRow,
  PracticeRun,
  WholePracticeRun,
} from '@firm-needle/contract';
import { canonicalJson } from '@firm-needle/core/formats';
import type { RunRecord } from '@firm-needle/core/practice';
import { Injectable } from '@nestjs/common';
import { InjectModel } from '@nestjs/sequelize';
import { Op, UniqueConstraintError, type WhereOptions } from 'sequelize';
import { notFound, Problem } from '../common/problem.js';
import { maySupervise, mayWrite } from '../common/records.js';
import type { Actor } from '../common/user.js';
import { User } from '../database/models.js';
import { BOM, csvLines } from '../exchange/csv.js';
import { judged } from './judging.js';
import { PracticeLook, PracticeRunRow, PracticeTestRow, PracticeTry } from './models.js';
import type { RunBody } from './practice.controller.js';
import { PracticeTestsService } from './tests.service.js';

const DAY_MS = 86_400_000;
/** Counts are of so many days. */
const COUNTED_MS = 90 * DAY_MS;
/** Kept so long. */
const KEPT_MS = 730 * DAY_MS;
const MOST_SHOWN = 200;
const MOST_COUNTED = 20_000;
/** What the whole firm misses is told from so many people up. */
const PEOPLE = 5;
/** A run is not longer than this between its begin and its end, and does not lie ahead. */
const AHEAD_MS = DAY_MS;

const WITHOUT_RECORD = { exclude: ['record'] };

/** Runs of practice that are over. Nothing here touches a job. */
@Injectable()
export class PracticeService {
  constructor(
    @InjectModel(PracticeRunRow) private readonly runs: typeof PracticeRunRow,
    @InjectModel(PracticeLook) private readonly looks: typeof PracticeLook,
    @InjectModel(PracticeTestRow) private readonly tests: typeof PracticeTestRow,
    @InjectModel(PracticeTry) private readonly tries: typeof PracticeTry,
    @InjectModel(User) private readonly users: typeof User,
    private readonly testing: PracticeTestsService,
  ) {}

  async own(actor: Actor): Promise<Page<PracticeRun>> {
    mayWrite(actor);
    return this.page({ userId: actor.id, organisationId: actor.organisation.id });
  }

  async shown(actor: Actor): Promise<Page<PracticeRun>> {
    maySupervise(actor);
    return this.page({ organisationId: actor.organisation.id, ...LOOKED_AT });
  }

  async whole(actor: Actor, id: string): Promise<WholePracticeRun> {
    const row = await this.seen(actor, id);
    if (row.userId !== actor.id) await this.looks.upsert({ runId: id, userId: actor.id, at: new Date() });
    const [run] = await this.views([row]);
    if (!run) throw notFound('run');
    return { ...run, record: JSON.parse(row.record) as RunRecord };
  }

  /** @throws Problem 409 under an id that is another run, 422 for what cannot be judged */
  async keep(actor: Actor, id: string, body: RunBody): Promise<PracticeRun> {
    mayWrite(actor);
    if (body.id !== id) throw new Problem(422, 'not-valid', 'It is kept under another id than its own.');
    const hash = createHash('sha256').update(canonicalJson(body)).digest('hex');
    const known = await this.same(actor, id, hash);
    if (known) return known;
    const [startedAt, endedAt] = [new Date(body.startedAt), new Date(body.endedAt)];
    if (endedAt < startedAt || endedAt.getTime() > Date.now() + AHEAD_MS)
      throw new Problem(422, 'not-valid', 'It ended before it began, or lies ahead.');
    await this.asSet(actor, id, body);
    const record = { ...body } as unknown as RunRecord;
    const result = await judged({ record, author: actor.id });
    if (!result.ok) {
      const { code, message, remedy } = result.refusal;
      throw new Problem(422, code, message, remedy ? { remedy } : {});
    }
    const row = {
      id,
      organisationId: actor.organisation.id,
      userId: actor.id,
      kind: body.kind,
      family: body.family,
      variant: body.variant,
      level: body.level,
      help: body.help,
      testId: body.test ?? null,
      startedAt,
      endedAt,
      word: result.value.word,
      judged: result.value,
      record: JSON.stringify(body),
      hash,
      shared: false,
      createdAt: new Date(),
    };
    try {
      await this.runs.create(row);
    } catch (error) {
      // Two tabs sent it at once: the other was quicker.
      const kept = error instanceof UniqueConstraintError && (await this.same(actor, id, hash));
      if (kept) return kept;
      throw error;
    }
    await this.runs.destroy({
      where: { organisationId: actor.organisation.id, endedAt: { [Op.lt]: new Date(Date.now() - KEPT_MS) } },
    });
    return (await this.same(actor, id, hash)) ?? notFoundRun();
  }

  /** The run as it is kept, where it is; @throws Problem 409 where another is kept under its id. */
  private async same(actor: Actor, id: string, hash: string): Promise<PracticeRun | undefined> {
    const known = await this.runs.findByPk(id, { attributes: WITHOUT_RECORD });
    if (!known) return undefined;
    if (known.userId !== actor.id || known.hash !== hash)
      throw new Problem(409, 'id-reused', 'That run is kept already, as another.');
    return this.view(known);
  }

  async share(actor: Actor, id: string): Promise<PracticeRun> {
    const row = await this.runs.findOne({
      where: { id, userId: actor.id, organisationId: actor.organisation.id },
      attributes: WITHOUT_RECORD,
    });
    if (!row) throw notFound('run');
    await row.update({ shared: true });
    return this.view(row);
  }

  async unfair(actor: Actor, id: string, reason: string): Promise<PracticeRun> {
    maySupervise(actor);
    const row = await this.seen(actor, id);
    if (row.kind !== 'test') throw new Problem(422, 'no-test', 'Only a test has a draw that others had too.');
    await row.update({ unfair: reason });
    // Another try is free.
    await this.tries.destroy({ where: { runId: id } });
    return this.view(row);
  }

  async overview(actor: Actor): Promise<PracticeOverview> {
    maySupervise(actor);
    const rows = await this.runs.findAll({
      where: {
        organisationId: actor.organisation.id,
        endedAt: { [Op.gte]: new Date(Date.now() - COUNTED_MS) },
        unfair: null,
      },
      attributes: WITHOUT_RECORD,
      order: [['endedAt', 'DESC']],
      limit: MOST_COUNTED,
    });
    const names = await this.names(rows.map((r) => r.userId));
    const by = new Map<string, PracticeRunRow[]>();
    for (const r of rows)
      by.set(`${r.userId} ${r.family}`, [...(by.get(`${r.userId} ${r.family}`) ?? []), r]);
    return {
      rows: [...by.values()]
        .map((own) => rowOf(own, names))
        .sort((a, b) => a.person.name.localeCompare(b.person.name) || a.family.localeCompare(b.family)),
      teach: teachOf(rows),
    };
  }

  async csv(actor: Actor): Promise<string> {
    const { rows } = await this.overview(actor);
    const head = [
      'mode',
      'person',
      'family',
      'last',
      'runs',
      'highest sound level',
      'grave',
      'tests',
      'missed most',
    ];
    return (
      BOM +
      csvLines([
        head,
        ...rows.map((r) => [
          'PRACTICE',
          r.person.name,
          r.family,
          r.last,
          r.runs,
          r.highest ?? '',
          r.grave,
          r.tests.map((t) => `${t.day} ${t.word}`).join('; '),
          r.missed ? `${r.missed.fault}, ${r.missed.times} of ${r.missed.of}` : '',
        ]),
      ])
    );
  }

  /** A run of a test is the one try at it, on its own draw, with nothing that helps. */
  private async asSet(actor: Actor, id: string, body: RunBody): Promise<void> {
    if ((body.kind === 'test') !== (body.test !== undefined))
      throw new Problem(422, 'not-valid', 'A test names the test that it is, and nothing else does.');
    if ((body.kind === 'lesson') !== (body.lesson !== undefined))
      throw new Problem(422, 'not-valid', 'A lesson names its fault, and nothing else does.');
    if (body.test === undefined) return this.notAhead(actor, body.sealed);
    const test = await this.tests.findOne({
      where: { id: body.test, organisationId: actor.organisation.id },
    });
    if (!test) throw notFound('test');
    const { family, variant, level, sealed } = test;
    const same =
      body.family === family && body.variant === variant && body.level === level && body.sealed === sealed;
    if (!same || body.help !== 'bare')
      throw new Problem(422, 'not-the-test', 'It was worked on something else than the test.');
    await this.testing.claim(actor, body.test, id);
  }

  /** The draw of a test that is open is not tried beforehand as something else. */
  private async notAhead(actor: Actor, sealed: string): Promise<void> {
    const test = await this.tests.findOne({
      where: {
        organisationId: actor.organisation.id,
        sealed,
        until: { [Op.gte]: new Date().toISOString().slice(0, 10) },
      },
    });
    const ended =
      test && (await this.runs.count({ where: { testId: test.id, userId: actor.id, kind: 'test' } })) > 0;
    if (test && !ended)
      throw new Problem(
        409,
        'test-open',
        'That is the draw of a test that is open: it is tried once, as the test.',
      );
  }

  /** A run that may be looked at: one's own, and by a supervisor a test or what is shown. */
  private async seen(actor: Actor, id: string): Promise<PracticeRunRow> {
    mayWrite(actor);
    const row = await this.runs.findOne({ where: { id, organisationId: actor.organisation.id } });
    const may =
      row &&
      (row.userId === actor.id || (actor.role === 'supervisor' && (row.shared || row.kind === 'test')));
    if (!may) throw notFound('run');
    return row;
  }

  private async page(where: WhereOptions): Promise<Page<PracticeRun>> {
    const rows = await this.runs.findAll({
      where,
      attributes: WITHOUT_RECORD,
      order: [
        ['startedAt', 'DESC'],
        ['id', 'DESC'],
      ],
      limit: MOST_SHOWN,
    });
    return { items: await this.views(rows), next: null };
  }

  private async view(row: PracticeRunRow): Promise<PracticeRun> {
    const [view] = await this.views([row]);
    if (!view) throw notFound('run');
    return view;
  }

  private async views(rows: readonly PracticeRunRow[]): Promise<PracticeRun[]> {
    const looks = await this.looks.findAll({ where: { runId: rows.map((r) => r.id) } });
    const names = await this.names([...rows.map((r) => r.userId), ...looks.map((l) => l.userId)]);
    return rows.map((r) => ({
      id: r.id,
      person: { id: r.userId, name: names.get(r.userId) ?? '' },
      kind: r.kind,
      family: r.family,
      variant: r.variant,
      level: r.level,
      help: r.help,
      startedAt: r.startedAt.toISOString(),
      endedAt: r.endedAt.toISOString(),
      ...r.judged,
      test: r.testId,
      shared: r.shared,
      unfair: r.unfair ?? null,
      looks: looks
        .filter((l) => l.runId === r.id)
        .map((l) => ({ by: names.get(l.userId) ?? '', at: l.at.toISOString() })),
    }));
  }

  private async names(ids: readonly string[]): Promise<ReadonlyMap<string, string>> {
    const users = await this.users.findAll({ where: { id: [...new Set(ids)] }, attributes: ['id', 'name'] });
    return new Map(users.map((u) => [u.id, u.name]));
  }
}

const notFoundRun = (): never => {
  throw notFound('run');
};

const LOOKED_AT = { [Op.or]: [{ shared: true }, { kind: 'test' }] };

/** What was missed oftenest among runs, and how often it was there to be missed. */
function mostMissed(runs: readonly PracticeRunRow[]): { fault: string; times: number; of: number } | null {
  const times = new Map<string, number>();
  for (const { judged } of runs) for (const f of judged.missed) times.set(f, (times.get(f) ?? 0) + 1);
  const [first] = [...times].sort((a, b) => b[1] - a[1] || a[0].localeCompare(b[0]));
  return first ? { fault: first[0], times: first[1], of: runs.length } : null;
}

/** @param own runs of one person on one kind, newest first */
function rowOf(own: readonly PracticeRunRow[], names: ReadonlyMap<string, string>): PracticeRow {
  const [last] = own;
  if (!last) throw new Error('No runs.');
  const sound = own.filter((r) => r.word === 'sound' && r.kind !== 'lesson').map((r) => r.level);
  return {
    person: { id: last.userId, name: names.get(last.userId) ?? '' },
    family: last.family,
    last: last.endedAt.toISOString(),
    runs: own.length,
    highest: sound.length > 0 ? (Math.max(...sound) as PracticeRow['highest']) : null,
    grave: own.reduce((a, r) => a + r.judged.grave, 0),
    tests: own.flatMap((r) => (r.kind === 'test' ? [{ day: r.endedAt.toISOString(), word: r.word }] : [])),
    missed: mostMissed(own),
  };
}

function teachOf(rows: readonly PracticeRunRow[]): PracticeOverview['teach'] {
  if (new Set(rows.map((r) => r.userId)).size < PEOPLE) return null;
  const by = new Map<string, PracticeRunRow[]>();
  for (const r of rows) by.set(r.family, [...(by.get(r.family) ?? []), r]);
  const all = [...by].flatMap(([family, own]) => {
    const most = mostMissed(own);
    return most ? [{ family, fault: most.fault, times: most.times }] : [];
  });
  return all.sort((a, b) => b.times - a.times)[0] ?? null;
}
