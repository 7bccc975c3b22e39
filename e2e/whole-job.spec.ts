import { expect, followSteps, hurry, key, signIn, startJob, test } from './person.ts';

// What goes without a line needs what the device keeps of the app.
test.use({ serviceWorkers: 'allow' });

/** A whole job that is set twice and proved, from the cautions to the signature: every lock, cover and cock is a press of its own. */
const MOST_PRESSES = 46;

for (const [name, size] of [
  ['wide', { width: 1280, height: 800 }],
  ['phone', { width: 360, height: 740 }],
] as const)
  test(`a drifted switch is found, set, proved and signed, ${name}`, async ({ device, stack }) => {
    const page = await device({ viewport: size });
    await signIn(page, stack);
    await startJob(page);
    await hurry(page);
    const said = await followSteps(page);
    // One press a step; on the wide screen by the key that stands on its button.
    test.info().annotations.push({ type: 'presses', description: String(said.length) });
    expect(said.length).toBeLessThanOrEqual(MOST_PRESSES);

    // Told in one sentence what to do next, which way, how far and what to expect.
    expect(said.find((s) => s.startsWith('Range nut'))).toMatch(
      /turns? clockwise\. Expect cut-out [56]\d\.\d.±/,
    );
    // Cut-in moved, so the precharge was due and was read before the end.
    expect(said.some((s) => s.startsWith('Cut-in moved, so the precharge is due again'))).toBe(true);
    await expect(page.getByText(/^Set( and proved|, near its limit)/)).toBeVisible();
    const row = (title: string) => page.locator('.sheet-table tr', { hasText: title });
    await expect(row('Cut-in').locator('td').nth(1)).toContainText(/(29|3\d)\.\d/);
    await expect(row('Cut-in').getByRole('img', { name: 'out' })).toHaveCount(1);
    await expect(row('Cut-in').locator('td').nth(2)).toContainText(/4[1-4]\.\d/);
    await expect(row('Cut-out').getByRole('img', { name: 'out' })).toHaveCount(1);
    await expect(page.getByText(/Record whole: \d+ entries, seal/)).toBeVisible();
    await expect(page.getByText('Readings from: simulated rig.')).toBeVisible();
    await expect(page.getByText(/net since found/)).toBeVisible();
    // Nothing needs sideways scrolling.
    expect(await page.evaluate(() => document.documentElement.scrollWidth <= innerWidth)).toBe(true);

    // The sheet prints to a page.
    const pdf = await page.pdf({ format: 'A4' });
    expect(pdf.subarray(0, 4).toString()).toBe('%PDF');
  });

test('a job typed from real gauges goes by the keypad alone', async ({ page, stack }) => {
  await signIn(page, stack);
  await page.getByRole('link', { name: 'Sites' }).click();
  await page.getByRole('link', { name: 'Propagation pump switch', exact: true }).click();
  await page.getByRole('button', { name: 'Typed from my gauges' }).click();
  await page.getByRole('button', { name: 'Start the job' }).click();
  await expect(page.getByRole('button', { name: /Read and understood/ })).toBeVisible();
  await key(page, 'Enter');
  for (const slot of ['water', 'air']) {
    await expect(page.locator('.move-say')).toContainText(slot);
    // What reads zero is one press.
    await key(page, 'z');
  }
  await expect(page.locator('.move-say')).toContainText('Fit the water gauge');
  await key(page, 'Enter');
  const type = async (title: string, value: string): Promise<void> => {
    await expect(page.getByRole('heading', { name: `Type the ${title}` })).toBeVisible();
    await page.keyboard.type(value);
    await key(page, 'Enter');
  };
  await type('cut-in', '33');
  await type('cut-out', '53');
  // What stands right is read once more as the tank fills again, not before.
  await type('cut-in', '33');
  await expect(page.getByText('watch the needle for a minute')).toBeVisible();
  await expect(page.locator('.sheet-table tr', { hasText: 'Differential' })).toContainText('20.0');
  // One mis-tap is undone with one key; the reading is asked for again, and the first stays in the record.
  await key(page, 'u');
  await expect(page.getByRole('heading', { name: 'Type the cut-in' })).toBeVisible();
  await type('cut-in', '33');
  await page.getByRole('button', { name: 'It holds' }).click();
  // Leaving early still walks the steps that make the site safe.
  await page.getByRole('button', { name: 'More' }).click();
  await page.getByRole('menuitem', { name: 'End the job here' }).click();
  await page.getByLabel('Why').fill('called to an emergency');
  await page.getByRole('button', { name: 'End it here' }).click();
  await expect(page.getByRole('dialog')).toHaveCount(0);
  await expect(page.locator('.walk-step.now')).toContainText('Gauge off, its zero again');
  await key(page, 'z');
  await expect(page.locator('.walk-step.now')).toContainText('tag written');
  await key(page, 'Enter');
  await page.getByRole('button', { name: /^Sign as/ }).click();
  await expect(page.getByText('Unfinished', { exact: true })).toBeVisible();
  await expect(page.getByText('called to an emergency', { exact: true })).toBeVisible();
  await expect(page.getByText('Withdrawn: read 33 (mis-tap)')).toBeVisible();
});
