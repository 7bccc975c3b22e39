import { expect, followSteps, hurry, signIn, test } from '../person.ts';

test('a drive’s tank that was charged by the rule for a switch is found and charged right', async ({
  page,
  stack,
}) => {
  await signIn(page, stack);
  await page.goto(`${stack.url}/sites`);
  await page.getByRole('link', { name: 'Constant-pressure drive', exact: true }).click();
  await expect(page.getByText('Given while it sleeps')).toBeVisible();
  await page.getByRole('button', { name: 'Start the job' }).click();
  await expect(page.getByRole('button', { name: /Read and understood/ })).toBeVisible();
  await hurry(page, 60);
  const said = await followSteps(page);
  // For the tank's air it is locked off and tried; nobody opens the drive.
  expect(said.some((s) => s.includes('the pump must not start'))).toBe(true);
  expect(said.some((s) => s.includes('own display within'))).toBe(true);
  await expect(page.getByText(/^Set( and proved|, near its limit)/)).toBeVisible();
  await expect(page.getByText('the rule for a pressure switch').first()).toBeVisible();
  const left = page.locator('.sheet-table tr', { hasText: 'Precharge' }).locator('td').nth(2);
  // 70 % of 57 psi, and its band of 1 psi.
  await expect(left).toContainText(/\d/);
  expect(Math.abs(Number.parseFloat((await left.textContent()) ?? '') - 39.9)).toBeLessThanOrEqual(1);
});
