import { expect, expectAccessible, moveClockTo, open, signIn, test } from './app.ts';
import type { Page } from '@playwright/test';

/** Tasks and projects as people use them: the list by keyboard, a task beside it, quick add, many at once, two at one task. */
test.use({ appOptions: { demo: true, name: 'tasks' } });
test.describe.configure({ mode: 'default' });

const panel = (page: Page) => page.getByRole('region', { name: 'The task' });
const toast = (page: Page, words: string | RegExp) => page.locator('.notice', { hasText: words });
async function openTask(page: Page, origin: string, name: string): Promise<void> {
  await open(page, `${origin}/tasks?show=all&text=${encodeURIComponent(name)}`);
  await page.getByRole('link', { name, exact: true }).first().click();
  await expect(panel(page).getByRole('heading', { name, level: 2 })).toBeVisible();
}

test('quick add: a line read back, asked where it can mean several things, added and taken back', async ({
  page,
  app
}) => {
  await signIn(page, app);
  const dialog = page.getByRole('dialog', { name: 'Add a task in one line' });
  // Whoever presses while the page is still coming, or the line is still closing, sees that nothing opened, and presses again.
  const openLine = () =>
    expect(async () => {
      if (!(await dialog.isVisible())) await page.keyboard.press('n');
      await expect(dialog).toBeVisible({ timeout: 2_000 });
    }).toPass();
  await openLine();
  await dialog.getByRole('textbox').fill('send the gauge log, fri 3pm, for Dale, high');
  await expect(dialog.getByRole('status')).toHaveText(
    '“send the gauge log”, due Friday 6 March 2026 at 15:00 in Lisbon (Friday 6 March 2026 at 11:00 in Halifax), for Dale Comeau, high priority.'
  );
  // 4 May or 5 April: nothing is added before that is answered.
  await dialog.getByRole('textbox').fill('count the bottles, 04/05');
  await expect(dialog.getByText('When is it due?')).toBeVisible();
  await page.keyboard.press('Enter');
  await expect(dialog).toBeVisible();
  await expectAccessible(page);
  await dialog.getByRole('button', { name: 'Sunday 5 April 2026' }).click();
  await expect(dialog.getByRole('status')).toHaveText('“count the bottles”, due Sunday 5 April 2026, yours.');
  await page.keyboard.press('Enter');
  await expect(toast(page, '“count the bottles” was added.')).toBeVisible();
  await open(page, `${app.origin}/tasks?text=bottles&owner=1`);
  await expect(page.locator('[data-row]', { hasText: 'count the bottles' })).toContainText('Sun 5 Apr');
  await openLine();
  await dialog.getByRole('textbox').fill('a second one, in 5 working days');
  await expect(dialog.getByRole('status')).toContainText('due Thursday 12 March 2026');
  await page.keyboard.press('Enter');
  await expect(toast(page, 'was added.')).toBeVisible();
  await expect(dialog).toBeHidden();
  await page.keyboard.press('Control+z');
  await expect(page.getByText('Undone.')).toBeVisible();
  // What was done before stands above what was done last, and each is undone by its own press.
  for (const line of ['a third one', 'a fourth one']) {
    await openLine();
    await dialog.getByRole('textbox').fill(`${line}, tomorrow`);
    await expect(dialog.getByRole('status')).toContainText('due Friday 6 March 2026');
    await page.keyboard.press('Enter');
    await expect(toast(page, `“${line}” was added.`)).toBeVisible();
  }
  await toast(page, 'a fourth one').getByRole('button', { name: 'Undo' }).click();
  await toast(page, 'a third one').getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByText('Undone.')).toHaveCount(3);
});

test('the list by keyboard alone: along the rows, chosen, changed in place, opened', async ({
  page,
  app
}) => {
  await signIn(page, app);
  await open(page, `${app.origin}/tasks?show=overdue`);
  const rows = page.locator('[data-row]');
  await rows.first().focus();
  await page.keyboard.press('ArrowDown');
  await expect(rows.nth(1)).toBeFocused();
  await page.keyboard.press('Shift+ArrowDown');
  await page.keyboard.press('Shift+ArrowDown');
  await expect(page.getByText('3 tasks chosen')).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(page.getByText('tasks chosen')).toHaveCount(0);
  const name = await rows.nth(3).getByRole('link').innerText();
  await page.keyboard.press('s');
  await page.getByLabel(`Status of ${name}`).selectOption('Under way');
  await expect(toast(page, `“${name}” was changed.`)).toBeVisible();
  await expect(page.locator('[data-row]', { hasText: name })).toContainText('Under way');
  await page.locator('[data-row]', { hasText: name }).focus();
  await page.keyboard.press('Enter');
  await expect(panel(page).getByRole('heading', { name, level: 2 })).toBeVisible();
  await expect(page).toHaveURL(/show=overdue/);
  await expectAccessible(page);
});

