/**
 * A refusal is data: what was wrong, where, the bound that was broken and what to do about it.
 * The core never throws for bad input from outside; it throws only for a programmer's mistake.
 */
export interface Refusal {
  /** Stable kebab-case name, safe to test against. */
  readonly code: string;
  /** One plain sentence: what is wrong, with the numbers. */
  readonly message: string;
  /** The field, line or mark that is wrong. */
  readonly where?: string;
  /** The bound that was broken, as text with its unit. */
  readonly bound?: string;
  /** What the user can do now. */
  readonly remedy?: string;
}

export type Result<T> =
  { readonly ok: true; readonly value: T } | { readonly ok: false; readonly refusal: Refusal };

export const accept = <T>(value: T): Result<T> => ({ ok: true, value });

export const refuse = (
  code: string,
  message: string,
  extra: Omit<Refusal, 'code' | 'message'> = {},
): { readonly ok: false; readonly refusal: Refusal } => ({
  ok: false,
  refusal: { code, message, ...extra },
});

/** The value, or a thrown error that carries the refusal's words: for callers who know it cannot be refused. */
export function expectOk<T>(result: Result<T>): T {
  if (result.ok) return result.value;
  throw new Error(`${result.refusal.code}: ${result.refusal.message}`);
}
