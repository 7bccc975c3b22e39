import { expect, hurry, type Page } from './person.ts';

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

/** What is there to look at, to hear or to feel, once one does. */
async function sensed(page: Page): Promise<string | undefined> {
  const sense = page.locator('.practice-sense');
  if ((await sense.count()) === 0) return undefined;
  await sense.click();
  const seen = page.locator('.practice-seen');
  await expect(seen).toContainText('What is there', { timeout: 60_000 });
  return (await seen.textContent())?.replace('What is there: ', '') ?? '';
}

/** Follows the steps of a run as they are offered, looking where there is something to see, until it can be signed. */
export async function followRun(page: Page): Promise<void> {
  const finish = page.locator('.practice-finish');
  for (let i = 0; i < 200; i++) {
    await page.waitForTimeout(120);
    if ((await finish.count()) > 0) return;
    if ((await page.locator('.face[aria-busy="true"]').count()) > 0) continue;
    const say = await page.locator('.move-say').first().textContent();
    const primary = page.locator('.acts button.primary:not([disabled])');
    if ((await primary.count()) > 0) {
      await primary.first().click();
    } else if (/wait|watch/i.test((await page.locator('.acts').first().textContent()) ?? '')) {
      await page.waitForTimeout(250);
      continue;
    } else {
      const there = await sensed(page);
      const answers = page.locator('.acts button:not([disabled])');
      const texts = (await answers.allTextContents()).map((t) => t.toLowerCase());
      const at = there === undefined ? 0 : texts.findIndex((t) => t.startsWith(there));
      if (at < 0) continue;
      await answers.nth(at).click();
    }
    // The face moves on once it is kept.
    for (let k = 0; k < 40; k++) {
      if ((await finish.count()) > 0 || (await page.locator('.move-say').first().textContent()) !== say)
        break;
      await page.waitForTimeout(50);
    }
  }
  throw new Error('The run does not come to its end.');
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
