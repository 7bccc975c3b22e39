import { Injectable, Logger } from '@nestjs/common';
import { InjectConnection, InjectModel } from '@nestjs/sequelize';
import type { Links } from '@firm-needle/core/family';
import { canonicalJson, chainLink } from '@firm-needle/core/formats';
import { JOB_KINDS, type JobBody, type JobEvent, type JobKind } from '@firm-needle/core/procedure';
import { Op, type InferCreationAttributes, type Sequelize, type Transaction } from 'sequelize';
import { forbidden, notFound, Problem } from '../common/problem.js';
import { inTransaction } from '../common/transaction.js';
import type { Actor } from '../common/user.js';
import { Job, JobEventRow } from '../database/models.js';
import { JobsService } from './jobs.service.js';
import { JudgeService, unstamped } from './judge.service.js';
import { MOST_EVENT_BYTES, NEWEST_PAYLOAD, type EventDto } from './jobs.dto.js';
import { ResultsService } from './results.service.js';

/** An event's place; with the event as it is recorded, where the session said something of it. */
export interface Accepted {
  readonly id: string;
  readonly seq: number;
  readonly hash: string;
  readonly event?: unknown;
}

export interface Appended {
  readonly accepted: readonly Accepted[];
  readonly seq: number;
  readonly head: string;
}

interface Prepared {
  readonly id: string;
  readonly kind: JobKind;
  readonly after: string | null;
  /** As it is recorded: with what the session says of it. */
  readonly text: string;
  /** Without that: what is compared when it comes again. */
  readonly plain: string;
  readonly stamped: boolean;
}

/** What is compared when an event comes again. */
type Recorded = Pick<JobEventRow, 'id' | 'jobId' | 'text' | 'seq' | 'hash'>;

/** Appends events: sequence, chain and idempotence under one row lock; legality of steps is the fold's business. */
@Injectable()
export class AppendService {
  private readonly log = new Logger('Append');

  constructor(
    @InjectModel(Job) private readonly jobs: typeof Job,
    @InjectModel(JobEventRow) private readonly rows: typeof JobEventRow,
    @InjectConnection() private readonly db: Sequelize,
    private readonly jobsService: JobsService,
    private readonly results: ResultsService,
    private readonly judge: JudgeService,
  ) {}

  async append(actor: Actor, jobId: string, events: readonly EventDto[]): Promise<Appended> {
    const job = await this.jobsService.reach(actor, jobId);
    const beside = await this.judge.beside(job, events);
    const prepared = events.map((e, i) => this.prepare(actor, jobId, e, i, beside));
    for (const [i, e] of events.entries()) await this.judge.belongs(job, { ...e.body }, `events.${i}`);
    const appended = await inTransaction(this.db, (transaction) =>
      this.write(actor, jobId, prepared, transaction),
    );
    try {
      await this.results.refresh(jobId);
    } catch (error) {
      // The log is safe; the result is only a fold of it and is made again at the next append or by the rebuild command.
      this.log.error(`Result of ${jobId} was not refreshed: ${String(error)}`);
    }
    return appended;
  }

  private prepare(actor: Actor, jobId: string, e: EventDto, i: number, beside: Links): Prepared {
    const field = `events.${i}`;
    const wrong = (status: number, code: string, message: string, remedy?: string): Problem =>
      new Problem(status, code, message, { errors: [{ field, message }], ...(remedy ? { remedy } : {}) });
    if (actor.role === 'reader') throw forbidden('Your account may look, not record.');
    if (e.job !== jobId) throw wrong(422, 'other-job', 'This event belongs to another job.');
    if (e.author !== actor.id)
      throw wrong(
        403,
        'other-author',
        'This event was written by somebody else.',
        'Let them sign in and send it.',
      );
    if (e.version > NEWEST_PAYLOAD)
      throw wrong(
        409,
        'version-newer',
        `The server knows payloads up to version ${NEWEST_PAYLOAD}; this is ${e.version}.`,
        'It waits on your device until the server is updated.',
      );
    const kind = e.body.kind;
    if (!JOB_KINDS.includes(kind))
      throw wrong(422, 'kind-unknown', `"${String(kind)}" is not a kind of event.`);
    if (kind === 'countersign') this.judge.countersigns(actor, []);
    const after = e.after ?? null;
    try {
      const body = this.judge.stamp(actor, { ...e.body }, beside) as unknown as JobBody;
      const text = canonicalJson({ ...e, after, body });
      if (Buffer.byteLength(text) > MOST_EVENT_BYTES)
        throw wrong(413, 'too-large', `An event is at most ${MOST_EVENT_BYTES / 1024} kB.`);
      const received = { ...e, after };
      const plain = unstamped(received);
      return { id: e.id, kind, after, text, plain, stamped: text !== canonicalJson({ ...e, after }) };
    } catch (error) {
      if (error instanceof Problem) throw error;
      throw wrong(422, 'not-valid', 'The payload has a value that JSON cannot hold.');
    }
  }

