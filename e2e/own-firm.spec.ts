import { randomUUID } from 'node:crypto';
import { startStack } from './stack.mjs';
import { expect, key, tap, test as base, type Page, type Stack } from './person.ts';

/** A Firm Needle without the demo. */
const test = base.extend({
  stack: [
    async ({}, use) => {
      const stack = (await startStack({ empty: true })) as Stack;
      await use(stack);
      await stack.stop();
    },
    { scope: 'test', timeout: 120_000 },
  ],
});

// What goes without a line needs what the device keeps of the app.
test.use({ serviceWorkers: 'allow' });

const dialog = (page: Page) => page.getByRole('dialog');
const field = async (page: Page, label: string | RegExp, text: string): Promise<void> =>
  dialog(page)
    .getByLabel(label, { exact: typeof label === 'string' })
    .fill(text);

/** Two test gauges of the firm's own, entered as its page would. */
const enterGauges = (page: Page, ids: readonly string[]): Promise<readonly number[]> =>
  page.evaluate(
    async (all) =>
      Promise.all(
        all.map(async (id, i) => {
          const body = {
            label: `K-${i + 1}`,
            kind: 'bourdon',
            unit: 'psi',
            lower: 0,
            upper: 100,
            division: 1,
            readable: 0.5,
            accuracy: '1A',
            medium: i === 0 ? 'water' : 'air',
          };
          const headers = { 'content-type': 'application/json', 'x-firm-needle': '1' };
          const r = await fetch(`/api/v1/gauges/${id}`, {
            method: 'PUT',
            headers,
            body: JSON.stringify(body),
          });
          return r.status;
        }),
      ),
    [...ids],
  );

