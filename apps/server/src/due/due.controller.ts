import { Controller, Get, Query } from '@nestjs/common';
import { IsOptional, IsUUID, Matches } from 'class-validator';
import { PageQuery } from '../common/page.js';
import { CurrentUser, type Actor } from '../common/user.js';
import { DueList } from './dueList.service.js';

export class DueQuery extends PageQuery {
  /** Nothing later than this day. */
  @IsOptional()
  @Matches(/^\d{4}-\d{2}-\d{2}$/, { message: 'must be a day such as 2030-01-31' })
  until?: string;
  @IsOptional() @IsUUID() site?: string;
}

@Controller('due')
export class DueController {
  constructor(private readonly due: DueList) {}

  /** What is due, the soonest first, each with its reasons and the visit that is planned for it. */
  @Get()
  list(@CurrentUser() actor: Actor, @Query() query: DueQuery) {
    return this.due.list(actor, query);
  }
}
