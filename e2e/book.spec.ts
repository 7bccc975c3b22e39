import { expect, signIn, test, type Page } from './person.ts';

const dialog = (page: Page) => page.getByRole('dialog');

test('two who change one site: the second is shown what the first made of it, and decides', async ({
  device,
  stack,
}) => {
  const open = async (): Promise<Page> => {
    const page = await device();
    await signIn(page, stack, 'lowmarch');
    await page.goto(`${stack.url}/sites`);
    await page.getByRole('link', { name: 'The Lido' }).click();
    await page.getByRole('button', { name: 'Change' }).first().click();
    return page;
  };
  const [one, two] = [await open(), await open()];
  const contact = (page: Page) => dialog(page).getByLabel('Contact');
  await contact(one).fill('The elder attendant');
  await one.getByRole('button', { name: 'Keep the site' }).click();
  await expect(dialog(one)).toHaveCount(0);
  await contact(two).fill('The younger attendant');
  await two.getByRole('button', { name: 'Keep the site' }).click();
  await expect(dialog(two).getByText('Somebody changed this meanwhile.')).toBeVisible();
  await expect(
    dialog(two).getByText('theirs: The elder attendant · yours: The younger attendant'),
  ).toBeVisible();
  await two.getByRole('button', { name: 'Keep mine over it' }).click();
  await expect(dialog(two)).toHaveCount(0);
  await expect(two.getByText('The younger attendant')).toBeVisible();
  // Another who had it open takes theirs, and nothing of it is written over.
  await one.getByRole('button', { name: 'Change' }).first().click();
  await contact(one).fill('Nobody');
  await one.getByRole('button', { name: 'Keep the site' }).click();
  await dialog(one).getByRole('button', { name: 'Take theirs' }).click();
  await expect(contact(one)).toHaveValue('The younger attendant');
});

test('what is due is carried onto a day by mouse and planned; a visit is moved and cancelled with its reason', async ({
  page,
  stack,
}) => {
  await signIn(page, stack, 'lowmarch');
  await page.goto(`${stack.url}/due`);
  const [day] = await Promise.all([
    page.locator('.week-day').first().textContent(),
    page.waitForResponse((r) => r.url().includes('/visits/week')),
    page.getByRole('button', { name: 'Later' }).click(),
  ]);
  const row = page.locator('.due-list li', { hasText: 'Constant-pressure drive' });
  // The second person's Wednesday; a weekend stands there too where something is planned in it.
  await expect(page.locator('.week-day').first()).not.toHaveText(day ?? '');
  // What came is drawn.
  await page.evaluate(() => new Promise((done) => setTimeout(done, 200)));
  const days = await page.locator('.week-day').allTextContents();
  const wednesday = page.locator('.week-cell').nth(days.length + 2);
  const to = await wednesday.boundingBox();
  await row.getByText('yearly').hover();
  await page.mouse.down();
  await page.mouse.move((to?.x ?? 0) + 40, (to?.y ?? 0) + 40, { steps: 12 });
  await page.mouse.up();
  await expect(dialog(page).getByText('Carry', { exact: true })).toBeVisible();
  await page.getByRole('button', { name: 'Plan it' }).click();
  const card = wednesday.locator('.visit-card');
  await expect(card).toContainText('Fold Lane allotments');
  await expect(row).toContainText('planned');
  // Somebody without the permit: it is said, and it is a person's to decide.
  await card.click();
  await dialog(page).getByLabel('Who goes').click();
  await page.getByRole('option', { name: 'Perrin Osgath' }).click();
  await expect(dialog(page).getByText(/Perrin Osgath lacks a permit/)).toBeVisible();
  await page.getByRole('button', { name: 'Keep the visit' }).click();
  await expect(wednesday.locator('.visit-card')).toHaveCount(0);
  const moved = page.locator('.visit-card', { hasText: 'Fold Lane allotments' });
  await moved.click();
  await page.getByRole('button', { name: 'Cancel the visit' }).click();
  await expect(page.getByRole('button', { name: 'Cancel it with that reason' })).toBeDisabled();
  await dialog(page).getByLabel('Why it is cancelled').fill('The water steward is away.');
  await page.getByRole('button', { name: 'Cancel it with that reason' }).click();
  await expect(moved).toHaveCount(0);
  await expect(row.getByRole('button', { name: /^Plan/ })).toBeVisible();
});

test('a plan is made at the desk and kept without a job; what is kept is where the next one begins', async ({
  page,
  stack,
}) => {
  await signIn(page, stack, 'lowmarch');
  await page.goto(`${stack.url}/sites`);
  await page.getByRole('link', { name: 'Borehole pump switch', exact: true }).click();
  const cutIn = page.getByRole('textbox', { name: 'Cut-in' });
  await expect(cutIn).toHaveValue('43');
  await expect(page.getByRole('button', { name: 'Keep the plan' })).toHaveCount(0);
  await cutIn.fill('44.5');
  await cutIn.press('Enter');
  await page.getByRole('button', { name: 'Keep the plan' }).click();
  await expect(page.getByRole('button', { name: 'Keep the plan' })).toHaveCount(0);
  await page.reload();
  await expect(cutIn).toHaveValue('44.5');
  await expect(page.getByRole('button', { name: 'Keep the plan' })).toHaveCount(0);
});
