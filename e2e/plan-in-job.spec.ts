import { expect } from '@playwright/test';
import { key, signIn, startJob, tap, test } from './person.ts';

test('the plan is changed in the middle of a job, with its reason, and outlives a reload', async ({
  page,
  stack,
}) => {
  await signIn(page, stack);
  await startJob(page);
  const target = page.locator('table tr', { hasText: 'Cut-in' }).first().locator('td').first();
  const before = await target.textContent();
  await key(page, 'Enter');
  await page.getByRole('button', { name: 'More' }).click();
  await page.getByRole('menuitem', { name: 'Change the plan' }).click();
  const dialog = page.getByRole('dialog');
  const field = dialog.getByLabel('Cut-in', { exact: true });
  const wanted = String(Number(await field.inputValue()) - 2);
  // Over its relief it may not stand: it is pushed back, and said why.
  await dialog.getByLabel('Cut-out', { exact: true }).fill('140');
  await page.keyboard.press('Tab');
  await expect(dialog.getByText(/relief/i).first()).toBeVisible();
  await field.fill(wanted);
  await field.press('Enter');
  await expect(dialog.getByRole('button', { name: 'Change it' })).toBeDisabled();
  await dialog.getByLabel('Why').fill('the pair inside the cover says so');
  await dialog.getByRole('button', { name: 'Change it' }).click();
  await expect(dialog).toBeHidden();
  await expect(target).not.toHaveText(before ?? '');
  await expect(target).toContainText(wanted);
  await page.reload();
  await expect(target).toContainText(wanted);
  // A mis-tap is taken back like any other, and the plan with it.
  await tap(page, /Undo last/);
  await expect(target).toHaveText(before ?? '');
});
