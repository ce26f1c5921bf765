import { expect, expectAccessible, moveClockTo, open, signIn, test } from './app.ts';

/** People, calendars and settings as people use them, with bad input; and the messages that follow. */
test.use({ appOptions: { demo: true, name: 'set-up places' } });
test.describe.configure({ mode: 'serial' });

/** The stand-in's messages to an address, newest first. */
async function mailTo(mail: string, address: string): Promise<{ subject: string; text: string }[]> {
  const answer = await fetch(`${mail}/messages?search=${encodeURIComponent(address)}&limit=50`);
  const { messages } = (await answer.json()) as { messages: { id: number; to: string[] }[] };
  const theirs = messages.filter(({ to }) => to.some((one) => one.includes(address)));
  return Promise.all(
    theirs.map(
      async ({ id }) =>
        (await (await fetch(`${mail}/messages/${id}`)).json()) as { subject: string; text: string }
    )
  );
}

test('a holiday is added in Kochi, the forecast moves, undo brings it back', async ({ page, app }) => {
  await signIn(page, app);
  await page.getByRole('link', { name: 'Calendars', exact: true }).click();
  await page.getByRole('link', { name: /^Kochi/ }).click();
  await expectAccessible(page);
  await page.getByRole('button', { name: /^10 March/ }).click();
  await page.getByLabel('Name', { exact: true }).fill('Regatta');
  await page.getByLabel('Name', { exact: true }).press('Tab');
  await page.getByRole('button', { name: 'Close it' }).click();
  const draft = page.locator('section', { hasText: 'Effect of your changes' });
  await expect(draft.getByText('2026-03-10: same as its weekday → Regatta, closed')).toBeVisible();
  await expect(draft.locator('summary', { hasText: /^[\d,]+ bells move$/ })).toBeVisible();
  const row = draft.getByRole('row', { name: /Kolkata/ }).first();
  let [task, before, after]: string[] = [];
  // What was worked out for the draft before is taken away while the next is.
  await expect(async () => {
    const cells = await row.getByRole('cell').allInnerTexts();
    [task, before, after] = cells.map((text) => text.split('\n')[0]!.trim());
    expect(task && before && after).toBeTruthy();
    expect(before).not.toBe(after);
  }).toPass();
  await expectAccessible(page);

  await page.getByRole('button', { name: 'Save the calendar' }).click();
  await expect(page.getByText('was saved.')).toBeVisible();
  await open(page, `${app.origin}/tasks?text=${encodeURIComponent(task!)}`);
  await page.getByRole('link', { name: task!, exact: true }).click();
  const bells = page.getByRole('table', { name: 'Bells to come' });
  const when = after!.replace(/ Kolkata.*/, '');
  await expect(bells.getByText(when).first()).toBeVisible();

  // Undo by the toast of the calendar's page: done again and taken back there.
  await page.goBack();
  await page.goBack();
  await page.getByRole('button', { name: /^11 March/ }).click();
  await page.getByRole('button', { name: 'Close it' }).click();
  await expect(page.locator('summary', { hasText: /^[\d,]+ bells? moves?$/ })).toBeVisible();
  await page.getByRole('button', { name: 'Save the calendar' }).click();
  await expect(page.getByText('was saved.')).toBeVisible();
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByText('Undone.')).toBeVisible();
  await expect(page.getByRole('button', { name: /^11 March: 09:00-17:30/ })).toBeVisible();
  await expect(page.getByRole('button', { name: /^10 March: Regatta, closed/ })).toBeVisible();
});

test('calendars take holidays of a country and of a file, and refuse what is none', async ({ page, app }) => {
  await signIn(page, app);
  await open(page, `${app.origin}/calendars`);
  await page.getByRole('button', { name: 'New calendar' }).click();
  await page.getByLabel('Name of the calendar').fill('Trial calendar');
  await page.getByLabel('Name of the calendar').press('Tab');
  await page.getByLabel('Country').selectOption('Portugal');
  await page.getByRole('button', { name: 'Add holidays' }).click();
  await expect(page.getByText(/^\d+ days from Portugal/)).toBeVisible();
  await expect(page.getByRole('button', { name: /^25 April: .*closed/ })).toBeVisible();

  const file = page.getByLabel(/calendar file/);
  // A file that is chosen before the page is there is chosen again.
  await expect(async () => {
    await file.setInputFiles({ name: 'none.ics', mimeType: 'text/calendar', buffer: Buffer.from('hello') });
    const said = page.getByText('This is not a calendar file: it has no VCALENDAR.');
    await expect(said).toBeVisible({ timeout: 3_000 });
  }).toPass();
  const ics =
    'BEGIN:VCALENDAR\r\nVERSION:2.0\r\nBEGIN:VEVENT\r\nUID:1\r\nDTSTART;VALUE=DATE:20260818\r\nSUMMARY:Quay day\r\nEND:VEVENT\r\nEND:VCALENDAR\r\n';
  await file.setInputFiles({ name: 'quay.ics', mimeType: 'text/calendar', buffer: Buffer.from(ics) });
  await expect(page.getByText('1 day from quay.ics')).toBeVisible();
  await expect(page.getByRole('button', { name: '18 August: Quay day, closed' })).toBeVisible();

  await page.getByLabel('mon', { exact: true }).fill('9-9');
  await page.getByLabel('mon', { exact: true }).press('Tab');
  await expect(page.getByText('The interval “09:00-09:00” starts and ends at the same time.')).toBeVisible();
  await page.getByLabel('mon', { exact: true }).fill('8-12, 13-17');
  await page.getByLabel('mon', { exact: true }).press('Tab');
  await page.getByLabel('Add a week from').fill('2026-09-01');
  await page.getByRole('button', { name: 'Add week', exact: true }).click();
  await expect(page.getByRole('group', { name: /from 2026-09-01/ })).toBeVisible();
  await page.getByRole('button', { name: 'Save the calendar' }).click();
  await expect(page.getByText('“Trial calendar” was saved.')).toBeVisible();
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('link', { name: 'Export calendar (.ics)' }).click()
  ]);
  expect(
    await (
      await download.createReadStream()
    )
      .toArray()
      .then((parts) => Buffer.concat(parts as Buffer[]).toString())
  ).toContain('SUMMARY:Quay day');
});

