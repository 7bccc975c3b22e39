import type { NewLink, SharedLink, SharedSheet } from '@firm-needle/contract';
import { Injectable } from '@nestjs/common';
import { InjectModel } from '@nestjs/sequelize';
import { v7 as uuidv7 } from 'uuid';
import { notFound, Problem } from '../common/problem.js';
import { mayWrite } from '../common/records.js';
import { hashOf, newSecret } from '../common/secret.js';
import type { Actor } from '../common/user.js';
import { Job, Share, User } from '../database/models.js';
import { JobsService } from '../jobs/jobs.service.js';
import { PhotosService } from '../photos/photos.service.js';
import { RecordsService, type RecordAsk } from './records.service.js';

const DAY_MS = 86400e3;
/** Links of one job that stand at a time. */
const MOST_LINKS = 20;

/** Links by which somebody without an account reads one sheet, until they expire or are withdrawn. */
@Injectable()
export class SharesService {
  constructor(
    @InjectModel(Share) private readonly shares: typeof Share,
    @InjectModel(Job) private readonly jobRows: typeof Job,
    @InjectModel(User) private readonly users: typeof User,
    private readonly jobs: JobsService,
    private readonly records: RecordsService,
    private readonly photos: PhotosService,
  ) {}

  /** A new link to a signed sheet; its token is told here and nowhere again. */
  async make(actor: Actor, jobId: string, { days, ...ask }: RecordAsk & { days: number }): Promise<NewLink> {
    mayWrite(actor);
    const job = await this.jobs.reach(actor, jobId);
    const { doc } = await this.records.make(job, ask);
    if (!job.signedAt)
      throw new Problem(422, 'not-signed', 'A sheet that is not signed is not shared.', {
        remedy: 'Sign the job first.',
      });
    if (doc.practice) throw new Problem(422, 'practice', 'Practice is not shared with customers.');
    const standing = await this.shares.count({ where: { jobId, withdrawnAt: null } });
    if (standing >= MOST_LINKS)
      throw new Problem(409, 'too-many', `There are ${MOST_LINKS} links to this sheet.`, {
        remedy: 'Withdraw one that is not needed.',
      });
    const { token, hash } = newSecret();
    const id = uuidv7();
    const now = Date.now();
    const expiresAt = new Date(now + days * DAY_MS);
    await this.shares.create({
      id,
      organisationId: actor.organisation.id,
      jobId,
      tokenHash: hash,
      unit: ask.unit ?? null,
      zone: ask.zone ?? null,
      createdBy: actor.id,
      createdAt: new Date(now),
      expiresAt,
    });
    return { id, token, expiresAt: expiresAt.toISOString() };
  }

  async list(actor: Actor, jobId: string): Promise<readonly SharedLink[]> {
    mayWrite(actor);
    await this.jobs.reach(actor, jobId);
    const rows = await this.shares.findAll({ where: { jobId }, order: [['createdAt', 'DESC']], limit: 100 });
    const people = await this.users.findAll({
      where: { id: rows.map((r) => r.createdBy) },
      attributes: ['id', 'name'],
    });
    return rows.map((s) => ({
      id: s.id,
      createdAt: s.createdAt.toISOString(),
      by: people.find((p) => p.id === s.createdBy)?.name ?? '',
      expiresAt: s.expiresAt.toISOString(),
      withdrawnAt: s.withdrawnAt?.toISOString() ?? null,
      opened: s.opened,
    }));
  }

  /** From now on nobody reads by it; once more is the same. */
  async withdraw(actor: Actor, id: string): Promise<void> {
    mayWrite(actor);
    const share = await this.shares.findOne({ where: { id, organisationId: actor.organisation.id } });
    if (!share) throw notFound('link');
    if (share.withdrawnAt === null) await share.update({ withdrawnAt: new Date() });
  }

  async sheet(token: string): Promise<SharedSheet> {
    const { share, job } = await this.open(token);
    const { doc } = await this.records.make(job, askOf(share));
    await this.shares.increment('opened', { where: { id: share.id } });
    return { doc, expiresAt: share.expiresAt.toISOString() };
  }

  async pdf(token: string): Promise<{ name: string; data: Buffer }> {
    const { share, job } = await this.open(token);
    return this.records.pdf(job, askOf(share));
  }

  /** A photo that stands on the shared sheet; of others nothing is said. */
  async photo(token: string, hash: string): Promise<Buffer> {
    const { share, job } = await this.open(token);
    const { doc, organisationId } = await this.records.make(job, askOf(share));
    const data = doc.photos.some((p) => p.hash === hash)
      ? await this.photos.of(organisationId, hash)
      : undefined;
    if (!data) throw notFound('photo');
    return data;
  }

  private async open(token: string): Promise<{ share: Share; job: Job }> {
    const share = await this.shares.findOne({ where: { tokenHash: hashOf(token) } });
    const job = share ? await this.jobRows.findByPk(share.jobId) : null;
    if (!share || !job)
      throw new Problem(404, 'not-found', 'There is no such link.', {
        remedy: 'Open it as it was sent to you, whole.',
      });
    if (share.withdrawnAt !== null)
      throw new Problem(410, 'withdrawn', 'This link was withdrawn.', {
        remedy: 'Ask the firm for a new one.',
      });
    if (share.expiresAt.getTime() <= Date.now())
      throw new Problem(410, 'expired', 'This link has expired.', { remedy: 'Ask the firm for a new one.' });
    return { share, job };
  }
}

const askOf = ({ unit, zone }: Share): RecordAsk => ({ unit: unit ?? undefined, zone: zone ?? undefined });
