export * from './technician.js';
export * from './wander.js';
