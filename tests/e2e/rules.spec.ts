import { expect } from '@playwright/test';
import { addFrom, expectAccessible, moveClockTo, open, pick, signIn, test, writeWords } from './app.ts';

test.use({ appOptions: { demo: true, name: 'rules' } });
test.describe.configure({ mode: 'serial' });

/** A rule with everything: made by its visible labels, rung by the clock and by hand, and read in the journal. */
test('a rule with a condition, a wait, a branch, a change and a question, made and read', async ({
  app,
  page
}) => {
  await signIn(page, app);
  await page.getByRole('link', { name: 'Rules', exact: true }).click();
  await page.getByRole('button', { name: 'New rule' }).click();
  await page.getByLabel('Name of the rule').fill('Two days after');

  await addFrom(page, 'a condition of the Watch', 'where days overdue …');
  const watch = page.getByRole('group', { name: 'Condition of the Watch' });
  await pick(watch, 'How it is compared', 'at least');
  await watch.getByLabel('Compared with').fill('1');
  await watch.getByLabel('Compared with').press('Tab');

  await addFrom(page, 'a ring time', 'on a schedule');
  await pick(page.getByRole('group', { name: 'Ring time 1' }), 'Period of the schedule', 'day');
  await addFrom(page, 'a ring time', 'by hand, with a button');
  await page.getByLabel('Caption of the button').fill('Chase it');
  await page.getByLabel('Caption of the button').press('Tab');

  await addFrom(page, 'a recipient', 'the owner');
  await writeWords(page.getByLabel('Subject', { exact: true }), 'Chased: ‹task›');
  await addFrom(page, 'a step', 'branch: different steps for different tasks');
  await page.getByLabel('Name of branch 1').fill('it matters');
  await page.getByLabel('Name of branch 1').press('Tab');
  await addFrom(page, 'a step to branch it matters', 'change something');
  await pick(page, 'What it changes', 'add a tag');
  await page.getByLabel('Which tag').fill('chased');
  await page.getByLabel('Which tag').press('Tab');
  await expect(page.locator('.read')).toContainText('if priority is any of high, pressing');
  await expectAccessible(page);

  await page.getByRole('button', { name: 'Turn on…' }).click();
  await page.getByRole('button', { name: 'Turn it on now' }).click();
  await expect(page.getByText('“Two days after” is on.')).toBeVisible();
  await moveClockTo(page, '2026-03-06', '12:00');
  await expect(page.getByText('Clock moved to Fri 6 Mar, 12:00.')).toBeVisible({ timeout: 150_000 });
  await page.getByRole('link', { name: 'Runs' }).click();
  const row = page.getByRole('row').filter({ hasText: 'all watched tasks' }).first();
  await expect(row).toContainText(/\d+ tasks? found, \d+ messages? sent/);
  await row.getByRole('link').first().click();
  await expect(page.getByRole('heading', { name: 'Stages' })).toBeVisible();
  await page.getByRole('table', { name: 'Runs of this ring' }).getByRole('link').first().click();
  await expect(page.getByRole('heading', { name: 'Step by step' })).toBeVisible();
  await expect(page.getByText(/it matters|otherwise/).first()).toBeVisible();
  await expectAccessible(page);
});

test('a task is rung by hand, hushed, and asks for no reminder; what does not go is said', async ({
  app,
  page
}) => {
  await signIn(page, app);
  await open(page, `${app.origin}/tasks?show=overdue`);
  await page.getByRole('rowheader').getByRole('link').first().click();
  const bells = page.getByRole('region', { name: 'Bells' });
  await bells.getByRole('button', { name: 'Ask for news' }).click();
  await expect(page.getByText('Rung by hand.')).toBeVisible();
  await bells.getByText('Hush this task').click();
  await bells.getByLabel('Hushed until').fill('2026-12-31');
  await bells.getByRole('button', { name: 'Hush', exact: true }).click();
  await expect(bells.getByText('A hush lasts at most 90 days.')).toBeVisible();
  await bells.getByLabel('Hushed until').fill('2026-03-20');
  await bells.getByRole('button', { name: 'Hush', exact: true }).click();
  await expect(bells.getByText('this task until the end of Fri 20 Mar')).toBeVisible();
  await bells.getByRole('button', { name: 'Do not remind me of it' }).click();
  await expect(bells.getByRole('button', { name: /Get reminders of this task again/ })).toBeVisible();
  await expectAccessible(page);
});

