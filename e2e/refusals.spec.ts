import { expect, followSteps, hurry, key, signIn, startJob, test } from './person.ts';

test('a wrong password says what to do and not which part was wrong', async ({ page, stack }) => {
  await page.goto(`${stack.url}/sign-in`);
  await page.getByRole('button', { name: 'Sign in' }).click();
  await expect(page.getByText('Type your sign-in name.')).toBeVisible();
  await page.getByLabel('Name').fill('osgath');
  await page.getByLabel('Password').fill('guess');
  await page.getByRole('button', { name: 'Sign in' }).click();
  await expect(page.getByRole('alert')).toContainText('That name and password do not belong together.');
  for (let i = 0; i < 8; i++) {
    await page.getByRole('button', { name: 'Sign in' }).click();
    await page.waitForTimeout(120);
  }
  await expect(page.getByRole('alert')).toContainText('Too many tries. Wait five minutes.');
});

test('a plan: forbidden places push back and say why; what follows moves along', async ({ page, stack }) => {
  await signIn(page, stack);
  await page.getByRole('link', { name: 'Sites' }).click();
  await page.getByRole('link', { name: 'Borehole pump switch', exact: true }).click();
  const cutIn = page.getByRole('textbox', { name: 'Cut-in' });
  const cutOut = page.getByRole('textbox', { name: 'Cut-out' });
  const precharge = page.getByRole('textbox', { name: 'Precharge' });
  await cutIn.fill('45');
  await cutIn.press('Enter');
  await expect(cutOut).toHaveValue('65');
  await expect(precharge).toHaveValue('43');
  // Letters, a unit of another kind, off the scale.
  for (const [text, why] of [
    ['high', 'is not a number'],
    ['45 psia', 'absolute'],
    ['900', 'Bounds: 5.0 psi to 150.0 psi'],
  ] as const) {
    await cutIn.fill(text);
    await cutIn.press('Enter');
    await expect(page.locator('.MuiFormHelperText-root', { hasText: why })).toBeVisible();
    await expect(cutIn).toHaveValue(text);
  }
  await cutIn.press('Escape');
  // Precharge above cut-in; a cut-out that comes too near the relief.
  await precharge.fill('50');
  await precharge.press('Enter');
  await expect(page.getByRole('status').filter({ hasText: 'above cut-in' })).toBeVisible();
  await precharge.press('Escape');
  await cutIn.fill('60');
  await cutIn.press('Enter');
  await expect(page.getByRole('status').filter({ hasText: '10 psi is the least' })).toBeVisible();
  await cutIn.press('Escape');
  // Cut-out at or below cut-in, where both points are set.
  await page.getByLabel('School of practice').click();
  await page.getByRole('option', { name: 'Set both points' }).click();
  await cutOut.fill('40');
  await cutOut.press('Enter');
  await expect(page.getByRole('status').filter({ hasText: 'is not above cut-in' })).toBeVisible();
  await cutOut.press('Escape');
  // A relief below cut-out, on the plate.
  await page.getByRole('button', { name: 'Correct it' }).click();
  await page.getByLabel('Relief opens').fill('60');
  await page.getByLabel('Relief opens').press('Enter');
  await expect(
    page.locator('.MuiFormHelperText-root', { hasText: 'The relief opens at 60.0 psi' }),
  ).toBeVisible();
  // By the arrow keys, as by the mouse.
  const grip = page.getByRole('slider', { name: 'Cut-in' });
  await grip.focus();
  await page.keyboard.press('ArrowUp');
  await expect(grip).toHaveAttribute('aria-valuetext', '45.5 psi');
  for (let i = 0; i < 8; i++) await page.keyboard.press('PageUp');
  await expect(page.getByRole('status').filter({ hasText: /relief|not above|above cut-in/ })).toBeVisible();
});

