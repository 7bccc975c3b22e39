import { Body, Controller, Get, Param, ParseUUIDPipe, Put, Query } from '@nestjs/common';
import { CurrentUser, type Actor } from '../common/user.js';
import { PlanningService } from './planning.service.js';
import { PackedBody, VisitBody, VisitsQuery, WeekQuery } from './visits.dto.js';
import { VisitsService } from './visits.service.js';

@Controller('visits')
export class VisitsController {
  constructor(
    private readonly visits: VisitsService,
    private readonly planning: PlanningService,
  ) {}

  /** Visits with their controls in walking order and the jobs begun on them, newest day first. */
  @Get()
  list(@CurrentUser() actor: Actor, @Query() query: VisitsQuery) {
    return this.visits.list(actor, query);
  }

  /** A week of all people. */
  @Get('week')
  week(@CurrentUser() actor: Actor, @Query() query: WeekQuery) {
    return this.planning.week(actor, query.from);
  }

  @Get(':id')
  one(@CurrentUser() actor: Actor, @Param('id', ParseUUIDPipe) id: string) {
    return this.visits.one(actor, id);
  }

  /** A visit under an id made on the device: new, or one version on. */
  @Put(':id')
  save(@CurrentUser() actor: Actor, @Param('id', ParseUUIDPipe) id: string, @Body() body: VisitBody) {
    return this.planning.save(actor, id, body);
  }

  /** What of its carry list is packed. */
  @Put(':id/packed')
  pack(@CurrentUser() actor: Actor, @Param('id', ParseUUIDPipe) id: string, @Body() body: PackedBody) {
    return this.planning.pack(actor, id, body.items);
  }
}
