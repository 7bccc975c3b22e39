import { ValidationPipe, type ValidationError } from '@nestjs/common';
import { Problem, type FieldError } from './problem.js';

/** Errors of nested objects as one flat list: `events.3.version`. */
function flatten(errors: readonly ValidationError[], prefix = ''): FieldError[] {
  return errors.flatMap((e) => {
    const field = prefix + e.property;
    const own = Object.values(e.constraints ?? {}).map((message) => ({ field, message }));
    return [...own, ...flatten(e.children ?? [], `${field}.`)];
  });
}

/** Body and query checks: unknown fields are refused, and every error names its field and bound. */
export const validation = (): ValidationPipe =>
  new ValidationPipe({
    whitelist: true,
    forbidNonWhitelisted: true,
    transform: true,
    stopAtFirstError: true,
    exceptionFactory: (errors) => {
      const list = flatten(errors).slice(0, 20);
      return new Problem(
        422,
        'not-valid',
        list[0] ? `${list[0].field}: ${list[0].message}` : 'The request is not valid.',
        {
          errors: list,
        },
      );
    },
  });
