import { Body, Controller, Get, Param, ParseUUIDPipe, Put } from '@nestjs/common';
import type { EquipmentForm } from '@firm-needle/contract';
import { MOST, YEAR_MADE } from '@firm-needle/core/formats';
import { IsBoolean, IsInt, IsOptional, IsUUID, Max, Min } from 'class-validator';
import { Line, Lines, Name, Version } from '../common/fields.js';
import { CurrentUser, type Actor } from '../common/user.js';
import { EquipmentService } from './equipment.service.js';

export class EquipmentBody implements EquipmentForm {
  @Version() version: number;
  @IsUUID() siteId: string;
  @Name() name: string;
  @Lines(MOST.notes) notes?: string | null;
  @Line(MOST.plate) maker?: string | null;
  @Line(MOST.plate) model?: string | null;
  @Line(MOST.plate) serial?: string | null;
  @IsOptional()
  @IsInt({ message: 'is a year' })
  @Min(YEAR_MADE.from, { message: `is before ${YEAR_MADE.from}: type the year on the plate` })
  @Max(YEAR_MADE.to, { message: `is after ${YEAR_MADE.to}: type the year on the plate` })
  made?: number | null;
  @IsOptional() @IsBoolean() retired?: boolean;
}

@Controller('equipment')
export class EquipmentController {
  constructor(private readonly equipment: EquipmentService) {}

  /** One piece of equipment with its site and controls. */
  @Get(':id')
  one(@CurrentUser() actor: Actor, @Param('id', ParseUUIDPipe) id: string) {
    return this.equipment.one(actor, id);
  }

  /** A piece of equipment under an id made on the device: new, or one version on. */
  @Put(':id')
  save(@CurrentUser() actor: Actor, @Param('id', ParseUUIDPipe) id: string, @Body() body: EquipmentBody) {
    return this.equipment.save(actor, id, body);
  }
}
