import type { Page } from '@playwright/test';
import { expect, expectAccessible, open, signIn, test } from './app.ts';

/** What is done by the keyboard alone: going somewhere, acts on a task, cards between columns, and where the keyboard is afterwards. */
test.use({ appOptions: { demo: true, name: 'hands' } });
test.describe.configure({ mode: 'default' });
const toast = (page: Page, words: string | RegExp) => page.locator('.notice', { hasText: words });
const panel = (page: Page) => page.getByRole('region', { name: 'The task' });

/** Opens a sheet by its key; whoever presses while the page is still coming presses again. */
async function sheet(page: Page, key: string, name: string | RegExp) {
  const dialog = page.getByRole('dialog', { name });
  await expect(async () => {
    if (!(await dialog.isVisible())) await page.keyboard.press(key);
    await expect(dialog).toBeVisible({ timeout: 2_000 });
  }).toPass();
  return dialog;
}

test('the first press of Tab skips to the content; / goes to a task, a place or an act by name', async ({
  page,
  app
}) => {
  await signIn(page, app);
  await open(page, `${app.origin}/outbox`);
  await page.keyboard.press('Tab');
  await expect(page.getByRole('link', { name: 'Skip to the content' })).toBeFocused();
  await page.keyboard.press('Enter');
  await expect(page.locator('main')).toBeFocused();

  let go = await sheet(page, '/', 'Go to');
  await expect(go.getByRole('combobox')).toBeFocused();
  await page.keyboard.type('dive permit outer');
  await expect(go.getByRole('option', { name: /Renew the dive permit, Outer Reef/ })).toHaveAttribute(
    'aria-selected',
    'true'
  );
  await expectAccessible(page);
  await page.keyboard.press('Enter');
  await expect(
    panel(page).getByRole('heading', { name: 'Renew the dive permit, Outer Reef', level: 2 })
  ).toBeVisible();

  go = await sheet(page, 'Control+k', 'Go to');
  // What was looked at last is offered first.
  await expect(go.getByRole('group', { name: 'Recent' }).getByRole('option').first()).toContainText(
    'Outer Reef'
  );
  await page.keyboard.type('nothing is called so');
  await expect(go.getByText('Nothing is called “nothing is called so”.')).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(go).toHaveCount(0);

  await sheet(page, '/', 'Go to');
  await page.keyboard.type('escal');
  await page.keyboard.press('Enter');
  await expect(page).toHaveURL(/\/escalations/);
});

test('? shows the keys; how a place works is a press away, its words explained', async ({ page, app }) => {
  await signIn(page, app);
  await open(page, `${app.origin}/rules`);
  const keys = await sheet(page, '?', 'Keys');
  await expect(keys).toContainText('Go to a task, person, rule, project or place');
  await page.keyboard.press('Escape');
  await expect(keys).toHaveCount(0);

  const button = page.getByRole('button', { name: 'How this works' });
  await button.focus();
  await page.keyboard.press('Enter');
  const guide = page.getByRole('dialog', { name: 'How this works: Rules' });
  await expect(guide).toContainText('A rule does nothing until you turn it on.');
  await guide.getByRole('button', { name: 'forecast' }).focus();
  await expect(guide.getByRole('status')).toHaveText(
    'forecast: Every notice of a rule in the next weeks, if nothing changes.'
  );
  await expectAccessible(page);
  await page.keyboard.press('Escape');
  await expect(guide).toHaveCount(0);
  await expect(button).toBeFocused();
});

test('a task is commented, re-dated, finished and opened again by one key each', async ({ page, app }) => {
  await signIn(page, app);
  await open(page, `${app.origin}/tasks?text=${encodeURIComponent('Log the drift of gauge 15')}`);
  await page.getByRole('link', { name: 'Log the drift of gauge 15', exact: true }).first().click();
  const task = panel(page);
  const acts = task.getByRole('toolbar', { name: 'Do with this task' });
  await expect(acts.getByRole('button').first()).toHaveText('Finish');
  await page.evaluate(() => (document.activeElement as HTMLElement).blur());

  await page.keyboard.press('c');
  await expect(task.getByLabel('A comment')).toBeFocused();
  await page.keyboard.type('The cable is worn.');
  // The page is read anew; the keyboard stays where it was, and what is said of it is passed by, not stopped at.
  await page.keyboard.press('Tab');
  await page.keyboard.press('Enter');
  await expect(task.getByText('The cable is worn.')).toBeVisible();
  await expect(task.getByRole('button', { name: 'Add comment' })).toBeFocused();
  await page.keyboard.press('Tab');
  await expect(task.getByLabel('Time spent')).toBeFocused();

  await page.evaluate(() => (document.activeElement as HTMLElement).blur());
  await page.keyboard.press('d');
  const date = task.getByLabel('New due date');
  await expect(date).toBeFocused();
  await page.keyboard.type('in 5 working days');
  await expect(task.locator('summary', { hasText: 'due time moves' })).toBeVisible();
  await task.getByRole('button', { name: 'Save date' }).click();
  await expect(toast(page, 'was saved')).toBeVisible();
  await expect(date).toHaveCount(0);

  await page.evaluate(() => (document.activeElement as HTMLElement).blur());
  await page.keyboard.press('f');
  await expect(acts.getByRole('button', { name: 'Open again' })).toBeVisible();
  await acts.getByRole('button', { name: 'Open again' }).click();
  await expect(acts.getByRole('button', { name: 'Finish' })).toBeVisible();
});

