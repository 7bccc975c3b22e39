import {
  expect,
  test as base,
  type BrowserContext,
  type BrowserContextOptions,
  type Page,
} from '@playwright/test';
import { basename, dirname } from 'node:path';
import { startStack } from './stack.mjs';

export interface Stack {
  readonly url: string;
  readonly database: { kill(): Promise<void>; restart(): Promise<void> };
  startServer(): Promise<void>;
  killServer(): Promise<void>;
  stop(): Promise<void>;
}

/** Opens a further device, with nothing on it yet; it is closed when the test ends. */
export type Device = (options?: BrowserContextOptions) => Promise<Page>;

/** The Firm Needle that stands for the file, or the folder, whose tests run in this worker. */
interface Standing {
  whose?: string;
  stack?: Stack;
}

/** Whole jobs, each on a control of its own and none after anything that another left behind. */
const TOGETHER = 'kinds';
const whoseIs = (file: string): string => (basename(dirname(file)) === TOGETHER ? TOGETHER : file);

/** Every test file works on a Firm Needle of its own: what one leaves behind no other finds. Only the walks of the kinds share one. */
export const test = base.extend<{ stack: Stack; device: Device }, { standing: Standing }>({
  device: async ({ browser }, use) => {
    const opened: BrowserContext[] = [];
    await use(async (options) => {
      const context = await browser.newContext(options);
      opened.push(context);
      return context.newPage();
    });
    // One that stays open would go on drawing beside every later test.
    for (const context of opened) await context.close();
  },
  standing: [
    async ({}, use) => {
      const standing: Standing = {};
      await use(standing);
      await standing.stack?.stop();
    },
    { scope: 'worker', timeout: 120_000 },
  ],
  stack: [
    async ({ standing }, use, info) => {
      const whose = whoseIs(info.file);
      if (standing.whose !== whose) {
        await standing.stack?.stop();
        standing.stack = (await startStack()) as Stack;
        standing.whose = whose;
      }
      await use(standing.stack as Stack);
    },
    { timeout: 120_000 },
  ],
});

export async function signIn(page: Page, stack: Stack, login = 'marrable'): Promise<void> {
  await page.goto(`${stack.url}/sign-in`);
  await page.getByLabel('Name').fill(login);
  await page.getByLabel('Password').fill('ostrey-demo');
  await page.getByRole('button', { name: 'Sign in' }).click();
  await expect(page.getByRole('heading', { name: 'Today' })).toBeVisible();
}

/** Opens the observatory's pump switch and starts a job on the simulated rig. */
export async function startJob(page: Page): Promise<void> {
  const today = page.getByRole('link', { name: /Borehole pump switch.*to do/ });
  if ((await today.count()) > 0) await today.click();
  else {
    // A job was begun from today's list before; the control's own page always starts a new one.
    const path = await page.evaluate(async () => {
      const visits = (await (await fetch('/api/v1/visits')).json()) as {
        items: { id: string; controls: { id: string; name: string }[] }[];
      };
      for (const v of visits.items)
        for (const c of v.controls)
          if (c.name === 'Borehole pump switch') return `/controls/${c.id}?visit=${v.id}`;
      return '';
    });
    await page.goto(new URL(path, page.url()).href);
  }
  await page.getByRole('button', { name: 'Start the job' }).click();
  await expect(page.getByRole('button', { name: /Read and understood/ })).toBeVisible();
}

/** How fast the rig's clock was last let run on a page. */
const speeds = new WeakMap<Page, number>();

const setSpeed = (page: Page, speed: number): Promise<void> =>
  page.evaluate(async (s) => {
    const w = window as unknown as { firmNeedleRig?: { setSpeed(n: number): void } };
    for (let i = 0; i < 100 && !w.firmNeedleRig; i++) await new Promise((r) => setTimeout(r, 50));
    w.firmNeedleRig?.setSpeed(s);
  }, speed);

/** Lets the rig's clock run faster than any button on the bench allows. */
export const hurry = (page: Page, speed = 240): Promise<void> => {
  speeds.set(page, speed);
  return setSpeed(page, speed);
};

