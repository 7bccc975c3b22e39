import { Body, Controller, Get, Param, ParseUUIDPipe, Put } from '@nestjs/common';
import { CurrentUser, type Actor } from '../common/user.js';
import { ControlBody, ControlCopyBody, DeviceBody, LinkBody, PlanBody } from './controls.dto.js';
import { ControlsService } from './controls.service.js';
import { LifeService } from './life.service.js';
import { RegisterService } from './register.service.js';

@Controller('controls')
export class ControlsController {
  constructor(
    private readonly controls: ControlsService,
    private readonly register: RegisterService,
    private readonly lives: LifeService,
  ) {}

  /** A control with its site, its plan in force, its device and its jobs so far. */
  @Get(':id')
  one(@CurrentUser() actor: Actor, @Param('id', ParseUUIDPipe) id: string) {
    return this.controls.one(actor, id);
  }

  /** A control under an id made on the device: new, or one version on. */
  @Put(':id')
  save(@CurrentUser() actor: Actor, @Param('id', ParseUUIDPipe) id: string, @Body() body: ControlBody) {
    return this.register.save(actor, id, body);
  }

  /** What it has been through, by setting, and when it is due and why. */
  @Get(':id/life')
  life(@CurrentUser() actor: Actor, @Param('id', ParseUUIDPipe) id: string) {
    return this.lives.of(actor, id);
  }

  /** A device that takes the place of the one before; the same id twice is one. */
  @Put(':id/devices/:device')
  fit(
    @CurrentUser() actor: Actor,
    @Param('id', ParseUUIDPipe) id: string,
    @Param('device', ParseUUIDPipe) device: string,
    @Body() body: DeviceBody,
  ) {
    return this.register.fit(actor, id, device, body);
  }

  /** The set-up of another control under a new id, without its past. */
  @Put(':id/copy')
  copy(@CurrentUser() actor: Actor, @Param('id', ParseUUIDPipe) id: string, @Body() body: ControlCopyBody) {
    return this.register.copy(actor, id, body);
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
