export * from './pressure.js';
export * from './units.js';
export * from './parse.js';
export * from './format.js';
export * from './atmosphere.js';
