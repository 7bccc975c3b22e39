import { Injectable } from '@nestjs/common';
import { InjectModel } from '@nestjs/sequelize';
import { dueReasons, leaving, settingDrift, type DueFacts, type DueReason } from '@firm-needle/core/history';
import { decimalsFor, figure, intervalFromCanonical, symbolOf } from '@firm-needle/core/quantity';
import { familyExists } from '@firm-needle/families';
import { Op, type Order, type Transaction } from 'sequelize';
import {
  Control,
  ControlPlan,
  DueReasonRow,
  FittedDevice,
  GaugeRow,
  JobFlag,
  JobResult,
} from '../database/models.js';
import { lifeOf } from './life.js';

/** Signed visits that a drift is taken from. */
const MOST_VISITS = 30;
const MOST_TEXT = 300;

/** When each control is due next, and why: worked out again whenever something it hangs on changes, and kept for the lists. */
@Injectable()
export class DueService {
  constructor(
    @InjectModel(Control) private readonly controls: typeof Control,
    @InjectModel(ControlPlan) private readonly plans: typeof ControlPlan,
    @InjectModel(DueReasonRow) private readonly reasons: typeof DueReasonRow,
    @InjectModel(FittedDevice) private readonly devices: typeof FittedDevice,
    @InjectModel(GaugeRow) private readonly gauges: typeof GaugeRow,
    @InjectModel(JobFlag) private readonly flags: typeof JobFlag,
    @InjectModel(JobResult) private readonly results: typeof JobResult,
  ) {}

  /** Works out a control's dates anew. @returns its reasons, the soonest first */
  async refresh(controlId: string, transaction?: Transaction): Promise<readonly DueReason[]> {
    const within = transaction ? { transaction } : {};
    const control = await this.controls.findByPk(controlId, within);
    if (!control) return [];
    const reasons = control.retiredAt ? [] : await this.reasonsOf(control, transaction);
    await this.reasons.destroy({ where: { controlId }, ...within });
    await this.reasons.bulkCreate(
      reasons.map((r) => ({
        controlId,
        organisationId: control.organisationId,
        kind: r.kind,
        day: r.day,
        because: r.because.slice(0, MOST_TEXT),
      })),
      within,
    );
    await control.update({ due: reasons[0]?.day ?? null }, within);
    return reasons;
  }

  /** Those of a firm's controls that nobody has worked out yet: after an update of the program. */
  async refreshMissing(): Promise<number> {
    const known = await this.reasons.findAll({ attributes: ['controlId'], group: ['controlId'] });
    const missing = await this.controls.findAll({
      where: { retiredAt: null, id: { [Op.notIn]: known.map((k) => k.controlId) } },
      attributes: ['id'],
    });
    for (const c of missing) await this.refresh(c.id);
    return missing.length;
  }

  private async reasonsOf(control: Control, transaction?: Transaction): Promise<readonly DueReason[]> {
    const within = transaction ? { transaction } : {};
    const where = { controlId: control.id, signedAt: { [Op.ne]: null }, practice: false };
    const order: Order = [
      ['signedAt', 'DESC'],
      ['jobId', 'DESC'],
    ];
    const signed = await this.results.findAll({ where, order, limit: MOST_VISITS, ...within });
    const last = signed[0];
    // However many visits there were since that proved nothing.
    const proved =
      signed.find((r) => r.counts) ??
      (signed.length < MOST_VISITS
        ? undefined
        : ((await this.results.findOne({ where: { ...where, counts: true }, order, ...within })) ??
          undefined));
    const day = (r: JobResult | undefined): string | undefined => r?.signedAt?.toISOString().slice(0, 10);
    const checked = day(proved);
    const facts: DueFacts = {
      since: control.createdAt.toISOString().slice(0, 10),
      ...(checked === undefined ? {} : { checked }),
      ...(control.months === null ? {} : { months: control.months }),
      ...(control.lawMonths === null
        ? {}
        : { law: { months: control.lawMonths, by: control.lawBy ?? 'the authority' } }),
      ...(control.customerDay === null ? {} : { customer: control.customerDay }),
      ...(last && last !== proved ? followUp(last) : {}),
      ...(proved ? { doubts: await this.doubts(proved, transaction) } : {}),
      ...(await this.leaves(control, signed, transaction)),
    };
    const reasons = dueReasons(facts);
    // A gauge's own control goes by its certificate, too.
    const gauge = control.gaugeId ? await this.gauges.findByPk(control.gaugeId, within) : null;
    if (!gauge?.due) return reasons;
    const own: DueReason = { kind: 'law', day: gauge.due, because: 'its certificate ends' };
    return [own, ...reasons.filter((r) => r.kind !== 'first' && r.kind !== 'rule' && r.kind !== 'law')].sort(
      (a, b) => a.day.localeCompare(b.day),
    );
  }

  private async doubts(proved: JobResult, transaction?: Transaction): Promise<DueFacts['doubts']> {
    const flags = await this.flags.findAll({
      where: { jobId: proved.jobId },
      order: ['at'],
      limit: 3,
      ...(transaction ? { transaction } : {}),
    });
    return flags.map((f) => ({ day: f.at.toISOString().slice(0, 10), because: `gauge in doubt: ${f.text}` }));
  }

  /** The setting that leaves its limits first, where one surely drifts. */
  private async leaves(
    control: Control,
    signed: readonly JobResult[],
    transaction?: Transaction,
  ): Promise<Pick<DueFacts, 'leaves'>> {
    if (signed.length < 3 || !familyExists(control.family)) return {};
    const within = transaction ? { transaction } : {};
    const [plan, devices] = await Promise.all([
      this.plans.findOne({ where: { controlId: control.id }, order: [['version', 'DESC']], ...within }),
      this.devices.findAll({ where: { controlId: control.id }, ...within }),
    ]);
    const out = lifeOf(signed, devices).flatMap(({ setting, title, unit, step, points }) => {
      const drift = settingDrift(points);
      const limits = plan?.plan.limits[setting];
      const day = drift && limits ? leaving(drift, limits).day : undefined;
      if (!drift || day === undefined) return [];
      const rate = figure(intervalFromCanonical(drift.perYear, unit), decimalsFor(step / 2));
      return [{ day, because: `${title} drifts ${rate} ${symbolOf(unit)} a year and leaves its limits` }];
    });
    const first = out.sort((a, b) => a.day.localeCompare(b.day))[0];
    return first ? { leaves: first } : {};
  }
}

/** `18 Nov 2026`. */
const inWords = (day: string): string =>
  new Date(`${day}T00:00:00Z`).toLocaleDateString('en-GB', {
    day: 'numeric',
    month: 'short',
    year: 'numeric',
    timeZone: 'UTC',
  });

/** What the last job left to be done, where it ended so; a signature that proves nothing moves no date. */
function followUp(last: JobResult): Pick<DueFacts, 'followUp'> {
  const because =
    last.outcome === 'replace'
      ? 'to be replaced'
      : last.outcome === 'unfinished'
        ? 'left unfinished'
        : undefined;
  const day = last.signedAt?.toISOString().slice(0, 10) ?? '';
  return because === undefined ? {} : { followUp: { day, because: `${because}, since ${inWords(day)}` } };
}
