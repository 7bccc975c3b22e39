import type { Fate } from '@firm-needle/contract';
import {
  Body,
  Controller,
  Delete,
  Get,
  Header,
  HttpCode,
  Param,
  ParseUUIDPipe,
  Post,
  Put,
  Query,
  Req,
  Res,
} from '@nestjs/common';
import { Type } from 'class-transformer';
import { IsBoolean, IsIn, IsInt, IsOptional, IsString, IsUUID, MaxLength, Min } from 'class-validator';
import type { Request, Response } from 'express';
import { Problem } from '../common/problem.js';
import { CurrentUser, Public, type Actor } from '../common/user.js';
import { originOf } from '../handover/handover.controller.js';
import { fileName } from '../handover/records.service.js';
import { CalendarsService } from './calendars.service.js';
import { DossierService } from './dossier.service.js';
import { ExportsService, type ExportKind } from './exports.service.js';
import { ImportsService } from './imports.service.js';
import { sendPieces } from './pieces.js';

const KINDS: readonly ExportKind[] = ['readings', 'settings', 'gauges', 'due'];
const MOST_NAME = 200;
const DOSSIER_TYPE = 'application/vnd.firm-needle.dossier+json';

export class ExportQuery {
  @IsOptional() @IsUUID() site?: string;
  @IsOptional() @IsUUID() control?: string;
}

export class CalendarBody {
  /** One's own visits alone. */
  @IsBoolean() own: boolean;
}

export class ImportQuery {
  @IsOptional() @IsString() @MaxLength(MOST_NAME) name?: string;
}

export class LinesQuery {
  @IsOptional() @Type(() => Number) @IsInt() @Min(0) after?: number;
  @IsOptional() @IsIn(['new', 'known', 'refused']) fate?: Fate;
}

/** The book out of the app, and into it, in open formats. */
@Controller()
export class ExchangeController {
  constructor(
    private readonly exporting: ExportsService,
    private readonly calendars: CalendarsService,
    private readonly importing: ImportsService,
    private readonly dossiers: DossierService,
  ) {}

  /** Readings, settings, gauges or what is due as CSV. */
  @Get('export/:kind.csv')
  async csv(
    @CurrentUser() actor: Actor,
    @Param('kind') kind: ExportKind,
    @Query() query: ExportQuery,
    @Res() response: Response,
  ): Promise<void> {
    if (!KINDS.includes(kind))
      throw new Problem(404, 'not-found', `There is no such table. There are: ${KINDS.join(', ')}.`);
    await sendPieces(
      response,
      'text/csv; charset=utf-8',
      `${kind}.csv`,
      this.exporting.lines(actor, kind, query),
    );
  }

  @Get('calendars')
  list(@CurrentUser() actor: Actor) {
    return this.calendars.list(actor);
  }

  /** A secret address for a calendar program; told this once. */
  @Post('calendars')
  make(@CurrentUser() actor: Actor, @Body() body: CalendarBody) {
    return this.calendars.make(actor, body.own);
  }

  @Delete('calendars/:id')
  @HttpCode(204)
  withdraw(@CurrentUser() actor: Actor, @Param('id', ParseUUIDPipe) id: string): Promise<void> {
    return this.calendars.withdraw(actor, id);
  }

  @Public()
  @Get('calendar/:token.ics')
  @Header('Content-Type', 'text/calendar; charset=utf-8')
  @Header('Cache-Control', 'no-store')
  calendar(@Param('token') token: string, @Req() request: Request): Promise<string> {
    return this.calendars.text(token, originOf(request));
  }

  /** A CSV file, as it is (text/csv): every line's fate; nothing of the book is changed. */
  @Put('imports/:id')
  @HttpCode(200)
  look(
    @CurrentUser() actor: Actor,
    @Param('id', ParseUUIDPipe) id: string,
    @Query() { name }: ImportQuery,
    @Req() request: Request,
  ) {
    if (!request.is('text/csv'))
      throw new Problem(415, 'not-csv', 'A file is sent as text/csv.', { remedy: 'Save the table as CSV.' });
    return this.importing.look(actor, id, name ?? 'table.csv', request);
  }

  @Get('imports/:id')
  state(@CurrentUser() actor: Actor, @Param('id', ParseUUIDPipe) id: string) {
    return this.importing.state(actor, id);
  }

  @Get('imports/:id/lines')
  lines(@CurrentUser() actor: Actor, @Param('id', ParseUUIDPipe) id: string, @Query() query: LinesQuery) {
    return this.importing.lines(actor, id, query.after ?? 0, query.fate);
  }

  /** Takes in what is new in it, whole or not at all. */
  @Post('imports/:id/take')
  @HttpCode(200)
  take(@CurrentUser() actor: Actor, @Param('id', ParseUUIDPipe) id: string) {
    return this.importing.take(actor, id);
  }

  /** Stops it, or gives it up. */
  @Delete('imports/:id')
  @HttpCode(200)
  cancel(@CurrentUser() actor: Actor, @Param('id', ParseUUIDPipe) id: string) {
    return this.importing.cancel(actor, id);
  }

  /** A site with all its past as one file. */
  @Get('sites/:id/dossier.json')
  async dossier(
    @CurrentUser() actor: Actor,
    @Param('id', ParseUUIDPipe) id: string,
    @Res() response: Response,
  ): Promise<void> {
    const { name, pieces } = await this.dossiers.begin(actor, id);
    await sendPieces(response, 'application/json; charset=utf-8', `${fileName(name)}-dossier.json`, pieces);
  }

  /** A dossier into this installation, as its own type: read only once it is known who sends it. */
  @Post('dossiers')
  @HttpCode(200)
  takeDossier(@CurrentUser() actor: Actor, @Req() request: Request) {
    if (!request.is(DOSSIER_TYPE))
      throw new Problem(415, 'no-dossier', `A dossier is sent as ${DOSSIER_TYPE}.`);
    return this.dossiers.take(actor, request);
  }
}
