import { begin, followRun, sign } from './practised.ts';
import { expect, signIn, test } from './person.ts';

// What goes without a line needs what the device keeps of the app.
test.use({ serviceWorkers: 'allow' });

test('a run that is done well is sound, and says where what was hidden showed', async ({ page, stack }) => {
  await signIn(page, stack);
  const run = await begin(page, stack.url, { kind: 'Well pump switch and tank', lesson: 'low precharge' });
  await expect(page.getByText('A lesson: low precharge.')).toBeVisible();
  // Nothing of the bench says what would be seen.
  await expect(page.getByText('You would see')).toHaveCount(0);
  await followRun(page);
  // Reloaded at its end it is still there, and nothing was signed.
  await page.goto(run);
  await sign(page, 'Set and proved', ['Low precharge'], 'Sure');
  const sentence = page.locator('.debrief-sentence');
  await expect(sentence).toContainText(/^Sound/);
  await expect(sentence).toContainText('found low precharge');
  await expect(page.getByText(/first at/)).toBeVisible();
  await expect(page.getByText('Taken, seen.')).toBeVisible();
  await expect(page.getByText(/^Luck: an? .*The scripted hand/)).toBeVisible({ timeout: 90_000 });
  await expect(page.locator('.replay-truth')).toHaveAttribute('d', /^M/);
  await page.getByRole('button', { name: 'The moment before' }).click();
  await page.getByRole('button', { name: 'With the script’s run' }).click();
  await expect(page.locator('.replay-picture')).toHaveCount(2);
  // It is among the runs, sent, and among no jobs.
  await page.goto(`${stack.url}/practice`);
  const mine = page.getByRole('region', { name: 'Your runs' }).getByRole('listitem').first();
  await expect(mine).toContainText('sound');
  await expect(mine).not.toContainText('waits');
});

test('a run in which supply is opened with nothing to relieve it ends there, and is told as dangerous', async ({
  page,
  stack,
}) => {
  await signIn(page, stack);
  await begin(page, stack.url, {
    kind: 'First stage',
    installation: 'first stage, diaphragm',
    level: 'Usual',
    help: 'No next move',
  });
  await expect(page.getByText('What comes next?')).toBeVisible();
  const names = await page
    .getByRole('list', { name: 'Steps by alphabet' })
    .getByRole('button')
    .allTextContents();
  expect(names).toEqual([...names].sort((a, b) => a.localeCompare(b)));
  // What the procedure refuses the bench does not.
  await page.getByRole('button', { name: /^Supply: / }).click();
  await page.waitForURL(/\/debrief$/);
  const sentence = page.locator('.debrief-sentence');
  await expect(sentence).toContainText(/^Dangerous/, { timeout: 60_000 });
  await expect(sentence).toContainText('somebody could have been hurt');
  await expect(page.locator('.debrief-line').first()).toContainText(/Safety.*0$/);
  // In a lesson it is said, and not done.
  await begin(page, stack.url, {
    kind: 'First stage',
    installation: 'first stage, diaphragm',
    lesson: 'leaking seat',
  });
  await page.getByRole('button', { name: /^Supply: / }).click();
  await expect(page.getByRole('alert')).toContainText('it was not done');
  await expect(page.getByRole('button', { name: /^Supply: shut/ })).toBeVisible();
});

