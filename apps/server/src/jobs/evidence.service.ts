import { Injectable } from '@nestjs/common';
import { InjectModel } from '@nestjs/sequelize';
import type { GaugeEvidence } from '@firm-needle/core/family';
import { spanPoints, type Gauge, type Standing } from '@firm-needle/core/gauge';
import { nextDue } from '@firm-needle/core/history';
import type { Outcome } from '@firm-needle/core/procedure';
import { Op, type Transaction } from 'sequelize';
import { Control, GaugeCheck, GaugeRow, GaugeSpan, Job, JobFlag, JobGauge } from '../database/models.js';
import { isUuid } from './judge.service.js';
import { likelyTime } from './times.js';
import type { Folded } from './folded.js';

const STANDING: Readonly<Partial<Record<Outcome, Standing['state']>>> = {
  set: 'fit',
  'left-as-found': 'fit',
  restricted: 'restricted',
  replace: 'failed',
};

/** What signed jobs showed of the firm's gauges: their zeros, their errors, whether they are still fit, and what that casts doubt on. */
@Injectable()
export class EvidenceService {
  constructor(
    @InjectModel(Control) private readonly controls: typeof Control,
    @InjectModel(GaugeRow) private readonly gauges: typeof GaugeRow,
    @InjectModel(GaugeCheck) private readonly checks: typeof GaugeCheck,
    @InjectModel(GaugeSpan) private readonly spans: typeof GaugeSpan,
    @InjectModel(JobFlag) private readonly flags: typeof JobFlag,
    @InjectModel(JobGauge) private readonly used: typeof JobGauge,
    @InjectModel(Job) private readonly jobs: typeof Job,
  ) {}

  /** Takes over what a job that was just signed says of gauges. Twice is once. @returns controls whose proof is in doubt by it */
  async keep(
    job: Job,
    folded: Folded,
    signedAt: Date,
    proved: boolean,
    transaction: Transaction,
  ): Promise<readonly string[]> {
    const known = await this.known(job, folded, transaction);
    await this.keepUsed(job, folded, known, signedAt, transaction);
    await this.keepZeros(job, folded, known, signedAt, transaction);
    // A check that was not proved says nothing of the gauge.
    if (!proved) return [];
    const doubted: string[] = [];
    const control = await this.controls.findByPk(job.controlId, { transaction });
    for (const e of folded.family.evidence?.(folded.view) ?? []) {
      const id = folded.view.gauge(e.slot)?.id;
      const gauge =
        id === undefined
          ? null
          : await this.gauges.findOne({
              where: { id, organisationId: job.organisationId },
              transaction,
            });
      if (gauge && control?.gaugeId === gauge.id)
        doubted.push(...(await this.judge(job, folded, signedAt, gauge, e, transaction)));
    }
    return doubted;
  }

  /** The gauges of this job that are the firm's own. */
  private async known(job: Job, { state }: Folded, transaction: Transaction): Promise<ReadonlySet<string>> {
    const ids = [...state.gauges.values()].flat().map((m) => m.gauge.id);
    const rows = await this.gauges.findAll({
      where: { organisationId: job.organisationId, id: ids.filter(isUuid) },
      attributes: ['id'],
      transaction,
    });
    return new Set(rows.map((g) => g.id));
  }

  /** Every gauge that was read, whether or not it was zeroed: a later failure casts doubt on all of them. */
  private async keepUsed(
    job: Job,
    { state }: Folded,
    known: ReadonlySet<string>,
    at: Date,
    transaction: Transaction,
  ): Promise<void> {
    const rows = [...state.gauges.entries()].flatMap(([slot, mounted]) =>
      mounted.flatMap(({ gauge }) =>
        known.has(gauge.id) ? [{ jobId: job.id, gaugeId: gauge.id, slot, at }] : [],
      ),
    );
    await this.used.bulkCreate(rows, { ignoreDuplicates: true, transaction });
  }

