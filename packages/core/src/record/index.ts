export * from './document.js';
export * from './inUnit.js';
export * from './sentences.js';
export * from './table.js';
