export * from './contract.js';
export * from './random.js';
export * from './kernel.js';
export * from './base.js';
export * from './metal.js';
export * from './swing.js';
