import { rounds } from './rounds.mjs';
import { expect, test } from './person.ts';

// What goes without a line needs what the device keeps of the app.
test.use({ serviceWorkers: 'allow' });

// What is lost or doubled once in ten is lost: nothing here is tried again.
test.describe.configure({ retries: 0 });

test('rounds of mishaps lose nothing, double nothing, take no wrong step and never get stuck', async ({
  browser,
  stack,
}) => {
  test.setTimeout(300_000);
  const sums = await rounds(stack, { count: 12, seed: 11, browser });
  expect(sums.notes).toEqual([]);
  expect(sums).toMatchObject({ rounds: 12, lost: 0, doubled: 0, wrong: 0, stuck: 0, refused: 0 });
  expect(sums.entries).toBeGreaterThan(20);
});
