import { CONTROL_COLUMNS, EQUIPMENT_COLUMNS, SITE_COLUMNS } from '@firm-needle/core/formats';
import { findUnit } from '@firm-needle/core/quantity';
import { QueryTypes, type Sequelize, type Transaction } from 'sequelize';
import { v7 as uuid } from 'uuid';
import type { Fate } from '@firm-needle/contract';
import { kindOf, numberIn, wrongIn, type Cells, type Column } from './columns.js';

/** Rows that a line makes. */
export interface Makes {
  readonly site?: { readonly id: string; readonly cells: Cells };
  readonly equipment?: { readonly id: string; readonly siteId: string; readonly cells: Cells };
  readonly control?: {
    readonly id: string;
    readonly equipmentId: string;
    readonly family: string;
    readonly cells: Cells;
  };
}

export interface Resolved {
  readonly fate: Fate;
  readonly message: string;
  readonly makes: Makes;
}

/** Something that a line of the file made: what stood there, so that a later line that says otherwise is noticed. */
interface Made {
  readonly id: string;
  readonly line?: number;
  readonly said?: string;
  /** More than one of this name stands in the book: which is meant cannot be known. */
  readonly several?: boolean;
}

const keyOf = (name: string): string => name.normalize('NFKC').toLowerCase();

/** Where each line of a file belongs: in the book as it stands, and in what the lines before it make. */
export class Resolver {
  private readonly sites = new Map<string, Made>();
  private readonly equipment = new Map<string, Made>();
  private readonly controls = new Map<string, Made>();

  /** The firm's book as it stands. */
  static async of(db: Sequelize, organisationId: string, transaction?: Transaction): Promise<Resolver> {
    const resolver = new Resolver();
    const ask = <T extends object>(sql: string): Promise<T[]> =>
      db.query<T>(sql, {
        replacements: [organisationId],
        type: QueryTypes.SELECT,
        ...(transaction ? { transaction } : {}),
      });
    const add = (map: Map<string, Made>, key: string, id: string): void => {
      map.set(key, { id, ...(map.has(key) ? { several: true } : {}) });
    };
    for (const s of await ask<{ id: string; name: string }>(
      'SELECT id, name FROM sites WHERE organisation_id = ? AND retired_at IS NULL',
    ))
      add(resolver.sites, keyOf(s.name), s.id);
    for (const e of await ask<{ id: string; site: string; name: string }>(
      'SELECT id, site_id AS site, name FROM equipment WHERE organisation_id = ? AND retired_at IS NULL',
    ))
      add(resolver.equipment, `${e.site} ${keyOf(e.name)}`, e.id);
    for (const c of await ask<{ id: string; equipment: string; name: string }>(
      'SELECT id, equipment_id AS equipment, name FROM controls WHERE organisation_id = ? AND retired_at IS NULL',
    ))
      add(resolver.controls, `${c.equipment} ${keyOf(c.name)}`, c.id);
    return resolver;
  }

  /** What becomes of a line; what it makes stands for the lines after it. */
  line(cells: Cells, line: number): Resolved {
    const wrong = wrongIn(cells);
    if (wrong !== undefined) return refused(wrong);
    const site = this.place(this.sites, keyOf(cells.site ?? ''), cells, SITE_COLUMNS, line, 'site');
    if (typeof site === 'string') return refused(site);
    // A new site's height bears on every pressure there: it is not guessed.
    if (site.isNew && cells.altitude_m === undefined)
      return this.forget(
        site,
        this.sites,
        'altitude_m: a new site needs its height above the sea, in metres',
      );
    const equipment =
      cells.equipment === undefined
        ? undefined
        : this.place(
            this.equipment,
            `${site.id} ${keyOf(cells.equipment)}`,
            cells,
            EQUIPMENT_COLUMNS,
            line,
            'equipment',
          );
    if (typeof equipment === 'string') return this.forget(site, this.sites, equipment);
    const control =
      cells.control === undefined || !equipment
        ? undefined
        : this.place(
            this.controls,
            `${equipment.id} ${keyOf(cells.control)}`,
            cells,
            CONTROL_COLUMNS,
            line,
            'control',
          );
    if (typeof control === 'string') {
      if (equipment) this.forget(equipment, this.equipment, '');
      return this.forget(site, this.sites, control);
    }
    const makes: Makes = {
      ...(site.isNew ? { site: { id: site.id, cells } } : {}),
      ...(equipment?.isNew ? { equipment: { id: equipment.id, siteId: site.id, cells } } : {}),
      ...(control?.isNew && equipment
        ? {
            control: {
              id: control.id,
              equipmentId: equipment.id,
              family: kindOf(cells.kind ?? '') ?? '',
              cells,
            },
          }
        : {}),
    };
    const made = Object.keys(makes);
    return made.length > 0
      ? { fate: 'new', message: `new: ${made.join(', ')}`, makes }
      : { fate: 'known', message: 'stands already; nothing is changed', makes };
  }

