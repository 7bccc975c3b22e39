// What people type into records: trimmed, bounded, and never a character that cannot be seen.
import { applyDecorators } from '@nestjs/common';
import { Transform } from 'class-transformer';
import { IsInt, IsOptional, IsString, Matches, Max, MaxLength, Min, MinLength } from 'class-validator';

/** Control characters, and those that turn the way of writing about: a name with one is not what it looks like. */
const UNSEEN = /[\p{Cc}\u200b\u200e\u200f\u202a-\u202e\u2060\u2066-\u2069\ufeff]/u;
const ISO_DAY = /^\d{4}-(0[1-9]|1[0-2])-(0[1-9]|[12]\d|3[01])$/;

const trimmed = Transform(({ value }: { value: unknown }) => {
  if (typeof value !== 'string') return value;
  const text = value.normalize('NFC').trim();
  return text;
});
const emptyIsNone = Transform(({ value }: { value: unknown }) => (value === '' ? null : value));
const seen = Matches(new RegExp(`^(?!.*${UNSEEN.source})`, 'us'), {
  message: 'holds a character that cannot be seen: type it again',
});

/** A name that something goes by. */
export const Name = (most = 120): PropertyDecorator =>
  applyDecorators(
    trimmed,
    IsString({ message: 'is a text' }),
    seen,
    MinLength(1, { message: 'is empty: type a name' }),
    MaxLength(most, { message: `is longer than ${most} characters: shorten it` }),
  ) as PropertyDecorator;

/** A line that may be left empty; empty is null. */
export const Line = (most: number): PropertyDecorator =>
  applyDecorators(
    trimmed,
    emptyIsNone,
    IsOptional(),
    IsString({ message: 'is a text' }),
    seen,
    MaxLength(most, { message: `is longer than ${most} characters: shorten it` }),
  ) as PropertyDecorator;

/** Some lines that may be left empty; they may have line ends. */
export const Lines = (most: number): PropertyDecorator =>
  applyDecorators(
    trimmed,
    emptyIsNone,
    IsOptional(),
    IsString({ message: 'is a text' }),
    MaxLength(most, { message: `is longer than ${most} characters: shorten it` }),
  ) as PropertyDecorator;

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