test('a firm of one’s own: from an empty page to a control entered with no signal, set, signed, and due again', async ({
  page,
  device,
  stack,
}) => {
  // The first page, once.
  await page.goto(stack.url);
  await expect(page.getByRole('heading', { name: 'A firm of your own' })).toBeVisible();
  await page.getByLabel('Name of the firm').fill('Kettlewick Pressure');
  await page.getByLabel('Your name').fill('Ansel Kettlewick');
  await page.getByLabel('Name to sign in with').fill('ansel');
  await page.getByLabel('Password', { exact: true }).fill('short');
  await page.getByLabel('The password once more').fill('short');
  await page.getByRole('button', { name: 'Begin' }).click();
  await expect(page.getByText('At least 10 characters.')).toBeVisible();
  await page.getByLabel('Password', { exact: true }).fill('three wet boots');
  await page.getByLabel('The password once more').fill('three wet boots');
  await page.getByRole('button', { name: 'Begin' }).click();
  await expect(page.getByText('No site is entered yet.')).toBeVisible();

  // Somebody who goes out.
  await page.getByRole('link', { name: 'People' }).click();
  await page.getByRole('button', { name: 'Add a person' }).click();
  await field(page, 'Name', 'Corry Vane');
  await field(page, 'Signs in as', 'corry');
  await field(page, 'First password', 'short');
  await dialog(page).getByLabel('May work on mains enclosures').check();
  await page.getByRole('button', { name: 'Keep the person' }).click();
  await expect(dialog(page).getByText(/shorter than 10/)).toBeVisible();
  await field(page, 'First password', 'four dry socks');
  await page.getByRole('button', { name: 'Keep the person' }).click();
  await expect(page.getByText('technician · signs in as corry')).toBeVisible();

  // A site.
  await page.getByRole('link', { name: 'Sites' }).click();
  await page.getByRole('button', { name: 'New site' }).click();
  await page.getByRole('button', { name: 'Keep the site' }).click();
  await expect(dialog(page).getByText('Type the name that the firm knows it by.')).toBeVisible();
  await field(page, 'Name of the site', 'Brock Farm');
  await field(page, 'Customer', 'Brock and Daughters');
  await field(page, 'Height above the sea, m', '9000');
  await page.getByRole('button', { name: 'Keep the site' }).click();
  await expect(dialog(page).getByText('At most 5500.')).toBeVisible();
  await field(page, 'Height above the sea, m', '240');
  await page.getByRole('button', { name: 'Keep the site' }).click();
  await expect(page.getByRole('heading', { name: 'Brock Farm' })).toBeVisible();
  expect(await enterGauges(page, [randomUUID(), randomUUID()])).toEqual([200, 200]);

  // The technician, on the phone, at the farm: a control that nobody listed, and no signal.
  const phone = await device({ viewport: { width: 360, height: 740 } });
  await phone.goto(`${stack.url}/sign-in`);
  await phone.getByLabel('Name').fill('corry');
  await phone.getByLabel('Password').fill('four dry socks');
  await phone.getByRole('button', { name: 'Sign in' }).click();
  await expect(phone.getByRole('heading', { name: 'Today' })).toBeVisible();
  await phone.evaluate(() => navigator.serviceWorker.ready);
  await phone.reload();
  await phone.goto(`${stack.url}/gauges`);
  await expect(phone.getByText('K-1')).toBeVisible();
  await phone.goto(`${stack.url}/sites`);
  await expect(phone.getByRole('link', { name: 'Brock Farm' })).toBeVisible();
  await phone.context().setOffline(true);
  await phone.getByRole('link', { name: 'Brock Farm' }).click();
  await phone.getByRole('button', { name: 'New equipment' }).click();
  await field(phone, 'Name of the equipment', 'Lower well');
  await phone.getByRole('button', { name: 'Keep the equipment' }).click();
  await expect(phone.getByRole('heading', { name: 'Lower well' })).toBeVisible();
  await phone.getByRole('link', { name: 'New control on it' }).click();
  await phone.getByRole('button', { name: /^Well pump switch and tank/ }).click();
  await field(phone, 'Name of the control', 'Lower pump switch');
  await phone.getByRole('button', { name: 'Go on to its plate' }).click();
  await expect(phone.getByRole('heading', { name: 'Lower pump switch' })).toBeVisible();
  for (const [title, text] of [
    ['Tank volume', '220 L'],
    ['Pump flow', '30 L/min'],
    ['Relief opens', '78 psi'],
  ] as const) {
    const box = phone.getByRole('region', { name: 'Rating plate' }).getByLabel(title);
    await box.fill(text);
    await box.press('Enter');
  }
  await phone.getByRole('button', { name: 'Start the job' }).click();
  await expect(phone.getByRole('button', { name: /Read and understood/ })).toBeVisible();
  // A phone that dies in the pump house has all of it.
  await phone.reload();
  await tap(phone, /Read and understood/);
  await expect(phone.locator('.move-say')).toContainText('zero');
  await phone.context().setOffline(false);

  // It arrives, once, in its order: equipment, control, plan, job.
  await page.goto(`${stack.url}/sites`);
  await expect(async () => {
    await page.reload();
    await expect(page.getByRole('link', { name: 'Lower pump switch' })).toHaveCount(1, { timeout: 4000 });
  }).toPass({ timeout: 60_000 });

  // The job goes on with the gauges' readings typed.
  const type = async (title: string, value: string): Promise<void> => {
    await expect(phone.getByRole('heading', { name: `Type the ${title}` })).toBeVisible();
    await phone.keyboard.type(value);
    await key(phone, 'Enter');
  };
  for (const its of ['Vent the water gauge', 'the zero of the air gauge']) {
    await expect(phone.locator('.move-say')).toContainText(its);
    await key(phone, 'z');
  }
  // Each key is for the face it is meant for, and that has come.
  await expect(phone.locator('.move-say')).toContainText('Fit the water gauge');
  await key(phone, 'Enter');
  await type('cut-in', '40');
  await type('cut-out', '60');
  await type('cut-in', '40');
  await phone.getByRole('button', { name: 'It holds' }).click();
  await phone.getByRole('button', { name: 'More' }).click();
  await phone.getByRole('menuitem', { name: 'End the job here' }).click();
  await phone.getByLabel('Why').fill('the farmer needed water');
  await phone.getByRole('button', { name: 'End it here' }).click();
  // The window goes, and takes the focus with it, before the face that comes hears any key.
  await expect(phone.getByRole('dialog')).toHaveCount(0);
  await expect(phone.locator('.move-say')).toContainText('Gauge off');
  await key(phone, 'z');
  await expect(phone.locator('.move-say')).toContainText(/tag/i);
  await key(phone, 'Enter');
  await phone.getByRole('button', { name: /^Sign as/ }).click();
  await expect(phone.getByText('Unfinished', { exact: true })).toBeVisible();

  // The office sees that it is due, and why; and sends somebody.
  await page.getByRole('link', { name: 'Due' }).click();
  const row = page.locator('.due-list li', { hasText: 'Lower pump switch' });
  await expect(async () => {
    await page.reload();
    await expect(row).toContainText('never set and proved yet', { timeout: 4000 });
    await expect(row).toContainText('left unfinished', { timeout: 100 });
  }).toPass({ timeout: 60_000 });
  await row.getByRole('button', { name: 'Plan Lower pump switch' }).click();
  // What is to be carried comes a moment later and moves what stands above it.
  await expect(dialog(page).getByText('Carry', { exact: true })).toBeVisible();
  await dialog(page).getByLabel('Who goes').click();
  await page.getByRole('option', { name: 'Corry Vane' }).click();
  await expect(dialog(page).getByText(/lacks a permit/)).toHaveCount(0);
  await page.getByRole('button', { name: 'Plan it' }).click();
  await expect(row).toContainText('Corry Vane');
  await expect(page.locator('.visit-card')).toContainText('Brock Farm');

  // A search of a few letters finds it.
  await page.keyboard.press('/');
  await page.getByRole('combobox', { name: 'Find anything' }).fill('lower p');
  await page.keyboard.press('Enter');
  await expect(
    page
      .getByRole('option', { name: /Lower pump switch/ })
      .or(page.getByRole('heading', { name: 'Lower pump switch' }))
      .first(),
  ).toBeVisible();
});
