import { alsoOnThePhone, expect, followSteps, hurry, signIn, test } from '../person.ts';

test('a shed’s wall regulator above what the tank holds is lowered, with the trigger held, and proved locked', async ({
  page,
  stack,
}) => {
  await signIn(page, stack);
  await page.goto(`${stack.url}/sites`);
  await page.getByRole('link', { name: 'Shed air supply', exact: true }).click();
  await expect(page.getByText('The hose takes')).toBeVisible();
  await page.getByRole('button', { name: 'Start the job' }).click();
  await hurry(page, 120);
  const said = await followSteps(page, alsoOnThePhone(page));
  expect(said.find((s) => s.startsWith('Wall knob'))).toMatch(/counter-clockwise/);
  expect(said.findIndex((s) => s.startsWith('Wall knob locked'))).toBeGreaterThan(
    said.findLastIndex((s) => s.startsWith('Wall knob, seen')),
  );
  await expect(page.getByText(/^Set( and proved|, near its limit)/)).toBeVisible();
  await expect(page.getByText(/follows it\./)).toBeVisible();
  await expect(page.getByText(/The compressor makes about \d+\.\d cfm/)).toBeVisible();
});
