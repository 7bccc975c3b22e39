// Rounds of mishaps in a real browser: each round something goes wrong in the middle of work, and afterwards everything entered is here
// once, on the device and on the server. `node e2e/rounds.mjs 200 [seed]` runs them by themselves; a few run with the browser tests.
import { chromium, expect } from '@playwright/test';

/** A stream of numbers in [0, 1) from a seed (Mulberry32). */
export function seeded(seed) {
  let s = seed >>> 0;
  return () => {
    s = (s + 0x6d2b79f5) >>> 0;
    let t = s;
    t = Math.imul(t ^ (t >>> 15), t | 1);
    t ^= t + Math.imul(t ^ (t >>> 7), t | 61);
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  };
}

const wait = (ms) => new Promise((r) => setTimeout(r, ms));
const ARGS = ['--no-sandbox', '--disable-gpu', '--disable-background-networking', '--no-first-run'];

/** What can go wrong; each leaves the page where work can go on. */
export const MISHAPS = {
  async reload({ page }) {
    await page.reload();
  },
  /** The tab is closed at any moment and opened anew. */
  async close(world) {
    const url = world.page.url();
    await world.page.close({ runBeforeUnload: false });
    world.page = await world.context.newPage();
    await world.page.goto(url);
  },
  /** The tab's process dies. */
  async crash(world) {
    const url = world.page.url();
    await world.page.goto('chrome://crash').catch(() => undefined);
    await world.page.close().catch(() => undefined);
    world.page = await world.context.newPage();
    await world.page.goto(url);
  },
  async offline({ context, random }) {
    await context.setOffline(true);
    await wait(300 + 700 * random());
    await context.setOffline(false);
  },
  async server({ stack, random }) {
    await stack.killServer();
    await wait(200 + 800 * random());
    await stack.startServer();
  },
  async database({ stack, random }) {
    await stack.database.kill();
    await wait(200 + 800 * random());
    await stack.database.restart();
  },
  /** Something between answers in the server's place for a while. */
  async foreign({ page, random }) {
    const status = [200, 302, 403, 404, 502][Math.floor(random() * 5)];
    await page.route('**/api/v1/jobs/**', (route) =>
      route.fulfill({
        status,
        contentType: 'text/html',
        body: '<html>Please sign in to the house network</html>',
      }),
    );
    await wait(900);
    await page.unroute('**/api/v1/jobs/**');
  },
  /** The clock is set, or the device slept. */
  async clock({ page, random }) {
    const by = (random() < 0.5 ? -1 : 1) * (40 + 200 * random()) * 60_000;
    await page.evaluate((ms) => {
      const Real = Date;
      globalThis.Date = class extends Real {
        constructor(...given) {
          if (given.length > 0) super(...given);
          else super(Real.now() + ms);
        }
        static now() {
          return Real.now() + ms;
        }
      };
    }, by);
  },
  /** The same job in a second tab, where a step is taken. */
  async twoTabs(world) {
    const other = await world.context.newPage();
    await other.goto(world.page.url());
    await act(other, world);
    await wait(200);
    await other.close();
  },
  /** The disk is full for a while. */
  async disk({ page }) {
    await page.evaluate(() => {
      const real = IDBObjectStore.prototype.add;
      IDBObjectStore.prototype.add = () => {
        throw new DOMException('full', 'QuotaExceededError');
      };
      setTimeout(() => (IDBObjectStore.prototype.add = real), 900);
    });
  },
  async nothing() {},
};

/** What the screen asks for, and whether it takes a press. */
const face = (page) =>
  page.evaluate(() => {
    const main = document.querySelector('.face');
    return {
      ready: main !== null && main.getAttribute('aria-busy') !== 'true',
      keypad: document.querySelector('.keypad') !== null,
      heading: document.querySelector('.keypad h2')?.textContent ?? '',
      sign: [...document.querySelectorAll('.acts .primary')].some((b) =>
        /^Sign as/.test(b.textContent ?? ''),
      ),
      primary: document.querySelector('.acts .primary:not([disabled])')?.textContent ?? '',
      held: /on another device/.test(document.querySelector('.move-say')?.textContent ?? ''),
    };
  });

