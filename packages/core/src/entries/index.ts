export * as entries from './entries.js';
export type { At, Entry, Hands, LeaveOutcome, Reading, Turned } from './entries.js';
export * from './watch.js';
export * from './together.js';
