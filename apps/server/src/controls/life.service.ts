import type { Life, Sent } from '@firm-needle/contract';
import { Injectable } from '@nestjs/common';
import { InjectModel } from '@nestjs/sequelize';
import { Op } from 'sequelize';
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
  ) {}

  async of(actor: Actor, id: string): Promise<Sent<Life>> {
    await this.controls.reach(actor, id);
    const signed = await this.results.findAll({
      where: { controlId: id, signedAt: { [Op.ne]: null }, practice: false },
      order: [['signedAt', 'DESC']],
      limit: MOST_VISITS,
    });
    const [devices, reasons, used, findings] = await Promise.all([
      this.devices.findAll({ where: { controlId: id }, order: ['fittedOn'] }),
      this.reasons.findAll({ where: { controlId: id }, order: ['day'] }),
      this.used.findAll({ where: { jobId: signed.map((s) => s.jobId) } }),
      this.findings.findAll({
        where: { controlId: id },
        order: [['signedAt', 'DESC']],
        limit: MOST_FINDINGS,
      }),
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
    };
  }
}
