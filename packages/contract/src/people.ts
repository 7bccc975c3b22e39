// Who is signed in, who works for the firm, and how one begins.
import type { Rule } from '@firm-needle/core/verdict';

export type Role = 'technician' | 'supervisor' | 'reader';

/** Who is signed in. */
export interface Me {
  readonly id: string;
  readonly login: string;
  readonly name: string;
  readonly role: Role;
  readonly permits: readonly string[];
  readonly organisation: {
    readonly id: string;
    readonly name: string;
    readonly demo: boolean;
    readonly rule: Rule;
  };
}

/** A permit that a person holds: for good, or until a day. */
export interface Permit {
  readonly id: string;
  readonly until?: string;
}

/** One of the firm's people. */
export interface Person {
  readonly id: string;
  /** Only a supervisor is told. */
  readonly login?: string;
  readonly name: string;
  readonly role: Role;
  readonly permits: readonly Permit[];
  /** A customer's account sees this site alone. */
  readonly siteId: string | null;
  readonly disabled: boolean;
  readonly version: number;
}

/** A person as a supervisor enters them. */
export interface PersonForm {
  readonly version: number;
  readonly login: string;
  readonly name: string;
  readonly role: Role;
  readonly permits: readonly Permit[];
  readonly siteId?: string | null;
  readonly disabled?: boolean;
  /** Needed for a new one; else a new password, which ends every session of theirs. */
  readonly password?: string;
}

/** A session of one's own. */
export interface OpenSession {
  readonly id: string;
  readonly agent: string | null;
  readonly createdAt: string;
  readonly seenAt: string | null;
  readonly current: boolean;
}

/** Whether there is a firm yet, and whether it is the demo. */
export interface SetupState {
  readonly needed: boolean;
  readonly demo: boolean;
}

/** The firm and its first supervisor. */
export interface SetupForm {
  readonly firm: string;
  readonly name: string;
  readonly login: string;
  readonly password: string;
}

export interface PasswordForm {
  readonly current: string;
  readonly next: string;
}

/** Who signs in. */
export interface SignInForm {
  readonly login: string;
  readonly password: string;
}
