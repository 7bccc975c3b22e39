import { hash } from '@node-rs/argon2';

/** What a sign-in name is made of; nothing else can belong to an account. */
export const LOGIN = /^[a-z0-9._@-]{1,60}$/;
/** Length is what makes a password [NIST SP 800-63B, from memory: at least eight, no rules on its characters]. */
export const LEAST_PASSWORD = 10;
export const MOST_PASSWORD = 200;

/** Argon2id with the library's defaults (19 MiB, two passes: OWASP's recommendation, from memory). */
export const hashPassword = (password: string): Promise<string> => hash(password);
