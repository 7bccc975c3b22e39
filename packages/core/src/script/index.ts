export * from './technician.js';
