import { readFileSync } from 'node:fs';
import { expect, signIn, test, type Stack } from './person.ts';
import { startStack } from './stack.mjs';

test('a table is looked at line by line, taken in whole, and found under its sites', async ({
  page,
  stack,
}) => {
  await signIn(page, stack, 'lowmarch');
  await page.getByRole('link', { name: 'Sites' }).click();
  await page.getByRole('link', { name: 'In and out' }).click();
  const lines = Array.from(
    { length: 3000 },
    (_, i) => `Shore ${i % 60},"4,5",Pump ${i},Switch ${i},well-switch`,
  );
  const table = [
    'site,altitude_m,equipment,control,kind',
    ...lines,
    'Shore 1,,Pump x,Switch x,a kettle',
    ',,,,',
  ].join('\n');
  await page
    .getByLabel('File to read in')
    .setInputFiles({ name: 'shore.csv', mimeType: 'text/csv', buffer: Buffer.from(table) });
  await expect(
    page.getByText('It would make 60 sites, 3,000 pieces of equipment, 3,000 controls.'),
  ).toBeVisible({
    timeout: 60_000,
  });
  await expect(page.getByRole('cell', { name: /^kind: “a kettle” is not known here/ })).toBeVisible();
  await page.getByRole('button', { name: 'Take in 3,000 lines, leave 1 out' }).click();
  await expect(page.getByText('Taken in: 60 sites')).toBeVisible({ timeout: 60_000 });
  await page.getByRole('link', { name: 'Sites' }).click();
  await expect(page.getByRole('link', { name: 'Shore 59', exact: true })).toBeVisible();
});

test('a site is taken out, and into an empty installation, with equal seals', async ({
  page,
  stack,
  device,
}) => {
  await signIn(page, stack, 'lowmarch');
  await page.getByRole('link', { name: 'Sites' }).click();
  await page.getByRole('link', { name: 'Gannet Hill observatory', exact: true }).click();
  await page.getByRole('button', { name: 'Papers' }).click();
  const url = await page.getByRole('menuitem', { name: 'Dossier, JSON' }).getAttribute('href');
  const answer = await page.request.get(`${stack.url}${url}`);
  expect(answer.status()).toBe(200);
  const text = await answer.text();
  const dossier = JSON.parse(text) as { jobs: { id: string; head: string; seq: number }[] };

  const empty = (await startStack({ empty: true })) as Stack;
  const other = await device();
  try {
    await other.goto(empty.url);
    await other.getByLabel('Name of the firm').fill('Second Firm');
    await other.getByLabel('Your name').fill('Una Sorrel');
    await other.getByLabel('Name to sign in with').fill('sorrel');
    await other.getByLabel('Password', { exact: true }).fill('a long enough one');
    await other.getByLabel('The password once more').fill('a long enough one');
    await other.getByRole('button', { name: 'Begin' }).click();
    await expect(other.getByText('No site is entered yet.')).toBeVisible();
    await other.goto(`${empty.url}/exchange`);
    await other.getByLabel('File to read in').setInputFiles({
      name: 'site.json',
      mimeType: 'application/json',
      buffer: Buffer.from(text.replace(/"wall\\":\\"20/, '"wall\\":\\"19')),
    });
    await expect(other.getByRole('alert')).toContainText(/The record of job .* was changed at entry/);
    await other
      .getByLabel('File to read in')
      .setInputFiles({ name: 'site.json', mimeType: 'application/json', buffer: Buffer.from(text) });
    await expect(other.getByText('every chain holds')).toBeVisible({ timeout: 60_000 });
    const heads = await other.evaluate(
      async (ids) =>
        Promise.all(
          ids.map(async (id) => {
            const seal = (await (await fetch(`/api/v1/jobs/${id}/seal`)).json()) as {
              whole: boolean;
              head: string;
            };
            return seal.whole ? seal.head : 'broken';
          }),
        ),
      dossier.jobs.map((j) => j.id),
    );
    expect(heads).toEqual(dossier.jobs.map((j) => j.head));
    await other.getByRole('status').getByRole('link', { name: 'Gannet Hill observatory' }).click();
    await expect(other.getByRole('heading', { name: 'Gannet Hill observatory' })).toBeVisible();
  } finally {
    await empty.stop();
  }
});

test('visits come into a calendar by an address, and it is withdrawn', async ({ page, stack }) => {
  await signIn(page, stack, 'lowmarch');
  await page.goto(`${stack.url}/account`);
  await page.getByRole('button', { name: 'All visits, and what is due' }).click();
  const address = await page.getByLabel('The address, shown this once').inputValue();
  const read = await page.request.get(address);
  expect(await read.text()).toContain('BEGIN:VEVENT');
  await page.getByRole('button', { name: 'Withdraw' }).click();
  await expect.poll(async () => (await page.request.get(address)).status()).toBe(410);
  const saved = page.waitForEvent('download');
  await page.goto(`${stack.url}/exchange`);
  await page.getByRole('link', { name: 'Settings', exact: true }).click();
  expect(readFileSync(await (await saved).path(), 'utf8')).toMatch(/^\ufeffsite,equipment,control,kind,job/);
});
