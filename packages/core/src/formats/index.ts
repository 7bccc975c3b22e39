export * from './seal.js';
export * from './words.js';
