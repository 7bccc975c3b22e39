import type { Page } from '@playwright/test';
import { expect, signIn, test } from './person.ts';

/** What moved though nobody touched anything, once it had stood for long enough to be aimed at. */
declare global {
  interface Window {
    movedAway: string[];
  }
}

/** Looks at every frame where everything stands that can be pressed or typed in. */
const watch = (): void => {
  const STOOD_MS = 80;
  const AWAY_PX = 6;
  const seen = new Map<Element, { x: number; y: number; since: number }>();
  let page = '';
  window.movedAway = [];
  const look = (now: number): void => {
    if (location.href !== page) seen.clear();
    page = location.href;
    for (const el of document.querySelectorAll('button:enabled, a[href], input, [role=combobox]')) {
      const { x, y, width, top, bottom } = el.getBoundingClientRect();
      if (width === 0 || bottom < 0 || top > innerHeight) continue;
      const is = { x, y: y + scrollY, since: now };
      const was = seen.get(el);
      const far = was ? Math.hypot(is.x - was.x, is.y - was.y) > AWAY_PX : false;
      if (was && far && now - was.since > STOOD_MS)
        window.movedAway.push(
          `${location.pathname}: ${el.getAttribute('aria-label') ?? el.textContent.slice(0, 40)} ${(el as HTMLInputElement).name ?? ''} by ${Math.round(is.x - was.x)}, ${Math.round(is.y - was.y)}`,
        );
      if (!was || far) seen.set(el, is);
    }
    requestAnimationFrame(look);
  };
  requestAnimationFrame(look);
};

/** Nothing of a page that has come whole moved away while it came. */
const stood = async (page: Page): Promise<void> => {
  await page.waitForLoadState('networkidle');
  expect(await page.evaluate(() => window.movedAway.splice(0))).toEqual([]);
};

const SIZES = [
  { width: 1280, height: 800 },
  { width: 360, height: 740 },
];

test('nothing moves away under a finger while a page comes over a slow line', async ({ device, stack }) => {
  for (const viewport of SIZES) {
    const page = await device({ viewport, reducedMotion: 'reduce', serviceWorkers: 'block' });
    await page.addInitScript(watch);
    let n = 0;
    await page.route('**/api/v1/**', async (route) => {
      // Each takes its own time, and none comes in the order in which it was asked for.
      await new Promise((r) => setTimeout(r, 100 + ((++n * 7919) % 350)));
      await route.continue().catch(() => undefined);
    });
    await page.goto(`${stack.url}/sign-in`);
    await expect(page.getByText('Demo on the invented island')).toBeVisible();
    await stood(page);
    await signIn(page, stack, 'lowmarch');
    await stood(page);
    for (const path of ['/sites', '/gauges', '/due', '/people', '/account', '/exchange', '/practice']) {
      await page.goto(`${stack.url}${path}`);
      await expect(page.locator('h1').last()).toBeVisible();
      await stood(page);
    }
    // One gauge with its curves, and one control.
    await page.goto(`${stack.url}/gauges`);
    await page.getByRole('link', { name: 'W-07' }).click();
    await expect(page.getByText('Zero, as it was found at each job')).toBeVisible();
    await page.reload();
    await stood(page);
    await page.goto(`${stack.url}/sites`);
    await page.getByRole('link', { name: 'Propagation pump switch', exact: true }).click();
    await expect(page.getByRole('heading', { name: 'Propagation pump switch' })).toBeVisible();
    await page.reload();
    await stood(page);
  }
});
