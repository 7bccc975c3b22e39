import { alsoOnThePhone, expect, followSteps, hurry, signIn, test } from '../person.ts';

test('a boiler’s control above its gauge is brought down by its scale, then set at its click', async ({
  page,
  stack,
}) => {
  await signIn(page, stack);
  await page.goto(`${stack.url}/sites`);
  await page.getByRole('link', { name: 'Operating pressure control', exact: true }).click();
  await expect(page.getByText('Steam at cut-out')).toBeVisible();
  // What stands on the plate and in the plan is what was typed, not rounded to a tenth.
  await expect(page.getByRole('textbox', { name: 'Cut-in' })).toHaveValue('0.65');
  await page.getByRole('button', { name: 'Start the job' }).click();
  await hurry(page, 60);
  await followSteps(page, (say) => say.startsWith('Pump slowly'));
  // The gauge ends at 3 psi, and its contact is closed still: that bounds it, and proves nothing else.
  await expect(page.getByRole('button', { name: 'Waiting for the click' })).toBeDisabled();
  await expect
    .poll(async () => Number(await page.locator('.needle-value').textContent()))
    .toBeGreaterThan(2.8);
  await page.getByRole('button', { name: 'Something else' }).click();
  await page.getByRole('menuitem', { name: /still closed/ }).click();
  const said = await followSteps(page, alsoOnThePhone(page));
  expect(said.find((s) => s.startsWith('Bring the main pointer down to 1.70 psi'))).toMatch(
    /counter-clockwise \d\.\d\d psi/,
  );
  expect(said.filter((s) => s.startsWith('Driver away'))).toHaveLength(1);
  await expect(page.getByText(/^Set( and proved|, near its limit)/)).toBeVisible();
  await expect(
    page.getByText(/It stood closed at [23]\.\d\d psi still; it trips at 1\.\d\d psi now/),
  ).toBeVisible();
  const row = (title: string) => page.locator('.sheet-table tr', { hasText: title });
  await expect(row('Cut-out').getByRole('img', { name: 'in' })).toHaveCount(1);
});
