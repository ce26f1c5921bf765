import {
  addFrom,
  expect,
  expectAccessible,
  moveClockTo,
  open,
  pick,
  pickMany,
  searchPostRoom,
  signIn,
  test,
  writeWords
} from './app.ts';

test.use({ appOptions: { demo: true, name: 'rule-from-nothing' } });

/** What a coordinator does who has never made a rule: everything by what stands on the screen, most of it without a mouse. */
test('a rule with two leads, a condition and a branch: made, tried, compared, turned on, rung, and read in the journal', async ({
  app,
  page
}) => {
  await signIn(page, app);
  await page.getByRole('link', { name: 'Rules', exact: true }).click();
  await page.getByRole('button', { name: 'New rule' }).click();
  await page.getByLabel('Name of the rule').fill('Permits, twice');
  await pickMany(page, 'Projects', ['Permit renewals']);
  await addFrom(page, 'a condition of the Watch', 'where days since created …');
  const watch = page.getByRole('group', { name: 'Condition of the Watch' });
  await pick(watch, 'How it is compared', 'at least');
  await watch.getByLabel('Compared with').fill('0');
  await watch.getByLabel('Compared with').press('Tab');

  await addFrom(page, 'a ring time', 'before or after a date');
  const first = page.getByRole('group', { name: 'Ring time 1' });
  await first.getByLabel('How many').fill('10');
  await first.getByLabel('How many').press('Tab');
  await first.getByLabel('Time of day').fill('8');
  await first.getByLabel('Time of day').press('Tab');
  await expect(first.getByLabel('Time of day')).toHaveValue('08:00');
  await addFrom(page, 'a ring time', 'before or after a date');
  await expect(page.getByRole('group', { name: 'Ring time 2' })).toContainText('working days');

  // The owner hears both times, their manager from the second on.
  await addFrom(page, 'a recipient', 'the owner');
  await addFrom(page, 'a recipient', 'the owner’s manager');
  await addFrom(
    page.getByRole('group', { name: 'Recipient 2' }),
    'Limit to a ring time',
    '2 working days before the due date, 09:00 where the recipient is'
  );
  await pick(page, 'How tasks are combined', 'one message per task');

  // A field is offered while typing, and stands in the text as one thing.
  const subject = page.getByRole('textbox', { name: 'Subject' });
  await writeWords(subject, 'Permit: <tas');
  await page.keyboard.press('Enter');
  await subject.pressSequentially(' is ‹days left›');
  await expect(subject).toHaveText('Permit: ‹task› is ‹days left›');
  // It is read about a real task, in the zone of whoever reads it.
  await expect(page.locator('.preview .subject')).toContainText(/^Permit: .* is due in \d+ days$/);

  await addFrom(page, 'a step', 'branch: different steps for different tasks');
  await page.getByLabel('Name of branch 1').fill('it matters');
  await page.getByLabel('Name of branch 1').press('Tab');
  await addFrom(page, 'a step to branch it matters', 'change something');
  await pick(page, 'What it changes', 'add a tag');
  await page.getByLabel('Which tag').fill('permit at risk');
  await page.getByLabel('Which tag').press('Tab');
  await expect(page.locator('.read')).toContainText('10 working days before the due date, 08:00');
  await expect(page.locator('.read')).toContainText('add the tag “permit at risk”');
  await expectAccessible(page);

  await page.getByRole('tab', { name: 'Try on one task' }).click();
  await page.getByLabel('Try it on').fill('Renew the dive permit, Outer Reef');
  await page.getByLabel('Try it on').press('Tab');
  await expect(page.getByText('nothing is changed, and nobody else is told')).toBeVisible();

  await page.getByRole('button', { name: 'Turn on…' }).click();
  await page.getByRole('button', { name: 'Turn it on now' }).click();
  await expect(page.getByText('“Permits, twice” is on.')).toBeVisible();
  const ruleUrl = page.url();

  // A draft beside what is live.
  const second = page.getByRole('group', { name: 'Ring time 2' });
  await second.getByLabel('Time of day').fill('11:00');
  await second.getByLabel('Time of day').press('Tab');
  await page.getByRole('tab', { name: 'Compare with live' }).click();
  await expect(page.getByText(/0 added, 0 removed, [1-9]\d* moved/)).toBeVisible();
  await page.getByRole('button', { name: 'Make it live…' }).click();
  await page.getByRole('button', { name: 'Make it live now' }).click();
  await expect(page.getByText('“Permits, twice” is on.')).toBeVisible();

  // The next message is where the read-back said, and its path stands in the journal.
  await page.getByRole('tab', { name: 'Next four weeks' }).click();
  const table = page.getByRole('table', { name: 'Every notice of this rule in the next four weeks' });
  await expect(table.locator('tbody tr').first()).toBeVisible();
  const foretold = (await table.locator('tbody').innerText()).replace(/\s+/g, ' ');
  await moveClockTo(page, '2026-03-20', '20:00');
  await expect(page.getByText('Clock moved to Fri 20 Mar, 20:00.')).toBeVisible({ timeout: 200_000 });
  await page.getByRole('link', { name: 'Post room', exact: true }).click();
  await searchPostRoom(page, 'Permit: ');
  const rows = page.getByRole('table').locator('tbody tr').filter({ hasText: 'Permit: ' });
  await expect(rows.first()).toBeVisible();
  // Other rules make tasks meanwhile, which it rings for too.
  const tasks = (await rows.allInnerTexts()).map(
    (text) => /Permit: (.*) is /.exec(text.replace(/\s+/g, ' '))![1]!
  );
  expect(tasks.filter((task) => foretold.includes(task)).length).toBeGreaterThan(3);

  await open(page, ruleUrl);
  await page.getByRole('link', { name: 'Runs' }).click();
  // The page before has a table too.
  await page.waitForURL(/\/runs$/);
  await page.getByRole('table').getByRole('link').first().click();
  await expect(page.getByRole('heading', { name: 'Step by step' })).toBeVisible();
  await expect(page.getByText(/it matters|otherwise/).first()).toBeVisible();
  await expectAccessible(page);
});
