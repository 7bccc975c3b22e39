import { randomUUID } from 'node:crypto';
import { Injectable } from '@nestjs/common';
import { InjectConnection, InjectModel } from '@nestjs/sequelize';
import { learnedGain } from '@firm-needle/core/advisor';
import { makePlan, sheetOf } from '@firm-needle/core/family';
import { checkOf, FoldedJob, JobLog, type JobEvent, type Outcome } from '@firm-needle/core/procedure';
import { familyExists, loadFamily } from '@firm-needle/families';
import { Op, type Sequelize, type Transaction } from 'sequelize';
import {
  Control,
  ControlPlan,
  FittedDevice,
  Job,
  JobEventRow,
  JobFinding,
  JobResult,
} from '../database/models.js';
import { DueService } from '../due/due.service.js';
import { addPlan } from '../controls/planVersions.js';
import type { Folded } from './folded.js';
import { likelyTime } from './times.js';
import { EvidenceService } from './evidence.service.js';
import { JudgeService } from './judge.service.js';

const hasEnded = (outcome: Outcome | undefined): boolean =>
  outcome === 'set' || outcome === 'left-as-found' || outcome === 'restricted';

interface Remembered {
  readonly log: JobLog;
  readonly seq: number;
  readonly hash: string;
}

const MOST_REMEMBERED = 40;

@Injectable()
export class ResultsService {
  constructor(
    @InjectModel(Job) private readonly jobs: typeof Job,
    @InjectModel(JobEventRow) private readonly rows: typeof JobEventRow,
    @InjectModel(JobResult) private readonly results: typeof JobResult,
    @InjectModel(Control) private readonly controls: typeof Control,
    @InjectModel(FittedDevice) private readonly devices: typeof FittedDevice,
    @InjectModel(ControlPlan) private readonly plans: typeof ControlPlan,
    @InjectModel(JobFinding) private readonly findings: typeof JobFinding,
    private readonly due: DueService,
    private readonly evidence: EvidenceService,
    private readonly judge: JudgeService,
    @InjectConnection() private readonly db: Sequelize,
  ) {}

  private readonly remembered = new Map<string, Remembered>();

  /**
   * Folds the log and keeps the result, with everything that follows from a sign-off, in one transaction under the job's own lock: all of
   * it or nothing, once, however often it is asked for. A signed result is frozen and stays as it was signed.
   */
  async refresh(jobId: string): Promise<void> {
    await this.db.transaction(async (transaction) => {
      const job = await this.jobs.findByPk(jobId, { transaction, lock: transaction.LOCK.UPDATE });
      const kept = await this.results.findByPk(jobId, { transaction });
      if (!job || kept?.settled) return;
      const folded = await this.fold(jobId, transaction);
      // What is kept already came from further on: another server was quicker.
      if (!folded || (kept && kept.throughSeq > folded.through)) return;
      const { signed } = folded.state;
      const signedAt = signed ? await this.signedAt(jobId, signed.id, signed.wall, transaction) : null;
      const objections = signed ? await this.judge.objections(job, folded, transaction) : [];
      const practice = folded.view.started.mode === 'practice';
      // What was not proved moves no date and teaches nothing.
      const proved = signed !== undefined && objections.length === 0 && !practice;
      await this.results.upsert(
        {
          jobId,
          organisationId: job.organisationId,
          controlId: job.controlId,
          throughSeq: folded.through,
          outcome: signed?.body.outcome ?? null,
          signedAt,
          result: folded.sheet,
          objections,
          settled: signedAt !== null,
          practice,
          counts: proved && hasEnded(signed.body.outcome) && (folded.family.checked?.(folded.view) ?? true),
        },
        { transaction },
      );
      if (signedAt) await this.afterSign(job, folded, signedAt, proved, transaction);
    });
  }

  /** When it was signed: by the device's clock where that can be, else when it came in. */
  private async signedAt(jobId: string, id: string, wall: string, transaction: Transaction): Promise<Date> {
    const row = await this.rows.findOne({ where: { jobId, id }, attributes: ['receivedAt'], transaction });
    return likelyTime(wall, row?.receivedAt ?? new Date());
  }

  /** The fold of a job as its log stands; undefined before it was started or where its family is not here. */
  async fold(jobId: string, transaction?: Transaction): Promise<Folded | undefined> {
    const { log, seq } = await this.logOf(jobId, transaction);
    const family = log.state.started?.body.family;
    if (family === undefined || !familyExists(family)) return undefined;
    const rules = await loadFamily(family);
    log.judgeBy(checkOf(rules));
    const { state } = log;
    if (!state.started) return undefined;
    const view = new FoldedJob(rules, state);
    return { family: rules, state, view, sheet: sheetOf(rules, view), through: seq };
  }