/**
 * Takes one step as a hand does, pressing once, twice or three times within 300 ms, by key or by finger.
 * @returns whether something was asked for that could be answered
 */
export async function act(page, { random, sums }) {
  for (let i = 0; i < 60; i++) {
    const f = await face(page).catch(() => ({ ready: false }));
    if (f.ready && (f.keypad || f.primary)) {
      if (f.sign) return false;
      const presses = 1 + Math.floor(random() * 3);
      const gap = random() * 150;
      if (f.keypad) {
        await page.keyboard.type(/cut-in/.test(f.heading) ? '33' : /cut-out/.test(f.heading) ? '53' : '31');
        for (let k = 0; k < presses; k++) {
          await page.keyboard.press('Enter');
          await wait(gap);
        }
      } else {
        // All presses of one hand land within a moment, on whatever stands there by then.
        await page.evaluate(
          async ([n, ms]) => {
            for (let k = 0; k < n; k++) {
              document.querySelector('.acts .primary:not([disabled])')?.click();
              await new Promise((r) => setTimeout(r, ms));
            }
          },
          [presses, gap],
        );
      }
      sums.presses += presses;
      await wait(120 + 200 * random());
      return true;
    }
    await wait(100);
  }
  return false;
}

/** What this device keeps of a job, and what the server has. */
const logs = (page) =>
  page.evaluate(async () => {
    const job = /jobs\/([\w-]+)/.exec(location.pathname)?.[1] ?? '';
    const db = await new Promise((resolve, reject) => {
      const r = indexedDB.open('firm-needle');
      r.onsuccess = () => resolve(r.result);
      r.onerror = () => reject(r.error);
    });
    const kept = await new Promise((resolve) => {
      const r = db.transaction('events').objectStore('events').index('job').getAll(job);
      r.onsuccess = () => resolve(r.result);
    });
    db.close();
    const answer = await fetch(`/api/v1/jobs/${job}/events`).then((r) => r.json());
    return {
      kept: kept.map((k) => ({ id: k.id, sent: k.sent, refused: k.refused !== undefined, event: k.event })),
      server: answer.items?.map((i) => i.event) ?? [],
    };
  });

const place = ({ body }) =>
  body.at ? `${body.kind === 'skip' ? 'skip ' : ''}${body.at.key} ${body.at.pass}` : undefined;

/**
 * Runs rounds on one stack and says what was lost, doubled, wrongly taken or stuck.
 * @param stack a whole Firm Needle of its own
 * @param {{ count: number, seed: number, browser?: import('@playwright/test').Browser, only?: string }} options
 */
