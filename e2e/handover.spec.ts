import { readFileSync } from 'node:fs';
import type { Page } from '@playwright/test';
import { cameraPhoto } from './photo.ts';
import { expect, followSteps, hurry, signIn, startJob, tap, test } from './person.ts';

// What goes without a line needs what the device keeps of the app.
test.use({ serviceWorkers: 'allow' });

/** Adds a photo at the step that is open. */
async function addPhoto(page: Page, text: string): Promise<void> {
  await page.getByRole('button', { name: 'More' }).click();
  await page.getByRole('menuitem', { name: 'Add a photo' }).click();
  const dialog = page.getByRole('dialog', { name: 'A photo of the work' });
  await dialog
    .getByLabel('Photo', { exact: true })
    .setInputFiles({ name: 'plate.jpg', mimeType: 'image/jpeg', buffer: await cameraPhoto(page) });
  await expect(dialog.getByText('The camera had written the place into it')).toBeVisible();
  await dialog.getByLabel('What it shows').fill(text);
  await dialog.getByRole('button', { name: 'Keep the photo' }).click();
  await expect(dialog).toHaveCount(0);
}

test('a photo taken with no signal arrives on the sheet, and the sheet is shared by a link that is withdrawn', async ({
  page,
  stack,
  device,
  context,
}) => {
  await signIn(page, stack);
  await startJob(page);
  await hurry(page);
  await tap(page, /Read and understood/);
  // All of the app is on the device before the signal goes.
  await page.evaluate(() => navigator.serviceWorker.ready);
  await context.setOffline(true);
  await addPhoto(page, 'Rating plate, half painted over');
  await context.setOffline(false);
  // What is no picture is told apart from one, and nothing is entered.
  await page.getByRole('button', { name: 'More' }).click();
  await page.getByRole('menuitem', { name: 'Add a photo' }).click();
  await page.getByLabel('Photo', { exact: true }).setInputFiles({
    name: 'holiday.jpg',
    mimeType: 'image/jpeg',
    buffer: Buffer.from('%PDF-1.7 not a picture'),
  });
  await expect(page.getByRole('alert')).toContainText('cannot be read as a picture');
  await page.getByRole('button', { name: 'Back' }).click();
  await followSteps(page);
  const photo = page.getByRole('figure').filter({ hasText: 'half painted over' });
  await expect(photo.getByRole('img')).toBeVisible();
  const job = /jobs\/([0-9a-f-]+)/.exec(page.url())?.[1] ?? '';
  await expect(async () => {
    expect(await photosOf(page, job)).toEqual([200]);
  }).toPass({ timeout: 30_000 });

  const wait = page.waitForEvent('download');
  await page.getByRole('button', { name: 'PDF' }).click();
  const file = await (await wait).path();
  const pdf = readFileSync(file).toString('latin1');
  expect(pdf.startsWith('%PDF-1.7')).toBe(true);
  expect(pdf).toContain('/Subtype /Image');

  await page.getByRole('button', { name: 'Share a link' }).click();
  await page.getByRole('button', { name: 'Make the link' }).click();
  const link = await page.getByLabel('The link, shown this once').inputValue();
  const guest = await device();
  await guest.goto(link);
  await expect(guest.getByRole('heading', { name: 'Borehole pump switch' })).toBeVisible();
  await expect(guest.getByText(/^To be looked at again by/)).toBeVisible();
  await expect(guest.getByRole('figure').getByRole('img')).toBeVisible();
  await expect
    .poll(() =>
      guest
        .getByRole('figure')
        .getByRole('img')
        .evaluate((i: HTMLImageElement) => i.naturalWidth),
    )
    .toBeGreaterThan(100);
  const file2 = await guest.request.get(
    await guest.getByRole('link', { name: 'The sheet as PDF' }).evaluate((a: HTMLAnchorElement) => a.href),
  );
  expect(file2.headers()['content-type']).toBe('application/pdf');
  await page.getByRole('button', { name: 'Withdraw' }).click();
  await expect(page.getByText(/: withdrawn on/)).toBeVisible();
  await guest.reload();
  await expect(guest.getByRole('heading', { name: 'This link no longer reads' })).toBeVisible();
});

/** What the server answers for each photo of a job. */
const photosOf = (page: Page, job: string): Promise<number[]> =>
  page.evaluate(async (id) => {
    const { photos } = (await (await fetch(`/api/v1/jobs/${id}/record`)).json()) as {
      photos: { hash: string }[];
    };
    return Promise.all(photos.map(async (p) => (await fetch(`/api/v1/photos/${p.hash}`)).status));
  }, job);