  /**
   * The job's log, read on from where this process last left it. The memory is only a shortcut: it is used when the chain
   * still holds the event it ends with, and another server does without it.
   */
  private async logOf(jobId: string, transaction?: Transaction): Promise<Remembered> {
    const known = this.remembered.get(jobId);
    const from = known?.seq ?? 0;
    const rows = await this.rows.findAll({
      where: { jobId, seq: { [Op.gte]: from } },
      order: ['seq'],
      attributes: ['seq', 'text', 'hash'],
      ...(transaction ? { transaction } : {}),
    });
    const goesOn = known !== undefined && rows[0]?.seq === known.seq && rows[0].hash === known.hash;
    if (known && !goesOn) {
      this.remembered.delete(jobId);
      return this.logOf(jobId, transaction);
    }
    const log = known?.log ?? new JobLog(jobId);
    // Sequence numbers start at one and have no gaps, so the log's length says how far it reaches.
    for (const r of rows) if (r.seq > log.events.length) log.append(JSON.parse(r.text) as JobEvent);
    const last = rows.at(-1);
    const now = { log, seq: last?.seq ?? 0, hash: last?.hash ?? '' };
    this.remembered.delete(jobId);
    if (last) this.remembered.set(jobId, now);
    const oldest = this.remembered.keys().next();
    if (this.remembered.size > MOST_REMEMBERED && !oldest.done) this.remembered.delete(oldest.value);
    return now;
  }

  /** Everything that follows from a sign-off: what was found, what it says of gauges, what it teaches, and when the control is due. */
  private async afterSign(
    job: Job,
    folded: Folded,
    signedAt: Date,
    proved: boolean,
    transaction: Transaction,
  ): Promise<void> {
    await job.update({ signedAt }, { transaction });
    if (folded.view.started.mode === 'practice') return;
    await this.keepFindings(job, folded, signedAt, transaction);
    const doubted = await this.evidence.keep(job, folded, signedAt, proved, transaction);
    if (proved) await this.learn(job, folded, transaction);
    for (const id of new Set([job.controlId, ...doubted])) await this.due.refresh(id, transaction);
  }

  /** What was found, so that it can be searched for. */
  private async keepFindings(
    job: Job,
    folded: Folded,
    signedAt: Date,
    transaction: Transaction,
  ): Promise<void> {
    await this.findings.bulkCreate(
      folded.sheet.findings.map((f) => ({
        organisationId: job.organisationId,
        jobId: job.id,
        controlId: job.controlId,
        signedAt,
        code: f.code.slice(0, 60),
        message: f.message.slice(0, 600),
      })),
      { transaction, ignoreDuplicates: true },
    );
  }

  /** What was proved teaches how far one turn moves this device; a plan that was changed on the way stays. */
  private async learn(job: Job, folded: Folded, transaction: Transaction): Promise<void> {
    if (hasEnded(folded.state.signed?.body.outcome)) await this.keepPlan(job, folded, transaction);
    const device = await this.devices.findOne({
      where: { controlId: job.controlId, removedOn: null },
      transaction,
    });
    if (!device) return;
    const learned = { ...device.learned };
    for (const t of folded.state.turns) {
      // A screw that moves no measured setting teaches no change per turn.
      if (folded.view.adjuster(t.body.adjuster).prior.moves.length === 0) continue;
      const belief = folded.view.belief(t.body.adjuster);
      const { perTurn, sd } = learnedGain(belief);
      // Devices change a little between visits: a learned figure never becomes more certain than 10 %.
      learned[t.body.adjuster] = { perTurn, spread: Math.max(0.1, sd / Math.abs(perTurn)) };
    }
    await device.update({ learned }, { transaction });
  }

  /** A plan that was changed in the job and proved by it is the control's from here on, unless somebody planned it anew meanwhile. */
  private async keepPlan(job: Job, { family, state, view }: Folded, transaction: Transaction): Promise<void> {
    const changed = state.replans.at(-1);
    if (!changed) return;
    const control = await this.controls.findByPk(job.controlId, {
      transaction,
      lock: transaction.LOCK.UPDATE,
    });
    if (control?.planVersion !== view.opening.version) return;
    // Solved anew: what was proved came to the same, and figures are never taken from outside.
    const plan = makePlan(family, view.plan);
    await addPlan(this.plans, control, { id: randomUUID(), plan, authorId: changed.author }, transaction);
  }
}
