import { Body, Controller, Get, Param, ParseUUIDPipe, Put, Query } from '@nestjs/common';
import type { Permit, PersonForm, Role } from '@firm-needle/contract';
import { Type } from 'class-transformer';
import {
  ArrayMaxSize,
  ArrayUnique,
  IsBoolean,
  IsIn,
  IsOptional,
  IsString,
  IsUUID,
  Matches,
  MaxLength,
  ValidateNested,
} from 'class-validator';
import { Name, Version } from '../common/fields.js';
import { PageQuery } from '../common/page.js';
import { CurrentUser, type Actor } from '../common/user.js';
import { LoginName, NewPassword } from '../auth/passwords.js';
import { PeopleService } from './people.service.js';

export class PermitBody implements Permit {
  @IsString() @MaxLength(40) id: string;
  @IsOptional()
  @Matches(/^\d{4}-\d{2}-\d{2}$/, { message: 'must be a day such as 2030-01-31' })
  until?: string;
}

export class PersonBody implements PersonForm {
  @Version() version: number;
  @LoginName() login: string;
  @Name() name: string;
  @IsIn(['technician', 'supervisor', 'reader']) role: Role;
  @ValidateNested({ each: true })
  @Type(() => PermitBody)
  @ArrayMaxSize(40)
  @ArrayUnique((p: Permit) => p?.id, { message: 'has one twice' })
  permits: PermitBody[];
  @IsOptional() @IsUUID() siteId?: string | null;
  @IsOptional() @IsBoolean() disabled?: boolean;
  @IsOptional()
  @NewPassword()
  password?: string;
}

@Controller('people')
export class PeopleController {
  constructor(private readonly people: PeopleService) {}

  /** The firm's people, by name. */
  @Get()
  list(@CurrentUser() actor: Actor, @Query() page: PageQuery) {
    return this.people.list(actor, page);
  }

  /** A person under an id made on the device: new, or one version on. Supervisors only. */
  @Put(':id')
  save(@CurrentUser() actor: Actor, @Param('id', ParseUUIDPipe) id: string, @Body() body: PersonBody) {
    return this.people.save(actor, id, body);
  }
}
