import { Body, Controller, Get, HttpCode, Param, ParseUUIDPipe, Post, Put, Query } from '@nestjs/common';
import { Type } from 'class-transformer';
import { IsInt, IsOptional, Min } from 'class-validator';
import { CurrentUser, type Actor } from '../common/user.js';
import { AppendService } from './append.service.js';
import { AppendBody, OpenJobBody } from './jobs.dto.js';
import { JobsService } from './jobs.service.js';

export class EventsQuery {
  /** Only events after this sequence number. */
  @IsOptional() @Type(() => Number) @IsInt() @Min(0) after?: number;
}

@Controller('jobs')
export class JobsController {
  constructor(
    private readonly jobs: JobsService,
    private readonly appending: AppendService,
  ) {}

  /** Opens a job under an id made on the device; the same id twice is one job. */
  @Put(':id')
  open(@CurrentUser() actor: Actor, @Param('id', ParseUUIDPipe) id: string, @Body() body: OpenJobBody) {
    return this.jobs.open(actor, id, body);
  }

  @Get(':id')
  one(@CurrentUser() actor: Actor, @Param('id', ParseUUIDPipe) id: string) {
    return this.jobs.one(actor, id);
  }

  /** The log in its order, a page of 500 at a time. */
  @Get(':id/events')
  events(@CurrentUser() actor: Actor, @Param('id', ParseUUIDPipe) id: string, @Query() query: EventsQuery) {
    return this.jobs.events(actor, id, query.after ?? 0);
  }

  /** Appends a batch; an event sent twice counts once. */
  @Post(':id/events')
  @HttpCode(200)
  append(@CurrentUser() actor: Actor, @Param('id', ParseUUIDPipe) id: string, @Body() body: AppendBody) {
    return this.appending.append(actor, id, body.events);
  }

  /** Whether the chain of the job's events is whole, and its fingerprint. */
  @Get(':id/seal')
  seal(@CurrentUser() actor: Actor, @Param('id', ParseUUIDPipe) id: string) {
    return this.jobs.seal(actor, id);
  }
}