export async function rounds(stack, { count, seed, browser: given, only }) {
  const random = seeded(seed);
  const browser =
    given ??
    (await chromium.launch({
      executablePath: process.env.CHROMIUM ?? '/usr/bin/chromium-headless-shell',
      args: ARGS,
    }));
  const sums = {
    rounds: 0,
    presses: 0,
    entries: 0,
    lost: 0,
    doubled: 0,
    wrong: 0,
    stuck: 0,
    refused: 0,
    by: {},
    notes: [],
  };
  const context = await browser.newContext({
    viewport: { width: 1280, height: 800 },
    reducedMotion: 'reduce',
  });
  const world = { stack, random, sums, context, page: await context.newPage() };
  const signIn = async () => {
    await world.page.goto(`${stack.url}/sign-in`);
    await world.page.getByLabel('Name').fill('marrable');
    await world.page.getByLabel('Password').fill('ostrey-demo');
    await world.page.getByRole('button', { name: 'Sign in' }).click();
    await expect(world.page.getByRole('heading', { name: 'Today' })).toBeVisible();
    await world.page.evaluate(() => navigator.serviceWorker.ready);
    await world.page.reload();
  };
  const begin = async () => {
    await world.page.goto(`${stack.url}/sites`);
    await world.page.getByRole('link', { name: 'Propagation pump switch', exact: true }).click();
    await world.page.getByRole('button', { name: 'Typed from my gauges' }).click();
    await world.page.getByRole('button', { name: 'Start the job' }).click();
    await expect(world.page.getByRole('button', { name: /Read and understood/ })).toBeVisible();
    // What the first entry needs before it may be reloaded: that it stands on the disk.
    await wait(200);
  };
  await signIn();
  await begin();
  const names = Object.keys(MISHAPS).filter((n) => !only || only.includes(n));
  let seen = new Map();
  for (let round = 0; round < count; round++) {
    const name = names[Math.floor(random() * names.length)];
    sums.by[name] = (sums.by[name] ?? 0) + 1;
    let acted = false;
    try {
      for (let i = 0; i < 1 + random() * 3; i++) acted = (await act(world.page, world)) || acted;
      // In the middle of a step, or right after it.
      const working = random() < 0.5 ? act(world.page, world) : Promise.resolve(false);
      await wait(random() * 200);
      await Promise.all([working.catch(() => false), MISHAPS[name](world)]);
      const went = await act(world.page, world);
      if (!went && !(await face(world.page)).sign) {
        sums.stuck++;
        sums.notes.push(`round ${round}, ${name}: nothing could be taken at ${world.page.url()}`);
      }
    } catch (error) {
      sums.stuck++;
      sums.notes.push(`round ${round}, ${name}: ${String(error).slice(0, 300)}`);
      await world.page.reload().catch(() => undefined);
    }
    sums.rounds++;
    let now;
    for (let i = 0; i < 100; i++) {
      now = await logs(world.page).catch(() => undefined);
      if (
        now &&
        now.kept.length > 0 &&
        now.kept.every((k) => k.sent === 1) &&
        now.server.length === now.kept.length
      )
        break;
      await wait(200);
    }
    if (!now) {
      sums.stuck++;
      sums.notes.push(`round ${round}, ${name}: the logs cannot be read`);
      continue;
    }
    const ids = now.server.map((e) => e.id);
    sums.refused += now.kept.filter((k) => k.refused).length;
    for (const [id, what] of seen)
      if (!ids.includes(id)) {
        sums.lost++;
        sums.notes.push(`round ${round}, ${name}: lost ${what}`);
      }
    const unsent = now.kept.filter((k) => !ids.includes(k.id));
    if (unsent.length > 0) {
      sums.stuck++;
      sums.notes.push(`round ${round}, ${name}: ${unsent.length} never arrived`);
    }
    if (new Set(ids).size !== ids.length) sums.doubled++;
    // One press is one step: two entries at one place come from one hand pressing twice. Two tabs may both have taken it.
    const places = new Map();
    for (const e of now.server) {
      const at = place(e);
      if (at === undefined || at.startsWith('renew:')) continue;
      if (places.has(at) && name !== 'twoTabs' && !seen.has(e.id)) {
        sums.doubled++;
        sums.notes.push(`round ${round}, ${name}: twice at ${at}`);
      }
      places.set(at, e.id);
    }
    // What was typed stands at the step it was typed for.
    for (const e of now.server)
      if (e.body.kind === 'read' && !seen.has(e.id)) {
        const wanted = { cutIn: '33', cutOut: '53', precharge: '31' }[e.body.setting];
        if (wanted && !e.body.value.text.startsWith(wanted)) {
          sums.wrong++;
          sums.notes.push(`round ${round}, ${name}: ${e.body.setting} got ${e.body.value.text}`);
        }
      }
    seen = new Map(now.server.map((e) => [e.id, `${e.body.kind} ${place(e) ?? ''}`]));
    if ((await face(world.page).catch(() => ({}))).sign || now.server.length > 60) {
      sums.entries += seen.size;
      seen = new Map();
      await begin();
    }
  }
  sums.entries += seen.size;
  await context.close();
  if (!given) await browser.close();
  return sums;
}

if (process.argv[1]?.endsWith('rounds.mjs')) {
  const { startStack } = await import('./stack.mjs');
  const stack = await startStack();
  const sums = await rounds(stack, {
    count: Number(process.argv[2] ?? 200),
    seed: Number(process.argv[3] ?? 1),
  });
  await stack.stop();
  console.log(JSON.stringify(sums, null, 2));
  process.exit(sums.lost + sums.doubled + sums.wrong + sums.stuck > 0 ? 1 : 0);
}
