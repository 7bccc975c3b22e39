/**
 * One change of the schema. What was released is never changed in what it makes; a new one follows it. Every statement can be given
 * again: a run that ended half way is simply run once more.
 */
export interface Migration {
  readonly name: string;
  readonly up: readonly string[];
}

/** Text that is compared byte by byte. */
export const BINARY = 'CHARACTER SET utf8mb4 COLLATE utf8mb4_bin';
