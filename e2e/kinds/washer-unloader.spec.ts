import { alsoOnThePhone, expect, followSteps, hurry, signIn, test } from '../person.ts';

test('a washer that lost its bite is not turned up but gets a nozzle', async ({ page, stack }) => {
  await signIn(page, stack);
  await page.goto(`${stack.url}/sites`);
  await page.getByRole('link', { name: 'Unloader', exact: true }).click();
  await expect(page.getByText('Lost to the gauge')).toBeVisible();
  await page.getByRole('button', { name: 'Start the job' }).click();
  await expect(page.getByRole('button', { name: /Read and understood/ })).toBeVisible();
  await hurry(page, 60);
  const said = await followSteps(page, alsoOnThePhone(page));
  expect(said.find((s) => s.startsWith('Unloader handle'))).toMatch(/turns? clockwise\. Expect working/);
  // Past the knee it is backed off, not driven on.
  expect(said.some((s) => s.startsWith('Working stands still, only the spike grows'))).toBe(true);
  await expect(page.locator('.sheet-outcome').getByText('To be replaced')).toBeVisible();
  await expect(
    page.getByText(/With no water bypassed it makes only .* passes what a number/).first(),
  ).toBeVisible();
  await expect(page.getByText(/Unloader handle ¼ turn counter-clockwise/)).toBeVisible();
  expect(await page.evaluate(() => document.documentElement.scrollWidth <= innerWidth)).toBe(true);
});
