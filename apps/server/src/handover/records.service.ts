import type { Family } from '@firm-needle/core/family';
import { fingerprint } from '@firm-needle/core/formats';
import type { DueReason } from '@firm-needle/core/history';
import type { JobView } from '@firm-needle/core/procedure';
import { findUnit } from '@firm-needle/core/quantity';
import { documentOf, type RecordDoc } from '@firm-needle/core/record';
import { Injectable } from '@nestjs/common';
import { InjectConnection, InjectModel } from '@nestjs/sequelize';
import { QueryTypes, type Sequelize } from 'sequelize';
import { notFound, Problem } from '../common/problem.js';
import { DueReasonRow, Job, JobFlag, JobResult } from '../database/models.js';
import { JobsService } from '../jobs/jobs.service.js';
import { ResultsService } from '../jobs/results.service.js';
import { PhotosService } from '../photos/photos.service.js';
import { saidIn } from './days.js';
import { MOST_PHOTOS, sheetPdf } from './sheetPdf.js';

/** How a record is asked for. */
export interface RecordAsk {
  /** A pressure unit; `worked` as it was worked; else the customer's. */
  readonly unit?: string | undefined;
  readonly zone?: string | undefined;
}

/** A job's record, and what it was made of. */
export interface MadeRecord {
  readonly doc: RecordDoc;
  readonly family: Family;
  readonly view: JobView;
  readonly unit: string | undefined;
  readonly organisationId: string;
}

interface Around {
  readonly organisation: string;
  readonly unit: string | null;
  readonly newest: number;
}

/** The record of a job as it is handed over: the same words on the screen, on paper and behind a link. */
@Injectable()
export class RecordsService {
  constructor(
    @InjectModel(JobResult) private readonly results: typeof JobResult,
    @InjectModel(JobFlag) private readonly flags: typeof JobFlag,
    @InjectModel(DueReasonRow) private readonly due: typeof DueReasonRow,
    @InjectConnection() private readonly db: Sequelize,
    private readonly jobs: JobsService,
    private readonly folding: ResultsService,
    private readonly photos: PhotosService,
  ) {}

  /** @param job one that whoever asks may see */
  async make(job: Job, { unit: asked, zone }: RecordAsk): Promise<MadeRecord> {
    const folded = await this.folding.fold(job.id);
    if (!folded)
      throw new Problem(409, 'not-begun', 'Nothing of this job has arrived yet.', {
        remedy: 'Wait until the device that works on it has sent it.',
      });
    const [result, flags, reasons, check, around] = await Promise.all([
      this.results.findByPk(job.id),
      this.flags.findAll({ where: { jobId: job.id }, order: ['at'] }),
      this.due.findAll({ where: { controlId: job.controlId }, order: ['day', 'kind'], limit: 1 }),
      this.jobs.check(job),
      this.around(job),
    ]);
    const unit = unitFor(asked, around.unit);
    const frozen = result?.signedAt ? result.result : undefined;
    const [first] = reasons;
    const next: DueReason | undefined =
      first && Number(around.newest) === 1
        ? { kind: first.kind, day: first.day, because: first.because }
        : undefined;
    const doc = documentOf(folded.family, folded.view, {
      organisation: around.organisation,
      seal: { ...check, fingerprint: fingerprint(job.head) },
      flags: flags.map((f) => f.text),
      frozen,
      objections: result?.signedAt ? result.objections.map((o) => o.message) : [],
      next,
      unit,
      ...saidIn(zone),
    });
    return { doc, family: folded.family, view: folded.view, unit, organisationId: job.organisationId };
  }

  async pdf(job: Job, ask: RecordAsk): Promise<{ name: string; data: Buffer }> {
    const { doc, family, view, unit, organisationId } = await this.make(job, ask);
    const bytes = new Map<string, Buffer>();
    for (const { hash } of doc.photos.slice(0, MOST_PHOTOS)) {
      const data = await this.photos.of(organisationId, hash);
      if (data) bytes.set(hash, data);
    }
    const data = await sheetPdf({
      doc,
      family,
      job: view,
      unit,
      photo: (p) => bytes.get(p.hash),
      ...saidIn(ask.zone),
    });
    return { name: `${fileName(doc.title)}-${doc.at.slice(0, 10)}.pdf`, data };
  }

  /** What of the register stands on a record: the firm, the customer's unit, whether it is the control's newest. */
  private async around(job: Job): Promise<Around> {
    const [row] = await this.db.query<Around>(
      `SELECT o.name AS organisation, s.unit,
         COALESCE(j.id = (SELECT r.job_id FROM job_results r WHERE r.control_id = j.control_id AND r.signed_at IS NOT NULL AND r.practice = FALSE
                   ORDER BY r.signed_at DESC, r.job_id DESC LIMIT 1), FALSE) AS newest
       FROM jobs j JOIN organisations o ON o.id = j.organisation_id JOIN controls c ON c.id = j.control_id
       JOIN equipment e ON e.id = c.equipment_id JOIN sites s ON s.id = e.site_id WHERE j.id = ?`,
      { replacements: [job.id], type: QueryTypes.SELECT },
    );
    if (!row) throw notFound('job');
    return row;
  }
}

/** The unit a record is written in. */
function unitFor(asked: string | undefined, customers: string | null): string | undefined {
  if (asked === 'worked') return undefined;
  if (asked === undefined || asked === '') return customers ?? undefined;
  const unit = findUnit(asked);
  if (unit?.dimension !== 'pressure')
    throw new Problem(422, 'not-valid', `unit: ${asked} is no unit of pressure`, {
      errors: [{ field: 'unit', message: 'is no unit of pressure' }],
      remedy: 'Ask for psi, bar, kPa or another unit of pressure, or for “worked”.',
    });
  return unit.id;
}

/** A file's name that every system takes. */
export const fileName = (title: string): string =>
  title
    .normalize('NFKD')
    .replace(/[^\p{L}\p{N}]+/gu, '-')
    .replace(/^-+|-+$/g, '')
    .toLowerCase()
    .slice(0, 60) || 'sheet';
