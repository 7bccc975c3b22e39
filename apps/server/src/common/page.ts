import { Type } from 'class-transformer';
import { IsInt, IsOptional, IsString, Max, MaxLength, Min } from 'class-validator';

/** Keyset paging: the cursor is the last row's key, opaque to the caller. */
export class PageQuery {
  @IsOptional()
  @IsString()
  @MaxLength(200)
  after?: string;

  @IsOptional()
  @Type(() => Number)
  @IsInt()
  @Min(1)
  @Max(200)
  limit?: number;
}

export interface Page<T> {
  readonly items: readonly T[];
  /** Give back as `after` for the next page; null at the end. */
  readonly next: string | null;
}

/** A page from one row more than was asked for. */
export function pageOf<T>(rows: readonly T[], limit: number, key: (row: T) => string): Page<T> {
  const items = rows.slice(0, limit);
  const last = items[items.length - 1];
  return { items, next: rows.length > limit && last ? key(last) : null };
}
