import type { EventsPage, JobInfo, JobOpened, Seal, Sent } from '@firm-needle/contract';
import { Injectable } from '@nestjs/common';
import { InjectModel } from '@nestjs/sequelize';
import { CHAIN_START, fingerprint, verifyChain, type ChainCheck } from '@firm-needle/core/formats';
import type { JobEvent } from '@firm-needle/core/procedure';
import { Op } from 'sequelize';
import { forbidden, notFound, Problem } from '../common/problem.js';
import type { Actor } from '../common/user.js';
import { ControlsService } from '../controls/controls.service.js';
import { Job, JobEventRow, JobFlag, JobResult, Visit } from '../database/models.js';
import type { OpenJobBody } from './jobs.dto.js';

const EVENTS_PAGE = 500;

@Injectable()
export class JobsService {
  constructor(
    @InjectModel(Job) private readonly jobs: typeof Job,
    @InjectModel(JobEventRow) private readonly eventRows: typeof JobEventRow,
    @InjectModel(JobResult) private readonly results: typeof JobResult,
    @InjectModel(JobFlag) private readonly flags: typeof JobFlag,
    @InjectModel(Visit) private readonly visitRows: typeof Visit,
    private readonly controls: ControlsService,
  ) {}

  /** The job in the actor's reach, or a refusal that does not tell whether it exists elsewhere. */
  async reach(actor: Actor, id: string): Promise<Job> {
    const job = await this.jobs.findOne({ where: { id, organisationId: actor.organisation.id } });
    if (!job) throw notFound('job');
    if (actor.site) await this.controls.reach(actor, job.controlId);
    return job;
  }

  async open(actor: Actor, id: string, body: OpenJobBody): Promise<JobOpened> {
    if (actor.role === 'reader') throw forbidden('Your account may look, not work.');
    const known = await this.jobs.findByPk(id);
    if (known) {
      if (known.organisationId !== actor.organisation.id)
        throw new Problem(409, 'id-reused', 'That job id is taken.');
      if (known.controlId !== body.controlId)
        throw new Problem(409, 'id-reused', 'That job belongs to another control.', {
          remedy: 'Start a new job.',
        });
      return { id, seq: known.seq };
    }
    const control = await this.controls.reach(actor, body.controlId);
    if (body.visitId) await this.visits(actor, body.visitId, control.equipment.siteId);
    const [job] = await this.jobs.findOrCreate({
      where: { id },
      defaults: {
        id,
        organisationId: actor.organisation.id,
        controlId: body.controlId,
        visitId: body.visitId ?? null,
        openedBy: actor.id,
        openedAt: new Date(),
        seq: 0,
        head: CHAIN_START,
        signedAt: null,
      },
    });
    return { id, seq: job.seq };
  }

  /** A job belongs to a visit of its own site, planned by its own organisation. */
  private async visits(actor: Actor, id: string, siteId: string): Promise<void> {
    const visit = await this.visitRows.findOne({ where: { id, organisationId: actor.organisation.id } });
    if (!visit) throw notFound('visit');
    if (visit.siteId !== siteId)
      throw new Problem(422, 'other-visit', 'That visit goes to another site.', {
        errors: [{ field: 'visitId', message: 'goes to another site' }],
        remedy: 'Start the job from the visit to this site.',
      });
  }

  async one(actor: Actor, id: string): Promise<Sent<JobInfo>> {
    const job = await this.reach(actor, id);
    const result = await this.results.findByPk(id);
    const flags = await this.flags.findAll({ where: { jobId: id }, order: ['at'] });
    return {
      id: job.id,
      controlId: job.controlId,
      visitId: job.visitId,
      openedAt: job.openedAt,
      signedAt: job.signedAt,
      seq: job.seq,
      head: job.head,
      flags: flags.map((f) => ({ text: f.text, byJob: f.byJobId })),
      result: result
        ? {
            throughSeq: result.throughSeq,
            outcome: result.outcome,
            objections: result.objections.map((o) => o.message),
            sheet: result.result,
          }
        : null,
    };
  }

  async events(actor: Actor, id: string, after: number): Promise<EventsPage> {
    const job = await this.reach(actor, id);
    const rows = await this.eventRows.findAll({
      where: { jobId: id, seq: { [Op.gt]: after } },
      order: ['seq'],
      limit: EVENTS_PAGE + 1,
    });
    const page = rows.slice(0, EVENTS_PAGE);
    return {
      items: page.map((r) => ({ seq: r.seq, hash: r.hash, event: JSON.parse(r.text) as JobEvent })),
      next: rows.length > EVENTS_PAGE ? (page.at(-1)?.seq ?? null) : null,
      seq: job.seq,
    };
  }

  async seal(actor: Actor, id: string): Promise<Sent<Seal>> {
    const job = await this.reach(actor, id);
    const check = await this.check(job);
    return { ...check, fingerprint: fingerprint(job.head), signedAt: job.signedAt };
  }

  /** Walks the chain of one job; the job row's own head and count must agree with it. */
  async check(job: Job): Promise<ChainCheck> {
    const rows = await this.eventRows.findAll({ where: { jobId: job.id }, order: ['seq'] });
    const check = verifyChain(rows.map((r) => ({ seq: r.seq, text: r.text, hash: r.hash })));
    if (!check.whole) return check;
    if (check.length !== job.seq)
      return {
        whole: false,
        at: check.length + 1,
        because: `The job counts ${job.seq} events; ${check.length} are here.`,
      };
    if (job.seq > 0 && check.head !== job.head)
      return { whole: false, at: job.seq, because: 'The last event is not the one that was sealed.' };
    return check;
  }
}
