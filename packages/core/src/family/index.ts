export * from './contract.js';
export * from './relations.js';
export * from './plan.js';
export * from './sheet.js';
export * from './say.js';
export * from './plausible.js';
export * from './start.js';
export * from './choose.js';
