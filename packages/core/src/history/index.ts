// What the past of a control or a gauge says of what comes: drift, and when to come back.
export * from './drift.js';
export * from './due.js';
export * from './life.js';
