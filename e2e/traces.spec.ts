import { createWriteStream, mkdtempSync, writeFileSync } from 'node:fs';
import { once } from 'node:events';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { corpus } from '../packages/core/src/trace/reading/testing.ts';
import { expect, followSteps, hurry, signIn, tap, test, type Page } from './person.ts';

const dir = mkdtempSync(join(tmpdir(), 'fn-traces-'));

/** A saw of a pump's cycles between two pressures, ten samples a second, with a little noise. */
async function saw(name: string, samples: number, cutIn: number, cutOut: number): Promise<string> {
  const path = join(dir, name);
  const file = createWriteStream(path);
  let text = 't_s,p_psi\n';
  let p = cutIn + 3;
  let rising = false;
  let noise = 1;
  for (let i = 0; i < samples; i++) {
    p += rising ? 0.032 : -0.021;
    if (p <= cutIn) rising = true;
    else if (p >= cutOut) rising = false;
    noise = (noise * 16807) % 2147483647;
    text += `${(i / 10).toFixed(1)},${(p + (noise / 2147483647 - 0.5) * 0.2).toFixed(2)}\n`;
    if (text.length > 1 << 20) {
      if (!file.write(text)) await once(file, 'drain');
      text = '';
    }
  }
  file.end(text);
  await once(file, 'finish');
  return path;
}

test('a file of five million samples is read, drawn, moved through and told in figures', async ({
  page,
  stack,
}) => {
  const path = await saw('five-million.csv', 5_000_000, 37.5, 58.5);
  await signIn(page, stack);
  await page.getByRole('link', { name: 'Traces', exact: true }).click();
  await page.getByLabel('Trace file').setInputFiles(path);
  await expect(page.getByText('5,000,000 samples')).toBeVisible({ timeout: 120_000 });
  const figure = (title: string) => page.locator('.trace-figures div', { hasText: title }).locator('dd');
  await expect(figure('Cut-in')).toContainText(/^37\.\d+ ± 0\.0\d+ psi$/);
  await expect(figure('Cut-out')).toContainText(/^58\.\d+ ± 0\.0\d+ psi$/);
  await expect(figure('Differential')).toContainText(/^2[01]\.\d/);
  // It answers the keys at once, however long it is.
  const view = page.getByRole('img', { name: /Trace of 5000000 samples/ });
  await view.focus();
  for (let i = 0; i < 12; i++) await page.keyboard.press('+');
  await expect(page.locator('.trace-view .trace-tools')).toContainText('122.1 s of 138.9 h');
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('Home');
  await expect(page.locator('.trace-view .trace-tools')).toContainText('138.9 h of 138.9 h');
});

/** Says the unit of the second column, which is taken for the pressures. */
async function nameColumns(page: Page, unit: string): Promise<void> {
  await page.getByLabel('Its unit').click();
  await page.getByRole('option', { name: unit, exact: true }).click();
  await page.getByRole('button', { name: 'Read it with these columns' }).click();
}

const figureOf = (page: Page, title: string) =>
  page.locator('.trace-figures div', { hasText: title }).locator('dd').first();

test('a file without units is asked about, and one that is none is refused with its reason', async ({
  page,
  stack,
}) => {
  await signIn(page, stack);
  await page.goto(`${stack.url}/traces`);
  const rows = Array.from(
    { length: 3000 },
    (_, i) => `${i};${(3 + Math.sin(i / 40)).toFixed(3).replace('.', ',')}`,
  );
  rows[700] = '700;broken';
  const path = join(dir, 'no-unit.csv');
  writeFileSync(path, ['time;value', ...rows].join('\n'));
  await page.getByLabel('Trace file').setInputFiles(path);
  await expect(page.getByRole('alert')).toContainText('does not say its unit');
  await nameColumns(page, 'bar');
  await expect(page.getByText('2,999 samples')).toBeVisible();
  await page.getByText('1 lines could not be read').click();
  await expect(page.getByText('Line 702: "broken" is not a pressure.')).toBeVisible();
  const empty = join(dir, 'empty.csv');
  writeFileSync(empty, '');
  await page.getByLabel('Trace file').setInputFiles(empty);
  await expect(page.getByRole('alert')).toContainText('The file is empty.');
});

