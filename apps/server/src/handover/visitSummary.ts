import { Injectable } from '@nestjs/common';
import { InjectModel } from '@nestjs/sequelize';
import { Job } from '../database/models.js';
import type { Actor } from '../common/user.js';
import { VisitsService } from '../visits/visits.service.js';
import { saidIn } from './days.js';
import { fileName, RecordsService, type RecordAsk } from './records.service.js';
import { visitPdf, type VisitText } from './visitPdf.js';

/** What a visit came to, for who was not there. */
@Injectable()
export class VisitSummary {
  constructor(
    @InjectModel(Job) private readonly jobs: typeof Job,
    private readonly visits: VisitsService,
    private readonly records: RecordsService,
  ) {}

  async pdf(actor: Actor, id: string, ask: RecordAsk): Promise<{ name: string; data: Buffer }> {
    const visit = await this.visits.one(actor, id);
    const day = String(visit.day).slice(0, 10);
    const controls: VisitText['controls'][number][] = [];
    for (const c of visit.controls) {
      const job = c.job ? await this.jobs.findByPk(String(c.job.id)) : null;
      const doc = job && job.seq > 0 ? (await this.records.make(job, ask)).doc : undefined;
      controls.push({
        name: String(c.name),
        equipment: String(c.equipment),
        outcome: doc?.outcome ?? 'Not worked on',
        sentences: doc?.summary ?? [],
      });
    }
    const data = await visitPdf({
      firm: actor.organisation.name,
      site: String(visit.site.name),
      day: saidIn(ask.zone).day(day),
      by: String(visit.technician ?? ''),
      purpose: String(visit.purpose ?? ''),
      controls,
    });
    return { name: `${fileName(String(visit.site.name))}-${day}.pdf`, data };
  }
}
