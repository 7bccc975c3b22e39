// What server and web say to each other: the server's answers must have these types to compile, and the web reads no others.
export type * from './common.js';
export type * from './people.js';
export type * from './book.js';
export type * from './plan.js';
export type * from './jobs.js';
export type * from './gauges.js';
export type * from './traces.js';
export type * from './handover.js';
export type * from './practice.js';