/** Cycles between 30 and 50 as a logger writes them that says neither what it measured nor in what. */
function unnamed(name: string, cutIn = 30): string {
  const rows: string[] = [];
  let [p, rising] = [cutIn + 2, false];
  for (let i = 0; i < 9000; i++) {
    p += rising ? 0.03 : -0.02;
    if (p <= cutIn) rising = true;
    else if (p >= 50) rising = false;
    rows.push(`${i / 10};20;${p.toFixed(2)}`);
  }
  const path = join(dir, name);
  writeFileSync(path, ['Elapsed;Room;Port 1', ...rows].join('\n'));
  return path;
}

test('columns are named once, an event is corrected by hand, and the trace is kept over a broken line', async ({
  page,
  stack,
}) => {
  await signIn(page, stack);
  await page.goto(`${stack.url}/traces`);
  await page.getByLabel('Trace file').setInputFiles(unnamed('monday.csv'));
  await expect(page.getByRole('heading', { name: 'What are its columns?' })).toBeVisible();
  // The guess took the room's temperature; the third column is what was measured.
  await page.getByLabel('Column 3').click();
  await page.getByRole('option', { name: 'Pressure', exact: true }).click();
  await nameColumns(page, 'psi');
  await expect(figureOf(page, 'Cut-in')).toContainText(/^(29\.9|30\.0)\d* ± /);

  // The next file of this logger is read without a question.
  await page.getByLabel('Trace file').setInputFiles(unnamed('tuesday.csv', 32));
  await expect(figureOf(page, 'Cut-in')).toContainText(/^(31\.9|32\.0)\d* ± /);
  await expect(page.getByRole('heading', { name: 'What are its columns?' })).toHaveCount(0);

  // An event is taken out by hand; the figure is made anew.
  const of = async (): Promise<number> =>
    Number(
      /of (\d+)/.exec(
        (await page.locator('.trace-figures dt', { hasText: 'Cut-in' }).textContent()) ?? '',
      )?.[1],
    );
  const before = await of();
  await page.getByRole('button', { name: 'Next event' }).click();
  await expect(page.getByRole('status').filter({ hasText: 'Cut-in' })).toBeVisible();
  await page.getByRole('button', { name: 'It was none' }).click();
  await page.getByLabel('Why').fill('somebody leaned on the gauge');
  await page.getByRole('button', { name: 'Keep the correction' }).click();
  await expect.poll(of).toBe(before - 1);

  // Sending stops where the server dies and goes on from there.
  await stack.killServer();
  await page.getByRole('button', { name: 'Keep it on the server' }).click();
  await expect(page.getByRole('alert')).toContainText('goes on from where it stopped');
  await stack.startServer();
  await page.getByRole('button', { name: 'Go on sending' }).click();
  await expect(page.getByRole('button', { name: 'Kept' })).toBeVisible();

  // Opened again from the server it is the same trace, with what was said of it.
  await page.reload();
  await page.getByRole('button', { name: 'tuesday.csv' }).click();
  await expect(figureOf(page, 'Cut-in')).toContainText(/^(31\.9|32\.0)\d* ± /);
  await expect.poll(of).toBe(before - 1);
});

test('a sample ships with the page and is read without a file of one’s own', async ({ page, stack }) => {
  await signIn(page, stack);
  await page.goto(`${stack.url}/traces`);
  await page.getByRole('button', { name: 'Try a sample' }).click();
  // Its column is in pascals, and is said in a unit that reads well.
  await expect(figureOf(page, 'Cut-in')).toContainText(/^26\d\.\d+ ± .* kPa$/);
  await expect(figureOf(page, 'Cut-out')).toContainText(/^37\d\.\d+ ± .* kPa$/);
});

