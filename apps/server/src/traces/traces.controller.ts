import {
  Body,
  Controller,
  Get,
  Header,
  HttpCode,
  Param,
  ParseIntPipe,
  ParseUUIDPipe,
  Patch,
  Put,
  Query,
  StreamableFile,
} from '@nestjs/common';
import { BLOCK_SAMPLES, MOST_BLOCKS, TRACE_KINDS, type TraceKind } from '@firm-needle/core/trace';
import {
  ArrayMaxSize,
  IsArray,
  IsIn,
  IsInt,
  IsNumber,
  IsOptional,
  IsString,
  IsUUID,
  Max,
  MaxLength,
  Min,
  MinLength,
} from 'class-validator';
import { PageQuery } from '../common/page.js';
import { CurrentUser, type Actor } from '../common/user.js';
import { TracesService } from './traces.service.js';

const finite = { allowNaN: false, allowInfinity: false } as const;
const MOST_CHANNELS = 8;

export class TraceBody {
  @IsString() @MinLength(1) @MaxLength(200) name: string;
  @IsIn(TRACE_KINDS) kind: TraceKind;
  /** Unit that its file was written in; samples are kept in Pa. */
  @IsString() @MaxLength(20) unit: string;
  @IsArray()
  @ArrayMaxSize(MOST_CHANNELS)
  @IsString({ each: true })
  @MaxLength(20, { each: true })
  channels: string[];
  @IsInt() @Min(1) @Max(BLOCK_SAMPLES * MOST_BLOCKS) samples: number;
  @IsNumber(finite) from_s: number;
  @IsNumber(finite) to_s: number;
  @IsOptional() @IsUUID() controlId?: string;
  @IsOptional() @IsUUID() jobId?: string;
}

export class ClockBody {
  /** Added to the trace's times to have the job's clock, s. */
  @IsNumber(finite) offset_s: number;
}

export class CorrectionBody {
  @IsString() @MinLength(1) @MaxLength(30) kind: string;
  @IsOptional() @IsNumber(finite) found_s?: number;
  @IsOptional() @IsNumber(finite) t?: number;
  @IsOptional() @IsNumber(finite) p?: number;
  @IsOptional() @IsNumber(finite) @Min(0) u?: number;
  @IsString() @MinLength(1) @MaxLength(400) why: string;
}

export class TracesQuery extends PageQuery {
  @IsOptional() @IsUUID() control?: string;
  @IsOptional() @IsUUID() job?: string;
  /** A few letters of its name, or of where it was recorded. */
  @IsOptional() @IsString() @MinLength(1) @MaxLength(80) q?: string;
}

@Controller('traces')
export class TracesController {
  constructor(private readonly traces: TracesService) {}

  /** Kept traces, the newest first. */
  @Get()
  list(@CurrentUser() actor: Actor, @Query() query: TracesQuery) {
    return this.traces.list(actor, query);
  }

  /** One trace, the blocks that are still missing, and what was said of its events. */
  @Get(':id')
  one(@CurrentUser() actor: Actor, @Param('id', ParseUUIDPipe) id: string) {
    return this.traces.one(actor, id);
  }

  /** A trace under an id made on the device; the same id twice is one trace. Its blocks follow. */
  @Put(':id')
  open(@CurrentUser() actor: Actor, @Param('id', ParseUUIDPipe) id: string, @Body() body: TraceBody) {
    return this.traces.open(actor, id, body);
  }

  /** One block, gzipped; the same block twice is one. Answers with the blocks that are still missing. */
  @Put(':id/blocks/:block')
  @HttpCode(200)
  put(
    @CurrentUser() actor: Actor,
    @Param('id', ParseUUIDPipe) id: string,
    @Param('block', ParseIntPipe) block: number,
    @Body() packed: unknown,
  ) {
    return this.traces.put(actor, id, block, packed);
  }

  /** One block as it was sent. */
  @Get(':id/blocks/:block')
  @Header('Content-Type', 'application/octet-stream')
  async block(
    @CurrentUser() actor: Actor,
    @Param('id', ParseUUIDPipe) id: string,
    @Param('block', ParseIntPipe) block: number,
  ): Promise<StreamableFile> {
    return new StreamableFile(await this.traces.block(actor, id, block));
  }

  /** Slides the trace's clock against its job's. */
  @Patch(':id/clock')
  clock(@CurrentUser() actor: Actor, @Param('id', ParseUUIDPipe) id: string, @Body() body: ClockBody) {
    return this.traces.clock(actor, id, body.offset_s);
  }

  /** What a person says of an event, under an id made on the device; nothing that was found or said is changed. */
  @Put(':id/corrections/:correction')
  correct(
    @CurrentUser() actor: Actor,
    @Param('id', ParseUUIDPipe) id: string,
    @Param('correction', ParseUUIDPipe) correction: string,
    @Body() body: CorrectionBody,
  ) {
    return this.traces.correct(actor, id, correction, body);
  }
}
