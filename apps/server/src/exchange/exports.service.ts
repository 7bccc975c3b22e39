import type { Sheet } from '@firm-needle/core/family';
import type { Gauge } from '@firm-needle/core/gauge';
import { classText } from '@firm-needle/core/gauge';
import { fromCanonical } from '@firm-needle/core/quantity';
import { Injectable } from '@nestjs/common';
import { InjectConnection } from '@nestjs/sequelize';
import { QueryTypes, type Sequelize } from 'sequelize';
import { NIL } from 'uuid';
import type { Actor } from '../common/user.js';
import { BOM, csvLines, type CsvCell } from './csv.js';

/** Rows that are asked for at a time. */
const AT_A_TIME = 1000;

export type ExportKind = 'readings' | 'settings' | 'gauges' | 'due';

/** What of the book is taken out. */
export interface ExportAsk {
  readonly site?: string | undefined;
  readonly control?: string | undefined;
}

type Row = Readonly<Record<string, string | number | Date | null>>;

const HEADS: Readonly<Record<ExportKind, readonly string[]>> = {
  readings: [
    'site',
    'equipment',
    'control',
    'kind',
    'job',
    'entry',
    'at',
    'by',
    'setting',
    'phase',
    'pass',
    'gauge_place',
    'reading',
    'unit',
    'raw_Pa_or_s',
    'state',
    'source',
    'standing',
  ],
  settings: [
    'site',
    'equipment',
    'control',
    'kind',
    'job',
    'signed_at',
    'outcome',
    'proved',
    'setting',
    'unit',
    'target',
    'lower_limit',
    'upper_limit',
    'found',
    'found_U',
    'found_verdict',
    'left',
    'left_U',
    'left_verdict',
  ],
  gauges: [
    'label',
    'serial',
    'kind',
    'unit',
    'lower',
    'upper',
    'division',
    'class',
    'due',
    'owner',
    'retired',
  ],
  due: ['day', 'reason', 'because', 'site', 'equipment', 'control', 'kind', 'planned_for', 'technician'],
};

const iso = (v: unknown): CsvCell => (v instanceof Date ? v.toISOString() : ((v as CsvCell) ?? null));
const read = <T>(v: unknown): T => (typeof v === 'string' ? (JSON.parse(v) as T) : (v as T));

/** The book as CSV, a piece at a time, so that no file is ever whole in memory. */
@Injectable()
export class ExportsService {
  constructor(@InjectConnection() private readonly db: Sequelize) {}

  async *lines(actor: Actor, kind: ExportKind, ask: ExportAsk): AsyncGenerator<string> {
    yield BOM + csvLines([HEADS[kind]]);
    for await (const rows of this.pieces(actor, kind, ask)) yield csvLines(rows);
  }

  private pieces(actor: Actor, kind: ExportKind, ask: ExportAsk): AsyncGenerator<CsvCell[][]> {
    const about = {
      firm: actor.organisation.id,
      site: actor.site ?? ask.site ?? null,
      // A customer's account that asks for another's site is given nothing.
      other: actor.site && ask.site && ask.site !== actor.site ? 1 : 0,
      control: ask.control ?? null,
    };
    switch (kind) {
      case 'readings':
        return this.readings(about);
      case 'settings':
        return this.settings(about);
      case 'gauges':
        return this.gauges(about, actor.site !== null);
      case 'due':
        return this.due(about);
    }
  }

  /** Every reading as it was entered, in the order of its job; what was corrected or withdrawn says so. */
  private async *readings(about: Row): AsyncGenerator<CsvCell[][]> {
    let after: { job: string; seq: number } = { job: NIL, seq: 0 };
    for (;;) {
      const rows = await this.ask(
        `SELECT s.name AS site, q.name AS equipment, c.name AS control, c.family, e.job_id AS job, e.seq, e.text, u.name AS person,
           (SELECT IF(JSON_EXTRACT(k.text, '$.body.body') IS NULL, 'withdrawn', 'corrected') FROM job_events k
              WHERE k.job_id = e.job_id AND k.kind = 'correct' AND JSON_VALUE(k.text, '$.body.corrects') = e.id ORDER BY k.seq DESC LIMIT 1) AS standing
         ${PLACED} JOIN jobs j ON j.control_id = c.id JOIN job_events e ON e.job_id = j.id LEFT JOIN users u ON u.id = e.author_id
         LEFT JOIN job_results p ON p.job_id = j.id
         WHERE ${WHERE} AND COALESCE(p.practice, FALSE) = FALSE AND (e.kind = 'read' OR (e.kind = 'correct' AND JSON_VALUE(e.text, '$.body.body.kind') = 'read'))
           AND (e.job_id > :job OR (e.job_id = :job AND e.seq > :seq))
         ORDER BY e.job_id, e.seq LIMIT ${AT_A_TIME}`,
        { ...about, ...after },
      );
      const last = rows.at(-1);
      if (!last) return;
      after = { job: String(last['job']), seq: Number(last['seq']) };
      yield rows.map((r) => {
        const { body: entry, wall } = read<{
          body: Entered & { body?: Entered; reason?: string };
          wall: string;
        }>(r['text']);
        const body = entry.body ?? entry;
        return [
          iso(r['site']),
          iso(r['equipment']),
          iso(r['control']),
          iso(r['family']),
          iso(r['job']),
          iso(r['seq']),
          wall,
          iso(r['person']),
          body.setting,
          body.at?.phase ?? null,
          body.at?.pass ?? null,
          body.slot,
          body.value?.text ?? null,
          body.value?.unit ?? null,
          body.value?.value ?? null,
          body.bound ? `${body.state}, ${body.bound}` : body.state,
          body.source ?? null,
          entry.body ? `corrects: ${entry.reason ?? ''}` : (iso(r['standing']) ?? 'stands'),
        ];
      });
      if (rows.length < AT_A_TIME) return;
    }
  }

