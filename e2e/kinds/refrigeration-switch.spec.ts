import { alsoOnThePhone, expect, followSteps, hurry, signIn, test } from '../person.ts';

test('a rack’s low side that goes under its floor is brought up by its differential, each pressure beside its temperature', async ({
  page,
  stack,
}) => {
  await signIn(page, stack);
  await page.goto(`${stack.url}/sites`);
  await page.getByRole('link', { name: 'Low-pressure switch', exact: true }).click();
  // Each pressure of the plan has its temperature beside it, on the line that it belongs to.
  await expect(page.getByText(/given · −\d\d\.\d °C dew/).first()).toBeVisible();
  await expect(page.getByText(/given · \d\d\.\d °C bubble/)).toBeVisible();
  await page.getByRole('button', { name: 'Start the job' }).click();
  await hurry(page, 60);
  const said = await followSteps(page, alsoOnThePhone(page));
  expect(said.find((s) => s.startsWith('Low differential spindle'))).toMatch(/turns clockwise/);
  // Nothing that was right was touched.
  expect(said.some((s) => s.startsWith('High stop spindle'))).toBe(false);
  const plates = said.findIndex((s) => s.includes('Plates on, screws tight'));
  expect(said.findIndex((s, i) => i > plates && s.startsWith('Shut the liquid valve'))).toBeGreaterThan(
    plates,
  );
  await expect(page.getByText(/^Set( and proved|, near its limit)/)).toBeVisible();
  const row = page.locator('.sheet-table tr', { hasText: 'Low side stops' });
  await expect(row.getByRole('img', { name: 'in' })).toHaveCount(1);
  await expect(row.getByText(/°C dew/)).toHaveCount(3);
});
