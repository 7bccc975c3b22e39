import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { corpus } from '../packages/core/src/trace/reading/testing.ts';
import { workbooks } from '../packages/tables/src/testing.ts';
import { dir, saw, unnamed } from './loggers.ts';
import { expect, followSteps, hurry, signIn, tap, test, type Page } from './person.ts';

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
  await page.getByRole('link', { name: /^tuesday.csv/ }).click();
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
        /can be either|can part thousands|no workbook/,
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

/** A stretch of a logger's day: one reading a second, a wave between two pressures. */
const stretch = (from: number, n: number): string =>
  ['When,Line (psi)']
    .concat(
      Array.from({ length: n }, (_, i) => {
        const at = new Date(Date.UTC(2031, 5, 3, 7) + 1000 * (from + i)).toISOString();
        return `${at.slice(0, 19)},${(46 + 9 * Math.sin((from + i) / 45)).toFixed(2)}`;
      }),
    )
    .join('\n');

test('several files of a day and a workbook are read, told as tables, kept, found by their place and opened by their address', async ({
  page,
  stack,
}) => {
  await signIn(page, stack);
  await page.goto(`${stack.url}/traces`);
  const csv = (name: string, text: string) => ({ name, mimeType: 'text/csv', buffer: Buffer.from(text) });
  const field = page.getByLabel('Trace file');
  // The later one first: they stand in the order of their times.
  await field.setInputFiles([
    csv('afternoon.csv', stretch(1490, 1500)),
    csv('morning.csv', stretch(0, 1500)),
  ]);
  await expect(page.getByText('2,990 samples', { exact: false }).first()).toBeVisible();
  await expect(page.getByRole('list', { name: 'What was assumed' })).toContainText(
    '2 files as one, in the order of their times: morning.csv, afternoon.csv; 10 samples stood in two of them.',
  );
  const figures = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Figures as CSV' }).click();
  const told = await (await figures).path();
  expect((await figures).suggestedFilename()).toBe('afternoon.csv and 1 more figures.csv');
  expect(readFileSync(told, 'utf8')).toMatch(
    /^figure,value,unit,u_expanded,n\r?\ncutIn,37(\.\d+)?,psi,0\.\d+,\d+/,
  );
  const events = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Events as CSV' }).click();
  expect(readFileSync(await (await events).path(), 'utf8')).toMatch(
    /^event,t_s,time,p_psi,u_expanded_psi\r?\ncut/,
  );

  // Two that contradict each other are no trace; nothing of them is drawn.
  await field.setInputFiles([
    csv('one.csv', stretch(0, 300)),
    csv('other.csv', stretch(100, 300).replace(/46/g, '45')),
  ]);
  await expect(page.getByRole('alert')).toContainText('does not say the same');
  await expect(page.locator('.trace-view')).toHaveCount(0);

  const book = workbooks().find((b) => b.name === 'a workbook behind a cover sheet');
  await field.setInputFiles({
    name: 'north log.xlsx',
    mimeType: 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet',
    buffer: Buffer.from(book?.bytes ?? []),
  });
  await expect(page.getByText('40 samples', { exact: false }).first()).toBeVisible();
  await expect(page.getByRole('list', { name: 'What was assumed' })).toContainText('the sheet “Log”');
  await page.getByRole('button', { name: 'Keep it on the server' }).click();
  await expect(page.getByRole('button', { name: 'Kept' })).toBeVisible();

  await page.getByLabel('Find by name or place').fill('north lo');
  const kept = page.locator('.trace-kept li');
  await expect(kept).toHaveCount(1);
  await page.goto(`${stack.url}/traces`);
  await kept.filter({ hasText: 'north log.xlsx' }).getByRole('link').click();
  await expect(page).toHaveURL(/\/traces\/[0-9a-f-]{36}$/);
  await page.reload();
  await expect(page.getByText('40 samples', { exact: false }).first()).toBeVisible();
  await expect(page.locator('.trace-open')).toContainText('north log.xlsx');
  // A file of one's own leaves it.
  await field.setInputFiles(csv('own.csv', stretch(0, 700)));
  await expect(page).toHaveURL(/\/traces$/);
  await expect(page.getByText('700 samples', { exact: false }).first()).toBeVisible();
});

test('reading a long file is stopped with one press, and a line without an end is refused', async ({
  page,
  stack,
}) => {
  await signIn(page, stack);
  await page.goto(`${stack.url}/traces`);
  const field = page.getByLabel('Trace file');
  await field.setInputFiles(await saw('to-stop.csv', 4_000_000, 37.5, 58.5));
  await page.getByRole('button', { name: 'Stop reading' }).click();
  await expect(page.getByRole('progressbar', { name: 'Reading the file' })).toHaveCount(0);
  await expect(page.locator('.trace-view')).toHaveCount(0);
  const path = join(dir, 'endless.csv');
  writeFileSync(
    path,
    `Time (s),psi\n${Array.from({ length: 3000 }, (_, i) => `${i},50`).join('\n')}\n3000,${'5'.repeat(50_000_000)}`,
  );
  await field.setInputFiles(path);
  await expect(page.getByRole('alert')).toContainText('does not end within 1,048,576 characters');
});
