import type { Page } from '@playwright/test';
import { expect, open, signIn, test } from './app.ts';

test.use({ appOptions: { demo: true, name: 'dates' } });
test.describe.configure({ mode: 'default' });
const toast = (page: Page, words: string | RegExp) => page.locator('.notice', { hasText: words });

/** The demo's clock stands at Thursday 5 March 2026. */
test.describe('dates as people type them', () => {
  test('are read back, asked where they can mean several days, and refused with why', async ({
    page,
    app
  }) => {
    await signIn(page, app);
    await open(page, `${app.origin}/tasks/new`);
    const due = page.getByLabel('Due date', { exact: true });
    const below = page.locator('[popover]');

    await due.fill('fri');
    await expect(below).toHaveText('Friday 6 March 2026 · tomorrow');
    await due.fill('in 5 working days');
    await expect(below).toHaveText('Thursday 12 March 2026 · in 5 working days');

    // With slashes either number can be the month: chosen by keyboard.
    await due.fill('04/05');
    await expect(below).toContainText('Which day?');
    await page.keyboard.press('ArrowDown');
    await page.keyboard.press('Enter');
    await expect(due).toHaveValue('Sun 5 Apr 2026');
    await expect(due).toBeFocused();

    await page.getByLabel('Task', { exact: true }).fill('Count the shackles');
    await due.fill('31.02.');
    await page.getByRole('button', { name: 'Add the task' }).click();
    await expect(page.getByText('31.02. is not a date: February 2026 has 28 days.').first()).toBeVisible();
    await expect(page).toHaveURL(/tasks\/new/);
    await expect(due).toHaveValue('31.02.');

    await due.fill('in 5 working days');
    await page.getByRole('button', { name: 'Add the task' }).click();
    await expect(toast(page, 'was added')).toBeVisible();
    await expect(page.getByLabel('Due date', { exact: true })).toHaveValue('Thu 12 Mar 2026');
  });

  test('are picked from a calendar by keyboard, closed days shaded by the owner’s calendar', async ({
    page,
    app
  }) => {
    await signIn(page, app);
    await open(page, `${app.origin}/tasks/new`);
    await page.getByLabel('Owner', { exact: true }).selectOption({ label: 'Huda Balushi · Muscat' });
    const due = page.getByLabel('Due date', { exact: true });
    await due.fill('5 mar');
    await page.keyboard.press('ArrowDown');
    const shaded = page.locator('.date-day.closed');
    await expect(page.getByText('Shaded: closed in the owner’s calendar.')).toBeVisible();
    // A week from Sunday to Thursday: Friday the 6th is closed, Sunday the 8th is not.
    await expect(shaded.filter({ hasText: /^6$/ }).first()).toBeVisible();
    await expect(page.getByRole('button', { name: /^Sunday 8 March 2026 · in 1 working day/ })).toBeVisible();
    await expect(page.getByRole('button', { name: /^Thursday 5 March 2026/ })).toBeFocused();
    await page.keyboard.press('ArrowDown');
    await page.keyboard.press('ArrowRight');
    await page.keyboard.press('Enter');
    await expect(due).toHaveValue('Fri 13 Mar 2026');
    await expect(due).toBeFocused();
    await page.keyboard.press('ArrowDown');
    await page.keyboard.press('Escape');
    await expect(page.locator('.date-day')).toHaveCount(0);
    await expect(due).toBeFocused();
  });

  test('are taken though they are typed before it is known which days are working days', async ({
    page,
    app
  }) => {
    await signIn(page, app);
    await page.route('**/days', async (route) => {
      await new Promise((resolve) => setTimeout(resolve, 1_500));
      await route.continue();
    });
    await open(page, `${app.origin}/tasks?text=${encodeURIComponent('Log the drift of gauge 3')}`);
    await page.getByRole('link', { name: 'Log the drift of gauge 3', exact: true }).first().click();
    const task = page.getByRole('region', { name: 'The task' });
    await task.getByRole('button', { name: 'Change date' }).click();
    await task.getByLabel('New due date').fill('in 9 working days');
    await expect(task.getByRole('button', { name: 'Save date' })).toBeEnabled();
  });

  test('a time is read on the 24-hour clock, and one that is none is refused', async ({ page, app }) => {
    await signIn(page, app);
    await open(page, `${app.origin}/tasks/new`);
    const time = page.getByLabel(/^Due time/);
    await time.fill('3pm');
    await page.keyboard.press('Tab');
    await expect(time).toHaveValue('15:00');
    await time.fill('25:00');
    await page.keyboard.press('Tab');
    await expect(page.getByText('“25:00” is not a time of day. Write 00:00 to 23:59').first()).toBeVisible();
  });
});

test('a task in one line says what it took, and asks about what it did not understand', async ({
  page,
  app
}) => {
  await signIn(page, app);
  await open(page, `${app.origin}/tasks`);
  await page.keyboard.press('n');
  const dialog = page.getByRole('dialog', { name: 'Add a task in one line' });
  await dialog.getByRole('textbox').fill('Send the gauge log 🐚, mon 3pm, for Zorblatt, high');
  const understood = dialog.getByLabel('What was understood');
  await expect(understood).toContainText('Monday 9 March 2026 at 15:00 “mon 3pm”');
  await expect(understood).toContainText('high “high”');
  await expect(dialog.getByText('Nobody here is called “Zorblatt”.')).toBeVisible();
  const add = dialog.getByRole('button', { name: 'Add task' });
  await expect(add).toBeDisabled();
  await dialog.getByRole('button', { name: 'Leave it out' }).click();
  await expect(dialog.getByRole('status')).toContainText('“Send the gauge log 🐚”, due Monday 9 March 2026');
  await add.click();
  await expect(toast(page, '“Send the gauge log 🐚” was added.')).toBeVisible();
});
