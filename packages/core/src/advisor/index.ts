export * from './belief.js';
export * from './advise.js';
export * from './saturation.js';
export { upperTail, within } from './normal.js';
