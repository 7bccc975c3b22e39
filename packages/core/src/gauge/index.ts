export * from './gauge.js';
export * from './accuracy.js';
export * from './zero.js';
export * from './correction.js';
export * from './budget.js';
export * from './coverage.js';
export * from './suitability.js';
