import { createWriteStream, mkdtempSync, writeFileSync } from 'node:fs';
import { once } from 'node:events';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect, signIn, test } from './person.ts';

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
  await expect(page.locator('.trace-tools')).toContainText('122.1 s of 138.9 h');
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('Home');
  await expect(page.locator('.trace-tools')).toContainText('138.9 h of 138.9 h');
});

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
  await page.getByLabel('Its pressures are in').click();
  await page.getByRole('option', { name: 'bar', exact: true }).click();
  await expect(page.getByText('2,999 samples')).toBeVisible();
  await page.getByText('1 lines could not be read').click();
  await expect(page.getByText('Line 702: "broken" is not a pressure.')).toBeVisible();
  const empty = join(dir, 'empty.csv');
  writeFileSync(empty, '');
  await page.getByLabel('Trace file').setInputFiles(empty);
  await expect(page.getByRole('alert')).toContainText('The file is empty.');
});