  private async write(
    actor: Actor,
    jobId: string,
    events: readonly Prepared[],
    transaction: Transaction,
  ): Promise<Appended> {
    const job = await this.jobs.findOne({
      where: { id: jobId, organisationId: actor.organisation.id },
      lock: transaction.LOCK.UPDATE,
      transaction,
    });
    if (!job) throw notFound('job');
    const known = await this.rows.findAll({
      where: { id: { [Op.in]: events.map((e) => e.id) } },
      transaction,
    });
    const byId = new Map<string, Recorded>(known.map((r) => [r.id, r]));
    const accepted: Accepted[] = [];
    await this.whole(jobId, job.seq, events, byId, transaction);
    if (events.some((e) => e.kind === 'countersign')) {
      const signed = await this.rows.findAll({ where: { jobId, kind: 'sign' }, transaction });
      this.judge.countersigns(actor, [
        ...signed.map((s) => s.authorId),
        ...(events.some((e) => e.kind === 'sign') ? [actor.id] : []),
      ]);
    }
    const fresh: InferCreationAttributes<JobEventRow>[] = [];
    let { seq, head } = job;
    const receivedAt = new Date();
    for (const e of events) {
      const was = byId.get(e.id);
      if (was) {
        if (was.jobId !== jobId || unstamped(JSON.parse(was.text) as JobEvent) !== e.plain)
          throw new Problem(409, 'id-reused', `Event ${e.id} was recorded with other contents.`, {
            remedy: 'A recorded event is never changed; write a correction.',
          });
        const kept = e.stamped || was.text !== e.text ? { event: JSON.parse(was.text) as unknown } : {};
        accepted.push({ id: was.id, seq: was.seq, hash: was.hash, ...kept });
        continue;
      }
      head = chainLink(head, e.text);
      seq++;
      const row = {
        jobId,
        seq,
        id: e.id,
        kind: e.kind,
        authorId: actor.id,
        receivedAt,
        text: e.text,
        hash: head,
      };
      fresh.push(row);
      byId.set(e.id, row);
      const kept = e.stamped ? { event: JSON.parse(e.text) as unknown } : {};
      accepted.push({ id: e.id, seq, hash: head, ...kept });
    }
    if (fresh.length > 0) {
      await this.rows.bulkCreate(fresh, { transaction });
      await job.update({ seq, head }, { transaction });
    }
    return { accepted, seq, head };
  }

  /**
   * Every entry must follow one that is here: where something is missing before it, or a batch comes the wrong way round, it waits for
   * what is missing, and nothing is signed over a gap.
   */
  private async whole(
    jobId: string,
    seq: number,
    events: readonly Prepared[],
    recorded: ReadonlyMap<string, Recorded>,
    transaction: Transaction,
  ): Promise<void> {
    const asked = [...new Set(events.flatMap((e) => (e.after === null ? [] : [e.after])))];
    const rows = await this.rows.findAll({
      where: { jobId, id: { [Op.in]: asked } },
      attributes: ['id'],
      transaction,
    });
    const here = new Set(rows.map((r) => r.id));
    for (const [i, e] of events.entries()) {
      const blind = e.after === null && e.kind === 'sign' && seq + i > 0;
      if (!recorded.has(e.id) && (blind || (e.after !== null && !here.has(e.after))))
        throw new Problem(409, 'gap', 'Something that came before this entry is not here yet.', {
          errors: [{ field: `events.${i}`, message: 'what it follows is missing' }],
          remedy: 'It waits until the device that has it has sent it.',
        });
      here.add(e.id);
    }
  }
}
