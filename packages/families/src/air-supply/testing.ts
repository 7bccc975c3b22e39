// What the tests of an air supply stand on: a bench of its kit, and jobs worked on it.
import type { Plan } from '@firm-needle/core/procedure';
import { kitJobs, TestBench } from '../testing.js';
import { family } from './index.js';
import { kit } from './kit.js';

const bench = new TestBench(family, {
  variant: 'regulator',
  plate: kit.plate ?? {},
  given: {},
  gauges: kit.gauges,
});
export interface Over {
  readonly variant?: string;
  readonly given?: Readonly<Record<string, string>>;
  readonly plate?: Readonly<Record<string, string>>;
}
export const planOf = (over: Over = {}): Plan => bench.plan(over);
export const { onKit } = kitJobs(family, kit);
export const REGULATOR = 'air supply, regulator at the gun';
