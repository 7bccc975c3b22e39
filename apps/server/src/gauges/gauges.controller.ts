import { Body, Controller, Get, Param, ParseUUIDPipe, Post, Put, Query } from '@nestjs/common';
import type { GaugeForm } from '@firm-needle/contract';
import type { GaugeKind, Medium } from '@firm-needle/core/gauge';
import {
  IsBoolean,
  IsIn,
  IsNumber,
  IsOptional,
  IsString,
  Matches,
  Max,
  MaxLength,
  Min,
  MinLength,
} from 'class-validator';
import { PageQuery } from '../common/page.js';
import { CurrentUser, type Actor } from '../common/user.js';
import { GaugesService } from './gauges.service.js';

const finite = { allowNaN: false, allowInfinity: false } as const;

export class GaugeBody implements GaugeForm {
  @IsString() @MinLength(1) @MaxLength(30) label: string;
  @IsIn(['bourdon', 'digital', 'u-tube', 'diaphragm', 'bench', 'thermometer']) kind: GaugeKind;
  @IsString() @MaxLength(12) unit: string;
  @IsNumber(finite) lower: number;
  @IsNumber(finite) upper: number;
  @IsNumber(finite) division: number;
  @IsIn([1, 0.5, 0.25, 0.2], { message: 'is a whole, a half, a quarter or a fifth of a division' })
  readable: number;
  @IsString() @MaxLength(12) accuracy: string;
  @IsIn(['water', 'air', 'refrigerant', 'any']) medium: Medium;
  @IsOptional() @IsNumber(finite) @Min(0) @Max(60) column_C?: number;
  @IsOptional() @IsString() @MaxLength(60) serial?: string;
  @IsOptional() @IsString() @MaxLength(60) certificate?: string;
  @IsOptional() @IsString() @MaxLength(120) owner?: string;
  @IsOptional() @Matches(/^\d{4}-\d{2}-\d{2}$/, { message: 'must be a day such as 2030-01-31' }) due?: string;
  @IsOptional() @IsBoolean() retired?: boolean;
}

@Controller('gauges')
export class GaugesController {
  constructor(private readonly gauges: GaugesService) {}

  /** The firm's gauges, by label. */
  @Get()
  list(@CurrentUser() actor: Actor, @Query() page: PageQuery) {
    return this.gauges.list(actor, page);
  }

  /** One gauge with its zeros over time and where they lead. */
  @Get(':id')
  one(@CurrentUser() actor: Actor, @Param('id', ParseUUIDPipe) id: string) {
    return this.gauges.one(actor, id);
  }

  /** A gauge under an id made on the device: new, or as it is now. */
  @Put(':id')
  save(@CurrentUser() actor: Actor, @Param('id', ParseUUIDPipe) id: string, @Body() body: GaugeBody) {
    return this.gauges.save(actor, id, body);
  }

  /** The control that the checks of this gauge belong to; made when it is first asked for. */
  @Post(':id/control')
  control(@CurrentUser() actor: Actor, @Param('id', ParseUUIDPipe) id: string) {
    return this.gauges.control(actor, id);
  }
}
