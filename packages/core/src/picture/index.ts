export * from './scale.js';
export * from './axes.js';
export * from './standing.js';
export * from './time.js';
