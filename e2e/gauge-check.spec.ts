import type { Page } from '@playwright/test';
import { alsoOnThePhone, expect, followSteps, hurry, key, sentence, signIn, test } from './person.ts';

/** Opens a gauge's own control from its page, and starts a check on the simulated rig. */
async function startCheck(page: Page, label: string): Promise<void> {
  await page.getByRole('link', { name: 'Gauges', exact: true }).click();
  await page.getByRole('link', { name: label, exact: true }).click();
  await page.getByRole('button', { name: 'Check this gauge' }).click();
  await page.getByRole('button', { name: 'Start the job' }).click();
  await expect(page.getByRole('button', { name: /Read and understood/ })).toBeVisible();
}

const sign = async (page: Page): Promise<void> => {
  await page.getByRole('button', { name: /^Sign as/ }).click();
  await expect(page).toHaveURL(/\/sheet$/);
};
/** Every step until the signature is asked for. */
const toTheEnd = (page: Page, look?: (say: string) => Promise<boolean>): Promise<string[]> =>
  followSteps(page, async (say) => say.startsWith('All steps done') || ((await look?.(say)) ?? false));

test('a gauge’s zero is read, set and read again', async ({ page, stack }) => {
  await signIn(page, stack);
  await startCheck(page, 'W-03');
  await hurry(page, 60);
  const said = await toTheEnd(page, alsoOnThePhone(page));
  expect(said.filter((s) => s.startsWith('The screw was turned until'))).toHaveLength(1);
  expect(said.some((s) => s.startsWith('Which way of the screw'))).toBe(true);
  await expect(page.locator('.move-say')).toContainText('Its zero was set. Its span was not checked.');
  expect(await page.evaluate(() => document.documentElement.scrollWidth <= innerWidth)).toBe(true);
  await sign(page);
  await expect(page.getByText('Fit, zero set', { exact: true })).toBeVisible();
  await page.goto(`${stack.url}/gauges`);
  await page.getByRole('link', { name: 'W-03', exact: true }).click();
  await expect(
    page.getByText(/Its screw raised the needle (counter-)?clockwise the last time/),
  ).toBeVisible();
  await expect(page.getByRole('cell', { name: 'adjusted' }).first()).toBeVisible();
});

test('a sprung gauge is found out at the cylinder, not zeroed away', async ({ page, stack }) => {
  await signIn(page, stack);
  await startCheck(page, 'H-41');
  await hurry(page, 240);
  await followSteps(page, (say) => say.startsWith('Tap H-41 and read it'));
  // What is expected at the measured temperature is said with the step, and a degree's worth of doubt.
  await expect(page.locator('.move-why')).toContainText(
    /At the cylinder’s temperature \d{3}\.\d psi is expected/,
  );
  await toTheEnd(page);
  const end = await sentence(page);
  expect(end).toContain('Its zero is right and its span is wrong: the screw cannot mend that.');
  // It cannot be signed as fit.
  await page.getByRole('button', { name: 'Fit, zero set' }).click();
  await expect(page.getByRole('alert')).toContainText('Sign it as what it is');
  await expect(page.getByRole('button', { name: /^Sign as/ })).toBeDisabled();
  await page.getByRole('button', { name: 'Unfit' }).click();
  await sign(page);
  await expect(
    page.getByText(/Zero is right and the span is wrong: it reads \d+\.\d psi too high/),
  ).toBeVisible();
  await expect(page.getByText(/Record whole: \d+ entries/)).toBeVisible();
  await page.goto(`${stack.url}/gauges`);
  await page.getByRole('link', { name: 'H-41', exact: true }).click();
  await expect(page.getByText('Failed since')).toBeVisible();
  await expect(page.getByText(/Largest error \d+\.\d\d psi/)).toBeVisible();
});

test('a verdict turns from in to near when the gauge is changed for a coarse one', async ({
  page,
  stack,
}) => {
  await signIn(page, stack);
  await page.getByRole('link', { name: 'Sites', exact: true }).click();
  await page.getByRole('link', { name: 'Propagation pump switch', exact: true }).click();
  const planned = Number(await page.getByRole('textbox', { name: 'Cut-in' }).inputValue());
  await page.getByRole('button', { name: 'Typed from my gauges' }).click();
  await page.getByRole('button', { name: 'Start the job' }).click();
  await expect(page.getByRole('button', { name: /Read and understood/ })).toBeVisible();
  await key(page, 'Enter');
  const zero = async (what: string): Promise<void> => {
    await expect(page.locator('.move-say')).toContainText(what);
    await key(page, 'z');
  };
  await zero('Vent the water gauge');
  await zero('zero of the air gauge');
  await expect(page.locator('.move-say')).toContainText('Fit the water gauge');
  await key(page, 'Enter');
  const type = async (title: string, value: number): Promise<void> => {
    await expect(page.getByRole('heading', { name: `Type the ${title}` })).toBeVisible();
    await page.keyboard.type(String(value));
    await key(page, 'Enter');
  };
  await type('cut-in', planned);
  await type('cut-out', planned + 20);
  const cutIn = page.locator('.sheet-table tr', { hasText: 'Cut-in' });
  await expect(cutIn.getByRole('img', { name: 'in' })).toHaveCount(1);
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: 'More' }).click();
  await page.getByRole('menuitem', { name: 'Change the gauge' }).click();
  await page.getByLabel('The new gauge').click();
  await page.getByRole('option', { name: /W-03/ }).click();
  await page.getByLabel('Why').fill('the display of the first went dark');
  await page.getByRole('button', { name: 'Change it' }).click();
  await expect(page.getByRole('dialog')).toHaveCount(0);
  // The new gauge is zeroed before it may be read.
  await zero('Vent W-03 and read its zero');
  await type('cut-in', planned);
  await expect(cutIn.getByRole('img', { name: 'near' })).toHaveCount(1);
  await page.getByText('How sure').first().click();
  await expect(page.locator('.budget').first()).toContainText('limit of the gauge’s class here');
  // Both gauges stand on the sheet, and why one took the place of the other.
  await page.getByRole('link', { name: 'Whole sheet, to print' }).click();
  await expect(page.getByText('Put in its place because: the display of the first went dark')).toBeVisible();
  await expect(page.locator('.sheet-gauges li')).toHaveCount(3);
});