test('a serial gauge fills the strip, and cut-in and cut-out are taken from its trace with one press each', async ({
  page,
  stack,
}) => {
  await signIn(page, stack);
  await page.getByRole('link', { name: 'Sites' }).click();
  await page.getByRole('link', { name: 'Borehole pump switch', exact: true }).click();
  await page.getByRole('button', { name: 'Simulated serial gauge' }).click();
  await page.getByRole('button', { name: 'Start the job' }).click();
  await tap(page, /Read and understood/);
  await hurry(page, 10);
  await tap(page, /^Zero .*carry it/);
  // The other place has no cable: its gauge is typed.
  await tap(page, /It reads zero/);
  await tap(page, /^Done/);
  for (const title of ['cut-in', 'cut-out']) {
    await expect(page.locator('.move-say')).toContainText(`: ${title}.`, { timeout: 60_000 });
    const take = page.getByRole('button', { name: /^Take \d+\.\d from the trace$/ });
    await take.click({ timeout: 120_000 });
  }
  // What was taken stands in the log with its samples, as read from a live gauge.
  const job = /jobs\/([0-9a-f-]+)/.exec(page.url())?.[1] ?? '';
  await expect(async () => {
    const events = await page.evaluate(async (id) => {
      const page = (await (await fetch(`/api/v1/jobs/${id}/events`)).json()) as {
        items: { event: { body: { kind: string; state?: string; excerpt?: unknown[] } } }[];
      };
      return page.items.map((i) => i.event.body);
    }, job);
    const taken = events.filter((e) => e.kind === 'read');
    expect(taken.map((e) => e.state)).toEqual(['caught', 'caught']);
    for (const e of taken) expect(e.excerpt?.length ?? 0).toBeGreaterThan(10);
  }).toPass({ timeout: 15_000 });
});

test('a logger’s file is read on a job and its figures are taken as readings', async ({ page, stack }) => {
  await signIn(page, stack);
  await page.getByRole('link', { name: 'Sites' }).click();
  await page.getByRole('link', { name: 'Propagation pump switch', exact: true }).click();
  await page.getByRole('button', { name: 'Simulated rig' }).click();
  await page.getByRole('button', { name: 'Start the job' }).click();
  await expect(page.getByRole('button', { name: /Read and understood/ })).toBeVisible();
  await hurry(page);
  await followSteps(page, (say) => say.includes(': cut-in.'));
  await page.getByRole('button', { name: 'More' }).click();
  await page.getByRole('menuitem', { name: 'Read a logger’s file' }).click();
  await page.getByLabel('Trace file').setInputFiles(await saw('logged.csv', 6000, 31.5, 51.5));
  await page.getByRole('button', { name: 'Take it as the cut-in' }).click();
  await page.getByRole('button', { name: 'Take it as the cut-out' }).click();
  await expect(page.getByText('The file is kept with the job.')).toBeVisible();
  await page.getByRole('button', { name: 'Back to the job' }).click();
  const row = (title: string) => page.locator('.sheet-table tr', { hasText: title });
  await expect(row('Cut-in')).toContainText('31.');
  await expect(row('Cut-out')).toContainText('51.');
});

test('ten files as loggers write them are read right, told how, or asked about', async ({ page, stack }) => {
  await signIn(page, stack);
  await page.goto(`${stack.url}/traces`);
  const names = [
    'semicolon and decimal comma',
    'absolute, by its name',
    'a vacuum above nought',
    'milliseconds since 1970',
    'the newest first',
    'setpoint and actual',
    'no reading as 999.9',
    'a long preamble',
    'two bytes a character, unmarked',
    'days that can be either',
    'a comma that can be either',
    'a workbook',
  ];
  for (const file of corpus().filter((f) => names.includes(f.name))) {
    await page.getByLabel('Trace file').setInputFiles({
      name: `${file.name}.csv`,
      mimeType: 'text/csv',
      buffer: Buffer.from(file.bytes),
    });
    const { expected } = file;
    if ('refused' in expected) {
      await expect(page.getByRole('alert'), file.name).toContainText(
        /can be either|can part thousands|not a table/,
      );
      continue;
    }
    await expect(page.getByText(`${expected.n} samples`), file.name).toBeVisible();
    const said = page.getByRole('list', { name: 'What was assumed' });
    if (expected.says) await expect(said.getByRole('listitem').first(), file.name).toBeVisible();
  }
  // What can be either is said among its columns, and read so.
  const either = corpus().find((f) => f.name === 'days that can be either');
  await page.getByLabel('Trace file').setInputFiles({
    name: 'either.csv',
    mimeType: 'text/csv',
    buffer: Buffer.from(either?.bytes ?? []),
  });
  await page.getByLabel('Dates', { exact: true }).click();
  await page.getByRole('option', { name: 'month before day' }).click();
  await page.getByRole('button', { name: 'Read it with these columns' }).click();
  await expect(page.getByText('90 samples')).toBeVisible();
});
