import { Body, Controller, Get, Param, ParseUUIDPipe, Put, Query } from '@nestjs/common';
import type { CopyForm, SiteForm } from '@firm-needle/contract';
import { ALTITUDE_M, MOST } from '@firm-needle/core/formats';
import { Transform } from 'class-transformer';
import { IsBoolean, IsNumber, IsOptional, IsUUID, Max, Min } from 'class-validator';
import { Line, Lines, Name, Version } from '../common/fields.js';
import { PageQuery } from '../common/page.js';
import { CurrentUser, type Actor } from '../common/user.js';
import { SitesService } from './sites.service.js';

export class SiteBody implements SiteForm {
  @Version() version: number;
  @Name() name: string;
  @IsNumber({ allowNaN: false, allowInfinity: false }, { message: 'is a number of metres' })
  @Min(ALTITUDE_M.from, { message: `is under ${ALTITUDE_M.from} m: type the height above the sea` })
  @Max(ALTITUDE_M.to, { message: `is over ${ALTITUDE_M.to} m: type the height above the sea in metres` })
  altitude_m: number;
  @Line(MOST.name) customer?: string | null;
  @Lines(MOST.lines) address?: string | null;
  @Line(MOST.contact) contact?: string | null;
  @Lines(MOST.lines) access?: string | null;
  @Lines(MOST.lines) hazards?: string | null;
  @Line(12) unit?: string | null;
  @Lines(MOST.notes) notes?: string | null;
  @IsOptional() @IsBoolean() retired?: boolean;
}

export class CopyBody implements CopyForm {
  @IsUUID() from: string;
  @Name() name: string;
}

export class SitesQuery extends PageQuery {
  /** Those that were retired, too. */
  @IsOptional() @Transform(({ value }) => value === 'true' || value === true) @IsBoolean() retired?: boolean;
}

@Controller('sites')
export class SitesController {
  constructor(private readonly sites: SitesService) {}

  @Get()
  list(@CurrentUser() actor: Actor, @Query() page: SitesQuery) {
    return this.sites.list(actor, page);
  }

  /** A site with its equipment and their controls. */
  @Get(':id')
  one(@CurrentUser() actor: Actor, @Param('id', ParseUUIDPipe) id: string) {
    return this.sites.one(actor, id);
  }

  /** A site under an id made on the device: new, or one version on. */
  @Put(':id')
  save(@CurrentUser() actor: Actor, @Param('id', ParseUUIDPipe) id: string, @Body() body: SiteBody) {
    return this.sites.save(actor, id, body);
  }

  /** The set-up of another site under a new id: its equipment, controls and plans, without their past. */
  @Put(':id/copy')
  copy(@CurrentUser() actor: Actor, @Param('id', ParseUUIDPipe) id: string, @Body() body: CopyBody) {
    return this.sites.copy(actor, id, body);
  }
}
