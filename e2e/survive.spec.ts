import { expect, followSteps, hurry, sentence, signIn, startJob, tap, test } from './person.ts';

// What goes without a line needs what the device keeps of the app.
test.use({ serviceWorkers: 'allow' });

// What is lost or doubled once in ten is lost: nothing here is tried again.
test.describe.configure({ retries: 0 });

const eventsOf = async (
  url: string,
  page: import('@playwright/test').Page,
): Promise<{ seq: number; ids: string[] }> => {
  const job = /jobs\/([\w-]+)/.exec(page.url())?.[1] ?? '';
  return page.evaluate(
    async ([base, id]) => {
      // Before the job has arrived there is nothing of it.
      const r = (await (await fetch(`${base}/api/v1/jobs/${id}/events`)).json()) as {
        seq?: number;
        items?: { event: { id: string } }[];
      };
      return { seq: r.seq ?? 0, ids: (r.items ?? []).map((i) => i.event.id) };
    },
    [url, job] as const,
  );
};

/**
 * The server has so many entries of the job on this page. A request whose answer was lost is given up after 20 s and sent again:
 * less than that is no bound for it. What the device says of itself stands beside the number where it fails.
 */
const arrived = (url: string, page: import('@playwright/test').Page, entries: number): Promise<void> =>
  expect
    .poll(
      async () => {
        const { seq } = await eventsOf(url, page);
        const [asked] = await page.locator('.move-say').allTextContents();
        return seq === entries
          ? entries
          : { entries: seq, sending: await page.locator('.sync').allTextContents(), asked };
      },
      { timeout: 60_000 },
    )
    .toBe(entries);

test('a server killed in the middle of a job loses nothing, and a reload without it goes on', async ({
  page,
  stack,
}) => {
  await signIn(page, stack);
  await page.evaluate(() => navigator.serviceWorker.ready);
  // Let the service worker take over, as it does on every visit after the first.
  await page.reload();
  await startJob(page);
  await hurry(page);
  await followSteps(page, (say) => say.startsWith('Lock off'));
  await expect(page.getByText(/^all \d+ sent$/)).toBeVisible();
  const before = await eventsOf(stack.url, page);

  await stack.killServer();
  await followSteps(page, (say) => say.startsWith('Range nut'));
  await expect(page.getByText(/no server, \d+ kept here/)).toBeVisible();
  const at = await sentence(page);

  // Reload with the server stopped: the shell, the job and the rig are all here.
  await page.reload();
  await expect(page.locator('.move-say')).toHaveText(at.trim(), { timeout: 30_000 });
  await hurry(page);
  await followSteps(page, (say) => say.startsWith('Draw slowly'));
  await expect(page.getByText(/no server, \d+ kept here/)).toBeVisible();

  await stack.startServer();
  await expect(page.getByText(/^all \d+ sent$/)).toBeVisible({ timeout: 60_000 });
  const after = await eventsOf(stack.url, page);
  expect(after.ids.slice(0, before.ids.length)).toEqual(before.ids);
  expect(after.seq).toBeGreaterThan(before.seq + 6);
  expect(new Set(after.ids).size).toBe(after.ids.length);
  await followSteps(page);
  await expect(page.getByText(/^Set( and proved|, near its limit)/)).toBeVisible();
  await expect(page.getByText(/Record whole/)).toBeVisible();
});

test('a database killed in the middle of a job loses nothing', async ({ page, stack }) => {
  await signIn(page, stack);
  await startJob(page);
  await hurry(page);
  await followSteps(page, (say) => say.startsWith('Stop the draw'));
  await expect(page.getByText(/^all \d+ sent$/)).toBeVisible();
  await stack.database.kill();
  await followSteps(page, (say) => say.startsWith('No draw'));
  await expect(page.getByText(/no server, \d+ kept here/)).toBeVisible({ timeout: 30_000 });
  await stack.database.restart();
  await expect(page.getByText(/^all \d+ sent$/)).toBeVisible({ timeout: 60_000 });
  const { ids, seq } = await eventsOf(stack.url, page);
  expect(ids.length).toBe(seq);
  expect(new Set(ids).size).toBe(seq);
});

test('a job begun with no signal is opened and sent later', async ({ page, context, stack }) => {
  await signIn(page, stack);
  await page.evaluate(() => navigator.serviceWorker.ready);
  await page.reload();
  await page.getByRole('link', { name: 'Sites' }).click();
  await page.getByRole('link', { name: 'Borehole pump switch', exact: true }).click();
  await expect(page.getByText('Rating plate')).toBeVisible();
  await context.setOffline(true);
  await page.getByRole('button', { name: 'Start the job' }).click();
  await tap(page, /Read and understood/);
  await expect(page.getByText(/kept here/)).toBeVisible();
  await context.setOffline(false);
  await arrived(stack.url, page, 2);
});

test('two devices: the second takes the job over, and what the first still writes is shown aside', async ({
  device,
  stack,
}) => {
  const one = await device();
  await signIn(one, stack);
  await startJob(one);
  await tap(one, /Read and understood/);
  await arrived(stack.url, one, 2);
  const two = await device();
  await signIn(two, stack);
  await two.goto(one.url());
  await expect(two.getByText(/has this job on another device/)).toBeVisible();
  // Once its rig stands below, nothing moves under the finger any more.
  await expect(two.getByLabel('Bench, simulated')).toBeVisible();
  await two.getByRole('button', { name: 'Take it over' }).click();
  // The facts of the first device do not hold on the second: the cautions are asked again.
  await expect(two.locator('.move-say')).toContainText('Read the cautions again');
  await one.getByRole('button', { name: 'More' }).click();
  await one.getByRole('menuitem', { name: 'Add a note' }).click();
  await one.getByLabel('In a few words').fill('still here');
  await one.getByRole('button', { name: 'Keep the note' }).click();
  await arrived(stack.url, one, 4);
  // The first device is told, by what it sent itself, that it has the job no more.
  await expect(one.getByText(/has this job on another device/)).toBeVisible();
  await expect(one.getByText('One entry is set aside: kept, and not counted')).toBeVisible();
  await expect(one.getByRole('button', { name: 'Let it count' })).toHaveCount(0);
  await two.reload();
  await expect(two.getByText('note: still here')).toBeVisible();
  await two.getByRole('link', { name: 'Whole sheet, to print' }).click();
  await expect(two.getByText('Set aside: note. Another device held the job')).toBeVisible();
  await two.goBack();
  await two.getByRole('button', { name: 'Let it count' }).click();
  await expect(two.getByText('One entry is set aside')).toHaveCount(0);
  await two.getByRole('link', { name: 'Whole sheet, to print' }).click();
  await expect(two.getByText('still here', { exact: true })).toBeVisible();
});
