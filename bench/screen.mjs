// What the working screen draws anew while the rig sends 20 samples a second: components per sample, of all that stand there.
import { chromium } from '@playwright/test';

const SECONDS = 8;
const SAMPLES_HZ = 20;
const ARGS = ['--no-sandbox', '--disable-gpu', '--disable-background-networking'];

/** Counts, through the hook that React calls for its own developer tools, the components that did work in each commit. */
function countCommits() {
  const COMPONENT = new Set([0, 1, 11, 14, 15]);
  const PERFORMED_WORK = 1;
  const counts = { commits: 0, worked: 0, standing: 0 };
  let previous = new Set();
  globalThis.commitCounts = counts;
  globalThis.__REACT_DEVTOOLS_GLOBAL_HOOK__ = {
    supportsFiber: true,
    inject: () => 1,
    onCommitFiberUnmount() {},
    onCommitFiberRoot(_, root) {
      const now = new Set();
      const visit = (fiber) => {
        for (let f = fiber; f; f = f.sibling) {
          now.add(f);
          // One that was not touched since the last commit is the same object still.
          if (COMPONENT.has(f.tag) && !previous.has(f) && (f.flags & PERFORMED_WORK) !== 0) counts.worked++;
          visit(f.child);
        }
      };
      visit(root.current.child);
      previous = now;
      counts.commits++;
      counts.standing = [...now].filter((f) => COMPONENT.has(f.tag)).length;
    },
  };
}

/** @param stack a whole Firm Needle of its own, with the demo in it */
export async function screenFigures(stack) {
  const browser = await chromium.launch({
    executablePath: process.env.CHROMIUM ?? '/usr/bin/chromium-headless-shell',
    args: ARGS,
  });
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  await page.addInitScript(countCommits);
  await page.goto(`${stack.url}/sign-in`);
  await page.getByLabel('Name').fill('marrable');
  await page.getByLabel('Password').fill('ostrey-demo');
  await page.getByRole('button', { name: 'Sign in' }).click();
  await page.getByRole('heading', { name: 'Today' }).waitFor();
  await page.goto(`${stack.url}/sites`);
  await page.getByRole('link', { name: 'Propagation pump switch', exact: true }).click();
  await page
    .getByRole('button', { name: /Practise|simulated|rig/i })
    .first()
    .click();
  await page.getByRole('button', { name: 'Start the job' }).click();
  const speed = (times) => page.getByRole('button', { name: `${times} times`, exact: true }).click();
  await page.getByRole('button', { name: /^Read and understood/ }).waitFor();
  const say = page.locator('.move-say');
  const main = page.locator('.face[aria-busy="false"] .acts .primary:not([disabled])').first();
  // To the first reading, quickly: cautions, two zeros, the gauge fitted.
  for (let i = 0; i < 200; i++) {
    if (i === 10) await speed(20).catch(() => undefined);
    if (/start/i.test((await say.textContent()) ?? '') && (await page.getByText('Watching for').count()) > 0)
      break;
    if ((await main.count()) > 0) await main.click();
    await page.waitForTimeout(200);
  }
  await speed(1);
  const cdp = await page.context().newCDPSession(page);
  await cdp.send('Performance.enable');
  const read = async () => {
    const { metrics } = await cdp.send('Performance.getMetrics');
    const script = metrics.find((m) => m.name === 'ScriptDuration')?.value ?? 0;
    return { script, ...(await page.evaluate(() => globalThis.commitCounts)) };
  };
  const before = await read();
  await page.waitForTimeout(1000 * SECONDS);
  const after = await read();
  const at = await say.textContent();
  await browser.close();
  const per = (name) => (after[name] - before[name]) / SECONDS;
  const round = (x) => Number(x.toPrecision(3));
  return {
    at,
    samples_per_s: SAMPLES_HZ,
    commits_per_s: round(per('commits')),
    components_standing: after.standing,
    components_drawn_per_sample: round(per('worked') / SAMPLES_HZ),
    share_drawn_per_sample: round(per('worked') / SAMPLES_HZ / after.standing),
    script_share_of_a_core: round(per('script')),
  };
}