/** Nobody does anything for this long: until something can be done the clock runs so many times as fast. */
const NOTHING_MS = 200;
const FASTER = 3;

/** Presses a key once the face on screen takes presses. */
export async function key(page: Page, name: string): Promise<void> {
  await expect(page.locator('.face[aria-busy="true"]')).toHaveCount(0);
  await page.keyboard.press(name);
}

/** Presses a button once the face on screen takes presses: one that has just appeared takes none. */
export async function tap(page: Page, name: RegExp): Promise<void> {
  const button = page.getByRole('button', { name });
  await expect(button).toBeVisible({ timeout: 60_000 });
  await expect(page.locator('.face[aria-busy="true"]')).toHaveCount(0);
  await button.click();
}

export const sentence = async (page: Page): Promise<string> =>
  (await page.locator('.move-say').textContent()) ?? '';

/** What stands on the screen: the sentence, and all of the face, by which a change is known. */
const onScreen = (page: Page): Promise<{ say: string; face: string }> =>
  page.evaluate(() => ({
    say: document.querySelector('.move-say')?.textContent ?? '',
    face: document.querySelector('.face')?.textContent ?? location.href,
  }));

/**
 * Answers what is seen on the bench, or else takes the main button, but only while the face is still the one that was read:
 * looking and pressing are one, so that a screen that moves on meanwhile is never answered for the step before.
 * @returns whether something was pressed
 */
const press = (page: Page, say: string, byKey: boolean): Promise<string | boolean> =>
  page.evaluate(
    async ([expected, keyed]) => {
      if ((document.querySelector('.move-say')?.textContent ?? '') !== expected) return false;
      // A face that has just appeared takes no press.
      if (document.querySelector('.face[aria-busy=true]')) return false;
      // What is to be watched for a while is not answered before it was.
      if (/ s to watch/.test(document.querySelector('.clock')?.textContent ?? '')) return false;
      const buttons = [...document.querySelectorAll<HTMLButtonElement>('.acts button:not([disabled])')];
      const seen = [...document.querySelectorAll('.bench span')]
        .map((s) => s.textContent ?? '')
        .find((text) => text.startsWith('You would see: '))
        ?.replace('You would see: ', '');
      // A moment after it was watched long enough the bench says what was to be seen.
      const watched = /Watched long enough/.test(document.querySelector('.clock')?.textContent ?? '');
      if (watched && !seen && document.querySelector('.bench')) return false;
      const said = (b: HTMLElement): string => (b.textContent ?? '').toLowerCase();
      const answer = seen && buttons.find((b) => said(b).startsWith(seen));
      const chosen = answer || buttons.find((b) => b.classList.contains('primary'));
      // What came otherwise than was asked stands in a list of its own.
      const others = buttons.find((b) => said(b) === 'something else');
      if (!chosen && seen && others) {
        others.click();
        await new Promise((r) => requestAnimationFrame(() => requestAnimationFrame(r)));
        const items = [...document.querySelectorAll<HTMLElement>('[role=menuitem]')];
        const other = items.find((b) => said(b).startsWith(seen));
        if (!other) document.querySelector<HTMLElement>('.MuiBackdrop-root')?.click();
        other?.click();
        return other !== undefined;
      }
      const named = chosen?.querySelector('kbd')?.textContent;
      if (keyed && chosen && !named) throw new Error(`No key stands on: ${chosen.textContent}`);
      if (keyed && named) return named;
      chosen?.click();
      return chosen !== undefined;
    },
    [say, byKey] as const,
  );

const LONGEST_STEP_MS = 90_000;
const LONGEST_WALK_MS = 160_000;
const MOST_PRESSES = 150;
/** Screens at least this wide have keys, and are worked by them alone. */
const WIDE = 1000;

/**
 * Takes the steps on screen as a technician with a rig would: what is seen on the bench is answered, every other step is
 * taken by its main button once that is ready. Ends when `until` holds or the job is signed.
 * @param byKey presses the key that stands on the button, and no button
 * @returns the sentences that were followed, one a press
 */
