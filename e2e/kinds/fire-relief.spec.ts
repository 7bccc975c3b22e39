import { expect, followSteps, hurry, signIn, test } from '../person.ts';

test('a fire relief that weeps at churn is not set but cleaned, and its impairment stays', async ({
  page,
  stack,
}) => {
  await signIn(page, stack);
  await page.goto(`${stack.url}/sites`);
  await page.getByRole('link', { name: 'Main relief', exact: true }).click();
  await expect(page.getByText('At 110 % of the speed')).toBeVisible();
  await page.getByRole('button', { name: 'Start the job' }).click();
  await expect(page.getByRole('button', { name: /Read and understood/ })).toBeVisible();
  await hurry(page, 60);
  const said = await followSteps(page);
  expect(said.some((s) => s.startsWith('Impairment notice given'))).toBe(true);
  expect(said.some((s) => s.includes('read the tachometer'))).toBe(true);
  expect(said.at(-2)).toContain('impairment stays');
  await expect(page.getByText('Not set: to be repaired', { exact: true })).toBeVisible();
  await expect(page.getByText('the seat does not close').first()).toBeVisible();
});
