import { randomBytes } from 'node:crypto';
import type { Readable } from 'node:stream';
import type { DossierTaken } from '@firm-needle/contract';
import { canonicalJson } from '@firm-needle/core/formats';
import { Injectable } from '@nestjs/common';
import { InjectConnection, InjectModel } from '@nestjs/sequelize';
import { Ajv2020 as Ajv, type ValidateFunction } from 'ajv/dist/2020.js';
import { DatabaseError, QueryTypes, type Sequelize, type Transaction } from 'sequelize';
import { hashPassword } from '../auth/passwords.js';
import { notFound, Problem } from '../common/problem.js';
import { maySupervise } from '../common/records.js';
import type { Actor } from '../common/user.js';
import { Site } from '../database/models.js';
import { ResultsService } from '../jobs/results.service.js';
import { chainsHold, namesHold, sheetsHold, wrong, type Dossier, type Row } from './dossier.checks.js';
import {
  DOSSIER_FORMAT,
  DOSSIER_VERSION,
  dossierSchema,
  PARTS,
  type DossierPart,
  type Scope,
} from './dossier.parts.js';
import { into, MAY_STAND, outOf, taken, unfit } from './dossier.rows.js';

type Ids = Readonly<Record<Scope, readonly string[]>>;

/** Rows of events and results are large: so many jobs are asked for at a time. */
const IDS_AT_A_TIME = 50;
const ROWS_AT_A_TIME = 400;

/** A site as one file: taken out whole, and into another installation with the same seals. */
@Injectable()
export class DossierService {
  /** Whether a file is one of ours, by the schema that is handed out; made when the first comes, for it takes longer than anything at a start. */
  private get valid(): ValidateFunction {
    return (this.compiled ??= new Ajv({ allErrors: false, strict: true, allowUnionTypes: true }).compile(
      dossierSchema(),
    ));
  }
  private compiled: ValidateFunction | undefined;

  constructor(
    @InjectModel(Site) private readonly sites: typeof Site,
    @InjectConnection() private readonly db: Sequelize,
    private readonly results: ResultsService,
  ) {}

  /** The dossier, a piece at a time. @throws Problem where there is no such site */
  async begin(actor: Actor, siteId: string): Promise<{ name: string; pieces: AsyncGenerator<string> }> {
    maySupervise(actor);
    const site = await this.sites.findOne({ where: { id: siteId, organisationId: actor.organisation.id } });
    if (!site) throw notFound('site');
    return { name: site.name, pieces: this.pieces(actor, await this.idsOf(site)) };
  }

  private async *pieces(actor: Actor, ids: Ids): AsyncGenerator<string> {
    yield `${JSON.stringify({
      format: DOSSIER_FORMAT,
      version: DOSSIER_VERSION,
      made: new Date().toISOString(),
      firm: actor.organisation.name,
    }).slice(0, -1)}`;
    for (const p of PARTS) {
      yield `,\n${JSON.stringify(p.part)}:[`;
      let first = true;
      for (let i = 0; i < ids[p.scope].length; i += IDS_AT_A_TIME) {
        const rows = await this.rows(p, ids[p.scope].slice(i, i + IDS_AT_A_TIME), actor.organisation.id);
        if (rows.length === 0) continue;
        yield `${first ? '' : ','}\n${rows.map((r) => JSON.stringify(outOf(p, r))).join(',\n')}`;
        first = false;
      }
      yield ']';
    }
    yield '}\n';
  }

  private rows(p: DossierPart, ids: readonly string[], firm: string): Promise<Record<string, unknown>[]> {
    const columns = p.columns.map((c) =>
      c.type === 'day' ? `CAST(${c.name} AS CHAR) AS ${c.name}` : c.name,
    );
    return this.db.query(
      `SELECT ${columns.join(', ')} FROM ${p.table} WHERE ${p.by} IN (:ids)${p.firm ? ' AND organisation_id = :firm' : ''} ORDER BY ${p.order}`,
      { replacements: { ids, firm }, type: QueryTypes.SELECT },
    );
  }

