// What people type into records: tidied, and bounded by the same rules as on the device that keeps it for later.
import { applyDecorators } from '@nestjs/common';
import { MOST, tidied, wordsWrong, type WordsBound } from '@firm-needle/core/formats';
import { Transform } from 'class-transformer';
import { IsInt, IsOptional, Matches, Max, Min, ValidateBy } from 'class-validator';

const ISO_DAY = /^\d{4}-(0[1-9]|1[0-2])-(0[1-9]|[12]\d|3[01])$/;

const tidy = Transform(({ value }: { value: unknown }) =>
  typeof value === 'string' ? tidied(value) : value,
);
const emptyIsNone = Transform(({ value }: { value: unknown }) => (value === '' ? null : value));

const bounded = (bound: WordsBound): PropertyDecorator =>
  ValidateBy({
    name: 'words',
    validator: {
      validate: (value) => typeof value === 'string' && wordsWrong(value, bound) === undefined,
      defaultMessage: (args) => {
        const value: unknown = args?.value;
        return typeof value === 'string' ? (wordsWrong(value, bound) ?? 'cannot be kept') : 'is a text';
      },
    },
  });

/** A name that something goes by. */
export const Name = (most: number = MOST.name): PropertyDecorator =>
  applyDecorators(tidy, bounded({ most, needed: true })) as PropertyDecorator;

/** A line that may be left empty; empty is null. */
export const Line = (most: number): PropertyDecorator =>
  applyDecorators(tidy, emptyIsNone, IsOptional(), bounded({ most })) as PropertyDecorator;

/** Some lines that may be left empty; they may have line ends. */
export const Lines = (most: number): PropertyDecorator =>
  applyDecorators(tidy, emptyIsNone, IsOptional(), bounded({ most, lines: true })) as PropertyDecorator;

/** A calendar day, or none. */
export const Day = (): PropertyDecorator =>
  applyDecorators(
    emptyIsNone,
    IsOptional(),
    Matches(ISO_DAY, { message: 'must be a day such as 2030-01-31' }),
  ) as PropertyDecorator;

/** The version that a record becomes: 1 for a new one, else one more than what it was changed from. */
export const Version = (): PropertyDecorator =>
  applyDecorators(IsInt(), Min(1), Max(1_000_000)) as PropertyDecorator;

/** Whether a text is a day that the calendar has. */
export const isRealDay = (day: string): boolean =>
  ISO_DAY.test(day) && new Date(`${day}T00:00:00Z`).toISOString().startsWith(day);
