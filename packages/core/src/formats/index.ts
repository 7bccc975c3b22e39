export * from './seal.js';
export * from './bounds.js';
export * from './words.js';
export * from './tables.js';
