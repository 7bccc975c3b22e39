import { expect, signIn, test } from './person.ts';

// What goes without a line needs what the device keeps of the app.
test.use({ serviceWorkers: 'allow' });

test('an overdue gauge is used only with a reason, and the reason stands on the sheet', async ({
  page,
  stack,
}) => {
  await signIn(page, stack);
  await page.getByRole('link', { name: 'Sites' }).click();
  await page.getByRole('link', { name: 'Propagation pump switch', exact: true }).click();
  await page.getByLabel('Air gauge at the tank valve').click();
  await page.getByRole('option', { name: /A-01.*in doubt/ }).click();
  await page.getByRole('button', { name: 'Start the job' }).click();
  await expect(page.getByRole('alert')).toContainText('A-01 was due on');
  await page.getByLabel('Why is A-01 used?').fill('the others are at the maker');
  await page.getByRole('button', { name: 'Start the job' }).click();
  await expect(page.getByRole('button', { name: /Read and understood/ })).toBeVisible();
  await page.getByRole('link', { name: 'Whole sheet, to print' }).click();
  await expect(page.getByText('In doubt, used because: the others are at the maker')).toBeVisible();
});

test('a gauge is entered, refused where it contradicts itself, and kept', async ({ page, stack }) => {
  await signIn(page, stack);
  await page.getByRole('link', { name: 'Gauges', exact: true }).click();
  await page.getByRole('button', { name: 'Add a gauge' }).click();
  await page.getByLabel('Label on its back').fill('W-40');
  await page.getByLabel('Accuracy').fill('9Z');
  await page.getByRole('button', { name: 'Keep the gauge' }).click();
  await expect(page.getByRole('alert')).toContainText('neither a B40.100 grade nor an EN 837-1 class');
  await page.getByLabel('Accuracy').fill('1,6');
  await page.getByLabel('Scale to').fill('high');
  await page.getByRole('button', { name: 'Keep the gauge' }).click();
  await expect(page.getByText('"high" is not a number.')).toBeVisible();
  await page.getByLabel('Scale to').fill('60');
  await page.getByRole('button', { name: 'Keep the gauge' }).click();
  await page.getByRole('link', { name: 'W-40' }).click();
  await expect(page.getByText('class 1.6 (EN 837-1)')).toBeVisible();
  await expect(page.getByText('It has not been zeroed in a signed job yet.')).toBeVisible();
});

test('the Reckoner answers offline, and says what it cannot', async ({ page, context, stack }) => {
  await signIn(page, stack);
  await page.evaluate(() => navigator.serviceWorker.ready);
  await page.reload();
  await context.setOffline(true);
  await page.goto(`${stack.url}/reckoner`);
  const sum = (title: string) => page.getByRole('region', { name: title });
  await expect(sum('Units')).toContainText('0.40463');
  const saturation = sum('Saturation, pressure and temperature');
  await expect(saturation).toContainText('247.7 psi');
  await expect(saturation).toContainText('± 7.6 psi');
  await saturation.getByLabel('A temperature or a pressure').fill('300 degF');
  await expect(saturation).toContainText('outside what is known of R-410A');
  await sum('Gauge and absolute').getByLabel('Pressure').fill('-40 psi');
  await expect(sum('Gauge and absolute')).toContainText('below vacuum');
  await sum('Tank: precharge, differential, drawdown').getByLabel('Cut-in/cut-out').fill('60/40');
  await expect(sum('Tank: precharge, differential, drawdown')).toContainText('Cut-out is not above cut-in.');
  await sum('Nozzle').getByLabel('Flow').fill('3 gpm');
  await expect(sum('Nozzle')).toContainText('Leave exactly one empty.');
});

test('a gauge that ends below what may come is used only where it is said what protects it', async ({
  page,
  stack,
}) => {
  await signIn(page, stack);
  await page.goto(`${stack.url}/sites`);
  await page.getByRole('link', { name: 'Main relief', exact: true }).click();
  const short = page.getByRole('option', { name: /^F-06, 0–60 psi: would be over-ranged/ });
  await page.getByRole('combobox', { name: 'System gauge, upstream of the relief' }).click();
  await expect(short).toBeVisible();
  await short.click();
  await page.getByRole('button', { name: 'Start the job' }).click();
  await expect(page.getByText(/F-06 ends at 60 psi; this can reach/).first()).toBeVisible();
  await expect(page.getByRole('button', { name: /Read and understood/ })).toHaveCount(0);
  await page.getByLabel('Why is F-06 used?').fill('behind an over-pressure stop at 55 psi');
  await page.getByRole('button', { name: 'Start the job' }).click();
  await expect(page.getByRole('button', { name: /Read and understood/ })).toBeVisible();
});