  /** Everything of the book that hangs on a site, by its ids. */
  private async idsOf(site: Site): Promise<Ids> {
    const ask = async (sql: string, ids: readonly string[]): Promise<string[]> => {
      if (ids.length === 0) return [];
      const rows = await this.db.query<{ id: string | null }>(sql, {
        replacements: { ids },
        type: QueryTypes.SELECT,
      });
      return [...new Set(rows.flatMap((r) => (r.id === null ? [] : [r.id])))];
    };
    const at = [site.id];
    const equipment = await ask('SELECT id FROM equipment WHERE site_id IN (:ids)', at);
    const control = await ask('SELECT id FROM controls WHERE equipment_id IN (:ids)', equipment);
    const job = await ask('SELECT id FROM jobs WHERE control_id IN (:ids) ORDER BY opened_at, id', control);
    const visit = await ask('SELECT id FROM visits WHERE site_id IN (:ids)', at);
    const gauge = [
      ...(await ask('SELECT gauge_id AS id FROM controls WHERE id IN (:ids)', control)),
      ...(await ask('SELECT gauge_id AS id FROM job_gauges WHERE job_id IN (:ids)', job)),
      ...(await ask('SELECT gauge_id AS id FROM job_flags WHERE job_id IN (:ids)', job)),
    ];
    const trace = [
      ...(await ask('SELECT id FROM traces WHERE control_id IN (:ids)', control)),
      ...(await ask('SELECT id FROM traces WHERE job_id IN (:ids)', job)),
    ];
    const photo = [
      ...(await ask('SELECT hash AS id FROM control_photos WHERE control_id IN (:ids)', control)),
      ...(await ask(
        "SELECT JSON_VALUE(text, '$.body.hash') AS id FROM job_events WHERE kind = 'photo' AND job_id IN (:ids)",
        job,
      )),
    ];
    const person = [
      ...(await ask('SELECT author_id AS id FROM job_events WHERE job_id IN (:ids)', job)),
      ...(await ask('SELECT opened_by AS id FROM jobs WHERE id IN (:ids)', job)),
      ...(await ask('SELECT author_id AS id FROM control_plans WHERE control_id IN (:ids)', control)),
      ...(await ask('SELECT technician_id AS id FROM visits WHERE id IN (:ids)', visit)),
      ...(await ask('SELECT author_id AS id FROM traces WHERE id IN (:ids)', trace)),
      ...(await ask('SELECT author_id AS id FROM trace_corrections WHERE trace_id IN (:ids)', trace)),
      ...(await ask('SELECT created_by AS id FROM control_photos WHERE control_id IN (:ids)', control)),
      ...(await ask('SELECT created_by AS id FROM photos WHERE hash IN (:ids)', photo)),
    ];
    const single = (ids: readonly string[]): readonly string[] => [...new Set(ids)].sort();
    return {
      site: at,
      equipment,
      control,
      job,
      visit,
      gauge: single(gauge),
      trace: single(trace),
      photo: single(photo),
      person: single(person),
    };
  }

  /** Takes a dossier in: all of it in one transaction, or nothing; a record that was changed is refused and named. */
  async take(actor: Actor, file: Readable): Promise<DossierTaken> {
    maySupervise(actor);
    const dossier = this.checked(await jsonOf(file));
    const site = dossier['sites']?.[0];
    if (dossier['sites']?.length !== 1 || !site) throw wrong('sites', 'a dossier is of one site');
    chainsHold(dossier);
    namesHold(dossier);
    sheetsHold(dossier['results'] ?? []);
    const known = await this.sites.findByPk(String(site['id']));
    if (known)
      throw new Problem(
        409,
        'already-here',
        `${known.organisationId === actor.organisation.id ? `The site “${known.name}”` : 'This site'} is here already.`,
        {
          remedy: 'A dossier begins a site; it is not laid over one.',
        },
      );
    const password = await hashPassword(randomBytes(24).toString('base64'));
    try {
      await this.db.transaction((transaction) => this.write(actor, dossier, password, transaction));
    } catch (error) {
      // A value that no column takes: the schema knows types, not lengths.
      throw error instanceof DatabaseError ? unfit(error) : error;
    }
    return {
      site: String(site['id']),
      name: String(site['name']),
      jobs: dossier['jobs']?.length ?? 0,
      events: dossier['events']?.length ?? 0,
      differ: await this.differing(dossier['results'] ?? []),
    };
  }