test('filters, groups and columns live in the address and can be kept', async ({ page, app }) => {
  await signIn(page, app);
  await open(page, `${app.origin}/tasks`);
  await page
    .locator('label', { hasText: /^Owner/ })
    .getByRole('combobox')
    .selectOption('Dale Comeau');
  await page.getByLabel('Group by').selectOption('By due date');
  await expect(page).toHaveURL(/owner=\d+.*group=due/);
  await expect(page.getByRole('grid').locator('.group').first()).toContainText('March 2026');
  await page.locator('summary', { hasText: 'Columns' }).click();
  await page.getByLabel('Next bell').check();
  await expect(page.getByRole('columnheader', { name: 'Next bell' })).toBeVisible();
  await page.locator('summary', { hasText: 'Save this list' }).click();
  await page.getByLabel('Name of the list').fill('Dale by date');
  await page.getByRole('button', { name: 'Save list' }).click();
  await open(page, `${app.origin}/tasks`);
  await page.getByRole('link', { name: 'Dale by date' }).click();
  await expect(page.getByRole('columnheader', { name: 'Next bell' })).toBeVisible();
  await expect(page.locator('[data-row]').first()).toContainText('Dale Comeau');
  await open(page, `${app.origin}/tasks?show=nonsense&from=2026-02-30&after=%00`);
  await expect(page.locator('[data-row]').first()).toBeVisible();
});

test('as columns and as days: a card that is carried takes the status, or the date', async ({
  page,
  app
}) => {
  await signIn(page, app);
  await open(page, `${app.origin}/tasks?text=Paint+the+fairway&shape=columns`);
  const card = page.getByRole('listitem', { name: 'Paint the fairway buoy', exact: true });
  await expect(page.getByRole('region', { name: 'To do' })).toContainText('Paint the fairway buoy');
  // By keyboard: taken up, into the next column, put down.
  await card.focus();
  await page.keyboard.press('Enter');
  await page.getByRole('region', { name: 'Under way' }).getByRole('list').focus();
  await page.keyboard.press('Enter');
  await expect(toast(page, '“Paint the fairway buoy” was changed.')).toBeVisible();
  await expect(page.getByRole('region', { name: 'Under way' })).toContainText('Paint the fairway buoy');
  await expectAccessible(page);

  await open(page, `${app.origin}/tasks?text=Paint+the+fairway&shape=days`);
  const day = (date: string) => page.getByRole('region', { name: new RegExp(date) });
  await expect(day('2026-03-26')).toContainText('Paint the fairway buoy');
  const box = (await card.boundingBox())!;
  const target = (await day('2026-03-24').boundingBox())!;
  await page.mouse.move(box.x + 12, box.y + box.height - 4);
  await page.mouse.down();
  await page.mouse.move(box.x - 40, box.y + 4, { steps: 8 });
  await page.mouse.move(target.x + 40, target.y + 50, { steps: 12 });
  await page.waitForTimeout(300);
  await page.mouse.up();
  await expect(toast(page, '“Paint the fairway buoy” was changed.')).toBeVisible();
  await expect(day('2026-03-24')).toContainText('Paint the fairway buoy');
  await expect(page.getByText('Shaded: closed days of Inês Moura.')).toBeVisible();
  await expectAccessible(page);
});

test('a task says what a change would do before it is saved, and everything hangs on it', async ({
  page,
  app
}) => {
  await signIn(page, app);
  await openTask(page, app.origin, 'Renew the mooring permit, North Quay');
  const task = panel(page);
  await expect(task.getByRole('group', { name: 'Bells of this task over time' })).toBeVisible();
  await task
    .locator('summary', { hasText: 'rules ring' })
    .or(task.locator('summary', { hasText: 'rule rings' }))
    .click();
  await expect(task.getByText('the rule does not watch its project').first()).toBeVisible();

  await task.getByLabel('Due date', { exact: true }).fill('2026-03-20');
  await expect(task.locator('summary', { hasText: /bells? added/ })).toBeVisible();
  await expect(task.locator('summary', { hasText: '1 due time moves' })).toBeVisible();
  await task.getByRole('button', { name: 'Discard changes' }).click();
  await expect(task.locator('summary', { hasText: 'due time moves' })).toHaveCount(0);

  await task.getByLabel('A comment', { exact: true }).fill('مرحبا 🐚 <b>no markup</b>');
  await task.getByRole('button', { name: 'Add comment' }).click();
  await expect(task.getByText('مرحبا 🐚 <b>no markup</b>')).toBeVisible();
  await task.getByLabel('Time spent').fill('soon');
  await task.getByRole('button', { name: 'Log time' }).click();
  await expect(task.getByText('Write the time like 1:30 or 90 minutes')).toBeVisible();
  await task.getByLabel('Time spent').fill('1:15');
  await task.getByRole('button', { name: 'Log time' }).click();
  await expect(task.getByText('1:15 hours logged')).toBeVisible();

  // A subtask that is open keeps it from being finished, unless it is finished with it.
  await task.getByLabel('Name of a new subtask').fill('Ask for the fee');
  await task.getByRole('button', { name: 'Add subtask' }).click();
  await expect(task.getByRole('link', { name: 'Ask for the fee' })).toBeVisible();
  await task.getByLabel('Status').selectOption('Finished');
  await task.getByRole('button', { name: 'Save', exact: true }).click();
  await expect(task.getByText('1 subtask is still open: “Ask for the fee”.')).toBeVisible();
  await task.getByLabel('Finish open subtasks too').check();
  await task.getByRole('button', { name: 'Save', exact: true }).click();
  await expect(toast(page, 'was saved.')).toBeVisible();
  await expect(task.getByText(/finished Thu 5 Mar/)).toBeVisible();
  await page.keyboard.press('Control+z');
  await expect(task.getByText(/finished Thu 5 Mar/)).toHaveCount(0);
  await expectAccessible(page);
});

