import type { ControlForm, CopyForm, DeviceForm } from '@firm-needle/contract';
import { INTERVAL_MONTHS, MOST } from '@firm-needle/core/formats';
import type { Plan } from '@firm-needle/core/procedure';
import {
  IsBoolean,
  IsInt,
  IsObject,
  IsOptional,
  IsString,
  IsUUID,
  Matches,
  Max,
  MaxLength,
  Min,
  ValidateIf,
} from 'class-validator';
import { Day, Line, Name, Version } from '../common/fields.js';

const Months = (): PropertyDecorator => (target, key) => {
  IsOptional()(target, key);
  IsInt({ message: 'is a whole number of months' })(target, key);
  Min(INTERVAL_MONTHS.from, { message: 'is under a month: type the months between checks' })(target, key);
  Max(INTERVAL_MONTHS.to, {
    message: `is over ${INTERVAL_MONTHS.to} months: type the months between checks`,
  })(target, key);
};

export class PlanBody {
  /** The version that this plan becomes: one more than the one it was made from. */
  @IsInt() @Min(1) @Max(1_000_000) version: number;
  @IsObject() plan: Plan;
}

export class LinkBody {
  /** The control that stands there from now on; null where none does. */
  @ValidateIf((_, to) => to !== null) @IsUUID() to: string | null;
}

export class ControlBody implements ControlForm {
  @Version() version: number;
  @IsUUID() equipmentId: string;
  @Name() name: string;
  @IsString() @MaxLength(60) family: string;
  @Line(MOST.lines) story?: string | null;
  @Months() months?: number | null;
  @Months() lawMonths?: number | null;
  @Line(MOST.name) lawBy?: string | null;
  @Day() customerDay?: string | null;
  @IsOptional() @IsBoolean() retired?: boolean;
}

export class DeviceBody implements DeviceForm {
  @Name() label: string;
  @Matches(/^\d{4}-\d{2}-\d{2}$/, { message: 'must be a day such as 2030-01-31' }) fittedOn: string;
}

export class ControlCopyBody implements CopyForm {
  @IsUUID() from: string;
  @Name() name: string;
}
