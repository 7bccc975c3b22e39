// A run of practice as a person follows it, for the browser tests and for the pictures.

/** What is there to look at, to hear or to feel, once one does. */
async function sensed(page) {
  const sense = page.locator('.practice-sense');
  if ((await sense.count()) === 0) return undefined;
  await sense.click();
  const seen = page.locator('.practice-seen');
  await seen
    .getByText(/What is there/)
    .or(seen.filter({ hasText: 'What is there' }))
    .first()
    .waitFor({ timeout: 60_000 });
  return (await seen.textContent())?.replace('What is there: ', '') ?? '';
}

/** Follows the steps of a run as they are offered, looking where there is something to see, until it can be signed. */
export async function followRun(page) {
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