test('a beginner’s run on the phone, with no signal, is kept and sent once there is one', async ({
  page,
  stack,
  context,
}) => {
  await page.setViewportSize({ width: 360, height: 740 });
  await signIn(page, stack);
  await page.goto(`${stack.url}/practice`);
  await expect(page.getByRole('button', { name: 'Begin', exact: true })).toBeEnabled();
  // The shell and every kind are on the device once the service worker has them.
  await page.evaluate(async () => {
    await navigator.serviceWorker.ready;
    for (let i = 0; i < 200; i++) {
      const keys = await caches.keys();
      const all = await Promise.all(keys.map(async (k) => (await (await caches.open(k)).keys()).length));
      if (all.some((n) => n > 200)) return;
      await new Promise((r) => setTimeout(r, 100));
    }
  });
  await page.reload();
  await context.setOffline(true);
  const noSideways = async (): Promise<void> =>
    expect(await page.evaluate(() => document.documentElement.scrollWidth - innerWidth)).toBeLessThanOrEqual(
      0,
    );
  // A lesson: a hidden fault may stop a reading from ever coming, and who follows the steps alone is stuck there.
  const run = await begin(page, stack.url, {
    kind: 'Pilot-operated reducing valve',
    lesson: 'set too low',
  });
  await noSideways();
  await page
    .getByRole('button', { name: 'Told' })
    .or(page.getByRole('button', { name: /^Walk/ }))
    .click();
  await expect(page.getByRole('region', { name: 'What you are told' })).toBeVisible();
  await page.getByRole('button', { name: 'Work', exact: true }).click();
  await followRun(page);
  await noSideways();
  // Killed and opened again it goes on where it was.
  await page.goto(run);
  await sign(page, 'Unfinished', ['Cannot be told with this gauge'], 'A guess');
  await noSideways();
  await page.goto(`${stack.url}/practice`);
  const mine = page.getByRole('region', { name: 'Your runs' }).getByRole('listitem').first();
  await expect(mine).toContainText('waits for a signal');
  await context.setOffline(false);
  await page.reload();
  await expect(mine).not.toContainText('waits', { timeout: 15_000 });
});

test('a test is set by a supervisor, tried once, left half-way, and seen by who set it', async ({
  page,
  stack,
  device,
}) => {
  await signIn(page, stack, 'lowmarch');
  await page.goto(`${stack.url}/practice/overview`);
  const set = page.getByRole('region', { name: 'Set a test' });
  await set.getByLabel('Kind').click();
  await page.getByRole('option', { name: 'Washer unloader' }).click();
  await set.getByLabel('What for').fill('before the season');
  await set.getByRole('button', { name: 'Set it for everybody' }).click();
  await expect(set.getByRole('status')).toHaveText('It is set.');
  const other = await device({ viewport: { width: 1280, height: 800 } });
  await signIn(other, stack, 'quenby');
  await other.goto(`${stack.url}/practice`);
  await other.getByRole('button', { name: /^Begin: one try/ }).click();
  await other.waitForURL(/\/practice\/runs\/[^/]+$/);
  const run = other.url();
  // Bare: a name and no sentence, no pause, and nothing that says whether the needle stands.
  await expect(other.getByText('What comes next?')).toBeVisible();
  await expect(other.getByRole('button', { name: 'pause' })).toHaveCount(0);
  await other.getByLabel('Find a step').fill('zero');
  await other.getByRole('list', { name: 'Steps by alphabet' }).getByRole('button').first().click();
  await expect(other.locator('.needle-state')).toHaveCount(0);
  // A step that is blocked is refused, as in work.
  await expect(other.getByText(/Needed first/)).toBeVisible();
  await other.getByRole('button', { name: 'Another step' }).click();
  await other.getByRole('button', { name: 'Sign', exact: true }).click();
  await sign(other, 'Unfinished', ['Nothing wrong'], 'A guess');
  await expect(other.locator('.debrief-sentence')).toContainText(/^(Not yet|Sound)/);
  await other.goto(`${stack.url}/practice`);
  await expect(other.getByRole('button', { name: /^Begin: one try/ })).toHaveCount(0);
  await other.goto(run);
  await other.waitForURL(/\/debrief$/);
  // It is judged by the server in its own time.
  await expect(async () => {
    await page.reload();
    await expect(page.getByRole('rowheader', { name: /Quenby/ })).toBeVisible({ timeout: 8000 });
  }).toPass({ timeout: 60_000 });
  await page.getByRole('link', { name: /Quenby/ }).click();
  await expect(page.locator('.debrief-sentence')).toBeVisible({ timeout: 60_000 });
  // Customers see nothing of it.
  const reader = await device();
  await signIn(reader, stack, 'observatory');
  await expect(reader.getByRole('link', { name: 'Practice' })).toHaveCount(0);
});
