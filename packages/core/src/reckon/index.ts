export * from './water.js';
export { fluids, type Fluid } from './fluids.js';
export * from './saturation.js';
export * from './tank.js';
export * from './nozzle.js';
export * from './pipe.js';
export * from './losses.js';
export * from './air.js';
