export * from './belief.js';
export * from './advise.js';
export { upperTail, within } from './normal.js';
