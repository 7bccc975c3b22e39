export * from './firmness.js';
export * from './turning.js';
export * from './ring.js';
export * from './catch.js';