test('a reminder is set, shows as a bell, rings, and a past one is refused', async ({ page, app }) => {
  await signIn(page, app);
  await openTask(page, app.origin, 'Plan the coordinators’ call');
  const task = panel(page);
  await task.locator('summary', { hasText: 'Add a reminder' }).click();
  await task.getByLabel('When the reminder rings').selectOption('at a date and time');
  await task.getByLabel('Date of the reminder').fill('2026-03-01');
  await task.getByLabel('Time of the reminder').fill('9');
  await task.getByRole('button', { name: 'Add reminder' }).click();
  await expect(task.getByText('This time is past. Choose a later one.')).toBeVisible();
  await task.getByLabel('Date of the reminder').fill('2026-03-05');
  await task.getByLabel('Time of the reminder').fill('8:15');
  await task.getByRole('button', { name: 'Add reminder' }).click();
  await expect(toast(page, 'Reminder added.')).toBeVisible();
  await expect(task.getByText('on Thu 5 Mar at 08:15, Lisbon, for you')).toBeVisible();
  await expect(task.getByRole('table', { name: 'Bells to come' })).toContainText('Reminders set on tasks');
  await moveClockTo(page, '2026-03-05', '08:20');
  await expect(task.getByRole('table', { name: 'Notices that were sent' })).toContainText('Thu 5 Mar, 08:15');
  await open(page, `${app.origin}/post-room`);
  await expect(page.getByRole('link', { name: /Plan the coordinators’ call/ }).first()).toBeVisible();
});

test('a recurring task comes back when it is finished, and undo takes the round back', async ({
  page,
  app
}) => {
  await signIn(page, app);
  await openTask(page, app.origin, 'Back up the gauge loggers');
  const task = panel(page);
  await expect(task.getByText('If finished now, next due Fri 13 Mar.')).toBeVisible();
  await task.getByLabel('Status').selectOption('Finished');
  await task.getByRole('button', { name: 'Save', exact: true }).click();
  await expect(toast(page, 'Next round: due Friday 13 March 2026.')).toBeVisible();
  await expect(task.getByLabel('Due date', { exact: true })).toHaveValue('Fri 13 Mar 2026');
  await expect(task.getByLabel('Status')).toHaveValue(/.+/);
  await task.locator('summary', { hasText: 'History' }).click();
  await expect(task.getByText(/Round 1, due Fri 6 Mar: finished/)).toBeVisible();
  await page.keyboard.press('Control+z');
  await expect(task.getByLabel('Due date', { exact: true })).toHaveValue('Fri 6 Mar 2026');
});

