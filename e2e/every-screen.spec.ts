import type { Page } from '@playwright/test';
import axe from 'axe-core';
import { expect, hurry, followSteps, key, signIn, startJob, test } from './person.ts';
import { begin, sign } from './practised.ts';

const WIDE = { width: 1280, height: 800 };
const PHONE = { width: 360, height: 740 };
const TAGS = ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa'];

/** Another tab of this browser chose this theme; all of them follow. */
const themed = (page: Page, theme: string): Promise<void> =>
  page.evaluate(async (t) => {
    const newValue = JSON.stringify({ theme: t });
    localStorage.setItem('firm-needle-ui', newValue);
    dispatchEvent(new StorageEvent('storage', { key: 'firm-needle-ui', newValue }));
    for (let i = 0; i < 50 && document.documentElement.dataset['theme'] !== t; i++)
      await new Promise((r) => setTimeout(r, 20));
  }, theme);

/** What a theme can change: its colours. */
const COLOURS = ['color-contrast', 'link-in-text-block'];

/** No axe violations; in the page itself, for there are no frames to look into. */
async function accessible(page: Page, name: string, rules?: readonly string[]): Promise<void> {
  const violations = await page.evaluate(
    async (runOnly) => {
      const { axe: own } = window as unknown as { axe: typeof axe };
      const found = await own.run({ runOnly, resultTypes: ['violations'] });
      return found.violations.map((v) => `${v.id} ${v.nodes[0]?.html.slice(0, 140)}`);
    },
    rules ? { type: 'rule' as const, values: [...rules] } : { type: 'tag' as const, values: TAGS },
  );
  expect(violations.map((v) => `${name}: ${v}`)).toEqual([]);
}

/** No axe violations wide in both themes and on the phone, and nothing to scroll sideways on either. */
async function clean(page: Page, name: string): Promise<void> {
  await page.evaluate(() => document.fonts.ready);
  for (const size of [PHONE, WIDE]) {
    await page.setViewportSize(size);
    // The page lays itself out anew a moment after its window changed.
    await expect
      .poll(() => page.evaluate(() => document.documentElement.scrollWidth - innerWidth), {
        message: `${name} scrolls sideways at ${size.width}`,
      })
      .toBeLessThanOrEqual(0);
    if (size === PHONE) await accessible(page, `${name}, phone`);
  }
  await accessible(page, name);
  // The other theme, and on in it: each screen is looked at in both, and each theme on both sizes.
  const other =
    (await page.evaluate(() => document.documentElement.dataset['theme'])) === 'plant' ? 'daylight' : 'plant';
  await themed(page, other);
  expect(await page.evaluate(() => document.documentElement.dataset['theme'])).toBe(other);
  await accessible(page, `${name}, ${other}`, COLOURS);
}

/** What is asked and the key that answers it are in view, however low the screen. */
async function inView(page: Page, what: readonly string[]): Promise<void> {
  for (const size of [
    { width: 360, height: 620 },
    { width: 1280, height: 620 },
  ]) {
    await page.setViewportSize(size);
    for (const selector of what)
      await expect(
        page.locator(selector).first(),
        `${selector} at ${size.width}×${size.height}`,
      ).toBeInViewport({
        ratio: 0.99,
      });
  }
  await page.setViewportSize(WIDE);
}

// It is read once a page, and not at every look.
test.beforeEach(({ page }) => page.addInitScript({ content: axe.source }));

test.use({ viewport: WIDE, contextOptions: { reducedMotion: 'reduce' } });
test.describe.configure({ mode: 'parallel' });

test('every page is accessible and fits, in both themes, wide and on the phone', async ({ page, stack }) => {
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
});

test('every page of practice is accessible and fits, in both themes, wide and on the phone', async ({
  page,
  stack,
}) => {
  await signIn(page, stack, 'lowmarch');
  await page.goto(`${stack.url}/practice`);
  await expect(page.getByRole('button', { name: 'Begin', exact: true })).toBeEnabled();
  await clean(page, 'practice');
  await begin(page, stack.url, { kind: 'Test gauge', level: 'Hard', help: 'No next move' });
  await expect(page.getByText('What comes next?')).toBeVisible();
  await clean(page, 'a step to pick');
  await page.getByRole('button', { name: 'Sign', exact: true }).click();
  await expect(page.getByText('How did it end?')).toBeVisible();
  await clean(page, 'the end of a run');
  await sign(page, 'Unfinished', ['Sticking movement'], 'A guess');
  await expect(page.getByText(/^Luck: an? /)).toBeVisible({ timeout: 60_000 });
  await clean(page, 'a debrief');
  await page.goto(`${stack.url}/practice/overview`);
  await expect(page.getByRole('rowheader').first()).toBeVisible();
  await clean(page, 'what everybody practised');
});

