#!/usr/bin/env node
// npm run shots: the current picture of every main view, from the demo data, into docs/screenshots.
import { chromium } from '@playwright/test';
import { spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { ROOT } from '../bin/lib/tools.mjs';
import { followRun } from './followRun.mjs';
import { startStack } from './stack.mjs';

const stack = await startStack();
const browser = await chromium.launch({
  executablePath: process.env.CHROMIUM ?? '/usr/bin/chromium-headless-shell',
  args: ['--no-sandbox', '--disable-gpu'],
});
const to = (name) => join(ROOT, 'docs/screenshots', `${name}.png`);

async function open(width, height, theme) {
  const context = await browser.newContext({ viewport: { width, height } });
  await context.addInitScript(
    (t) => localStorage.setItem('firm-needle-ui', JSON.stringify({ theme: t })),
    theme,
  );
  const page = await context.newPage();
  await page.goto(`${stack.url}/sign-in`);
  return page;
}

async function signIn(page, login = 'marrable') {
  await page.getByLabel('Name').fill(login);
  await page.getByLabel('Password').fill('ostrey-demo');
  await page.getByRole('button', { name: 'Sign in' }).click();
  await page.getByRole('heading', { name: 'Today' }).waitFor();
}

const shot = async (page, name, full = false) => {
  await page.evaluate(() => document.fonts.ready);
  await page.waitForTimeout(500);
  await page.screenshot({ path: to(name), fullPage: full });
};

const taken = async (page, name) => {
  await page.evaluate(() => document.fonts.ready);
  await page.waitForTimeout(700);
  return [name, (await page.screenshot()).toString('base64')];
};

/** Several pictures side by side in one, each with its name. */
async function side(page, name, shots, columns, width) {
  const sheet = await page.context().newPage();
  await sheet.setViewportSize({ width: columns * (width + 16) + 16, height: 200 });
  await sheet.setContent(
    `<body style="margin:16px;display:grid;grid-template-columns:repeat(${columns},1fr);gap:16px;background:#f2eee3;font:600 18px sans-serif">${shots
      .map(
        ([title, png]) =>
          `<figure style="margin:0"><img width="${width}" style="border:1px solid #b3a68c" src="data:image/png;base64,${png}"><figcaption>${title}</figcaption></figure>`,
      )
      .join('')}</body>`,
  );
  await sheet.screenshot({ path: to(name), fullPage: true });
  await sheet.close();
}

/** In the page: answers what the bench shows, or else takes the main button, once what is to be watched was watched. */
function press(say) {
  if (document.querySelector('.move-say')?.textContent !== say) return true;
  const clock = document.querySelector('.clock')?.textContent ?? '';
  const seen = [...document.querySelectorAll('.bench span')]
    .map((s) => s.textContent ?? '')
    .find((text) => text.startsWith('You would see: '))
    ?.replace('You would see: ', '');
  if (/ s to watch/.test(clock) || (/Watched long enough/.test(clock) && !seen)) return false;
  const buttons = [...document.querySelectorAll('.acts button:not([disabled])')];
  const answer = seen && buttons.find((b) => (b.textContent ?? '').toLowerCase().startsWith(seen));
  const chosen = answer || buttons.find((b) => b.classList.contains('primary'));
  chosen?.click();
  return chosen !== undefined;
}

/** Follows the steps on a hurried rig until one holds; then lets the needle run at its own pace. */
async function follow(page, until) {
  const speed = (n) => page.evaluate((s) => window.firmNeedleRig?.setSpeed(s), n);
  await page.waitForFunction(() => 'firmNeedleRig' in window);
  await speed(60);
  for (let i = 0; i < 150; i++) {
    if (page.url().endsWith('/sheet')) return;
    const say = await page.locator('.move-say').textContent();
    if (until(say)) break;
    await page.waitForFunction(press, say, { timeout: 90000, polling: 100 });
    await page.waitForTimeout(150);
  }
  await speed(20);
}

async function startJob(page) {
  const path = await page.evaluate(async () => {
    for (const v of (await (await fetch('/api/v1/visits')).json()).items)
      for (const c of v.controls)
        if (c.name === 'Borehole pump switch') return `/controls/${c.id}?visit=${v.id}`;
  });
  await page.goto(stack.url + path);
  await page.getByRole('button', { name: 'Start the job' }).waitFor();
}

const wide = await open(1280, 800, 'daylight');
await shot(wide, 'sign-in');
await signIn(wide);
await shot(wide, 'today');
await wide.goto(`${stack.url}/gauges`);
await wide.getByText('W-07').waitFor();
const gauges = [await taken(wide, 'The firm’s gauges')];
await wide.getByRole('link', { name: 'M-04' }).click();
await wide.getByText('Zero, as it was found at each job').waitFor();
await wide.waitForTimeout(800);
gauges.push(await taken(wide, 'A gauge: its errors, its zero over the years'));
await side(wide, 'gauges', gauges, 2, 796);
await wide.goto(`${stack.url}/gauges`);
await wide.getByRole('link', { name: 'H-41' }).click();
await wide.getByRole('button', { name: 'Check this gauge' }).click();
await wide.getByRole('button', { name: 'Start the job' }).click();
await follow(wide, (say) => say.startsWith('Tap H-41'));
await wide.waitForTimeout(6000);
await shot(wide, 'gauge-check');
await wide.goto(`${stack.url}/reckoner`);
await wide.getByText('Head of water').waitFor();
await shot(wide, 'reckoner', true);
const csv = join(mkdtempSync(join(tmpdir(), 'fn-shots-')), 'borehole-logger.csv');
spawnSync(process.execPath, [
  join(ROOT, 'bin/needle.mjs'),
  ...'simulate well-switch --seed 5 --seconds 700 --rate 10 --scenario drain-down --out'.split(' '),
  csv,
]);
await wide.goto(`${stack.url}/traces`);
const unnamed = join(mkdtempSync(join(tmpdir(), 'fn-shots-')), 'pump-house.csv');
writeFileSync(
  unnamed,
  [
    'Elapsed;Room;Port 1',
    ...Array.from(
      { length: 400 },
      (_, i) => `${i / 10};18,5;${(2.4 + i / 900).toFixed(2).replace('.', ',')}`,
    ),
  ].join('\n'),
);
await wide.getByLabel('Trace file').setInputFiles(unnamed);
await wide.getByRole('heading', { name: 'What are its columns?' }).waitFor();
const traces = [await taken(wide, 'A file whose columns are named once')];
await wide.getByLabel('Trace file').setInputFiles(csv);
await wide.getByText('samples,').first().waitFor();
traces.push(await taken(wide, 'What was found in it'));
await side(wide, 'traces', traces, 2, 796);
// The work screen of every other kind of control, side by side.
const FAMILIES = [
  ['Heater flow switch', (say) => say.includes('to the middle')],
  ['Unloader', (say) => say.startsWith('Unloader handle')],
  ['Cistern reducing valve', (say) => say.startsWith('Watch the outlet gauge')],
  ['Constant-pressure drive', (say) => say.includes('own display show')],
  ['Main relief', (say) => say.startsWith('Watch the outlet for a minute')],
  ['Operating pressure control', (say) => say.startsWith('Pump slowly')],
  ['Low-pressure switch', (say) => say.startsWith('Shut the liquid valve')],
  ['Shed air supply', (say) => say.startsWith('Hold on.')],
  ['Heater gas regulator', (say) => say.startsWith('Bulb on the tee')],
  ['First stage 1', (say) => say.startsWith('Hands off still')],
  ['Second stage 2', (say) => say.startsWith('Purge held')],
];
const shots = [];
for (const [name, until] of FAMILIES) {
  await wide.goto(`${stack.url}/sites`);
  await wide.getByRole('link', { name, exact: true }).click();
  await wide.getByRole('button', { name: 'Start the job' }).click();
  await wide.getByRole('button', { name: /Read and understood/ }).waitFor();
  await follow(wide, until);
  await wide.waitForTimeout(800);
  shots.push([name, (await wide.screenshot()).toString('base64')]);
}
await side(wide, 'families', shots, 2, 796);
await startJob(wide);
await shot(wide, 'plan', true);
await wide.getByRole('button', { name: 'Start the job' }).click();
await follow(wide, (say) => say.startsWith('Range nut'));
await shot(wide, 'turn');
await wide.getByText('How sure').first().click();
await shot(wide, 'budget');
let reads = 0;
await follow(wide, (say) => say.startsWith('Draw slowly') && ++reads > 0);
await wide.waitForTimeout(3500);
await shot(wide, 'work');
await follow(wide, () => false);
await wide.getByText(/Record whole/).waitFor();
await shot(wide, 'sheet', true);

// What is handed over: the sheet and the tag as printed, the link, a file that is read in.
const job = /jobs\/([0-9a-f-]+)/.exec(wide.url())?.[1];
const printed = async (title, path) => {
  const dir = mkdtempSync(join(tmpdir(), 'fn-shots-'));
  const file = join(dir, 'paper.pdf');
  const asked = await wide.context().request.get(`${stack.url}/api/v1${path}`);
  writeFileSync(file, await asked.body());
  spawnSync('pdftoppm', ['-r', '110', '-png', '-singlefile', file, join(dir, 'paper')]);
  return [title, readFileSync(join(dir, 'paper.png')).toString('base64')];
};
const { controlId } = await (await wide.context().request.get(`${stack.url}/api/v1/jobs/${job}`)).json();
const handed = [
  await printed('The sheet on paper', `/jobs/${job}/sheet.pdf`),
  await printed('The tag', `/controls/${controlId}/tag.pdf`),
];
await wide.getByRole('button', { name: 'Share a link' }).click();
await wide.getByRole('button', { name: 'Make the link' }).click();
await wide.getByLabel('The link, shown this once').waitFor();
handed.push(await taken(wide, 'A link that expires and can be withdrawn'));

// Practice: what is chosen, a step that is picked, the end of a run, its debrief.
async function practise(page, kind, level, help, lesson) {
  await page.goto(`${stack.url}/practice`);
  const choose = async (label, name) => {
    await page.getByLabel(label, { exact: true }).click();
    await page.getByRole('option', { name, exact: true }).click();
  };
  await choose('Kind', kind);
  await page
    .getByRole('button', { name: /^Begin/ })
    .and(page.locator(':enabled'))
    .waitFor();
  if (lesson) await choose('What is hidden', `A lesson: ${lesson}`);
  await page.getByText(level, { exact: true }).first().click();
  await page.getByText(help, { exact: true }).first().click();
}
const begin = async (page) => {
  await page.getByRole('button', { name: /^Begin/ }).click();
  await page.waitForURL(/\/practice\/runs\/[^/]+$/);
  await page.waitForFunction(() => 'firmNeedleRig' in window);
  await page.evaluate(() => window.firmNeedleRig.setSpeed(60));
};
const signRun = async (page, ...presses) => {
  for (const name of presses) await page.getByRole('button', { name, exact: true }).click();
  await page.getByRole('button', { name: 'Sign, and see what was so' }).click();
  await page.getByText(/^Luck: an? /).waitFor({ timeout: 120_000 });
};
const practised = [];
await practise(wide, 'Well pump switch and tank', 'Usual', 'Full', 'low precharge');
await begin(wide);
await followRun(wide);
practised.push(await taken(wide, 'The end of a run: what was wrong, and how sure'));
await signRun(wide, 'Left as found', 'Leaking check valve', 'Sure');
await shot(wide, 'debrief', true);
await practise(wide, 'First stage', 'Hard', 'No next move');
await wide.evaluate(() => window.scrollTo(0, 0));
practised.unshift(await taken(wide, 'What is practised, how hard, with how much help'));
await begin(wide);
await wide.getByText('What comes next?').waitFor();
practised.splice(1, 0, await taken(wide, 'No next move: every step by alphabet'));
await wide.getByRole('button', { name: 'Sign', exact: true }).click();
await signRun(wide, 'Unfinished', 'Nothing wrong', 'A guess');

// The firm's book, as its supervisor has it.
const boss = await open(1280, 800, 'daylight');
await signIn(boss, 'lowmarch');
await boss.goto(`${stack.url}/due`);
await boss.locator('.visit-card').first().waitFor();
await shot(boss, 'due');
const book = [];
await boss.goto(`${stack.url}/sites`);
await boss.getByRole('link', { name: 'Tarn House creamery' }).click();
await boss.getByRole('heading', { name: 'Steam boiler' }).waitFor();
book.push(await taken(boss, 'A site, how to get in, what stands there'));
await boss.getByRole('link', { name: 'Life of Unloader' }).click();
await boss.getByText('open mark: as found').waitFor();
await shot(boss, 'life', true);
await boss.goto(`${stack.url}/new-control`);
await boss.getByText('Washer unloader').waitFor();
book.push(await taken(boss, 'Kinds of control'));
await boss.goto(`${stack.url}/due`);
await boss.getByRole('button', { name: 'Later' }).click();
// Whatever is due by the demo's days: the first control that nobody goes to yet.
await boss
  .locator('.due-list li')
  .filter({ hasNotText: 'Gauge' })
  .getByRole('button', { name: /^Plan/ })
  .first()
  .click();
await boss.getByText('Carry', { exact: true }).waitFor();
book.push(await taken(boss, 'A visit that is planned'));
await boss.goto(`${stack.url}/people`);
await boss.getByText('Tobin Quenby').waitFor();
book.push(await taken(boss, 'People and their permits'));
await boss.goto(`${stack.url}/practice/overview`);
await boss.getByRole('rowheader').first().waitFor();
practised.push(await taken(boss, 'What a supervisor sees: counts, by name'));
await side(boss, 'practice', practised, 2, 796);
await boss.goto(`${stack.url}/people`);
await boss.getByText('Tobin Quenby').waitFor();
await boss.keyboard.press('/');
await boss.getByRole('combobox', { name: 'Find anything' }).fill('tarn');
await boss.getByRole('option').first().waitFor();
book.push(await taken(boss, 'Found by a few letters'));
await boss.goto(`${stack.url}/exchange`);
await boss.getByLabel('File to read in').setInputFiles({
  name: 'northern-round.csv',
  mimeType: 'text/csv',
  buffer: Buffer.from(
    [
      'site,altitude_m,customer,equipment,control,kind,colour',
      'Heron pumping house,"41,5",Water board,Pump 1,Pump switch,well-switch,red',
      'Heron pumping house,,,Pump 2,Pump switch,well-switch,',
      'Heron pumping house,44,,Pump 3,Pump switch,well-switch,',
      'Kelp drying sheds,,,Burner,Regulator,burner-gas,',
      'The Lido,,,Warm pool heater,Second switch,kettle,',
      'The Lido,,,,,,',
    ].join('\n'),
  ),
});
await boss.getByRole('cell', { name: /kettle/ }).waitFor();
handed.push(await taken(boss, 'A file that is read in: every line’s fate'));
await side(boss, 'handover', handed, 2, 796);
const bare = await startStack({ empty: true });
await boss.goto(bare.url);
await boss.getByRole('heading', { name: 'A firm of your own' }).waitFor();
book.push(await taken(boss, 'The first page of an empty installation'));
await bare.stop();
await side(boss, 'book', book, 2, 796);

const phones = [];
const phone = await open(360, 740, 'plant');
await signIn(phone);
await phone.goto(`${stack.url}/reckoner`);
await phone.getByText('Head of water').waitFor();
const reckoner = await taken(phone, 'Reckoner');
await phone.goto(`${stack.url}/sites`);
await phone.getByRole('link', { name: 'Tarn House creamery' }).click();
await phone.getByRole('heading', { name: 'Steam boiler' }).waitFor();
const site = await taken(phone, 'A site');
await phone.getByRole('button', { name: 'More' }).click();
await phone.getByRole('menuitem', { name: 'Traces' }).waitFor();
const more = await taken(phone, 'More');
await startJob(phone);
await phone.getByRole('button', { name: 'Start the job' }).click();
await follow(phone, (say) => say.startsWith('Range nut'));
phones.push(await taken(phone, 'A turn'));
await follow(phone, (say) => say.startsWith('Draw slowly'));
await phone.waitForTimeout(3500);
phones.push(await taken(phone, 'A reading'));
await phone.getByRole('button', { name: 'Type it' }).click();
for (const k of ['1', '2', 'point', '0']) await phone.getByRole('button', { name: k, exact: true }).click();
await phone.getByRole('button', { name: /^Keep/ }).click();
phones.push(await taken(phone, 'The keypad'), reckoner, site, more);
await side(phone, 'phone', phones, 6, 300);

await browser.close();
await stack.stop();