test('a plan mark is dragged with the mouse', async ({ page, stack }) => {
  await signIn(page, stack);
  await page.getByRole('link', { name: 'Sites' }).click();
  await page.getByRole('link', { name: 'Borehole pump switch', exact: true }).click();
  const grip = page.getByRole('slider', { name: 'Cut-out' });
  const box = await grip.boundingBox();
  if (!box) throw new Error('no grip');
  const [x, y] = [box.x + box.width - 30, box.y + box.height / 2];
  await page.mouse.move(x, y);
  await page.mouse.down();
  await page.mouse.move(x, y + 30, { steps: 6 });
  await page.mouse.up();
  await expect(page.getByRole('textbox', { name: 'Cut-out' })).not.toHaveValue('63');
  const [low, high] = await Promise.all(
    ['Cut-in', 'Cut-out'].map((n) => page.getByRole('textbox', { name: n }).inputValue()),
  );
  expect(Number(high) - Number(low)).toBeCloseTo(20, 5);
});

test('a reading that does not fit is questioned, one that the gauge cannot show is refused', async ({
  page,
  stack,
}) => {
  await signIn(page, stack);
  await startJob(page);
  await hurry(page);
  await followSteps(page, (say) => say.startsWith('Stop the draw'));
  await key(page, 'k');
  await page.keyboard.type('400');
  await key(page, 'Enter');
  await expect(page.getByRole('alert')).toContainText('Its scale is 0–150 psi');
  for (let i = 0; i < 3; i++) await page.keyboard.press('Backspace');
  await page.keyboard.type('6.2');
  await key(page, 'Enter');
  await expect(page.getByRole('alert')).toContainText('6.2? The plan says 63.0. Did you mean 62.0?');
  await page.getByRole('button', { name: 'Make it 62.0' }).click();
  await expect(page.locator('.walk-step.done').last()).toContainText(/6[12]\.\d/);
});

test('a turn of one’s own that could reach the relief is refused, and so is signing with the precharge due', async ({
  page,
  stack,
}) => {
  await signIn(page, stack);
  await startJob(page);
  await hurry(page);
  await followSteps(page, (say) => say.startsWith('Range nut'));
  await page.getByRole('button', { name: 'Other amount' }).click();
  const amount = page.getByLabel('How many turns');
  const why = page.locator('.MuiFormHelperText-root');
  await amount.fill('eleven');
  await page.getByRole('button', { name: 'Turned it' }).click();
  await expect(why).toContainText('is not a number');
  await amount.fill('11/2');
  await page.getByRole('button', { name: 'Turned it' }).click();
  await expect(why).toContainText('Leave a space');
  await amount.fill('9');
  await page.getByRole('button', { name: 'Turned it' }).click();
  await expect(why).toContainText('more than one sensible step');
  await page.getByRole('button', { name: 'Back', exact: true }).click();
  await key(page, 't');
  // Leave with cut-in moved: "set" is refused while the precharge is due.
  await page.getByRole('button', { name: 'More' }).click();
  await page.getByRole('menuitem', { name: 'End the job here' }).click();
  await page.getByLabel('Why').fill('no light left');
  await page.getByRole('button', { name: 'End it here' }).click();
  await followSteps(page, (say) => say.startsWith('All steps done'));
  await page.getByRole('button', { name: 'Set and proved' }).click();
  await expect(page.getByRole('alert').filter({ hasText: 'Precharge is due' })).toBeVisible();
  await expect(page.getByRole('button', { name: /^Sign as/ })).toBeDisabled();
  await page.getByRole('button', { name: 'Unfinished' }).click();
  await expect(page.getByRole('button', { name: /^Sign as/ })).toBeEnabled();
});

test('a job is started once, however often the button is pressed', async ({ page, stack }) => {
  await signIn(page, stack);
  await page.getByRole('link', { name: 'Sites' }).click();
  await page.getByRole('link', { name: 'Propagation pump switch', exact: true }).click();
  const jobs = async (): Promise<number> =>
    page.evaluate(
      async (id) => {
        const control = (await (await fetch(`/api/v1/controls/${id}`)).json()) as { jobs: unknown[] };
        return control.jobs.length;
      },
      /controls\/([\w-]+)/.exec(page.url())?.[1] ?? '',
    );
  await expect(page.getByText('Rating plate')).toBeVisible();
  const before = await jobs();
  const control = page.url();
  await page.getByRole('button', { name: 'Start the job' }).dblclick();
  await expect(page.getByRole('button', { name: /Read and understood/ })).toBeVisible();
  await expect(page.getByText(/^all \d+ sent$/)).toBeVisible();
  await page.goto(control);
  await expect.poll(jobs).toBe(before + 1);
});
