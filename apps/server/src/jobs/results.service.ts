import { Injectable } from '@nestjs/common';
import { InjectModel } from '@nestjs/sequelize';
import { learnedGain } from '@firm-needle/core/advisor';
import { sheetOf, type Family, type Sheet } from '@firm-needle/core/family';
import { nextDue } from '@firm-needle/core/history';
import { JobLog, FoldedJob, type JobView, type JobEvent, type JobState } from '@firm-needle/core/procedure';
import { familyExists, loadFamily } from '@firm-needle/families';
import { Op } from 'sequelize';
import { Control, FittedDevice, Job, JobEventRow, JobResult } from '../database/models.js';
import { EvidenceService } from './evidence.service.js';

/** The server's fold of a job. */
export interface Folded {
  readonly family: Family;
  readonly state: JobState;
  readonly view: JobView;
  readonly sheet: Sheet;
  readonly through: number;
}

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
    private readonly evidence: EvidenceService,
  ) {}

  private readonly remembered = new Map<string, Remembered>();

  /** Folds the log and keeps the result; a signed result is frozen and stays as it was signed. */
  async refresh(jobId: string): Promise<void> {
    const kept = await this.results.findByPk(jobId);
    if (kept?.signedAt) return;
    const folded = await this.fold(jobId);
    const job = await this.jobs.findByPk(jobId);
    if (!folded || !job) return;
    const { signed } = folded.state;
    const signedAt = signed ? new Date(signed.wall) : null;
    await this.results.upsert({
      jobId,
      organisationId: job.organisationId,
      controlId: job.controlId,
      throughSeq: folded.through,
      outcome: signed?.body.outcome ?? null,
      signedAt,
      result: folded.sheet,
    });
    if (signedAt) await this.afterSign(job, folded, signedAt);
  }

  /** The fold of a job as its log stands; undefined before it was started or where its family is not here. */
  async fold(jobId: string): Promise<Folded | undefined> {
    const { log, seq } = await this.logOf(jobId);
    const { state } = log;
    const family = state.started?.body.family;
    if (family === undefined || !familyExists(family)) return undefined;
    const rules = await loadFamily(family);
    const view = new FoldedJob(rules, state);
    return { family: rules, state, view, sheet: sheetOf(rules, view), through: seq };
  }

  /**
   * The job's log, read on from where this process last left it. The memory is only a shortcut: it is used when the chain
   * still holds the event it ends with, and another server does without it.
   */
  private async logOf(jobId: string): Promise<Remembered> {
    const known = this.remembered.get(jobId);
    const from = known?.seq ?? 0;
    const rows = await this.rows.findAll({
      where: { jobId, seq: { [Op.gte]: from } },
      order: ['seq'],
      attributes: ['seq', 'text', 'hash'],
    });
    const goesOn = known !== undefined && rows[0]?.seq === known.seq && rows[0].hash === known.hash;
    if (known && !goesOn) {
      this.remembered.delete(jobId);
      return this.logOf(jobId);
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

  /** What a signed job teaches: when the control is next due, and how far one turn moves this device. */
  private async afterSign(job: Job, folded: Folded, signedAt: Date): Promise<void> {
    await job.update({ signedAt });
    if (folded.view.started.mode === 'practice') return;
    await this.evidence.keep(job, folded, signedAt);
    const outcome = folded.state.signed?.body.outcome;
    if (outcome === 'set' || outcome === 'left-as-found' || outcome === 'restricted')
      await this.controls.update({ due: nextDue(signedAt.toISOString()) }, { where: { id: job.controlId } });
    const device = await this.devices.findOne({ where: { controlId: job.controlId, removedOn: null } });
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
    await device.update({ learned });
  }
}