  /** What each signed job found and left of each setting, in the unit it was worked in. */
  private async *settings(about: Row): AsyncGenerator<CsvCell[][]> {
    let after: string = NIL;
    for (;;) {
      const rows = await this.ask(
        `SELECT s.name AS site, q.name AS equipment, c.name AS control, c.family, r.job_id AS job, r.signed_at AS signed, r.outcome,
           JSON_LENGTH(r.objections) = 0 AS proved, r.result
         ${PLACED} JOIN job_results r ON r.control_id = c.id
         WHERE ${WHERE} AND r.signed_at IS NOT NULL AND r.practice = FALSE AND r.job_id > :after
         ORDER BY r.job_id LIMIT ${AT_A_TIME / 4}`,
        { ...about, after },
      );
      const last = rows.at(-1);
      if (!last) return;
      after = String(last['job']);
      yield rows.flatMap((r) =>
        read<Sheet>(r['result']).rows.map((row): CsvCell[] => {
          const figure = (v: number | undefined): CsvCell =>
            v === undefined ? null : tidy(fromCanonical(v, row.unit));
          const doubt = (v: number | undefined): CsvCell =>
            v === undefined ? null : tidy(fromCanonical(v, row.unit) - fromCanonical(0, row.unit));
          return [
            iso(r['site']),
            iso(r['equipment']),
            iso(r['control']),
            iso(r['family']),
            iso(r['job']),
            iso(r['signed']),
            iso(r['outcome']),
            Number(r['proved']) === 1,
            row.setting,
            row.unit,
            figure(row.target),
            figure(row.limits.lower),
            figure(row.limits.upper),
            figure(row.found?.value),
            doubt(row.found?.U),
            row.found?.verdict?.word ?? null,
            figure(row.left?.value),
            doubt(row.left?.U),
            row.left?.verdict?.word ?? null,
          ];
        }),
      );
    }
  }

  /** The firm's own gauges; a customer's account has none of them. */
  private async *gauges(about: Row, customer: boolean): AsyncGenerator<CsvCell[][]> {
    if (customer) return;
    const rows = await this.ask(
      'SELECT label, body, retired_at AS retired FROM gauges WHERE organisation_id = :firm ORDER BY label',
      about,
    );
    yield rows.map((r) => {
      const g = read<Gauge>(r['body']);
      return [
        g.label,
        g.serial ?? null,
        g.kind,
        g.unit,
        g.lower,
        g.upper,
        g.division,
        classText(g.accuracy),
        g.due ?? null,
        null,
        r['retired'] !== null,
      ];
    });
  }

  private async *due(about: Row): AsyncGenerator<CsvCell[][]> {
    let after: { day: string; id: string; reason: string } = { day: '0000-01-01', id: NIL, reason: '' };
    for (;;) {
      const rows = await this.ask(
        `SELECT CAST(d.day AS CHAR) AS day, d.kind AS reason, d.because, s.name AS site, q.name AS equipment, c.name AS control, c.family, c.id,
           CAST(v.day AS CHAR) AS planned, u.name AS technician
         ${PLACED} JOIN due_reasons d ON d.control_id = c.id
         LEFT JOIN visits v ON v.id = (SELECT w.id FROM visits w JOIN visit_controls l ON l.visit_id = w.id
           WHERE l.control_id = c.id AND w.cancelled IS NULL AND w.day >= UTC_DATE() ORDER BY w.day, w.stop, w.id LIMIT 1)
         LEFT JOIN users u ON u.id = v.technician_id
         WHERE ${WHERE} AND c.retired_at IS NULL AND (d.day, c.id, d.kind) > (:day, :id, :reason)
         ORDER BY d.day, c.id, d.kind LIMIT ${AT_A_TIME}`,
        { ...about, ...after },
      );
      const last = rows.at(-1);
      if (!last) return;
      after = { day: String(last['day']), id: String(last['id']), reason: String(last['reason']) };
      yield rows.map((r) =>
        ['day', 'reason', 'because', 'site', 'equipment', 'control', 'family', 'planned', 'technician'].map(
          (k) => iso(r[k]),
        ),
      );
      if (rows.length < AT_A_TIME) return;
    }
  }

  private ask(sql: string, replacements: Row): Promise<Row[]> {
    return this.db.query<Row>(sql, { replacements, type: QueryTypes.SELECT });
  }
}

/** A reading's body, as far as it is taken out. */
interface Entered {
  readonly setting: string;
  readonly slot: string;
  readonly state: string;
  readonly source?: string;
  readonly bound?: string;
  readonly value?: { readonly text: string; readonly unit: string; readonly value: number };
  readonly at?: { readonly phase?: string; readonly pass?: string };
}

/** A figure without what a conversion adds behind its twelfth digit. */
const tidy = (v: number): number => Number(v.toPrecision(12));

const PLACED = 'FROM sites s JOIN equipment q ON q.site_id = s.id JOIN controls c ON c.equipment_id = q.id';
const WHERE =
  's.organisation_id = :firm AND :other = 0 AND (:site IS NULL OR s.id = :site) AND (:control IS NULL OR c.id = :control)';
