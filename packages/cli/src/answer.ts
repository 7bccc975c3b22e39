import type { Refusal, Result } from '@firm-needle/core/result';

/** A refusal on its way to the end of the program. */
export class Refused extends Error {
  constructor(readonly refusal: Refusal) {
    super(refusal.message);
  }
}

/** The value of a result, or its refusal thrown. */
export function must<T>(r: Result<T>): T {
  if (r.ok) return r.value;
  throw new Refused(r.refusal);
}

export const no = (code: string, message: string, extra: Partial<Refusal> = {}): never => {
  throw new Refused({ code, message, ...extra });
};

/** What a refusal looks like on standard output. */
export const errorOf = (r: Refusal): object => ({
  error: {
    code: r.code,
    message: r.message,
    ...(r.where ? { at: r.where } : {}),
    ...(r.bound ? { bound: r.bound } : {}),
    ...(r.remedy ? { remedy: r.remedy } : {}),
  },
});