  private checked(sent: unknown): Dossier {
    const { format, version } = (typeof sent === 'object' && sent !== null ? sent : {}) as Record<
      string,
      unknown
    >;
    if (format !== DOSSIER_FORMAT)
      throw new Problem(422, 'no-dossier', 'This file is no dossier of a site.', {
        remedy: 'Choose the file that “Dossier” on a site’s page wrote.',
      });
    if (typeof version !== 'number' || version > DOSSIER_VERSION)
      throw new Problem(
        422,
        'version-newer',
        `This dossier is of version ${String(version)}; this program reads up to ${DOSSIER_VERSION}.`,
        {
          remedy: 'Update this installation first.',
        },
      );
    if (!this.valid(sent)) {
      const [error] = this.valid.errors ?? [];
      throw wrong(
        error?.instancePath.slice(1).replaceAll('/', '.') ?? '',
        error?.message ?? 'is not as the schema says',
      );
    }
    return sent as Dossier;
  }

  private async write(
    actor: Actor,
    dossier: Dossier,
    password: string,
    transaction: Transaction,
  ): Promise<void> {
    const firm = actor.organisation.id;
    const here = new Set((dossier['jobs'] ?? []).map((j) => j['id']));
    for (const p of PARTS) {
      const rows = await this.toWrite(p, dossier[p.part] ?? [], firm, transaction);
      const columns = [
        ...p.columns.map((c) => c.name),
        ...(p.firm ? ['organisation_id'] : []),
        ...(p.part === 'people' ? ['login', 'password_hash', 'disabled_at'] : []),
      ];
      for (let i = 0; i < rows.length; i += ROWS_AT_A_TIME) {
        const values = rows.slice(i, i + ROWS_AT_A_TIME).map((row) => [
          ...p.columns.map((c) => into(c.type, taken(p, row, c.name, here))),
          ...(p.firm ? [firm] : []),
          // They may be named, and cannot sign in until a supervisor makes them an account of their own.
          ...(p.part === 'people' ? [`dossier-${String(row['id'])}`, password, new Date()] : []),
        ]);
        await this.db.query(
          `INSERT INTO ${p.table} (${columns.join(', ')}) VALUES ${values.map(() => `(${columns.map(() => '?').join(', ')})`).join(', ')}`,
          { replacements: values.flat(), transaction },
        );
      }
    }
  }

  /** Rows of a part that are not here: people, gauges and photos of this firm may be. */
  private async toWrite(
    p: DossierPart,
    rows: readonly Row[],
    firm: string,
    transaction: Transaction,
  ): Promise<readonly Row[]> {
    if (!MAY_STAND.has(p.part) || rows.length === 0) return rows;
    const key = p.by;
    const known = await this.db.query<{ id: string; firm: string }>(
      `SELECT ${key} AS id, organisation_id AS firm FROM ${p.table} WHERE ${key} IN (:ids)${p.part === 'photos' ? ' AND organisation_id = :firm' : ''}`,
      { replacements: { ids: rows.map((r) => r[key]), firm }, type: QueryTypes.SELECT, transaction },
    );
    const other = known.find((k) => k.firm !== firm);
    if (other)
      throw new Problem(
        409,
        'already-here',
        `In the dossier’s ${p.part} is one that belongs to another firm here.`,
      );
    const ids = new Set(known.map((k) => k.id));
    return rows.filter((r) => !ids.has(String(r[key])));
  }

  /** How many signed jobs fold to something else here than what was frozen. */
  private async differing(results: readonly Row[]): Promise<number> {
    let differ = 0;
    for (const r of results) {
      if (r['signed_at'] === null) continue;
      const folded = await this.results.fold(String(r['job_id']));
      // As it would be stored: what is undefined is not there.
      const sheet: unknown = folded && JSON.parse(JSON.stringify(folded.sheet));
      if (canonicalJson(sheet ?? null) !== canonicalJson(r['result'])) differ += 1;
    }
    return differ;
  }
}

/** More than any site's past; what is longer is refused before it is read whole. */
const MOST_BYTES = 256 * 1024 * 1024;

async function jsonOf(file: Readable): Promise<unknown> {
  const chunks: Buffer[] = [];
  let bytes = 0;
  for await (const chunk of file as AsyncIterable<Buffer>) {
    bytes += chunk.length;
    if (bytes > MOST_BYTES)
      throw new Problem(413, 'too-large', `A dossier has at most ${MOST_BYTES / 1024 / 1024} MB.`);
    chunks.push(chunk);
  }
  try {
    return JSON.parse(new TextDecoder('utf-8', { fatal: true }).decode(Buffer.concat(chunks)));
  } catch {
    throw new Problem(422, 'not-json', 'This file is cut short, or no JSON in UTF-8.', {
      remedy: 'Take the dossier out of the other installation again.',
    });
  }
}