  /** The zeros of this job, into the history of the gauges that showed them. */
  private async keepZeros(
    job: Job,
    folded: Folded,
    known: ReadonlySet<string>,
    signedAt: Date,
    transaction: Transaction,
  ): Promise<void> {
    const rows = [...folded.state.zeros.values()].flat().flatMap((z) => {
      const gaugeId = folded.view.gauge(z.body.slot, z.order)?.id;
      if (gaugeId === undefined || !known.has(gaugeId)) return [];
      return [
        {
          id: z.id,
          organisationId: job.organisationId,
          gaugeId,
          jobId: job.id,
          at: likelyTime(z.wall, signedAt),
          beforePa: z.body.before.value,
          afterPa: z.body.after.value,
          handling: z.body.handling,
        },
      ];
    });
    await this.checks.bulkCreate(rows, { ignoreDuplicates: true, transaction });
  }

  /** A check of the gauge itself: its errors, its standing, its next date, and the jobs it casts doubt on. */
  private async judge(
    job: Job,
    folded: Folded,
    signedAt: Date,
    row: GaugeRow,
    { errors, raises }: GaugeEvidence,
    transaction: Transaction,
  ): Promise<readonly string[]> {
    const outcome = folded.state.signed?.body.outcome;
    const state = outcome && STANDING[outcome];
    if (!outcome || !state) return [];
    const day = signedAt.toISOString().slice(0, 10);
    const before = row.body.standing?.state;
    // A zero alone does not lift what a span check found.
    const lifts = state !== 'fit' || errors.length > 0 || before === undefined || before === 'fit';
    const due = state === 'fit' && errors.length > 0 ? nextDue(signedAt.toISOString()) : row.due;
    const check: Gauge['check'] = errors.length > 0 ? { day, points: spanPoints(errors) } : row.body.check;
    const body: Gauge = {
      ...row.body,
      check: state === 'failed' ? undefined : check,
      ...(raises ? { raises } : {}),
      ...(lifts ? { standing: { state, day, because: folded.sheet.because } } : {}),
      ...(due ? { due } : {}),
    };
    const since = await this.lastFit(row.id, job.id, transaction);
    if (errors.length > 0)
      await this.spans.upsert(
        {
          jobId: job.id,
          gaugeId: row.id,
          organisationId: job.organisationId,
          at: signedAt,
          outcome,
          errors: [...errors],
        },
        { transaction },
      );
    await row.update({ body, due }, { transaction });
    return state === 'failed'
      ? this.flag(
          job,
          row,
          since,
          `${row.label} failed its check on ${day}: ${folded.sheet.because}`,
          transaction,
        )
      : [];
  }

  /** When this gauge was last found fit by a span check; readings before that are not in doubt. */
  private async lastFit(gaugeId: string, besides: string, transaction: Transaction): Promise<Date> {
    const last = await this.spans.findOne({
      where: { gaugeId, jobId: { [Op.ne]: besides }, outcome: ['set', 'left-as-found'] },
      order: [['at', 'DESC']],
      transaction,
    });
    return last?.at ?? new Date(0);
  }

  private async flag(
    by: Job,
    gauge: GaugeRow,
    since: Date,
    text: string,
    transaction: Transaction,
  ): Promise<readonly string[]> {
    const used = await this.used.findAll({
      where: { gaugeId: gauge.id, jobId: { [Op.ne]: by.id }, at: { [Op.gt]: since } },
      attributes: ['jobId'],
      group: ['jobId'],
      transaction,
    });
    await this.flags.bulkCreate(
      used.map(({ jobId }) => ({
        jobId,
        byJobId: by.id,
        gaugeId: gauge.id,
        at: new Date(),
        text: text.slice(0, 400),
      })),
      { ignoreDuplicates: true, transaction },
    );
    const jobs = await this.jobs.findAll({
      where: { id: used.map((u) => u.jobId) },
      attributes: ['controlId'],
      transaction,
    });
    return jobs.map((j) => j.controlId);
  }
}
