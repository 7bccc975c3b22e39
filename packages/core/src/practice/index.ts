export * from './levels.js';
export * from './run.js';
export * from './watched.js';
export * from './reveal.js';
export * from './draw.js';
export {
  passed,
  pairsOf,
  orderScore,
  askedOf,
  takenKeys,
  positionsAt,
  saidBefore,
  turnsOf,
  type Pair,
  type OrderScore,
  type Passed,
} from './order.js';
export { harmOf, hurtBy, unreached, type Act } from './acts.js';
export { accepted, conclusion, type Conclusion } from './scores.js';
export * from './debrief.js';
export * from './luck.js';
export { said as sentences } from './sentences.js';
export * from './sealed.js';
export * from './record.js';
