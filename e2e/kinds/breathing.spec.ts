import { alsoOnThePhone, expect, followSteps, hurry, signIn, tap, test, type Page } from '../person.ts';

const open = async (page: Page, url: string, name: string, speed = 60): Promise<void> => {
  await page.goto(`${url}/sites`);
  await page.getByRole('link', { name, exact: true }).click();
  await page.getByRole('button', { name: 'Start the job' }).click();
  await hurry(page, speed);
};

test('a first stage that creeps is not turned, and goes out of use for a rebuild', async ({
  page,
  stack,
}) => {
  await signIn(page, stack);
  await open(page, stack.url, 'First stage 2', 8);
  const said = await followSteps(page, (s) => s.startsWith('Let go. Ten seconds'));
  // Relief before pressure, low before full, soaped before it is watched.
  const order = [
    'What opens if the seat fails',
    'slowly to 300 psi',
    'Purge four times',
    'on to 3000 psi',
    'Soap every joint',
    'Hold a second stage’s purge',
  ].map((part) => said.findIndex((s) => s.includes(part)));
  expect(order).not.toContain(-1);
  expect(order).toEqual(order.toSorted((a, b) => a - b));
  // It does not stand: that is what is seen, and no figure is taken of it.
  await tap(page, /Something else/);
  await page.getByRole('menuitem', { name: 'It rises on' }).click();
  said.push(...(await followSteps(page)));
  expect(said.some((s) => s.startsWith('Cap') || s.startsWith('Pack'))).toBe(false);
  await expect(page.getByText('To be replaced', { exact: true })).toBeVisible();
  await expect(page.getByText(/With its supply on it rises on.*the seat leaks/).first()).toBeVisible();
});

test('a piston stage that stands low is brought up by one pack of the shims at hand', async ({
  page,
  stack,
}) => {
  await signIn(page, stack);
  // The same control on another day: its rig of the day before last year.
  await page.route('**/api/v1/controls/*', async (route) => {
    const answer = await route.fetch();
    const body = (await answer.json()) as { device?: { rig?: { faults: string[] } } };
    if (body.device?.rig) body.device.rig.faults = ['set-low'];
    await route.fulfill({ response: answer, json: body });
  });
  await open(page, stack.url, 'First stage 2');
  const said = await followSteps(page);
  const packs = said.filter((s) => s.startsWith('Pack to'));
  expect(packs.length).toBeGreaterThan(0);
  expect(packs.length).toBeLessThanOrEqual(2);
  // Never more than three of them.
  for (const s of packs) expect((s.match(/ and /g) ?? []).length).toBeLessThanOrEqual(2);
  expect(said.filter((s) => s.startsWith('Cap or sealed chamber on')).length).toBeLessThanOrEqual(2);
  await expect(page.getByText(/^Set( and proved|, near its limit)/).first()).toBeVisible();
});

test('a second stage that opens stiff is set with the purge held, its lever after it, and proved closed up', async ({
  page,
  stack,
}) => {
  await signIn(page, stack);
  await open(page, stack.url, 'Second stage 1');
  const said = await followSteps(page, alsoOnThePhone(page));
  const first = (part: string): number => said.findIndex((s) => s.includes(part));
  expect(first('Orifice, seen from the hose end')).toBeGreaterThan(first('In-line tool between'));
  expect(first('The nut in, slowly')).toBeGreaterThan(first('Orifice, seen from the hose end'));
  expect(first('Tool out, hose tight')).toBeGreaterThan(first('The nut in, slowly'));
  expect(said.filter((s) => s.startsWith('Draw slowly')).length).toBeGreaterThanOrEqual(3 + 2 + 5);
  await expect(page.getByText(/^Set( and proved|, near its limit)/).first()).toBeVisible();
  const row = page.locator('.sheet-table tr', { hasText: 'Opens at a suction of' });
  await expect(row.getByRole('img', { name: 'in' })).toHaveCount(1);
  await expect(page.getByText('First stage it hangs on')).toBeVisible();
});
