import type { Life, Sent } from '@firm-needle/contract';
import { Injectable } from '@nestjs/common';
import { InjectConnection, InjectModel } from '@nestjs/sequelize';
import { Op, QueryTypes, type Sequelize } from 'sequelize';
import type { Actor } from '../common/user.js';
import { DueReasonRow, FittedDevice, GaugeRow, JobFinding, JobGauge, JobResult } from '../database/models.js';
import { lifeOf } from '../due/life.js';
import { ControlsService } from './controls.service.js';

const MOST_VISITS = 100;
const MOST_FINDINGS = 20;

/** What a control has been through, for one page. */
@Injectable()
export class LifeService {
  constructor(
    @InjectModel(JobResult) private readonly results: typeof JobResult,
    @InjectModel(FittedDevice) private readonly devices: typeof FittedDevice,
    @InjectModel(DueReasonRow) private readonly reasons: typeof DueReasonRow,
    @InjectModel(JobGauge) private readonly used: typeof JobGauge,
    @InjectModel(GaugeRow) private readonly gauges: typeof GaugeRow,
    @InjectModel(JobFinding) private readonly findings: typeof JobFinding,
    private readonly controls: ControlsService,
    @InjectConnection() private readonly db: Sequelize,
  ) {}

  async of(actor: Actor, id: string): Promise<Sent<Life>> {
    await this.controls.reach(actor, id);
    const signed = await this.results.findAll({
      where: { controlId: id, signedAt: { [Op.ne]: null }, practice: false },
      order: [
        ['signedAt', 'DESC'],
        ['jobId', 'DESC'],
      ],
      limit: MOST_VISITS,
    });
    const [devices, reasons, used, findings, notes] = await Promise.all([
      this.devices.findAll({ where: { controlId: id }, order: ['fittedOn'] }),
      this.reasons.findAll({ where: { controlId: id }, order: ['day', 'kind'] }),
      this.used.findAll({ where: { jobId: signed.map((s) => s.jobId) } }),
      this.findings.findAll({
        where: { controlId: id },
        order: [
          ['signedAt', 'DESC'],
          ['jobId', 'DESC'],
        ],
        limit: MOST_FINDINGS,
      }),
      this.notes(id),
    ]);
    const gauges = await this.gauges.findAll({ where: { id: [...new Set(used.map((u) => u.gaugeId))] } });
    return {
      reasons: reasons.map(({ kind, day, because }) => ({ kind, day, because })),
      settings: lifeOf(signed, devices),
      devices: devices.map(({ id: device, label, fittedOn, removedOn }) => ({
        id: device,
        label,
        fittedOn,
        removedOn,
      })),
      gauges: gauges.map((g) => {
        const jobs = used.filter((u) => u.gaugeId === g.id);
        const last = Math.max(...jobs.map((u) => Number(u.at)));
        return {
          id: g.id,
          label: g.label,
          jobs: new Set(jobs.map((u) => u.jobId)).size,
          last: new Date(last).toISOString(),
        };
      }),
      findings: findings.map((f) => ({ job: f.jobId, at: f.signedAt, message: f.message })),
      notes,
    };
  }

  private notes(controlId: string): Promise<{ job: string; at: Date; text: string }[]> {
    return this.db.query(
      `SELECT e.job_id AS job, e.received_at AS at, JSON_VALUE(e.text, '$.body.text') AS text
       FROM jobs j JOIN job_events e ON e.job_id = j.id AND e.kind = 'note' LEFT JOIN job_results r ON r.job_id = j.id
       WHERE j.control_id = ? AND COALESCE(r.practice, FALSE) = FALSE AND NOT EXISTS (
         SELECT 1 FROM job_events c WHERE c.job_id = j.id AND c.kind = 'correct' AND JSON_VALUE(c.text, '$.body.corrects') = e.id)
       ORDER BY e.received_at DESC, e.seq DESC LIMIT ${MOST_FINDINGS}`,
      { replacements: [controlId], type: QueryTypes.SELECT },
    );
  }
}