test('an owner goes on leave and the stand-in gets the message', async ({ page, app }) => {
  await signIn(page, app);
  await open(page, `${app.origin}/people`);
  await page.getByRole('link', { name: 'Rui Tavares' }).click();
  await expectAccessible(page);
  await page.getByLabel('First day').fill('2026-03-06');
  await page.getByLabel('Last day').fill('2026-03-05');
  await page.getByRole('button', { name: 'Add the leave' }).click();
  await expect(page.getByText('ends before it begins')).toBeVisible();
  await page.getByLabel('Last day').fill('2026-03-12');
  await page.getByLabel('Stand-in').selectOption('Clara Pinho');
  await page.getByRole('button', { name: 'Add the leave' }).click();
  // Clara is away for half of the Tuesday: that is said before it is saved.
  await expect(page.getByText('Clara Pinho is on leave too')).toBeVisible();
  await page.getByLabel('Save anyway').check();
  await page.getByRole('button', { name: 'Add the leave' }).click();
  await expect(page.getByText('Leave saved.')).toBeVisible();
  const bells = page.getByRole('table', { name: 'Bells for Rui Tavares' });
  await expect(bells.getByText('for Rui Tavares').first()).toBeVisible();
  await page.getByLabel('First day').fill('2026-03-10');
  await page.getByLabel('Last day').fill('2026-03-11');
  await page.getByRole('button', { name: 'Add the leave' }).click();
  await expect(page.getByText('There is leave from 2026-03-06 to 2026-03-12 already.')).toBeVisible();

  await moveClockTo(page, '2026-03-07', '08:00');
  await expect(page.getByText(/sent\./)).toBeVisible();
  const instead = (await mailTo(app.mail, 'clara.pinho')).filter(({ text }) =>
    text.includes('stand-in for Rui Tavares')
  );
  expect(instead.length).toBeGreaterThan(0);
  expect(instead[0]!.text).toContain(
    'You are the stand-in for Rui Tavares, who is on leave until Friday 13 March 2026 at 00:00 there.'
  );
});

test('somebody is invited, chooses a password, comes in once by the link, and out everywhere', async ({
  page,
  app,
  browser
}) => {
  await signIn(page, app);
  await open(page, `${app.origin}/people/new`);
  await page.getByLabel('Name').fill('Vera Lopes');
  await page.getByLabel('Mail address').fill('vera.lopes@tidewatch.example');
  await page.getByLabel('Time zone').fill('halif');
  await page.getByRole('option', { name: /America.Halifax/ }).click();
  await page.getByLabel('Manager').selectOption('Inês Moura');
  await page.getByRole('button', { name: 'Add the person' }).click();
  await expect(page.getByRole('heading', { name: 'Vera Lopes', level: 1 })).toBeVisible();
  await page.getByRole('button', { name: 'Send an invitation' }).click();
  await expect(page.getByText('Invitation sent by mail.')).toBeVisible();
  await expect(async () => expect(await mailTo(app.mail, 'vera.lopes')).toHaveLength(1)).toPass();
  const { text } = (await mailTo(app.mail, 'vera.lopes'))[0]!;
  const link = /http\S+\/password\/\S+/.exec(text)![0];

  const fresh = await browser.newContext();
  const theirs = await fresh.newPage();
  await open(theirs, link);
  await expectAccessible(theirs);
  await theirs.getByLabel('Password').fill('short');
  await theirs.getByRole('button', { name: 'Save password' }).click();
  await expect(theirs.getByText('at least 10 characters').last()).toBeVisible();
  await theirs.getByLabel('Password').fill('wind and water');
  await theirs.getByRole('button', { name: 'Save password' }).click();
  await expect(theirs.getByRole('heading', { name: /^\w+day \d+ \w+$/, level: 1 })).toBeVisible();
  await expect(theirs.getByRole('link', { name: 'Rules', exact: true })).toHaveCount(0);
  await theirs.goto(link);
  await expect(theirs.getByText('This link was used')).toBeVisible();

  await open(theirs, `${app.origin}/tasks`);
  await theirs.getByLabel('Vera Lopes: your page, sign out').click();
  await theirs.getByRole('menuitem', { name: 'Your page' }).click();
  await theirs.getByLabel('Telephone').fill('not a number');
  await theirs.getByRole('button', { name: 'Save' }).last().click();
  await expect(theirs.getByText('This is not a telephone number.')).toBeVisible();
  await theirs.getByRole('button', { name: 'Sign out everywhere' }).click();
  await expect(theirs).toHaveURL(/sign-in/);
  await theirs.goto(`${app.origin}/tasks`);
  await expect(theirs).toHaveURL(/sign-in/);
  await fresh.close();

  // Deactivated, and brought back by undo.
  await page.reload();
  await page.getByText('Deactivate', { exact: true }).click();
  await page.getByRole('button', { name: 'Deactivate Vera Lopes' }).click();
  await expect(page.getByText('Deactivated. They cannot sign in')).toBeVisible();
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByText('Undone.')).toBeVisible();
});

