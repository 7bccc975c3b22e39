import { applyDecorators } from '@nestjs/common';
import { PASSWORD_LENGTH } from '@firm-needle/core/formats';
import { hash } from '@node-rs/argon2';
import { IsString, Matches, MaxLength, MinLength } from 'class-validator';

/** What a sign-in name is made of; nothing else can belong to an account. */
export const LOGIN = /^[a-z0-9._@-]{1,60}$/;
/** A password that somebody chooses. */
export const NewPassword = (): PropertyDecorator =>
  applyDecorators(
    MinLength(PASSWORD_LENGTH.from, { message: `is shorter than ${PASSWORD_LENGTH.from} characters` }),
    MaxLength(PASSWORD_LENGTH.to, { message: `is longer than ${PASSWORD_LENGTH.to} characters` }),
    IsString({ message: 'is a text' }),
  ) as PropertyDecorator;

/** A name that somebody signs in with. */
export const LoginName = (): PropertyDecorator =>
  Matches(LOGIN, { message: 'is made of small letters, digits and . _ @ -, at most 60' });

/** Argon2id with the library's defaults (19 MiB, two passes: OWASP's recommendation, from memory). */
export const hashPassword = (password: string): Promise<string> => hash(password);
