import { Body, Controller, Get, Param, ParseUUIDPipe, Put } from '@nestjs/common';
import type { Plan } from '@firm-needle/core/procedure';
import { IsInt, IsObject, IsUUID, Max, Min, ValidateIf } from 'class-validator';
import { CurrentUser, type Actor } from '../common/user.js';
import { ControlsService } from './controls.service.js';

export class PlanBody {
  /** The version that this plan becomes: one more than the one it was made from. */
  @IsInt() @Min(1) @Max(1_000_000) version: number;
  @IsObject() plan: Plan;
}

export class LinkBody {
  /** The control that stands there from now on; null where none does. */
  @ValidateIf((_, to) => to !== null) @IsUUID() to: string | null;
}

@Controller('controls')
export class ControlsController {
  constructor(private readonly controls: ControlsService) {}

  /** A control with its site, its plan in force, its device and its jobs so far. */
  @Get(':id')
  one(@CurrentUser() actor: Actor, @Param('id', ParseUUIDPipe) id: string) {
    return this.controls.one(actor, id);
  }

  /** A new version of the plan; the same id twice is one version. */
  @Put(':id/plans/:plan')
  plan(
    @CurrentUser() actor: Actor,
    @Param('id', ParseUUIDPipe) id: string,
    @Param('plan', ParseUUIDPipe) planId: string,
    @Body() body: PlanBody,
  ) {
    return this.controls.savePlan(actor, id, planId, body.version, body.plan);
  }

  /** Which control stands beside this one in a role; the same twice is one. */
  @Put(':id/links/:role')
  link(
    @CurrentUser() actor: Actor,
    @Param('id', ParseUUIDPipe) id: string,
    @Param('role') role: string,
    @Body() body: LinkBody,
  ) {
    return this.controls.link(actor, id, role, body.to);
  }
}