test('a rule that never got a name is discarded by leaving it, and undo brings it back', async ({
  page,
  app
}) => {
  await signIn(page, app);
  await open(page, `${app.origin}/rules`);
  await page.getByRole('button', { name: 'New rule' }).click();
  await expect(page.getByLabel('Name of the rule')).toBeVisible();
  // Its own pages are no leaving.
  await page.getByRole('link', { name: 'Versions' }).click();
  await page.getByRole('link', { name: 'a rule without a name' }).click();
  await page.getByRole('link', { name: 'Rules', exact: true }).first().click();
  await expect(toast(page, 'The rule had no name, and was discarded.')).toBeVisible();
  const nameless = page.getByRole('link', { name: 'A rule without a name' });
  await page.getByRole('radio', { name: /^all/ }).check({ force: true });
  await expect(nameless).toHaveCount(0);
  await toast(page, 'The rule had no name').getByRole('button', { name: 'Undo' }).click();
  await expect(nameless).toHaveCount(1);
});

test('a date field that is opened and closed at once leaves nothing behind; an act that is not possible says so', async ({
  page,
  app
}) => {
  await signIn(page, app);
  await open(page, `${app.origin}/tasks/12`);
  const field = panel(page).getByLabel('New due date');
  for (let i = 0; i < 4; i++) {
    await page.keyboard.press('d');
    await expect(field).toBeVisible();
    await page.evaluate(() => {
      // At once: before what stands below it has found its place.
      const button = document.querySelector<HTMLElement>('[aria-keyshortcuts="d"]');
      button?.click();
    });
    await expect(field).toHaveCount(0);
  }
  await open(page, `${app.origin}/tasks?text=eyewash#do-hush`);
  await page.locator('[data-row="0"]').focus();
  await page.keyboard.press('z');
  await expect(toast(page, 'There is no notice to snooze.')).toBeVisible();
});

test('a press counts for the button on which it began, also where that moves away under it', async ({
  page,
  app
}) => {
  await signIn(page, app);
  await open(page, `${app.origin}/tasks/11`);
  await panel(page).getByLabel('Due date', { exact: true }).fill('2026-03-12');
  const save = panel(page).getByRole('button', { name: 'Save', exact: true });
  // What it would move comes after the date, and moves the button too.
  await expect(panel(page).getByRole('heading', { name: 'Effect of this change' })).toBeVisible();
  await save.scrollIntoViewIfNeeded();
  // As when the fault of a field above goes away because the field is left.
  await save.evaluate((button) => {
    button.addEventListener('pointerdown', () => (button.style.transform = 'translateY(-80px)'), {
      once: true
    });
  });
  const { x, y, width, height } = (await save.boundingBox())!;
  await page.mouse.move(x + width / 2, y + height / 2);
  await page.mouse.down();
  await page.mouse.up();
  await expect(toast(page, 'was saved.')).toBeVisible();
});

test('a snooze leaves the keyboard where it was pressed, and says until when', async ({ page, app }) => {
  await signIn(page, app);
  await open(page, `${app.origin}/tasks/11`);
  await page.keyboard.press('z');
  const date = panel(page).getByLabel('Snooze until: date');
  await expect(date).toBeVisible();
  await date.fill('next monday');
  await panel(page).getByRole('button', { name: 'Snooze', exact: true }).last().focus();
  await page.keyboard.press('Enter');
  await expect(toast(page, /^Snoozed until Mon 9 Mar/)).toBeVisible();
  await expect
    .poll(() => page.evaluate(() => document.activeElement?.closest('[aria-label="The task"]') !== null))
    .toBe(true);
});

