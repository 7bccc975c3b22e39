export type { ScriptedIdentity, ScriptedJob } from './job.js';
export * from './technician.js';
export * from './wander.js';
export * from './manner.js';
export * from './kit.js';
export * from './otherwise.js';
