import { Controller, Get, Param, ParseUUIDPipe, Query } from '@nestjs/common';
import { IsOptional, Matches } from 'class-validator';
import { PageQuery } from '../common/page.js';
import { CurrentUser, type Actor } from '../common/user.js';
import { VisitsService } from './visits.service.js';

export class VisitsQuery extends PageQuery {
  /** Only this day, as 2030-01-31. */
  @IsOptional()
  @Matches(/^\d{4}-\d{2}-\d{2}$/, { message: 'must be a day such as 2030-01-31' })
  day?: string;
}

@Controller('visits')
export class VisitsController {
  constructor(private readonly visits: VisitsService) {}

  /** Visits with their controls in walking order and the jobs begun on them, newest day first. */
  @Get()
  list(@CurrentUser() actor: Actor, @Query() query: VisitsQuery) {
    return this.visits.list(actor, query);
  }

  @Get(':id')
  one(@CurrentUser() actor: Actor, @Param('id', ParseUUIDPipe) id: string) {
    return this.visits.one(actor, id);
  }
}
