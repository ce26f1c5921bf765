import { expect, expectAccessible, moveClockTo, open, signIn, test } from './app.ts';
import type { App } from './app.ts';
import type { Page } from '@playwright/test';

test.use({ appOptions: { demo: true, name: 'ladders' } });

const NAME = 'Check the tide pole';
const row = (page: Page) => page.getByRole('row', { name: new RegExp(NAME) }).first();

/** Moves the clock, waits until it stands there, and goes back to the ladders. */
async function at(page: Page, app: App, date: string, time: string, said: string): Promise<void> {
  await moveClockTo(page, date, time);
  await expect(page.getByText(`Clock moved to ${said}, ${time}.`)).toBeVisible({ timeout: 240_000 });
  await open(page, `${app.origin}/escalations`);
}

/** What the ladder has sent about the task, newest first, as the Outbox has it. */
async function sent(page: Page, app: App): Promise<string[]> {
  await open(page, `${app.origin}/outbox?text=${encodeURIComponent(NAME)}&end=sent`);
  await page.getByLabel('Rule').selectOption({ label: 'Escalate important overdue work' });
  await expect(page).toHaveURL(/rule=\d+/);
  await expect(page.getByRole('table')).toBeVisible();
  const lines = await page.locator('tbody tr').allInnerTexts();
  return lines.filter((line) => !line.includes('Talk about'));
}

/** Rui works in Lisbon from nine to five, Monday to Friday; high priority climbs after 4 and 12 working hours. */
test('a late task climbs three rungs, is promised, breaks its promise, climbs on, is finished and falls silent', async ({
  app,
  page
}) => {
  test.setTimeout(600_000);
  await signIn(page, app);
  await open(page, `${app.origin}/tasks/new`);
  await page.getByLabel('Task', { exact: true }).fill(NAME);
  await page.getByLabel('Owner', { exact: true }).selectOption({ label: 'Rui Tavares · Lisbon' });
  await page.getByLabel('Project').selectOption({ label: 'Permit renewals' });
  await page.getByLabel('Priority').selectOption('high');
  await page.getByLabel('Due date').fill('2026-03-05');
  await page.getByRole('button', { name: 'Add the task' }).click();
  await expect(page.getByText(`“${NAME}” was added.`)).toBeVisible();

  await at(page, app, '2026-03-06', '10:00', 'Fri 6 Mar');
  await expect(row(page)).toContainText('1 of 3');
  await expect(row(page)).toContainText('Rui Tavares');
  await expect(row(page)).toContainText('escalates to: Inês Moura');
  await page.getByLabel('Filter').selectOption({ label: 'nobody to escalate to' });
  await expect(row(page)).toHaveCount(0);
  await page.getByLabel('Filter').selectOption({ label: 'running' });
  await expect(row(page)).toHaveCount(1);
  await page.getByLabel('Filter').selectOption({ label: 'all' });
  await expect(row(page)).toContainText('Fri 6 Mar, 13:00');
  await expectAccessible(page);
  await at(page, app, '2026-03-06', '14:00', 'Fri 6 Mar');
  await expect(row(page)).toContainText('2 of 3');
  await at(page, app, '2026-03-09', '14:00', 'Mon 9 Mar');
  await expect(row(page)).toContainText('3 of 3');
  const third = await sent(page, app);
  // The owner three times, whoever stands above twice, the other coordinators above them once.
  expect(third.filter((line) => line.includes('Rui Tavares'))).toHaveLength(3);
  expect(third.filter((line) => line.includes('Inês Moura'))).toHaveLength(2);

  // Promised for a day that has gone by, which is refused; then for Tuesday.
  await open(page, `${app.origin}/escalations`);
  await row(page).locator('summary', { hasText: 'Acknowledge' }).click();
  const by = row(page).getByLabel(/^By when/);
  await by.fill('2026-03-02');
  await row(page).getByRole('button', { name: 'Promise this date' }).click();
  await expect(
    row(page)
      .getByText(/^Choose .* or a later day\.$/)
      .first()
  ).toBeVisible();
  await by.fill('2026-03-10');
  await row(page).getByRole('button', { name: 'Promise this date' }).click();
  await expect(page.getByText(`“${NAME}” is promised for Tue 10 Mar.`)).toBeVisible();
  await expect(row(page)).toContainText('paused: acknowledged until Wed 11 Mar, 00:00');
  await expect(row(page)).toContainText('Wed 11 Mar, 09:00');
  await at(page, app, '2026-03-10', '16:00', 'Tue 10 Mar');
  expect(await sent(page, app)).toEqual(third);

  // Nothing was done: on Wednesday the next ring comes when Rui's day opens.
  await at(page, app, '2026-03-11', '09:10', 'Wed 11 Mar');
  const climbed = (await sent(page, app)).slice(0, -third.length);
  expect(climbed.filter((line) => /Rui Tavares|Inês Moura/.test(line))).toHaveLength(2);
  expect(climbed[0]).toContain('Wed 11 Mar, 09:00');
  await open(page, `${app.origin}/escalations`);
  await row(page).getByRole('link', { name: NAME }).click();
  const task = page.getByRole('region', { name: 'The task' });
  await expect(task).toContainText('promised for Tue 10 Mar; not kept');
  await task.getByLabel('Status').selectOption('Finished');
  await task.getByRole('button', { name: 'Save', exact: true }).click();
  await expect(page.getByText(`“${NAME}” was saved.`)).toBeVisible();
  const last = await sent(page, app);
  await at(page, app, '2026-03-17', '18:00', 'Tue 17 Mar');
  await expect(page.getByRole('row', { name: new RegExp(`^${NAME}`) })).toHaveCount(0);
  expect(await sent(page, app)).toEqual(last);
});
