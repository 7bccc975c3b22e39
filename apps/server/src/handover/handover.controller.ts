import {
  Body,
  Controller,
  Delete,
  Get,
  HttpCode,
  Param,
  ParseUUIDPipe,
  Post,
  Query,
  Req,
  Res,
  StreamableFile,
} from '@nestjs/common';
import { IsIn, IsInt, IsOptional, IsString, Max, MaxLength, Min } from 'class-validator';
import type { Request, Response } from 'express';
import { CurrentUser, type Actor } from '../common/user.js';
import { JobsService } from '../jobs/jobs.service.js';
import { Zone } from './days.js';
import { RecordsService } from './records.service.js';
import { SharesService } from './shares.service.js';
import { TAG_SIZES, type TagSize } from './tagPdf.js';
import { TagsService } from './tags.service.js';
import { VisitSummary } from './visitSummary.js';

const MOST_DAYS = 365;

export class RecordQuery {
  /** A unit of pressure, or `worked`; without it the customer's. */
  @IsOptional() @IsString() @MaxLength(12) unit?: string;
  @Zone() zone?: string;
}

export class TagQuery {
  @IsOptional() @IsIn(Object.keys(TAG_SIZES)) size?: TagSize;
  @Zone() zone?: string;
}

export class ShareBody extends RecordQuery {
  /** Days until it expires. */
  @IsInt() @Min(1) @Max(MOST_DAYS) days: number;
}

/** A file as an answer, under a name of its own. */
export function pdfAnswer(
  response: Response,
  { name, data }: { name: string; data: Buffer },
): StreamableFile {
  response.setHeader('Cache-Control', 'no-store');
  const plain = name.replace(/[^\x20-\x7e]|["\\]/g, '_');
  return new StreamableFile(data, {
    type: 'application/pdf',
    disposition: `inline; filename="${plain}"; filename*=UTF-8''${encodeURIComponent(name)}`,
  });
}

/** Where the app is opened: as it is told, else as this request came. */
export const originOf = (request: Request): string =>
  process.env['PUBLIC_URL']?.replace(/\/+$/, '') ??
  `${request.protocol}://${request.get('host') ?? 'localhost'}`;

@Controller()
export class HandoverController {
  constructor(
    private readonly jobs: JobsService,
    private readonly records: RecordsService,
    private readonly shares: SharesService,
    private readonly tags: TagsService,
    private readonly visits: VisitSummary,
  ) {}

  /** The record of a job in words, as it is handed over. */
  @Get('jobs/:id/record')
  async record(
    @CurrentUser() actor: Actor,
    @Param('id', ParseUUIDPipe) id: string,
    @Query() query: RecordQuery,
  ) {
    return (await this.records.make(await this.jobs.reach(actor, id), query)).doc;
  }

  @Get('jobs/:id/sheet.pdf')
  async sheet(
    @CurrentUser() actor: Actor,
    @Param('id', ParseUUIDPipe) id: string,
    @Query() query: RecordQuery,
    @Res({ passthrough: true }) response: Response,
  ): Promise<StreamableFile> {
    return pdfAnswer(response, await this.records.pdf(await this.jobs.reach(actor, id), query));
  }

  @Get('controls/:id/tag.pdf')
  async tag(
    @CurrentUser() actor: Actor,
    @Param('id', ParseUUIDPipe) id: string,
    @Query() query: TagQuery,
    @Req() request: Request,
    @Res({ passthrough: true }) response: Response,
  ): Promise<StreamableFile> {
    const data = await this.tags.one(actor, id, query.size ?? 'label', originOf(request), query.zone);
    return pdfAnswer(response, { name: 'tag.pdf', data });
  }

  /** The tags of a whole site, to be cut out. */
  @Get('sites/:id/tags.pdf')
  async siteTags(
    @CurrentUser() actor: Actor,
    @Param('id', ParseUUIDPipe) id: string,
    @Query() query: TagQuery,
    @Req() request: Request,
    @Res({ passthrough: true }) response: Response,
  ): Promise<StreamableFile> {
    const data = await this.tags.ofSite(actor, id, originOf(request), query.zone);
    return pdfAnswer(response, { name: 'tags.pdf', data });
  }

  @Get('visits/:id/summary.pdf')
  async summary(
    @CurrentUser() actor: Actor,
    @Param('id', ParseUUIDPipe) id: string,
    @Query() query: RecordQuery,
    @Res({ passthrough: true }) response: Response,
  ): Promise<StreamableFile> {
    return pdfAnswer(response, await this.visits.pdf(actor, id, query));
  }

  @Get('jobs/:id/shares')
  links(@CurrentUser() actor: Actor, @Param('id', ParseUUIDPipe) id: string) {
    return this.shares.list(actor, id);
  }

  /** A link for somebody without an account; its token is answered this once. */
  @Post('jobs/:id/shares')
  share(@CurrentUser() actor: Actor, @Param('id', ParseUUIDPipe) id: string, @Body() body: ShareBody) {
    return this.shares.make(actor, id, body);
  }

  @Delete('shares/:id')
  @HttpCode(204)
  withdraw(@CurrentUser() actor: Actor, @Param('id', ParseUUIDPipe) id: string): Promise<void> {
    return this.shares.withdraw(actor, id);
  }
}
