import { Injectable } from '@nestjs/common';
import { InjectModel } from '@nestjs/sequelize';
import {
  findUnit,
  parseAccuracyClass,
  zeroDrift,
  zeroLimit,
  type AccuracyClass,
  type Gauge,
} from '@firm-needle/core';
import { Op } from 'sequelize';
import { pageOf, type Page, type PageQuery } from '../common/page.js';
import { forbidden, notFound, Problem } from '../common/problem.js';
import type { Actor } from '../common/user.js';
import { GaugeCheck, GaugeRow } from '../database/models.js';
import type { GaugeBody } from './gauges.controller.js';

const view = (g: GaugeRow) => ({
  ...g.body,
  id: g.id,
  label: g.label,
  owner: g.owner,
  due: g.due ?? undefined,
});

@Injectable()
export class GaugesService {
  constructor(
    @InjectModel(GaugeRow) private readonly gauges: typeof GaugeRow,
    @InjectModel(GaugeCheck) private readonly checks: typeof GaugeCheck,
  ) {}

  async list(actor: Actor, page: PageQuery): Promise<Page<object>> {
    const limit = page.limit ?? 100;
    const rows = await this.gauges.findAll({
      where: {
        organisationId: actor.organisation.id,
        ...(page.after ? { label: { [Op.gt]: page.after } } : {}),
      },
      order: ['label', 'id'],
      limit: limit + 1,
    });
    return pageOf(rows.map(view), limit, (g) => g.label);
  }

  async one(actor: Actor, id: string): Promise<object> {
    const row = await this.gauges.findOne({ where: { id, organisationId: actor.organisation.id } });
    if (!row) throw notFound('gauge');
    const checks = await this.checks.findAll({ where: { gaugeId: id }, order: ['at'], limit: 500 });
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
    };
  }

  async save(actor: Actor, id: string, body: GaugeBody): Promise<object> {
    if (actor.role === 'reader') throw forbidden('Your account may look, not change.');
    const gauge = this.checked(id, body);
    const known = await this.gauges.findByPk(id);
    if (known && known.organisationId !== actor.organisation.id)
      throw new Problem(409, 'id-reused', 'That gauge id is taken.');
    const same = await this.gauges.findOne({
      where: { organisationId: actor.organisation.id, label: body.label, id: { [Op.ne]: id } },
    });
    if (same)
      throw wrong(
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
    };
    if (known) await known.update(row);
    else await this.gauges.create(row);
    return { id };
  }

  /** The gauge that the fields describe; refused where they contradict each other. */
  private checked(id: string, body: GaugeBody): Gauge {
    const unit = findUnit(body.unit);
    if (unit?.dimension !== 'pressure')
      throw wrong('unit', `"${body.unit}" is not a unit of pressure.`, 'Use psi, bar, kPa, inH2O …');
    if (!(body.upper > body.lower))
      throw wrong(
        'upper',
        `The scale ends at ${body.upper}, not above its start ${body.lower}.`,
        'Type the end of the scale.',
      );
    if (!(body.division > 0 && body.division <= (body.upper - body.lower) / 4))
      throw wrong(
        'division',
        `A division of ${body.division} does not fit a scale of ${body.upper - body.lower}.`,
        'Type the smallest division on the dial.',
      );
    const { label, kind, lower, upper, division, readable, medium, serial, due } = body;
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
      ...(due ? { due } : {}),
    };
  }
}

function accuracyOf(text: string): AccuracyClass {
  const percent = /^\s*([\d.,]+)\s*%/.exec(text);
  const n = Number(percent?.[1]?.replace(',', '.'));
  if (percent && n > 0 && n <= 20) return { standard: 'stated', percentOfSpan: n };
  const parsed = parseAccuracyClass(text);
  if (!parsed.ok)
    throw wrong(
      'accuracy',
      `${parsed.refusal.message} ${parsed.refusal.bound ?? ''}`,
      parsed.refusal.remedy ?? '',
    );
  return parsed.value;
}

const wrong = (field: string, message: string, remedy: string): Problem =>
  new Problem(422, 'not-valid', message, { errors: [{ field, message }], remedy });
