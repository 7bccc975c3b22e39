export * from './events.js';
export * from './step.js';
export * from './rules.js';
export * from './fold.js';
export * from './view.js';
export * from './runner.js';
