import type { VisitForm } from '@firm-needle/contract';
import { MOST } from '@firm-needle/core/formats';
import {
  ArrayMaxSize,
  ArrayUnique,
  IsInt,
  IsOptional,
  IsString,
  IsUUID,
  Matches,
  Max,
  MaxLength,
  Min,
} from 'class-validator';
import { Line, Version } from '../common/fields.js';
import { PageQuery } from '../common/page.js';

const DAY = /^\d{4}-\d{2}-\d{2}$/;
const dayWanted = { message: 'must be a day such as 2030-01-31' };
const MOST_CONTROLS = 60;
const MOST_PACKED = 200;

export class VisitsQuery extends PageQuery {
  /** Only this day, as 2030-01-31. */
  @IsOptional()
  @Matches(DAY, dayWanted)
  day?: string;
}

export class WeekQuery {
  /** Its first day. */
  @Matches(DAY, dayWanted) from: string;
}

export class VisitBody implements VisitForm {
  @Version() version: number;
  @IsUUID() siteId: string;
  @IsUUID() technicianId: string;
  @Matches(DAY, dayWanted) day: string;
  @IsInt() @Min(1) @Max(99) stop: number;
  @Line(MOST.lines) purpose?: string | null;
  @IsUUID('all', { each: true, message: 'are ids of controls' })
  @ArrayMaxSize(MOST_CONTROLS, { message: `are more than ${MOST_CONTROLS}: make two visits of it` })
  @ArrayUnique({ message: 'has one twice' })
  controls: string[];
  @Line(MOST.lines) cancelled?: string | null;
}

export class PackedBody {
  @IsString({ each: true }) @MaxLength(200, { each: true }) @ArrayMaxSize(MOST_PACKED) items: string[];
}
