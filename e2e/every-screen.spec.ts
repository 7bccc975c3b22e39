import AxeBuilder from '@axe-core/playwright';
import type { Page } from '@playwright/test';
import { expect, hurry, followSteps, signIn, startJob, test } from './person.ts';

/** No axe violations, and nothing to scroll sideways. */
async function clean(page: Page, name: string): Promise<void> {
  await page.evaluate(() => document.fonts.ready);
  const { violations } = await new AxeBuilder({ page })
    .withTags(['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa'])
    .analyze();
  expect(violations.map((v) => `${name}: ${v.id} ${v.nodes[0]?.html.slice(0, 140)}`)).toEqual([]);
  expect(
    await page.evaluate(() => document.documentElement.scrollWidth - innerWidth),
    `${name} scrolls sideways`,
  ).toBeLessThanOrEqual(0);
}

for (const theme of ['daylight', 'plant'])
  for (const [width, height] of [
    [1280, 800],
    [360, 740],
  ] as const)
    test(`every screen is accessible and fits, ${theme} ${width}`, async ({ browser, stack }) => {
      const context = await browser.newContext({ viewport: { width, height }, reducedMotion: 'reduce' });
      await context.addInitScript(
        (t) => localStorage.setItem('firm-needle-ui', JSON.stringify({ theme: t })),
        theme,
      );
      const page = await context.newPage();
      await page.goto(`${stack.url}/sign-in`);
      await clean(page, 'sign-in');
      await signIn(page, stack);
      await clean(page, 'today');
      await page.getByRole('link', { name: 'Sites' }).click();
      await expect(page.getByRole('heading', { name: 'The Lido' })).toBeVisible();
      await clean(page, 'sites');
      await page.getByRole('link', { name: 'Gauges', exact: true }).click();
      await expect(page.getByText('W-07')).toBeVisible();
      await clean(page, 'gauges');
      await page.getByRole('link', { name: 'W-07' }).click();
      await expect(page.getByText('Zero, as it was found at each job')).toBeVisible();
      await clean(page, 'gauge');
      await page.goto(`${stack.url}/reckoner`);
      await expect(page.getByRole('heading', { name: 'Head of water' })).toBeVisible();
      await clean(page, 'reckoner');
      await page.goto(`${stack.url}/traces`);
      await expect(page.getByRole('heading', { name: 'Traces' })).toBeVisible();
      await clean(page, 'traces');
      const rows = Array.from({ length: 60 }, (_, i) => `${i};20;${(3 + Math.sin(i / 9)).toFixed(2)}`);
      await page.getByLabel('Trace file').setInputFiles({
        name: 'logger.csv',
        mimeType: 'text/csv',
        buffer: Buffer.from(['Elapsed;Room;Port', ...rows].join('\n')),
      });
      await expect(page.getByRole('heading', { name: 'What are its columns?' })).toBeVisible();
      await clean(page, 'trace columns');
      await page.goto(`${stack.url}/sites`);
      await page.getByRole('link', { name: 'Heater flow switch', exact: true }).click();
      await page.getByRole('button', { name: 'Start the job' }).click();
      await hurry(page, 60);
      await followSteps(page, (say) => say.startsWith('Turn the wheel'));
      await clean(page, 'seek');
      await page.goto(`${stack.url}/sites`);
      await page.getByRole('link', { name: 'Borehole pump switch', exact: true }).click();
      await expect(page.getByText('Rating plate')).toBeVisible();
      await clean(page, 'plan');
      await startJob(page);
      await clean(page, 'cautions');
      await hurry(page, 60);
      await followSteps(page, (say) => say.startsWith('Stop the draw'));
      await clean(page, 'work');
      await page.keyboard.press('k');
      await clean(page, 'keypad');
      await page.keyboard.press('Escape');
      if (width < 1000) {
        for (const tab of ['Walk', 'Sheet']) {
          await page.getByRole('button', { name: new RegExp(`^${tab}`) }).click();
          await clean(page, tab);
        }
      }
      await page.goto(`${page.url().split('?')[0]}/sheet`);
      await expect(page.getByText('Not signed yet')).toBeVisible();
      await clean(page, 'sheet');
      await context.close();
    });
