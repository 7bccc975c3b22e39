import { expect, hurry, type Page } from './person.ts';

export { followRun } from './followRun.mjs';

/** Chooses what to practise and begins. @returns where the run is */
export async function begin(
  page: Page,
  url: string,
  {
    kind,
    installation,
    lesson,
    level = 'First',
    help,
  }: { kind: string; installation?: string; lesson?: string; level?: string; help?: string },
): Promise<string> {
  await page.goto(`${url}/practice`);
  const choose = async (label: string, name: string | RegExp): Promise<void> => {
    await page.getByLabel(label, { exact: true }).click();
    await page.getByRole('option', { name, exact: true }).click();
  };
  await choose('Kind', kind);
  await expect(page.getByRole('button', { name: /^Begin/ })).toBeEnabled();
  if (installation) await choose('Installation', installation);
  if (lesson) await choose('What is hidden', `A lesson: ${lesson}`);
  await page.getByText(level, { exact: true }).first().click();
  if (help) await page.getByText(help, { exact: true }).first().click();
  await page.getByRole('button', { name: /^Begin/ }).click();
  await page.waitForURL(/\/practice\/runs\/[^/]+$/);
  await hurry(page, 60);
  return page.url();
}

/** Signs a run. */
export async function sign(
  page: Page,
  outcome: string,
  faults: readonly string[],
  sure: string,
): Promise<void> {
  const press = (name: string) => page.getByRole('button', { name, exact: true }).click();
  await press(outcome);
  for (const f of faults) await press(f);
  await press(sure);
  await press('Sign, and see what was so');
  await page.waitForURL(/\/debrief$/);
  await expect(page.locator('.debrief-sentence')).toBeVisible({ timeout: 60_000 });
}