export async function followSteps(
  page: Page,
  until: (say: string) => boolean | Promise<boolean> = () => false,
  byKey = (page.viewportSize()?.width ?? 0) >= WIDE,
): Promise<string[]> {
  const followed: string[] = [];
  const deadline = Date.now() + LONGEST_WALK_MS;
  for (;;) {
    if (page.url().endsWith('/sheet')) break;
    // What the bench would show arrives a moment after the step.
    await page.waitForTimeout(120);
    const { say, face } = await onScreen(page);
    if (page.url().endsWith('/sheet') || (await until(say))) break;
    if (followed.length >= MOST_PRESSES || Date.now() > deadline)
      throw new Error(
        `It does not end: after ${followed.length} presses "${say}" stands there. Followed: ${followed.join(' / ')}`,
      );
    if (say === '') continue;
    const from = Date.now();
    const speed = speeds.get(page);
    let faster = false;
    let pressed = await press(page, say, byKey);
    while (!pressed) {
      if ((await onScreen(page)).say !== say) break;
      if (Date.now() - from > LONGEST_STEP_MS) throw new Error(`Nothing can be pressed at: ${say}`);
      if (speed && !faster && Date.now() - from > NOTHING_MS) {
        faster = true;
        await setSpeed(page, speed * FASTER);
      }
      await page.waitForTimeout(60);
      pressed = await press(page, say, byKey);
    }
    if (speed && faster) await setSpeed(page, speed);
    if (!pressed) continue;
    if (typeof pressed === 'string')
      await page.keyboard.press(pressed.toLowerCase().replace('enter', 'Enter').replace('space', ' '));
    followed.push(say);
    // The step's event is on the disk before the screen moves on; until then the same face would be answered twice.
    for (let k = 0; k < 100 && (await onScreen(page)).face === face; k++) await page.waitForTimeout(40);
  }
  return followed;
}

/** What does not fit the window once it is laid out: what scrolls sideways, and what is asked or answers it and is not in view. */
async function misfits(): Promise<string[]> {
  await new Promise((r) => requestAnimationFrame(() => requestAnimationFrame(r)));
  const sideways = document.documentElement.scrollWidth - innerWidth;
  const asked = [...document.querySelectorAll('.move-say, .acts .primary')];
  // All cautions at once are scrolled through before they are confirmed.
  const must = document.querySelectorAll('.cautions .caution').length > 2 ? [] : asked;
  const seen = await new Promise<IntersectionObserverEntry[]>((tell) => {
    const observer = new IntersectionObserver((entries) => {
      observer.disconnect();
      tell(entries);
    });
    for (const it of must) observer.observe(it);
    if (must.length === 0) tell([]);
  });
  const hidden = seen.filter((e) => e.intersectionRatio < 0.9).map((e) => e.target);
  return [
    ...(sideways > 0 ? [`scrolls sideways by ${sideways}`] : []),
    ...hidden.map((it) => `not in view: ${it.textContent ?? ''}`),
  ];
}

/**
 * Looks at every step on the phone too, while the job is worked on a wide screen: nothing to scroll sideways, and what is asked and
 * the button that answers it in view. To be passed to `followSteps`; it never ends the walk.
 */
export const alsoOnThePhone = (page: Page) => {
  const wide = page.viewportSize() ?? { width: 1280, height: 800 };
  const seen = new Set<string>();
  return async (say: string): Promise<boolean> => {
    // A step that comes again looks the same; figures in a sentence make it no other.
    const sort = say.replace(/[\d.,¼½¾]+/g, '');
    if (sort === '' || seen.has(sort)) return false;
    seen.add(sort);
    await page.setViewportSize({ width: 360, height: 740 });
    await expect.poll(() => page.evaluate(misfits), { message: say }).toEqual([]);
    await page.setViewportSize(wide);
    return false;
  };
};

export { expect, type Page };