test('every page of the firm’s book is accessible and fits, in both themes, wide and on the phone', async ({
  page,
  stack,
}) => {
  await signIn(page, stack, 'lowmarch');
  await page.goto(`${stack.url}/due`);
  await expect(page.getByText('Week of')).toBeVisible();
  await clean(page, 'due and plan');
  await page.locator('.visit-card').first().click();
  await expect(page.getByText('In walking order')).toBeVisible();
  await clean(page, 'a visit');
  await page.goto(`${stack.url}/people`);
  await expect(page.getByText('Tobin Quenby')).toBeVisible();
  await clean(page, 'people');
  await page.getByRole('button', { name: 'Change Tobin Quenby' }).click();
  await expect(page.getByText('Permits held')).toBeVisible();
  await clean(page, 'a person');
  await page.goto(`${stack.url}/account`);
  await expect(page.getByText('This browser')).toBeVisible();
  await clean(page, 'account');
  await page.goto(`${stack.url}/new-control`);
  await expect(page.getByText('Washer unloader')).toBeVisible();
  await clean(page, 'kinds');
  await page.getByRole('button', { name: /^Washer unloader/ }).click();
  await expect(page.getByLabel('Name of the control')).toBeVisible();
  await clean(page, 'a new control');
  await page.goto(`${stack.url}/sites`);
  await page.getByRole('link', { name: 'Tarn House creamery' }).click();
  await expect(page.getByRole('heading', { name: 'Steam boiler' })).toBeVisible();
  await clean(page, 'site');
  await page.getByRole('button', { name: 'Change', exact: true }).first().click();
  await expect(page.getByLabel('Customer', { exact: true })).toBeVisible();
  await clean(page, 'a site as it is entered');
  await page.keyboard.press('Escape');
  await page.getByRole('link', { name: 'Life of Unloader' }).click();
  await expect(page.getByText('open mark: as found')).toBeVisible();
  await clean(page, 'life');
  await page.getByRole('button', { name: 'Find anything' }).click();
  await page.getByRole('combobox', { name: 'Find anything' }).fill('tarn');
  await expect(page.getByRole('option').first()).toBeVisible();
  await clean(page, 'find');
});

test('everything that is handed over is accessible and fits, in both themes, wide and on the phone', async ({
  page,
  stack,
}) => {
  await signIn(page, stack, 'lowmarch');
  await page.goto(`${stack.url}/exchange`);
  await expect(page.getByText('A site with all its past')).toBeVisible();
  await clean(page, 'in and out');
  await page.getByLabel('File to read in').setInputFiles({
    name: 'a.csv',
    mimeType: 'text/csv',
    buffer: Buffer.from('site,altitude_m,colour\nHeron,4,red\nPlover,high,\nThe Lido,,\n'),
  });
  await expect(page.getByRole('cell', { name: /is no number/ })).toBeVisible();
  await clean(page, 'a file that is looked at');
  await page.goto(`${stack.url}/account`);
  await page.getByRole('button', { name: 'My visits' }).click();
  await expect(page.getByLabel('The address, shown this once')).toBeVisible();
  await clean(page, 'a calendar');
  await page.goto(`${stack.url}/sites`);
  await page.getByRole('link', { name: 'Tarn House creamery' }).click();
  await page.getByRole('link', { name: 'Life of Unloader' }).click();
  await page.getByRole('button', { name: 'Add a photo' }).click();
  await expect(page.getByText('Take or choose a photo')).toBeVisible();
  await clean(page, 'a photo');
  await page.getByRole('button', { name: 'Back' }).click();
  await page.locator('.life-card', { hasText: 'Jobs' }).getByRole('link').first().click();
  await expect(page.getByText(/Record whole/)).toBeVisible();
  await clean(page, 'a sheet');
  await page.getByRole('button', { name: 'Share a link' }).click();
  await page.getByRole('button', { name: 'Make the link' }).click();
  const link = page.getByLabel('The link, shown this once');
  await expect(link).toBeVisible();
  await clean(page, 'a link');
  await page.goto(await link.inputValue());
  await expect(page.getByText(/^Read-only, until/)).toBeVisible();
  await clean(page, 'a sheet behind a link');
});

test('every face of the work is accessible and fits, in both themes, wide and on the phone', async ({
  page,
  stack,
}) => {
  await signIn(page, stack);
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
  await inView(page, ['.move-say', '.acts .primary']);
  await key(page, 'k');
  await clean(page, 'keypad');
  await inView(page, ['.keypad-head', '.keypad-value', '.keypad-acts .primary']);
  await page.keyboard.press('Escape');
  await page.setViewportSize(PHONE);
  for (const tab of ['Walk', 'Sheet']) {
    await page.getByRole('button', { name: new RegExp(`^${tab}`) }).click();
    await accessible(page, tab);
  }
  await page.getByRole('button', { name: 'Work', exact: true }).click();
  await page.setViewportSize(WIDE);
  await page.goto(`${page.url().split('?')[0]}/sheet`);
  await expect(page.getByText('Not signed yet', { exact: true })).toBeVisible();
  await clean(page, 'sheet');
});
