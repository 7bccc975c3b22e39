export * from './parts.js';
export * from './steps.js';
export * from './family.js';
export * from './gather.js';
export * from './zeros.js';
export * from './drawn.js';
