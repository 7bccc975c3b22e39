import { expect, followSteps, hurry, signIn, test } from '../person.ts';

test('a reducing valve that does not follow: a shut cock is found, then it is set under flow', async ({
  page,
  stack,
}) => {
  await signIn(page, stack);
  await page.goto(`${stack.url}/sites`);
  await page.getByRole('link', { name: 'Cistern reducing valve', exact: true }).click();
  await expect(page.getByText('Surge if it slams')).toBeVisible();
  await page.getByRole('button', { name: 'Start the job' }).click();
  await expect(page.getByRole('button', { name: /Read and understood/ })).toBeVisible();
  await hurry(page, 60);
  const said = await followSteps(page);
  expect(said.some((s) => s.startsWith('It does not follow. Before anything is opened'))).toBe(true);
  await expect(page.getByText(/^Set( and proved|, near its limit)/)).toBeVisible();
  await expect(page.getByText('A cock of the pilot circuit was shut.')).toBeVisible();
  const left = page.locator('.sheet-table tr', { hasText: 'Flowing' }).locator('td').nth(2);
  await expect(left).toContainText(/\d\d\.\d/);
  // 47 psi and half a band of 1.5.
  expect(Math.abs(Number.parseFloat((await left.textContent()) ?? '') - 47)).toBeLessThanOrEqual(1.5);
});

test('a seat that leaks is not set but cleaned', async ({ page, stack }) => {
  await signIn(page, stack);
  await page.goto(`${stack.url}/sites`);
  await page.getByRole('link', { name: 'Irrigation reducing valve', exact: true }).click();
  await page.getByRole('button', { name: 'Start the job' }).click();
  await expect(page.getByRole('button', { name: /Read and understood/ })).toBeVisible();
  await hurry(page, 60);
  await followSteps(page);
  await expect(page.locator('.sheet-outcome').getByText('To be replaced')).toBeVisible();
  await expect(page.getByText('With nothing drawn the outlet rises on.').first()).toBeVisible();
});
