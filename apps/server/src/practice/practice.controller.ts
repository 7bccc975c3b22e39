import {
  Body,
  Controller,
  Get,
  Header,
  HttpCode,
  Param,
  ParseUUIDPipe,
  Post,
  Put,
  Query,
} from '@nestjs/common';
import type { PracticeTestForm } from '@firm-needle/contract';
import {
  HELPS,
  RUN_KINDS,
  SURENESS,
  type Help,
  type Hurt,
  type LevelId,
  type RunKind,
  type Said,
} from '@firm-needle/core/practice';
import type { JobEvent } from '@firm-needle/core/procedure';
import { Type } from 'class-transformer';
import {
  ArrayMaxSize,
  ArrayMinSize,
  IsArray,
  IsBoolean,
  IsIn,
  IsISO8601,
  IsNumber,
  IsObject,
  IsOptional,
  IsString,
  IsUUID,
  Matches,
  MaxLength,
  MinLength,
  ValidateNested,
} from 'class-validator';
import { CurrentUser, type Actor } from '../common/user.js';
import { PracticeService } from './practice.service.js';
import { PracticeTestsService } from './tests.service.js';

const DAY = { message: 'must be a day such as 2030-01-31' };
/** More entries has no run. */
const MOST_EVENTS = 2000;

class SaidBody implements Said {
  @IsArray() @ArrayMaxSize(2) @IsString({ each: true }) @MaxLength(60, { each: true }) faults: string[];
  @IsOptional() @IsBoolean() cannotTell?: boolean;
  @IsIn(SURENESS.map((s) => s.c)) sure: number;
}
class HurtBody implements Hurt {
  @IsNumber() t: number;
  @IsString() @MaxLength(600) text: string;
}
export class RunBody {
  @IsUUID() id: string;
  @IsIn(RUN_KINDS) kind: RunKind;
  @IsString() @MaxLength(60) family: string;
  @IsString() @MaxLength(100) variant: string;
  @IsIn([1, 2, 3, 4]) level: LevelId;
  @IsIn(HELPS) help: Help;
  @IsString() @MinLength(1) @MaxLength(600) sealed: string;
  @IsOptional() @IsString() @MaxLength(60) lesson?: string;
  @IsOptional() @IsUUID() test?: string;
  @IsISO8601({ strict: true }) startedAt: string;
  @IsISO8601({ strict: true }) endedAt: string;
  @IsArray() @ArrayMinSize(1) @ArrayMaxSize(MOST_EVENTS) @IsObject({ each: true }) events: JobEvent[];
  @IsArray() @IsObject({ each: true }) deeds: never[];
  @IsOptional() @ValidateNested() @Type(() => SaidBody) said?: SaidBody;
  @IsOptional() @ValidateNested() @Type(() => HurtBody) hurt?: HurtBody;
}
export class TestBody implements PracticeTestForm {
  @IsString() @MaxLength(60) family: string;
  @IsString() @MaxLength(100) variant: string;
  @IsIn([1, 2, 3, 4]) level: LevelId;
  @Matches(/^\d{4}-\d{2}-\d{2}$/, DAY) until: string;
  @IsOptional() @IsString() @MinLength(1) @MaxLength(200) note?: string;
}
export class StartBody {
  @IsUUID() run: string;
}
export class UnfairBody {
  @IsString() @MinLength(1) @MaxLength(400) reason: string;
}
export class RunsQuery {
  @IsOptional() @IsIn(['true', 'false']) shown?: string;
}

@Controller('practice')
export class PracticeController {
  constructor(
    private readonly practice: PracticeService,
    private readonly tests: PracticeTestsService,
  ) {}

  /** One's own runs that are over; with `shown`, those that a supervisor may look at. */
  @Get('runs')
  runs(@CurrentUser() actor: Actor, @Query() { shown }: RunsQuery) {
    return shown === 'true' ? this.practice.shown(actor) : this.practice.own(actor);
  }

  /** A run with everything that was entered: one's own, a test, or what was shown. Who looked is told to its person. */
  @Get('runs/:id')
  run(@CurrentUser() actor: Actor, @Param('id', ParseUUIDPipe) id: string) {
    return this.practice.whole(actor, id);
  }

  /** A run that is over, under an id made on the device; judged here anew. The same once more is the same. */
  @Put('runs/:id')
  keep(@CurrentUser() actor: Actor, @Param('id', ParseUUIDPipe) id: string, @Body() body: RunBody) {
    return this.practice.keep(actor, id, body);
  }

  /** Shows a run of one's own to the supervisors. */
  @Post('runs/:id/share')
  @HttpCode(200)
  share(@CurrentUser() actor: Actor, @Param('id', ParseUUIDPipe) id: string) {
    return this.practice.share(actor, id);
  }

  /** Its draw was unfair: it counts no more, and another try is free. Supervisors only. */
  @Post('runs/:id/unfair')
  @HttpCode(200)
  unfair(@CurrentUser() actor: Actor, @Param('id', ParseUUIDPipe) id: string, @Body() body: UnfairBody) {
    return this.practice.unfair(actor, id, body.reason);
  }

  /** Counts of ninety days, by person and kind. Supervisors only. */
  @Get('overview')
  overview(@CurrentUser() actor: Actor) {
    return this.practice.overview(actor);
  }

  /** The same as a table; every row says PRACTICE. */
  @Get('overview.csv')
  @Header('content-type', 'text/csv; charset=utf-8')
  @Header('content-disposition', 'attachment; filename="practice.csv"')
  csv(@CurrentUser() actor: Actor) {
    return this.practice.csv(actor);
  }

  /** Tests that are open, soonest due first. */
  @Get('tests')
  open(@CurrentUser() actor: Actor) {
    return this.tests.open(actor);
  }

  /** Sets a test: its seed is drawn here, the same for all. Supervisors only. */
  @Put('tests/:id')
  set(@CurrentUser() actor: Actor, @Param('id', ParseUUIDPipe) id: string, @Body() body: TestBody) {
    return this.tests.set(actor, id, body);
  }

  /** Begins one's only try. */
  @Post('tests/:id/start')
  @HttpCode(200)
  start(@CurrentUser() actor: Actor, @Param('id', ParseUUIDPipe) id: string, @Body() body: StartBody) {
    return this.tests.start(actor, id, body.run);
  }
}