test('outside contacts and a sheet of people, with what does not fit', async ({ page, app }) => {
  await signIn(page, app);
  await open(page, `${app.origin}/people/contacts`);
  await expectAccessible(page);
  await page.getByLabel('Name', { exact: true }).fill('Harbour pilots');
  await page.getByLabel('Mail address').fill('nobody');
  await page.getByRole('button', { name: 'Add the contact' }).click();
  await expect(page.getByText('This is not a mail address.')).toBeVisible();
  await page.getByLabel('Mail address').fill('pilots@harbour.example');
  await page.getByLabel('Permit renewals').check();
  await page.getByRole('button', { name: 'Add the contact' }).click();
  await expect(page.getByRole('row', { name: /Harbour pilots/ })).toContainText('Permit renewals');

  await open(page, `${app.origin}/people/sheet`);
  await page
    .getByLabel('or paste rows')
    .fill('name,zone,manager\nMina Rao,Asia/Kolkata,Meera Nair\nBad Row,Asia/Kolkatta,\n');
  await page.getByRole('button', { name: 'Check' }).click();
  await expect(page.getByRole('row', { name: /Mina Rao/ })).toContainText('is added');
  await expect(page.getByRole('row', { name: /Bad Row/ })).toContainText('Did you mean Asia/Kolkata');
  await expectAccessible(page);
  await page.getByRole('button', { name: 'Import 1 person' }).click();
  await expect(page.getByText('1 added, 0 changed. 1 row was skipped.')).toBeVisible();
});

test('settings show what they would move; statuses keep a phase; the sample data goes in one press', async ({
  page,
  app
}) => {
  await signIn(page, app);
  await page.getByRole('link', { name: 'Settings', exact: true }).click();
  await expectAccessible(page);
  await page.getByLabel('Overdue from').selectOption('at close of business');
  await expect(page.locator('summary', { hasText: /^\d+ due times move$/ })).toBeVisible();
  await page.getByLabel('Notice time').fill('25:00');
  await page.getByLabel('Notice time').press('Tab');
  await page.getByRole('button', { name: 'Save the settings' }).click();
  await expect(page.getByText('“25:00” is not a time of day.').first()).toBeVisible();
  await page.getByLabel('Notice time').fill('8:30');
  await page.getByLabel('Notice time').press('Tab');
  await page.getByRole('button', { name: 'Save the settings' }).click();
  await expect(page.getByText('Settings saved.')).toBeVisible();

  await page.getByRole('button', { name: 'Change To do' }).click();
  await expect(page.getByLabel('Name of To do')).toBeFocused();
  await page.getByLabel('Phase of To do').selectOption('finished');
  await expect(page.locator('summary', { hasText: /^[\d,]+ bells removed$/ })).toBeVisible();
  await page.getByLabel('Phase of To do').selectOption('waiting to start');

  await page.getByRole('button', { name: 'Remove Closed' }).click();
  await page.getByRole('button', { name: 'Remove “Closed”' }).click();
  await expect(page.getByText('A workspace needs a status in the phase “closed”.')).toBeVisible();
  await page.getByRole('button', { name: 'Add a status' }).click();
  await page.getByLabel('Name of a new status').fill('Called off');
  await page.getByLabel('Phase of a new status').selectOption('closed');
  await page.getByRole('button', { name: 'Add status' }).click();
  await expect(page.getByText('“Called off” was saved.')).toBeVisible();

  await page.getByLabel('Remove all samples').check();
  await page.getByRole('button', { name: 'Remove the sample data' }).click();
  await expect(page.getByRole('heading', { name: 'Begin' })).toBeVisible();
  await expect(page.locator('.start li')).toHaveCount(6);
  // Its holidays and its mail server are there still.
  await expect(page.locator('.start li.done')).toHaveCount(2);
  await expectAccessible(page);
});