test('hush and acknowledge leave the keyboard where they were pressed', async ({ page, app }) => {
  await signIn(page, app);
  await open(page, `${app.origin}/escalations`);
  const first = page.getByRole('main').locator('a[href^="/tasks/"]').first();
  await open(page, `${app.origin}${await first.getAttribute('href')}`);
  const near = () => page.evaluate(() => document.activeElement?.closest('[aria-label="The task"]') !== null);
  for (const [key, label, send, said] of [
    ['h', /^Hushed until/, 'Hush', /Hushed/],
    ['a', /^By when/, 'Acknowledge only', /cknowledged/]
  ] as const) {
    await page.keyboard.press(key);
    const field = panel(page).getByLabel(label);
    await expect(field).toBeFocused();
    // The last of that name: the first is in the act bar.
    await panel(page).getByRole('button', { name: send, exact: true }).last().focus();
    await page.keyboard.press('Enter');
    await expect(toast(page, said)).toBeVisible();
    await expect.poll(near).toBe(true);
    await page.locator(':focus').blur();
  }
});

test('what rings again and again is listed three times, and whole when it is asked for', async ({
  page,
  app
}) => {
  await signIn(page, app);
  await open(page, `${app.origin}/tasks/12`);
  // Stuck on others, it is kept from being chased every working day, without an end.
  await page.keyboard.press('u');
  const rows = panel(page).getByRole('table', { name: 'Bells to come' }).locator('tbody tr');
  await expect(rows.filter({ hasText: /^↳ \d+ more like this one/ }).first()).toBeVisible();
  expect(await rows.count()).toBeLessThan(30);
  await panel(page)
    .getByRole('button', { name: /^List the other \d+ bells$/ })
    .click();
  await expect(rows.filter({ hasText: /^↳/ })).toHaveCount(0);
  expect(await rows.count()).toBeGreaterThan(100);
});

test('a finger that goes over a row to the left opens its acts, and to the right puts them away', async ({
  page,
  app
}) => {
  await page.setViewportSize({ width: 390, height: 844 });
  await signIn(page, app);
  await open(page, `${app.origin}/tasks?text=eyewash`);
  const device = await page.context().newCDPSession(page);
  await device.send('Emulation.setTouchEmulationEnabled', { enabled: true, maxTouchPoints: 1 });
  const row = page.locator('[data-row="0"]');
  const swipe = async (from: number, to: number) => {
    const box = (await row.boundingBox())!;
    const y = box.y + 14;
    const touch = (type: 'touchStart' | 'touchMove' | 'touchEnd', x: number) =>
      device.send('Input.dispatchTouchEvent', { type, touchPoints: type === 'touchEnd' ? [] : [{ x, y }] });
    await touch('touchStart', from);
    for (const part of [0.3, 0.6, 1]) await touch('touchMove', from + (to - from) * part);
    await touch('touchEnd', to);
  };
  await swipe(300, 180);
  const finish = row.getByRole('button', { name: /^Finish: / });
  await expect(finish).toBeVisible();
  expect((await finish.boundingBox())!.height).toBeGreaterThanOrEqual(44);
  await row.getByRole('button', { name: /^More/ }).click();
  await expect(row.getByRole('button', { name: /^Hush: / })).toBeVisible();
  await swipe(180, 300);
  await expect(finish).toHaveCount(0);
});

test('a card goes to the next column by an arrow, and keeps the keyboard', async ({ page, app }) => {
  await signIn(page, app);
  await open(page, `${app.origin}/tasks?shape=columns&text=gauge`);
  const card = page.locator('[data-card]').first();
  const id = await card.getAttribute('data-card');
  await card.focus();
  await expect(page.getByText('A card moves to the column beside it')).toBeVisible();
  const columns = page.locator('.columns section');
  const inColumn = (n: number) => columns.nth(n).locator(`[data-card="${id}"]`);
  const from = (await inColumn(0).count()) > 0 ? 0 : 1;
  await page.keyboard.press('ArrowRight');
  await expect(inColumn(from + 1)).toBeVisible();
  await expect(inColumn(from + 1)).toBeFocused();
  await page.keyboard.press('ArrowLeft');
  await expect(inColumn(from)).toBeFocused();
});

test('at the width of a phone every place fits, and rows are stacks of lines', async ({ page, app }) => {
  await page.setViewportSize({ width: 390, height: 844 });
  await signIn(page, app);
  for (const place of [
    '/',
    '/tasks',
    '/escalations',
    '/outbox',
    '/journal',
    '/rules',
    '/people',
    '/sweeps',
    '/projects',
    '/calendars',
    '/settings'
  ]) {
    await open(page, `${app.origin}${place}`);
    await expect(page.locator('h1').first()).toBeVisible();
    const wide = await page.evaluate(() => document.querySelector('main')!.scrollWidth);
    expect({ place, wide }).toEqual({ place, wide: 390 });
    const top = await page.evaluate(() => document.querySelector('main')!.getBoundingClientRect().top);
    expect({ place, fits: top <= 100 }).toEqual({ place, fits: true });
  }
  await open(page, `${app.origin}/escalations`);
  await expect(page.locator('td[data-label="Owner"]').first()).toBeVisible();
  await expectAccessible(page);
});
