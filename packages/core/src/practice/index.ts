export * from './levels.js';
export * from './run.js';
export * from './watched.js';
export * from './reveal.js';
export * from './draw.js';
export {
  pairsOf,
  orderScore,
  askedOf,
  takenKeys,
  turnsOf,
  unreached,
  type Pair,
  type OrderScore,
} from './order.js';
export * from './harm.js';
export { accepted, conclusion, type Conclusion } from './scores.js';
export * from './debrief.js';
export * from './luck.js';
export { said as sentences } from './sentences.js';
export * from './sealed.js';
export * from './record.js';
export * from './scripted.js';
