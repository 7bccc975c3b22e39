import { Injectable } from '@nestjs/common';
import { InjectModel } from '@nestjs/sequelize';
import { ambientOf, objections, ownFigures, type Links } from '@firm-needle/core/family';
import { canonicalJson } from '@firm-needle/core/formats';
import type { Gauge } from '@firm-needle/core/gauge';
import type { Finding, JobBody, JobEvent } from '@firm-needle/core/procedure';
import { Op, type Transaction } from 'sequelize';
import { forbidden, Problem } from '../common/problem.js';
import type { Actor } from '../common/user.js';
import { Control, Equipment, GaugeRow, Organisation, Site, type Job } from '../database/models.js';
import { LinksService } from '../controls/links.service.js';
import type { Folded } from './folded.js';

/** What of an entry is said by the session and not by the entry. */
const STAMPS: Readonly<Partial<Record<JobBody['kind'], readonly string[]>>> = {
  started: ['technician', 'permits', 'rule', 'links'],
  take: ['by', 'permits'],
  sign: ['by'],
  countersign: ['by'],
};

/** Facts of a gauge that a reading hangs on. */
const FACTS = ['kind', 'unit', 'lower', 'upper', 'division', 'readable', 'accuracy'] as const;

/** Heights that differ by less are the same site, m. */
const SAME_HEIGHT_M = 1;

type Loose = Readonly<Record<string, unknown>>;

/** An event without what the session says of it: the same entry, whoever's name was put under it. */
export function unstamped(event: Pick<JobEvent, 'body'> & object): string {
  const { body, ...envelope } = event as unknown as { body: Loose };
  const stamps = STAMPS[body['kind'] as JobBody['kind']] ?? [];
  return canonicalJson({
    ...envelope,
    body: Object.fromEntries(Object.entries(body).filter(([k]) => !stamps.includes(k))),
  });
}

/** Who did it and with which permits, by the session; what a job is about, by the register; what it came to, by the core. */
@Injectable()
export class JudgeService {
  constructor(
    @InjectModel(Control) private readonly controls: typeof Control,
    @InjectModel(GaugeRow) private readonly gauges: typeof GaugeRow,
    private readonly links: LinksService,
    @InjectModel(Organisation) private readonly organisations: typeof Organisation,
  ) {}

  /** What stood beside the control of a job that is started in a batch; by the register, whatever the batch says. */
  async beside(job: Job, events: readonly { readonly body: object }[]): Promise<Links> {
    if (!events.some((e) => (e.body as Loose)['kind'] === 'started')) return {};
    const control = await this.placed(job.controlId);
    return control ? this.links.of(control) : {};
  }

  /** The payload as it is recorded. */
  stamp(actor: Actor, body: Loose, beside: Links): Loose {
    switch (body['kind']) {
      case 'started': {
        const { links: _, ...own } = body;
        return {
          ...own,
          technician: actor.name,
          permits: actor.permits,
          rule: actor.organisation.rule,
          ...(Object.keys(beside).length > 0 ? { links: beside } : {}),
        };
      }
      case 'take':
        return { ...body, by: actor.name, permits: actor.permits };
      case 'sign':
      case 'countersign':
        return { ...body, by: actor.name };
      default:
        return body;
    }
  }

  /** A job that is started must be about the control it was opened on, at its own site. */
  async belongs(job: Job, body: Loose, field: string): Promise<void> {
    if (body['kind'] !== 'started') return;
    const control = await this.placed(job.controlId);
    const refuse = (code: string, message: string): Problem =>
      new Problem(422, code, message, {
        errors: [{ field, message }],
        remedy: 'Open the control and start the job there.',
      });
    if ((body['control'] as Loose | undefined)?.['id'] !== job.controlId)
      throw refuse('other-control', 'The job was opened on another control.');
    if (body['family'] !== control?.family)
      throw refuse('other-family', `The control is of the kind ${control?.family}.`);
    if ((body['site'] as Loose | undefined)?.['id'] !== control?.equipment?.siteId)
      throw refuse('other-site', 'The control stands at another site.');
  }

  /** Nobody countersigns their own job. */
  countersigns(actor: Actor, signedBy: readonly string[]): void {
    if (actor.role !== 'supervisor') throw forbidden('Only a supervisor countersigns.');
    if (signedBy.includes(actor.id)) throw new Problem(403, 'own-job', 'Nobody countersigns their own job.');
  }

  private placed(id: string, transaction?: Transaction): Promise<Control | null> {
    return this.controls.findByPk(id, {
      include: { model: Equipment, include: [Site] },
      ...(transaction ? { transaction } : {}),
    });
  }

  /** Why the outcome that was signed is not what is known: by the log, by the plan's own figures, by the register. */
  async objections(job: Job, folded: Folded, transaction: Transaction): Promise<Finding[]> {
    const { family, view, state } = folded;
    const signed = state.signed?.body;
    if (!signed) return [];
    const out: Finding[] = [...objections(family, view, signed.outcome)];
    const object = (code: string, message: string): void =>
      void out.push({ severity: 'refuse', code, message });
    for (const plan of new Set([view.opening, view.plan])) {
      const own = ownFigures(family, plan);
      if (!own.ok) object(own.refusal.code, own.refusal.message);
      const ambient = ambientOf(view.started.site);
      const bad = family
        .check(plan, ambient.ok ? ambient.value : 101325)
        .find((f) => f.severity === 'refuse');
      if (bad) object(bad.code, bad.message);
    }
    const control = await this.placed(job.controlId, transaction);
    const height = control?.equipment?.site?.altitudeM ?? 0;
    if (Math.abs(height - view.started.site.altitude_m) > SAME_HEIGHT_M)
      object('height-differs', `The site stands at ${height} m, not at ${view.started.site.altitude_m} m.`);
    const organisation = await this.organisations.findByPk(job.organisationId, { transaction });
    const { source } = view.started;
    if (source?.startsWith('simulated') && !organisation?.demo)
      object('simulated', `The readings came from a ${source}, not from an installation.`);
    for (const message of await this.gaugeDoubts(job, folded, transaction)) object('gauge-differs', message);
    return out;
  }

  /** Gauges that are not the firm's own, or that the register has otherwise. */
  private async gaugeDoubts(
    job: Job,
    { state }: Folded,
    transaction: Transaction,
  ): Promise<readonly string[]> {
    const used = [...state.gauges.values()].flat().map((m) => m.gauge);
    const rows = await this.gauges.findAll({
      where: { id: { [Op.in]: used.map((g) => g.id).filter(isUuid) }, organisationId: job.organisationId },
      transaction,
    });
    return used.flatMap((g) => {
      const row = rows.find((r) => r.id === g.id);
      const own = row?.body;
      if (!row || !own) return [`Gauge ${g.label} is not one of the firm's.`];
      if (row.retiredAt && Date.parse(state.started?.wall ?? '') > Number(row.retiredAt))
        return [`Gauge ${g.label} was retired before the job began.`];
      const off = FACTS.find(
        (f) => canonicalJson(g[f] ?? null) !== canonicalJson(own[f as keyof Gauge] ?? null),
      );
      return off ? [`Gauge ${g.label}: its ${off} is not what the register has.`] : [];
    });
  }
}

export const isUuid = (text: string): boolean =>
  /^[\da-f]{8}-[\da-f]{4}-[\da-f]{4}-[\da-f]{4}-[\da-f]{12}$/i.test(text);
