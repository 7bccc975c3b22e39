import type { FirmGauge, GaugeHistory, Page, Saved, Sent } from '@firm-needle/contract';
import { Injectable } from '@nestjs/common';
import { InjectModel } from '@nestjs/sequelize';
import { parseAccuracyClass, zeroLimit, type AccuracyClass, type Gauge } from '@firm-needle/core/gauge';
import { zeroDrift } from '@firm-needle/core/history';
import { findUnit } from '@firm-needle/core/quantity';
import { families } from '@firm-needle/families';
import { Op } from 'sequelize';
import { v7 as uuid } from 'uuid';
import { afterNamed, cursorOf, pageOf, type PageQuery } from '../common/page.js';
import { notFound, Problem, wrongField } from '../common/problem.js';
import { mayWrite } from '../common/records.js';
import type { Actor } from '../common/user.js';
import { Control, Equipment, GaugeCheck, GaugeRow, GaugeSpan, Site } from '../database/models.js';
import { DueService } from '../due/due.service.js';
import type { GaugeBody } from './gauges.controller.js';

const view = (g: GaugeRow) => ({
  ...g.body,
  id: g.id,
  label: g.label,
  owner: g.owner,
  due: g.due ?? undefined,
  retired: g.retiredAt !== null,
});

@Injectable()
export class GaugesService {
  constructor(
    @InjectModel(GaugeRow) private readonly gauges: typeof GaugeRow,
    @InjectModel(GaugeCheck) private readonly checks: typeof GaugeCheck,
    @InjectModel(GaugeSpan) private readonly spans: typeof GaugeSpan,
    @InjectModel(Control) private readonly controls: typeof Control,
    @InjectModel(Equipment) private readonly equipment: typeof Equipment,
    @InjectModel(Site) private readonly sites: typeof Site,
    private readonly due: DueService,
  ) {}

  async list(actor: Actor, page: PageQuery): Promise<Sent<Page<FirmGauge>>> {
    const limit = page.limit ?? 100;
    const rows = await this.gauges.findAll({
      where: {
        organisationId: actor.organisation.id,
        ...afterNamed('label', page.after),
      },
      order: ['label', 'id'],
      limit: limit + 1,
    });
    return pageOf(rows.map(view), limit, (g) => cursorOf(g.label, g.id));
  }

  async one(actor: Actor, id: string): Promise<Sent<GaugeHistory>> {
    const row = await this.reach(actor, id);
    const [checks, spans, control] = await Promise.all([
      this.checks.findAll({ where: { gaugeId: id }, order: ['at'], limit: 500 }),
      this.spans.findAll({ where: { gaugeId: id }, order: [['at', 'DESC']], limit: 50 }),
      this.controls.findOne({ where: { gaugeId: id } }),
    ]);
    const points = checks.map((c) => ({ day: c.at.toISOString().slice(0, 10), offset: c.beforePa }));
    return {
      ...view(row),
      limit_Pa: zeroLimit(row.body),
      zeros: checks.map((c) => ({
        at: c.at,
        before_Pa: c.beforePa,
        after_Pa: c.afterPa,
        handling: c.handling,
        job: c.jobId,
      })),
      drift: zeroDrift(points, zeroLimit(row.body)) ?? null,
      control: control ? { id: control.id, due: control.due } : null,
      spans: spans.map((s) => ({ job: s.jobId, at: s.at, outcome: s.outcome, errors: s.errors })),
    };
  }

  private async reach(actor: Actor, id: string): Promise<GaugeRow> {
    const row = await this.gauges.findOne({ where: { id, organisationId: actor.organisation.id } });
    if (!row) throw notFound('gauge');
    return row;
  }

  /** The gauge's own control; made at the bench where the firm's other gauges are, or at a new one. */
  async control(actor: Actor, id: string): Promise<Saved> {
    mayWrite(actor);
    const gauge = await this.reach(actor, id);
    const known = await this.controls.findOne({ where: { gaugeId: id } });
    if (known) return { id: known.id };
    const family = families().find((f) => f.subject === 'gauge');
    if (!family) throw new Problem(422, 'family-unknown', 'Gauges cannot be checked in this version.');
    const organisationId = actor.organisation.id;
    const beside = await this.controls.findOne({ where: { organisationId, gaugeId: { [Op.ne]: null } } });
    const equipmentId = beside?.equipmentId ?? (await this.bench(organisationId));
    const control = await this.controls.create({
      id: uuid(),
      organisationId,
      equipmentId,
      name: `Gauge ${gauge.label}`,
      family: family.id,
      planVersion: 0,
      due: gauge.due,
      story: null,
      gaugeId: id,
    });
    await this.due.refresh(control.id);
    return { id: control.id };
  }

