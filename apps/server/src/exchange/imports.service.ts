import type { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import type { Fate, ImportLine, ImportState, Page } from '@firm-needle/contract';
import { dueReasons } from '@firm-needle/core/history';
import { Injectable } from '@nestjs/common';
import { InjectConnection, InjectModel } from '@nestjs/sequelize';
import Papa from 'papaparse';
import { QueryTypes, type Sequelize, type Transaction } from 'sequelize';
import { v5 as derived } from 'uuid';
import { notFound, Problem } from '../common/problem.js';
import { maySupervise } from '../common/records.js';
import type { Actor } from '../common/user.js';
import { UNNAMED_DEVICE } from '../controls/copies.service.js';
import { Control, DueReasonRow, Equipment, FittedDevice, Site } from '../database/models.js';
import type { Cells, Column } from './columns.js';
import { controlRow, equipmentRow, Resolver, siteRow, type Makes } from './resolver.js';
import { cellsOf, headingOf, utf8 } from './tableFile.js';
import { count, inWords, none, read, stateOf, stopped, type Going, type Row } from './going.js';

const MOST_LINES = 100_000;
/** Lines that are written at a time. */
const AT_A_TIME = 500;
const KEPT_DAYS = 30;
/** Whoever works on a file says so with every piece of it; after so long it is taken for gone. */
const SILENT_S = 60;

/** Files of sites, equipment and controls: looked at line by line, then taken in whole or not at all. */
@Injectable()
export class ImportsService {
  private readonly going = new Map<string, Going>();
  /** No file may have more. */
  mostLines = MOST_LINES;

  constructor(
    @InjectModel(Site) private readonly sites: typeof Site,
    @InjectModel(Equipment) private readonly equipment: typeof Equipment,
    @InjectModel(Control) private readonly controls: typeof Control,
    @InjectModel(FittedDevice) private readonly devices: typeof FittedDevice,
    @InjectModel(DueReasonRow) private readonly reasons: typeof DueReasonRow,
    @InjectConnection() private readonly db: Sequelize,
  ) {}

  /** Looks at a file as it comes in: nothing of the book is changed. */
  async look(actor: Actor, id: string, name: string, file: Readable): Promise<ImportState> {
    maySupervise(actor);
    const [known] = await this.db.query('SELECT id FROM imports WHERE id = ?', {
      replacements: [id],
      type: QueryTypes.SELECT,
    });
    if (known)
      throw new Problem(409, 'id-reused', 'That file was read already.', { remedy: 'Choose it anew.' });
    // What nobody asked after for a month is forgotten.
    await this.db.query(
      `DELETE FROM imports WHERE organisation_id = ? AND created_at < UTC_TIMESTAMP(3) - INTERVAL ${KEPT_DAYS} DAY`,
      { replacements: [actor.organisation.id] },
    );
    await this.db.query(
      `INSERT INTO imports (id, organisation_id, user_id, name, state, counts, said, created_at, beat_at)
       VALUES (?, ?, ?, ?, 'reading', ?, '[]', UTC_TIMESTAMP(3), UTC_TIMESTAMP(3))`,
      { replacements: [id, actor.organisation.id, actor.id, name, JSON.stringify(none())] },
    );
    const going: Going = { lines: 0, counts: none(), cancelled: false };
    this.going.set(id, going);
    try {
      const said = await this.readLines(actor, id, file, going);
      await this.end(id, going.cancelled ? 'cancelled' : 'ready', going, { said });
    } catch (error) {
      await this.end(id, going.cancelled ? 'cancelled' : 'failed', going, { problem: inWords(error) });
      // What was wrong with the file is its fate; what was wrong here is an error.
      if (!(error instanceof Problem) && !going.cancelled) throw error;
    } finally {
      this.going.delete(id);
    }
    return this.state(actor, id);
  }

  async state(actor: Actor, id: string): Promise<ImportState> {
    maySupervise(actor);
    const [row] = await this.db.query<Row>(
      `SELECT id, name, state, line_count AS \`lines\`, counts, said, problem, beat_at < UTC_TIMESTAMP(3) - INTERVAL ${SILENT_S} SECOND AS silent
       FROM imports WHERE id = ? AND organisation_id = ?`,
      { replacements: [id, actor.organisation.id], type: QueryTypes.SELECT },
    );
    if (!row) throw notFound('file');
    return stateOf(row, this.going.get(id));
  }

  /** Lines with their fates, of one fate where it is asked for. */
  async lines(actor: Actor, id: string, after: number, fate: Fate | undefined): Promise<Page<ImportLine>> {
    await this.state(actor, id);
    const limit = 200;
    const rows = await this.db.query<{ line: number; fate: Fate; message: string; cells: unknown }>(
      `SELECT line, fate, message, cells FROM import_lines WHERE import_id = :id AND line > :after AND (:fate IS NULL OR fate = :fate)
       ORDER BY line LIMIT ${limit + 1}`,
      { replacements: { id, after, fate: fate ?? null }, type: QueryTypes.SELECT },
    );
    const items = rows.slice(0, limit).map((r) => ({ ...r, cells: read<Record<string, string>>(r.cells) }));
    return { items, next: rows.length > limit ? String(items.at(-1)?.line ?? '') : null };
  }

  /** Takes in what is new, all of it in one transaction, or nothing. */
  async take(actor: Actor, id: string): Promise<ImportState> {
    maySupervise(actor);
    const [taken] = await this.db
      .query(
        "UPDATE imports SET state = 'applying', beat_at = UTC_TIMESTAMP(3) WHERE id = ? AND organisation_id = ? AND state = 'ready'",
        { replacements: [id, actor.organisation.id], type: QueryTypes.UPDATE },
      )
      .then((r) => [Number(r[1])]);
    if (taken === 0) {
      const { state } = await this.state(actor, id);
      throw new Problem(409, `import-${state}`, `This file is ${state}: it is not taken in.`, {
        remedy: state === 'done' ? 'It was taken in already.' : 'Choose the file anew.',
      });
    }
    const before = await this.state(actor, id);
    const going: Going = { lines: 0, counts: { ...before.counts }, cancelled: false };
    this.going.set(id, going);
    try {
      await this.db.transaction(async (transaction) => {
        // Two files that make the same sites: one after the other.
        await this.db.query('SELECT id FROM organisations WHERE id = ? FOR UPDATE', {
          replacements: [actor.organisation.id],
          transaction,
        });
        await this.write(actor, id, going, transaction);
        // Done together with what was done: a server that ends now has either done both or neither.
        if (!(await this.end(id, 'done', going, { transaction }))) throw stopped(going);
      });
    } catch (error) {
      // Nothing was kept: it can be looked at and taken in again.
      await this.end(id, going.cancelled ? 'cancelled' : 'failed', going, { problem: inWords(error) });
      if (!going.cancelled) throw error;
    } finally {
      this.going.delete(id);
    }
    return this.state(actor, id);
  }

  /** Stops what is going on with a file; nothing of the book is changed by it. */
  async cancel(actor: Actor, id: string): Promise<ImportState> {
    await this.state(actor, id);
    // Whoever is at it, here or on another server, finds it stopped at the next piece.
    await this.db.query(
      "UPDATE imports SET state = 'cancelled' WHERE id = ? AND state IN ('ready', 'reading', 'applying')",
      { replacements: [id] },
    );
    const going = this.going.get(id);
    if (going) {
      going.cancelled = true;
      going.end?.();
    }
    return this.state(actor, id);
  }

  private async readLines(
    actor: Actor,
    id: string,
    file: Readable,
    going: Going,
  ): Promise<readonly string[]> {
    const resolver = await Resolver.of(this.db, actor.organisation.id);
    const parser = Papa.parse(Papa.NODE_STREAM_INPUT, {
      delimitersToGuess: [',', ';', '\t', '|'],
    });
    going.end = () => void parser.destroy(new Error('cancelled'));
    const flowing = pipeline(file, utf8(), parser).catch((error: unknown) => {
      parser.destroy(error instanceof Error ? error : new Error(String(error)));
    });
    let heading: (Column | undefined)[] | undefined;
    const said: string[] = [];
    let batch: [string, number, Fate, string, string][] = [];
    let taken = 0;
    let next = 1;
    const flush = async (): Promise<void> => {
      if (batch.length === 0) return;
      await this.db.query(
        `INSERT INTO import_lines (import_id, line, fate, message, cells) VALUES ${batch.map(() => '(?, ?, ?, ?, ?)').join(', ')}`,
        { replacements: batch.flat() },
      );
      batch = [];
      await this.beat(id, going);
    };
    for await (const row of parser as AsyncIterable<readonly string[]>) {
      // A cell may have lines of its own: the number is that of the file's line on which the row begins.
      const line = next;
      next += 1 + row.reduce((sum, cell) => sum + (cell.match(/\n/g)?.length ?? 0), 0);
      if (row.every((cell) => cell.trim() === '')) continue;
      if (!heading) {
        heading = headingOf(row, said);
        continue;
      }
      taken += 1;
      if (taken > this.mostLines)
        throw new Problem(
          422,
          'too-long',
          `The file has more than ${this.mostLines.toLocaleString('en')} lines. Cut it into parts.`,
        );
      const cells = cellsOf(heading, row);
      const { fate, message, makes } = resolver.line(cells, line);
      going.lines = taken;
      going.counts[fate] += 1;
      count(going, makes);
      batch.push([id, line, fate, message, JSON.stringify(cells)]);
      if (batch.length >= AT_A_TIME) await flush();
      if (going.cancelled) break;
    }
    await flush();
    await flowing;
    if (!heading) throw new Problem(422, 'empty', 'The file is empty.');
    if (going.lines === 0) said.push('There is no line under the heading.');
    return said;
  }

  private async write(actor: Actor, id: string, going: Going, transaction: Transaction): Promise<void> {
    const resolver = await Resolver.of(this.db, actor.organisation.id, transaction);
    const today = new Date().toISOString().slice(0, 10);
    let after = 0;
    let taken = 0;
    for (;;) {
      const rows = await this.db.query<{ line: number; cells: unknown }>(
        `SELECT line, cells FROM import_lines WHERE import_id = ? AND line > ? AND fate <> 'refused' ORDER BY line LIMIT ${AT_A_TIME}`,
        { replacements: [id, after], type: QueryTypes.SELECT, transaction },
      );
      if (rows.length === 0) return;
      after = rows.at(-1)?.line ?? after;
      const makes = rows.map(({ line, cells }) => {
        const resolved = resolver.line(read<Cells>(cells), line);
        if (resolved.fate === 'refused')
          throw new Problem(
            409,
            'moved-on',
            `The book was changed meanwhile. Line ${line}: ${resolved.message}.`,
            {
              remedy: 'Choose the file anew and look at it again.',
            },
          );
        return resolved.makes;
      });
      await this.make(actor, makes, today, transaction);
      going.lines = taken += rows.length;
      await this.beat(id, going);
      if (going.cancelled) throw stopped(going);
    }
  }

  /** Some lines' sites, equipment and controls, with the device that is there and when each is due. */
  private async make(
    actor: Actor,
    makes: readonly Makes[],
    today: string,
    transaction: Transaction,
  ): Promise<void> {
    const { id: firm } = actor.organisation;
    const all = <T>(pick: (m: Makes) => T | undefined): T[] => makes.map(pick).filter((x) => x !== undefined);
    await this.sites.bulkCreate(
      all((m) => m.site).map((s) => siteRow(s.id, firm, s.cells)),
      { transaction },
    );
    await this.equipment.bulkCreate(
      all((m) => m.equipment).map((e) => equipmentRow(e.id, firm, e.siteId, e.cells)),
      { transaction },
    );
    const controls = all((m) => m.control).map((c) => {
      const row = controlRow(c.id, firm, c.equipmentId, c.family, c.cells);
      const reasons = dueReasons({
        since: today,
        ...(row.months === null ? {} : { months: row.months }),
        ...(row.lawMonths === null
          ? {}
          : { law: { months: row.lawMonths, by: row.lawBy ?? 'the authority' } }),
        ...(row.customerDay === null ? {} : { customer: row.customerDay }),
      });
      return { row: { ...row, due: reasons[0]?.day ?? null }, reasons };
    });
    await this.controls.bulkCreate(
      controls.map((c) => c.row),
      { transaction },
    );
    await this.devices.bulkCreate(
      controls.map(({ row }) => ({
        id: derived('first device', row.id),
        organisationId: firm,
        controlId: row.id,
        label: UNNAMED_DEVICE,
        fittedOn: today,
        removedOn: null,
        learned: {},
        rig: null,
      })),
      { transaction },
    );
    await this.reasons.bulkCreate(
      controls.flatMap(({ row, reasons }) =>
        reasons.map((r) => ({
          controlId: row.id,
          organisationId: firm,
          kind: r.kind,
          day: r.day,
          because: r.because,
        })),
      ),
      { transaction },
    );
  }

  private async end(
    id: string,
    state: ImportState['state'],
    going: Going,
    {
      said,
      problem = null,
      transaction,
    }: { said?: readonly string[]; problem?: string | null; transaction?: Transaction } = {},
  ): Promise<boolean> {
    const [, changed] = await this.db.query(
      `UPDATE imports SET state = :state, line_count = :lines, counts = :counts, problem = :problem${said ? ', said = :said' : ''} WHERE id = :id AND state IN ('reading', 'applying')`,
      {
        type: QueryTypes.UPDATE,
        ...(transaction ? { transaction } : {}),
        replacements: {
          id,
          state,
          lines: going.lines,
          counts: JSON.stringify(going.counts),
          problem: problem?.slice(0, 600) ?? null,
          said: JSON.stringify(said ?? []),
        },
      },
    );
    return Number(changed) > 0;
  }

  /** Tells how far it has come; learns whether it was stopped. */
  private async beat(id: string, going: Going): Promise<void> {
    const [, changed] = await this.db.query(
      "UPDATE imports SET line_count = ?, beat_at = UTC_TIMESTAMP(3) WHERE id = ? AND state IN ('reading', 'applying')",
      { replacements: [going.lines, id], type: QueryTypes.UPDATE },
    );
    if (Number(changed) === 0) going.cancelled = true;
  }
}