test('two people at one task: pages follow, fields merge, who comes second is told', async ({
  page,
  app,
  browser
}) => {
  await signIn(page, app);
  await openTask(page, app.origin, 'Spring survey of the estuary');
  const second = await (await browser.newContext()).newPage();
  await signIn(second, app, 'Nora Fielding');
  await openTask(second, app.origin, 'Spring survey of the estuary');

  await panel(second).getByLabel('Description').fill('With the new drone.');
  await panel(second).getByLabel('Priority').selectOption('pressing');
  await panel(page).getByLabel('Priority').selectOption('high');
  await panel(page).getByRole('combobox', { name: 'Tags' }).fill('spring');
  await panel(page).getByRole('combobox', { name: 'Tags' }).press('Enter');
  await panel(page).getByRole('button', { name: 'Save', exact: true }).click();
  await expect(toast(page, 'was saved.')).toBeVisible();
  // The other page follows without being asked; what is being written there stays.
  await expect(panel(second).getByRole('button', { name: 'Remove spring' })).toBeVisible();
  await expect(panel(second).getByLabel('Description')).toHaveValue('With the new drone.');
  await expect(panel(second).getByText('Changed by others')).toBeVisible();
  await panel(second).getByRole('button', { name: 'Save', exact: true }).click();
  await expect(
    panel(second).getByText('Inês Moura set “high” while you were editing. Your “pressing” was not saved.')
  ).toBeVisible();
  await expect(panel(page).getByLabel('Description')).toHaveValue('With the new drone.');
  await panel(second).getByRole('button', { name: 'Save mine' }).click();
  await panel(second).getByRole('button', { name: 'Save', exact: true }).click();
  await expect(panel(page).getByLabel('Priority')).toHaveValue('pressing');

  // Deleted meanwhile: what was typed is still there, and why it was not saved is said.
  await panel(second).getByLabel('Description').fill('A last thought');
  await panel(page).getByRole('button', { name: 'Move to the bin' }).click();
  await expect(toast(page, 'Moved to the bin. It stays there for 30 days.')).toBeVisible();
  await expect(panel(second).getByText('It is erased on Sat 4 Apr.')).toBeVisible();
  await expect(panel(second).getByLabel('Description')).toHaveValue('A last thought');
  await panel(page).getByRole('button', { name: 'Return to the list' }).click();
  await expect(toast(page, 'Returned to the list.')).toBeVisible();
  await second.context().close();
});

test('bad input is refused with a sentence and nothing typed is lost', async ({ page, app }) => {
  await signIn(page, app);
  await openTask(page, app.origin, 'Log the drift of gauge 15');
  const task = panel(page);
  const long = 'x'.repeat(10_000);
  await task.getByLabel('Task', { exact: true }).fill(long);
  await task.getByRole('button', { name: 'Save', exact: true }).click();
  await expect(task.getByText('The name is too long (at most 500 characters).')).toBeVisible();
  await expect(task.getByLabel('Task', { exact: true })).toHaveValue(long);
  await task.getByLabel('Task', { exact: true }).fill('سجل انحراف المقياس 15 🐚');
  await task.getByLabel('Due date', { exact: true }).fill('1899-12-31');
  await expect(task.getByText('outside the dates handled here').first()).toBeVisible();
  await task.getByRole('button', { name: 'Save', exact: true }).click();
  await expect(task.getByText('1899-12-31 is outside the dates handled here').first()).toBeVisible();
  await task.getByLabel('Due date', { exact: true }).fill('2026-03-12');
  await task.getByRole('button', { name: 'Save', exact: true }).click();
  await expect(toast(page, 'was saved.')).toBeVisible();
  await open(page, `${app.origin}/tasks?text=${encodeURIComponent('المقياس')}`);
  await expect(page.locator('[data-row]')).toHaveCount(1);
});

test('projects: members, sections, rules with why; called off, its bells fall silent', async ({
  page,
  app
}) => {
  await signIn(page, app);
  await page.getByRole('link', { name: 'Projects', exact: true }).click();
  await expect(page.getByRole('row', { name: /Winter buoy service/ })).toContainText('fixed: Halifax');
  await expectAccessible(page);
  await page.getByRole('link', { name: 'Winter buoy service' }).click();
  await page.getByLabel('A new member').selectOption('Rui Tavares');
  await page.getByLabel('Role in the project').fill('spare hand');
  await page.getByRole('button', { name: 'Add member' }).click();
  await expect(page.getByRole('region', { name: 'Members' })).toContainText('Rui Tavares');
  await page.getByLabel('Name of a new section').fill('In the store');
  await page.getByRole('region', { name: 'Sections' }).getByRole('button', { name: 'Add section' }).click();
  await expect(page.getByRole('link', { name: 'In the store' })).toBeVisible();
  await expect(page.getByRole('region', { name: 'Its rules' })).toContainText(
    'it watches open tasks in Sample shipments'
  );
  await expectAccessible(page);
  await page.getByLabel('Place', { exact: true }).fill('');
  await page.getByRole('button', { name: 'Save', exact: true }).click();
  await expect(page.getByText('Choose the place for these dates.')).toBeVisible();
  await page.getByLabel('Place', { exact: true }).fill('America/Halifax');
  await page.getByLabel('State').selectOption('called off');
  // What is not answered is said where it stands, and nothing chosen is lost.
  await page.route('**/projects/*?/save', (route) => route.abort());
  await page.getByRole('button', { name: 'Save', exact: true }).click();
  await expect(toast(page, 'The server does not answer.')).toBeVisible();
  await page.unroute('**/projects/*?/save');
  await expect(page.getByLabel('State')).toHaveValue('called off');
  await page.getByRole('button', { name: 'Save', exact: true }).click();
  await expect(page.getByText('No rule watches its tasks, and none counts as overdue.')).toBeVisible();
  await page.keyboard.press('Control+z');
  await expect(page.getByText('No rule watches its tasks')).toHaveCount(0);
});
