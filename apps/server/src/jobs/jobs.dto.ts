import { PAYLOAD_VERSION, type JobBody } from '@firm-needle/core/procedure';
import { Type } from 'class-transformer';
import {
  ArrayMaxSize,
  ArrayMinSize,
  IsArray,
  IsInt,
  IsISO8601,
  IsNumber,
  IsObject,
  IsOptional,
  IsString,
  IsUUID,
  Max,
  MaxLength,
  Min,
  ValidateNested,
} from 'class-validator';

export const MOST_EVENTS_A_BATCH = 200;
export const MOST_EVENT_BYTES = 64 * 1024;
export const MOST_BATCH_BYTES = 1024 * 1024;

export class OpenJobBody {
  @IsUUID() controlId: string;
  @IsOptional() @IsUUID() visitId?: string;
}

/** The envelope of an event: unknown fields are refused here; the payload is stored as it came. */
export class EventDto {
  @IsUUID() id: string;
  @IsUUID() job: string;
  @IsInt() @Min(1) @Max(1000) version: number;
  @IsOptional() @IsUUID() after: string | null;
  @IsString() @MaxLength(64) device: string;
  @IsUUID() author: string;
  @IsISO8601({ strict: true }) wall: string;
  @IsNumber() mono: number;
  @IsObject() body: JobBody;
}

export class AppendBody {
  @IsArray()
  @ArrayMinSize(1)
  @ArrayMaxSize(MOST_EVENTS_A_BATCH, {
    message: `at most ${MOST_EVENTS_A_BATCH} events a batch; send the rest after`,
  })
  @ValidateNested({ each: true })
  @Type(() => EventDto)
  events: EventDto[];
}

export const NEWEST_PAYLOAD = PAYLOAD_VERSION;