  private place(
    map: Map<string, Made>,
    key: string,
    cells: Cells,
    columns: readonly Column[],
    line: number,
    what: 'site' | 'equipment' | 'control',
  ): { id: string; key: string; isNew: boolean } | string {
    const said = columns.map((c) => cells[c] ?? '').join('\u0000');
    const known = map.get(key);
    if (!known) {
      const id = uuid();
      map.set(key, { id, line, said });
      return { id, key, isNew: true };
    }
    if (known.several)
      return `${what}: several are called so; which is meant cannot be known. Rename one first`;
    // A line may leave out what one before it said of the same thing, and may not say otherwise.
    const otherwise = known.said !== undefined && differs(known.said, said, columns);
    if (otherwise) return `${what}: line ${known.line} says otherwise of its ${otherwise}`;
    return { id: known.id, key, isNew: false };
  }

  private forget(place: { key: string; isNew: boolean }, map: Map<string, Made>, because: string): Resolved {
    if (place.isNew) map.delete(place.key);
    return refused(because);
  }
}

const refused = (message: string): Resolved => ({
  fate: 'refused',
  message: message.slice(0, 400),
  makes: {},
});

/** The first column in which two lines say different things; one that says nothing agrees. */
function differs(before: string, now: string, columns: readonly Column[]): Column | undefined {
  const [a, b] = [before.split('\u0000'), now.split('\u0000')];
  return columns.find((_, i) => a[i] !== '' && b[i] !== '' && a[i] !== b[i]);
}

const numbered = (text: string | undefined): number | null => {
  const value = text === undefined ? undefined : numberIn(text);
  return typeof value === 'number' ? value : null;
};

/** A new site as it is written into the book. */
export const siteRow = (id: string, organisationId: string, c: Cells) => ({
  id,
  organisationId,
  name: c.site ?? '',
  altitudeM: numbered(c.altitude_m) ?? 0,
  notes: null,
  customer: c.customer ?? null,
  address: c.address ?? null,
  contact: c.contact ?? null,
  access: c.access ?? null,
  hazards: c.hazards ?? null,
  unit: c.unit === undefined ? null : (findUnit(c.unit)?.id ?? null),
});

export const equipmentRow = (id: string, organisationId: string, siteId: string, c: Cells) => ({
  id,
  organisationId,
  siteId,
  name: c.equipment ?? '',
  notes: null,
  maker: c.maker ?? null,
  model: c.model ?? null,
  serial: c.serial ?? null,
  made: numbered(c.made),
});

export const controlRow = (
  id: string,
  organisationId: string,
  equipmentId: string,
  family: string,
  c: Cells,
) => ({
  id,
  organisationId,
  equipmentId,
  name: c.control ?? '',
  family,
  planVersion: 0,
  due: null as string | null,
  story: c.story ?? null,
  gaugeId: null,
  months: numbered(c.months),
  lawMonths: numbered(c.law_months),
  lawBy: c.law_by ?? null,
  customerDay: c.customer_day ?? null,
});
