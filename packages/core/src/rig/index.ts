export * from './contract.js';
export * from './random.js';
export * from './kernel.js';
