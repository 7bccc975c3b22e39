export * from './seal.js';
