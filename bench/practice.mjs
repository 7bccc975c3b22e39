// Practice: how fast every rig runs beside life, what a draw and a debrief cost, what the script comes to at bare, and what always
// saying the same is worth.
import { chromium } from '@playwright/test';
import { join } from 'node:path';
import { ROOT } from '../bin/lib/tools.mjs';
import { core } from './parts.mjs';
import { installed } from './installations.mjs';
import { round } from './technician.mjs';

const practice = await import(join(ROOT, 'packages/core/dist/practice/index.js'));

const STEP_S = 0.01;
const SAMPLE_STEPS = 5;
const RIG_S = 600;

/** A rig as it runs in practice: stepped at 100 Hz, every gauge looked at 20 times a second. */
function paceOf(ex) {
  const draw = practice.drawFrom(ex, { seed: 3, level: 1 });
  const rig = practice.rigOfDraw(ex, draw);
  const slots = ex.family.slots.map((s) => s.id);
  const from = performance.now();
  for (let i = 1; i <= RIG_S / STEP_S; i++) {
    rig.step(STEP_S);
    if (i % SAMPLE_STEPS === 0) for (const s of slots) rig.gauge(s);
  }
  return RIG_S / ((performance.now() - from) / 1000);
}

/** @param seeds of each variant and level */
export async function practiceFigures(seeds = 4) {
  const figures = { simulatedSecondsPerSecond: {}, levels: {}, drawMs: [], debriefMs: [] };
  for (const [id, kit] of installed()) {
    const family = await core.loadFamily(id);
    const first = practice.exerciseOf(family, kit, kit.variants[0].name);
    figures.simulatedSecondsPerSecond[id] = Math.round(paceOf(first));
    for (const { name } of kit.variants) {
      const ex = practice.exerciseOf(family, kit, name);
      for (const level of [1, 2, 3, 4]) {
        const row = (figures.levels[level] ??= { runs: 0, sound: 0, dangerous: 0, unlucky: 0, k: 0 });
        for (let seed = 1; seed <= seeds; seed++) {
          const from = performance.now();
          const draw = practice.drawFrom(ex, { seed: seed * 7727, level });
          const drawn = performance.now();
          const run = practice.scriptedRecord(ex, draw);
          const worked = performance.now();
          const told = practice.debriefOf(ex, draw, run);
          figures.drawMs.push(drawn - from);
          figures.debriefMs.push(performance.now() - worked);
          row.runs++;
          row.k += told.k ?? 100;
          if (told.word.startsWith('sound')) row.sound++;
          if (told.word === 'dangerous') row.dangerous++;
          if (told.unlucky) row.unlucky++;
        }
      }
    }
  }
  for (const row of Object.values(figures.levels)) row.k = round(row.k / row.runs);
  const middle = (all) => all.sort((a, b) => a - b)[all.length >> 1];
  figures.drawMs = Math.round(middle(figures.drawMs));
  figures.debriefMs = Math.round(middle(figures.debriefMs));
  figures.slowestRig = Math.min(...Object.values(figures.simulatedSecondsPerSecond));
  return figures;
}

const SECONDS = 20;

/** What a run costs the browser at 20 samples a second: the page and the rig's worker, of one core. */
export async function practiceScreenFigures(stack) {
  const browser = await chromium.launch({
    executablePath: process.env.CHROMIUM ?? '/usr/bin/chromium-headless-shell',
    args: ['--no-sandbox', '--disable-gpu'],
  });
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  await page.goto(`${stack.url}/sign-in`);
  await page.getByLabel('Name').fill('marrable');
  await page.getByLabel('Password').fill('ostrey-demo');
  await page.getByRole('button', { name: 'Sign in' }).click();
  await page.getByRole('heading', { name: 'Today' }).waitFor();
  await page.goto(`${stack.url}/practice`);
  await page.getByRole('button', { name: 'Begin', exact: true }).click();
  await page.getByRole('button', { name: /^Read and understood/ }).waitFor();
  // Past the cautions the strip is drawn.
  await page.waitForTimeout(1500);
  await page.getByRole('button', { name: /^Read and understood/ }).click();
  await page.waitForTimeout(1500);
  const cdp = await browser.newBrowserCDPSession();
  const cpu = async () => {
    const { processInfo } = await cdp.send('SystemInfo.getProcessInfo');
    // Script, layout and worker of the page: its renderer.
    return processInfo.filter((p) => p.type === 'renderer').reduce((a, p) => a + p.cpuTime, 0);
  };
  const before = await cpu();
  await page.waitForTimeout(1000 * SECONDS);
  const used = (await cpu()) - before;
  await browser.close();
  return { samples_hz: 20, partOfACore: round(used / SECONDS) };
}
