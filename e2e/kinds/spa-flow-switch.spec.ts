import { alsoOnThePhone, expect, followSteps, hurry, signIn, tap, test } from '../person.ts';

test('a spa switch under suspicion: a dirty filter is found, then the wheel is set', async ({
  page,
  stack,
}) => {
  await signIn(page, stack);
  await page.goto(`${stack.url}/sites`);
  await page.getByRole('link', { name: 'Heater flow switch', exact: true }).click();
  // No gauge reads anything here, so none is asked for.
  await expect(page.getByText('Gauge at')).toHaveCount(0);
  await page.getByRole('button', { name: 'Start the job' }).click();
  await expect(page.getByRole('button', { name: /Read and understood/ })).toBeVisible();
  await hurry(page, 60);
  const said = await followSteps(page, alsoOnThePhone(page));
  expect(said.some((s) => s.startsWith('The window is too narrow'))).toBe(true);
  expect(said.filter((s) => s.startsWith('Stop all pumps and start the stopwatch'))).not.toHaveLength(0);
  await expect(page.getByText('Set and proved', { exact: true })).toBeVisible();
  await expect(page.getByText('The filter was dirty.')).toBeVisible();
  const row = (title: string) => page.locator('.sheet-table tr', { hasText: title });
  await expect(row('Window').getByRole('img', { name: 'in' })).toHaveCount(1);
  await expect(row('Opens after the pumps stop').locator('td').nth(2)).toContainText(/^[0-3]\.\d/);
  expect(await page.evaluate(() => document.documentElement.scrollWidth <= innerWidth)).toBe(true);
});

test('by one’s own eyes the clicks are counted on the screen and the stopwatch is stopped by hand', async ({
  page,
  stack,
}) => {
  await signIn(page, stack);
  await page.goto(`${stack.url}/sites`);
  await page.getByRole('link', { name: 'Heater flow switch', exact: true }).click();
  await page.getByRole('button', { name: 'By my own eyes' }).click();
  await page.getByRole('button', { name: 'Start the job' }).click();
  await tap(page, /Read and understood/);
  await page.getByRole('button', { name: /It heats, then shows a flow fault/ }).click();
  await page.getByRole('button', { name: /All in order/ }).click();
  await tap(page, /^Done/);
  await expect(page.locator('.move-say')).toContainText('power on');
  await tap(page, /^Done/);
  await page.getByRole('button', { name: /It is gone/ }).click();
  await expect(page.locator('.move-say')).toContainText('Low speed on, hands clear');
  await page.getByRole('button', { name: 'Open', exact: true }).click();
  await expect(page.locator('.move-say')).toContainText('High speed');
  await page.getByRole('button', { name: 'Open', exact: true }).click();
  await page.getByRole('button', { name: /All pumps off/ }).click();
  await page.waitForTimeout(1300);
  await page.getByRole('button', { name: /^It opens/ }).click();
  await expect(page.locator('.sheet-table tr', { hasText: 'Opens after' })).toContainText(/[1-3]\.\d/);
  await tap(page, /^Done/);
  const click = page.getByRole('button', { name: /One click counter-clockwise/ });
  for (let i = 0; i < 5; i++) await click.click();
  await page.getByRole('button', { name: 'One back' }).click();
  await expect(page.locator('.clock')).toHaveText('4 clicks counter-clockwise');
  await page.getByRole('button', { name: /^It closes/ }).click();
  await expect(page.locator('.walk-step', { hasText: 'Counter-clockwise' }).first()).toContainText('4');
});
