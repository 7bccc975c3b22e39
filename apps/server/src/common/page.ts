import { Type } from 'class-transformer';
import { Op, type WhereOptions } from 'sequelize';
import type { Page, PageAsk } from '@firm-needle/contract';
import { Problem } from './problem.js';
import { IsInt, IsOptional, IsString, Max, MaxLength, Min } from 'class-validator';

/** Keyset paging: the cursor is the last row's key, opaque to the caller. */
export class PageQuery implements PageAsk {
  @IsOptional()
  @IsString()
  @MaxLength(600)
  after?: string;

  @IsOptional()
  @Type(() => Number)
  @IsInt()
  @Min(1)
  @Max(200)
  limit?: number;
}

/** A page from one row more than was asked for. */
export function pageOf<T>(rows: readonly T[], limit: number, key: (row: T) => string): Page<T> {
  const items = rows.slice(0, limit);
  const last = items[items.length - 1];
  return { items, next: rows.length > limit && last ? key(last) : null };
}

/** A row's key as a cursor: opaque to the caller, whole for us. */
export const cursorOf = (...key: readonly string[]): string =>
  Buffer.from(JSON.stringify(key)).toString('base64url');

/** The key in a cursor that was given back; undefined where none was given. */
export function keyIn(after: string | undefined, parts: number): readonly string[] | undefined {
  if (after === undefined) return undefined;
  try {
    const key: unknown = JSON.parse(Buffer.from(after, 'base64url').toString());
    if (Array.isArray(key) && key.length === parts && key.every((k) => typeof k === 'string'))
      return key as string[];
  } catch {
    // not one of ours
  }
  const message = 'is not a cursor of this list';
  throw new Problem(422, 'not-valid', `after: ${message}`, {
    errors: [{ field: 'after', message }],
    remedy: 'Give back what the page before answered as next.',
  });
}

/** Rows after a key of a name and an id: equal names are told apart by their ids, none is skipped. */
export function afterNamed(column: string, after: string | undefined): WhereOptions {
  const [name, id] = keyIn(after, 2) ?? [];
  if (name === undefined || id === undefined) return {};
  return { [Op.or]: [{ [column]: { [Op.gt]: name } }, { [column]: name, id: { [Op.gt]: id } }] };
}