  private async bench(organisationId: string): Promise<string> {
    const site = await this.sites.create({
      id: uuid(),
      organisationId,
      name: 'Workshop',
      altitudeM: 0,
      notes: 'Made for the checks of the firm’s own gauges: give it its altitude.',
    });
    const equipment = await this.equipment.create({
      id: uuid(),
      organisationId,
      siteId: site.id,
      name: 'Test gauges',
      notes: null,
    });
    return equipment.id;
  }

  async save(actor: Actor, id: string, body: GaugeBody): Promise<Saved> {
    mayWrite(actor);
    const known = await this.gauges.findByPk(id);
    const gauge = this.checked(id, body, known?.body);
    if (known && known.organisationId !== actor.organisation.id)
      throw new Problem(409, 'id-reused', 'That gauge id is taken.');
    const same = await this.gauges.findOne({
      where: { organisationId: actor.organisation.id, label: body.label, id: { [Op.ne]: id } },
    });
    if (same)
      throw wrongField(
        'label',
        `Another gauge is already called ${body.label}.`,
        'Give it the label on its own back.',
      );
    const row = {
      id,
      organisationId: actor.organisation.id,
      label: gauge.label,
      owner: body.owner ?? null,
      body: gauge,
      due: body.due ?? null,
      retiredAt: body.retired ? (known?.retiredAt ?? new Date()) : null,
    };
    if (known) await known.update(row);
    else await this.gauges.create(row);
    const control = await this.controls.findOne({ where: { gaugeId: id } });
    if (control) {
      await control.update({ retiredAt: row.retiredAt });
      await this.due.refresh(control.id);
    }
    return { id };
  }

  /** The gauge that the fields describe; refused where they contradict each other. */
  private checked(id: string, body: GaugeBody, before: Gauge | undefined): Gauge {
    const unit = findUnit(body.unit);
    const dimension = body.kind === 'thermometer' ? 'temperature' : 'pressure';
    if (unit?.dimension !== dimension)
      throw wrongField(
        'unit',
        `"${body.unit}" is not a unit of ${dimension}.`,
        dimension === 'pressure' ? 'Use psi, bar, kPa, inH2O …' : 'Use degF or degC.',
      );
    if (body.column_C !== undefined && body.kind !== 'u-tube')
      throw wrongField('column_C', 'Only a column of water has its temperature.', 'Leave it empty.');
    if (!(body.upper > body.lower))
      throw wrongField(
        'upper',
        `The scale ends at ${body.upper}, not above its start ${body.lower}.`,
        'Type the end of the scale.',
      );
    if (!(body.division > 0 && body.division <= (body.upper - body.lower) / 4))
      throw wrongField(
        'division',
        `A division of ${body.division} does not fit a scale of ${body.upper - body.lower}.`,
        'Type the smallest division on the dial.',
      );
    const { label, kind, lower, upper, division, readable, medium, serial, certificate, due, column_C } =
      body;
    // What checks found stays, unless it is another scale now.
    const same = before && before.unit === unit.id && before.lower === lower && before.upper === upper;
    return {
      id,
      label,
      kind,
      unit: unit.id,
      lower,
      upper,
      division,
      readable: kind === 'digital' ? 1 : readable,
      accuracy: accuracyOf(body.accuracy),
      medium,
      ...(serial ? { serial } : {}),
      ...(certificate ? { certificate } : {}),
      ...(due ? { due } : {}),
      ...(column_C === undefined ? {} : { column_C }),
      ...(same && before.check ? { check: before.check } : {}),
      ...(same && before.standing ? { standing: before.standing } : {}),
      ...(same && before.raises ? { raises: before.raises } : {}),
    };
  }
}

function accuracyOf(text: string): AccuracyClass {
  const percent = /^\s*([\d.,]+)\s*%/.exec(text);
  const n = Number(percent?.[1]?.replace(',', '.'));
  if (percent && n > 0 && n <= 20) return { standard: 'stated', percentOfSpan: n };
  const parsed = parseAccuracyClass(text);
  if (!parsed.ok)
    throw wrongField(
      'accuracy',
      `${parsed.refusal.message} ${parsed.refusal.bound ?? ''}`,
      parsed.refusal.remedy ?? '',
    );
  return parsed.value;
}