test('reader lists and templates are made, used by a rule, and say so', async ({ app, page }) => {
  await signIn(page, app);
  await open(page, `${app.origin}/rules/shared`);
  await page.getByRole('button', { name: 'Add a reader list' }).click();
  await page.getByRole('button', { name: 'Save the list' }).click();
  await expect(page.getByText('Give the reader list a name.')).toBeVisible();
  await page.getByLabel('List name').fill('Those who look on');
  await page.getByRole('button', { name: 'Save the list' }).click();
  await expect(page.getByText('no rule uses it')).toBeVisible();
  await page.getByRole('button', { name: 'Add a template' }).click();
  await page.getByLabel('Template name').fill('Plain');
  await page.getByLabel('Its subject').fill('‹taks›');
  await page.getByLabel('Its words').fill('‹task›');
  await page.getByRole('button', { name: 'Save the template' }).click();
  await expect(page.getByText('There is no merge field ‹taks›. Did you mean ‹task›?')).toBeVisible();
  await page.getByLabel('Its subject').fill('‹task›');
  await page.getByRole('button', { name: 'Save the template' }).click();
  await expect(page.getByText('“Plain” was saved.')).toBeVisible();
  await expectAccessible(page);
  await open(page, `${app.origin}/rules/2`);
  await addFrom(page, 'Use a text', 'Plain');
  await addFrom(page, 'a recipient', 'Those who look on');
  await page.getByRole('button', { name: 'Save as a draft' }).click();
  await expect(page.getByText('was saved.')).toBeVisible();
  await open(page, `${app.origin}/rules/shared`);
  await expect(page.getByRole('link', { name: 'Ahead of the date' })).toHaveCount(2);
});

test('a rule that cannot be computed says so before it is turned on, in the list, on the Bell tower, at the task and to its keeper', async ({
  app,
  page
}) => {
  await signIn(page, app);
  await open(page, `${app.origin}/rules`);
  await page.getByRole('button', { name: 'New rule' }).click();
  await page.getByLabel('Name of the rule').fill('Far too early');
  await addFrom(page, 'a ring time', 'before or after a date');
  const first = page.getByRole('group', { name: 'Ring time 1' });
  await first.getByLabel('How many').fill('100000');
  await first.getByLabel('How many').press('Tab');
  await addFrom(page, 'a recipient', 'the owner');
  const broken = page.locator('.band', { hasText: 'Cannot be computed' });
  await expect(broken).toContainText(
    /\d+ tasks: .* is outside the dates handled here.* No notice is certain there\./
  );
  const count = /(\d+) tasks/.exec((await broken.textContent())!)![1]!;
  await page.getByRole('button', { name: 'Turn on…' }).click();
  await page.getByRole('button', { name: 'Turn it on now' }).click();
  await expect(page.getByText('“Far too early” is on.')).toBeVisible();

  // What it said beforehand is what then stands everywhere.
  await expect(async () => {
    await open(page, `${app.origin}/rules?failing=yes`);
    const row = page.getByRole('row').filter({ hasText: 'Far too early' });
    await expect(row).toContainText(`cannot be computed for ${count} tasks`, { timeout: 1_000 });
  }).toPass({ timeout: 60_000 });
  await page.getByRole('link', { name: 'Far too early' }).click();
  await expect(page.locator('.band', { hasText: 'Faulty' })).toContainText(
    `It cannot be computed for ${count} tasks: `
  );
  await expectAccessible(page);
  await open(page, app.origin);
  const band = page.locator('.band', { hasText: 'Faulty rule' });
  await expect(band).toContainText(`Far too early cannot be computed for ${count} tasks: `);
  await expectAccessible(page);
  await band.getByRole('link').nth(1).click();
  await expect(page.locator('.band', { hasText: 'Cannot be computed' })).toContainText(
    '“Far too early” does not ring for this task.'
  );
  await open(page, `${app.origin}/post-room`);
  const mail = page.getByRole('row').filter({ hasText: '“Far too early” cannot be computed for some tasks' });
  await expect(mail.filter({ hasText: 'mail' })).toHaveCount(1);
});

test('a forecast that cannot be calculated says so, and is there once it is tried again', async ({
  app,
  page
}) => {
  await signIn(page, app);
  await page.getByRole('link', { name: 'Rules', exact: true }).click();
  await page.getByRole('link', { name: 'Ahead of the date' }).first().click();
  await expect(page.getByText(/bells, \d+ people/)).toBeVisible();
  const isForForecast = (url: URL) => /^\/rules\/\d+\/(basis|forecast)$/.test(url.pathname);
  await page.route(isForForecast, (route) => route.abort());
  await page.getByLabel('Name of the rule').fill('Ahead of it');
  const failed = page.getByRole('alert').filter({ hasText: 'The forecast could not be calculated.' });
  await expect(failed).toContainText('The server does not answer.');
  await expect(page.getByText('The next send time is not known.')).toBeVisible();
  await expect(page.getByText(/bells, \d+ people/)).toBeHidden();
  await page.unroute(isForForecast);
  await failed.getByRole('button', { name: 'Try again' }).click();
  await expect(page.getByText(/bells, \d+ people/)).toBeVisible();
  await expect(failed).toBeHidden();
  await expect(page.getByLabel('Name of the rule')).toHaveValue('Ahead of it');
});
