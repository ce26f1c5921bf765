import { expect, expectAccessible, open, pick, pickMany, signIn, test, writeWords } from './app.ts';

/** Each place of the demo workspace: what it shows, its acts with their undo, and what it does with bad input. */

test.use({ appOptions: { demo: true, name: 'places' } });
test.describe.configure({ mode: 'serial' });

test('the Bell tower shows the next day in five zones', async ({ page, app }) => {
  await signIn(page, app);
  const table = page.getByRole('table', { name: 'Bells in the next 24 hours' });
  const rung = table.locator('tbody tr:not(.unrung)');
  await page.locator('summary', { hasText: 'As a table' }).click();
  await expect(rung.nth(11)).toBeVisible();
  const text = await table.innerText();
  for (const place of ['Lisbon', 'Halifax', 'Muscat', 'Kolkata', 'Hobart']) expect(text).toContain(place);
  expect(await rung.filter({ hasText: 'from' }).count()).toBeGreaterThanOrEqual(3);
  await expect(rung.filter({ hasText: 'late bell' })).toHaveCount(1);
  await expect(page.getByRole('region', { name: 'Out of earshot' })).toBeVisible();

  // The strip is read and pressed by keyboard alone.
  const mark = page
    .getByRole('group', { name: /Bells in the next 24 hours/ })
    .getByRole('button')
    .first();
  await mark.focus();
  await expect(page.locator('.said')).toContainText(await mark.getAttribute('aria-label').then(String));
  await mark.press('Enter');
  await expect(table.locator('[id^="why-"]')).toBeVisible();
  await expectAccessible(page);
  // A bell beside the line of now is pressed through it.
  const pressed = await page.locator('svg line[stroke="var(--brass)"]').evaluate((line) => {
    line.scrollIntoView({ block: 'center' });
    const { left, top, height } = line.getBoundingClientRect();
    const places = [0.1, 0.3, 0.5, 0.7, 0.9].map((part) => top + part * height);
    return places.map((y) => document.elementFromPoint(left, y)?.tagName ?? 'nothing');
  });
  expect(pressed).toHaveLength(5);
  expect(pressed).not.toContain('line');

  await page.getByRole('link', { name: /overdue, oldest/ }).click();
  await expect(page.getByRole('gridcell', { name: /working days? overdue/ }).first()).toBeVisible();
});

test('a task is added, edited and taken back', async ({ page, app }) => {
  await signIn(page, app);
  await page.keyboard.press('n');
  await page.getByRole('link', { name: 'Open the full form' }).click();
  await expect(page.getByRole('heading', { name: 'Add a task' })).toBeVisible();
  await page.getByRole('button', { name: 'Add the task' }).click();
  await expect(page.getByText('Give the task a name.')).toBeVisible();
  await page.getByLabel('Task', { exact: true }).fill('<b>Bold</b> & sound');
  await page.getByLabel('Owner', { exact: true }).selectOption({ label: 'Rui Tavares · Lisbon' });
  await page.getByLabel('Due date').fill('2026-03-12');
  await page.getByLabel(/Due time/).fill('25:00');
  await page.getByRole('button', { name: 'Add the task' }).click();
  await expect(page.getByText('“25:00” is not a time of day.').first()).toBeVisible();
  // Nothing typed was lost.
  await expect(page.getByLabel('Task', { exact: true })).toHaveValue('<b>Bold</b> & sound');
  await page.getByLabel(/Due time/).fill('9.30');
  await page.getByRole('button', { name: 'Add the task' }).click();
  await expect(page.getByRole('heading', { name: '<b>Bold</b> & sound' })).toBeVisible();
  await expect(page.getByRole('table', { name: 'Bells to come' })).toContainText('Tue 10 Mar, 09:00');
  await expectAccessible(page);

  // The date moves later: the bells follow, and the first date is remembered.
  await page.getByRole('region', { name: 'The task' }).getByLabel('Due date').fill('2026-03-19');
  await page.getByRole('button', { name: 'Save' }).click();
  await expect(page.getByText('postponed 1 time')).toBeVisible();
  await expect(page.getByRole('table', { name: 'Bells to come' })).toContainText('Tue 17 Mar, 09:00');
  await page.locator('.notice', { hasText: 'was saved' }).getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByText('Undone.')).toBeVisible();
  await expect(page.getByRole('table', { name: 'Bells to come' })).toContainText('Tue 10 Mar, 09:00');
});

test('the import asks for what it cannot know and refuses what is no table', async ({ page, app }) => {
  await signIn(page, app);
  const upload = async (name: string, buffer: Buffer) => {
    await open(page, `${app.origin}/tasks/import`);
    await page.getByLabel(/CSV file/).setInputFiles({ name, mimeType: 'text/csv', buffer });
    await page.getByRole('button', { name: 'Check the file' }).click();
  };
  await upload('picture.csv', Buffer.from([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a]));
  await expect(page.getByRole('alert')).toContainText('it looks like a PNG picture');
  await upload('large.csv', Buffer.alloc(20 * 2 ** 20 + 1, 'a'));
  await expect(page.getByRole('alert')).toContainText('larger than 20 MB');

  await upload(
    'spring.csv',
    Buffer.from('Aufgabe;Owner;Due\nÉtalonner la jauge;Rui Tavares;03/04/2026\n', 'latin1')
  );
  await expect(page.getByText('A column is missing')).toBeVisible();
  await expect(page.getByText('separated by semicolons · Latin-1')).toBeVisible();
  await page.getByLabel('task (needed)').selectOption('Aufgabe');
  await expect(page.getByText('Which date is this?')).toBeVisible();
  await expect(page.getByRole('button', { name: 'Import 1 task' })).toBeDisabled();
  await page.getByLabel('Dates like 03/04/2026').selectOption('day first: 3 April');
  await expect(page.getByRole('cell', { name: 'Friday 3 April 2026' })).toBeVisible();
  await page.getByRole('button', { name: 'Import 1 task' }).click();
  await expect(page.getByText('1 task was added.')).toBeVisible();
  await page.keyboard.press('Control+z');
  await expect(page.getByText('Undone.')).toBeVisible();
  await open(page, `${app.origin}/tasks?text=talonner&show=all`);
  await expect(page.getByText('No task matches.')).toBeVisible();
});

test('a rule says what is wrong with it, and what it will do as it is typed', async ({ page, app }) => {
  await signIn(page, app);
  await open(page, `${app.origin}/rules/2`);
  const bells = page.locator('.numbers');
  await expect(bells).toContainText(/\d+ bells/);
  const before = await bells.innerText();
  await pickMany(page, 'Projects', ['Permit renewals']);
  await expect(bells).not.toHaveText(before);
  await writeWords(page.getByLabel('Subject', { exact: true }), '‹taks› soon');
  await expect(page.getByText('There is no merge field ‹taks›. Did you mean ‹task›?')).toBeVisible();
  // A place is looked for by what is typed; what is not there cannot be picked.
  await pick(page.getByRole('group', { name: 'Ring time 1' }), 'Whose time', 'in another place');
  await page.getByRole('button', { name: 'Time zone: ' }).click();
  await page.getByRole('combobox', { name: 'Time zone' }).fill('lisbom');
  await expect(page.getByText('No match')).toBeVisible();
  await page.getByRole('combobox', { name: 'Time zone' }).fill('lisb');
  await page.getByRole('combobox', { name: 'Time zone' }).press('Enter');
  await expect(page.getByRole('button', { name: 'Time zone: Europe/Lisbon' })).toBeFocused();
  await page.getByRole('button', { name: 'Make it live…' }).click();
  await expect(page.getByText('Not ready to turn on.')).toBeVisible();
  await page.getByRole('link', { name: 'Rules', exact: true }).first().click();
  await page.getByRole('alertdialog').getByRole('button', { name: 'Leave the page' }).click();
  await expect(page.getByRole('table', { name: 'All rules in their order' })).toContainText(
    'Ahead of the date'
  );
  await expectAccessible(page);
});

test('people: where they are, when they work, and what is refused', async ({ page, app }) => {
  await signIn(page, app, 'Nora Fielding');
  await page.getByRole('link', { name: 'People', exact: true }).click();
  await expect(page.getByRole('heading', { name: 'People', level: 1 })).toBeVisible();
  await expect(page.getByRole('row', { name: /Tess Whitlam/ }).first()).toContainText('Eight Hours Day');
  await expect(page.getByRole('row', { name: /Yusuf Kindi/ }).first()).toContainText('no address');
  await expect(
    page.getByText('Yusuf Kindi: No address on any channel: no notice can reach them.')
  ).toBeVisible();
  await expectAccessible(page);
  await page.getByRole('link', { name: 'Salim Harthy' }).first().click();
  await page.getByLabel('Manager').selectOption('Huda Balushi');
  await page.getByRole('button', { name: 'Save', exact: true }).click();
  await expect(
    page.getByText(/The managers would form a circle: Salim Harthy → Huda Balushi → Salim Harthy/)
  ).toBeVisible();
  await page.getByLabel('Manager').selectOption('Inês Moura');
  await page.getByLabel('Time zone').fill('Asia/Mascat');
  await page.getByRole('button', { name: 'Save', exact: true }).click();
  await expect(page.getByText('There is no time zone “Asia/Mascat”. Did you mean Asia/Muscat')).toBeVisible();
  await page.getByLabel('Time zone').fill('Asia/Muscat');
  await page.getByLabel('Mail address').fill('huda.balushi@tidewatch.example');
  await page.getByRole('button', { name: 'Save', exact: true }).click();
  await expect(page.getByText('already belongs to Huda Balushi')).toBeVisible();
  // Nora is in Halifax: what rings in Muscat is shown on both walls.
  await open(page, `${app.origin}/`);
  await page.locator('summary', { hasText: 'As a table' }).click();
  await expect(page.getByRole('table', { name: 'Bells in the next 24 hours' })).toContainText(
    /Muscat · .* here/
  );
});

test('what is typed and not saved is asked about before it is lost, and once it is saved no more', async ({
  page,
  app
}) => {
  await signIn(page, app);
  await open(page, `${app.origin}/people`);
  await page.getByRole('main').locator('a[href="/people/1"]').first().click();
  const quiet = page.getByLabel('Quiet hours');
  await quiet.fill('22:00-07:00');
  const asked = page.getByRole('alertdialog');
  const tasks = page.getByRole('link', { name: 'Tasks', exact: true }).first();
  await tasks.click();
  await expect(asked).toContainText('Your text is not saved. Leave the page?');
  await page.keyboard.press('Escape');
  await expect(asked).toHaveCount(0);
  await expect(quiet).toHaveValue('22:00-07:00');
  // Going back is asked about too, and staying keeps what was typed.
  await page.goBack();
  await expect(asked).toContainText('Your text is not saved. Leave the page?');
  await page.keyboard.press('Escape');
  await expect(page).toHaveURL(/\/people\/1/);
  await expect(quiet).toHaveValue('22:00-07:00');
  await page.getByRole('button', { name: 'Save the hours' }).click();
  await expect(page.locator('.notice', { hasText: 'It applies now' })).toBeVisible();
  await tasks.click();
  await expect(page).toHaveURL(/\/tasks/);
  await expect(asked).toHaveCount(0);
});

test('the stand-in can be told to fail, and everything arrives when it is back', async ({ page, app }) => {
  await signIn(page, app);
  await page.getByRole('link', { name: 'Post room', exact: true }).click();
  await page.locator('summary', { hasText: 'Try what happens when messages fail' }).click();
  await page.getByLabel('Post room’s mail').selectOption('ask to try again later');
  await page.getByRole('button', { name: 'Move clock' }).click();
  await page.getByRole('button', { name: 'Move to the next bell' }).click();
  // What stands in the application went out; mail did not.
  await expect(page.getByText(/messages? sent/)).toBeVisible({ timeout: 30_000 });
  await page.getByRole('link', { name: 'Bell tower', exact: true }).click();
  await expect(page.getByText('trying again').first()).toBeVisible();
  await page.getByRole('link', { name: 'Post room', exact: true }).click();
  await page.getByLabel('Post room’s mail').selectOption('accept every message');
  await page.waitForTimeout(1_500);
  await page.getByRole('link', { name: 'Bell tower', exact: true }).click();
  await expect(page.getByText('trying again')).toHaveCount(0);
});

test('channels: a test message by each, in the Post room and behind the bell; a choice It applies now', async ({
  page,
  app
}) => {
  await signIn(page, app);
  await open(page, `${app.origin}/settings/channels`);
  await page.getByLabel('Name', { exact: true }).first().fill('no such host!');
  await page.getByRole('textbox', { name: 'Address' }).first().fill('nowhere');
  await page.getByRole('button', { name: 'Save the channels' }).click();
  await expect(page.getByText('Give the name of the mail server')).toBeVisible();
  await expect(page.getByText('This is not a web address.')).toBeVisible();
  // What was typed is still there to be mended.
  await expect(page.getByLabel('Name', { exact: true }).first()).toHaveValue('no such host!');
  await expectAccessible(page);

  await page.getByRole('button', { name: 'Send me a chat message' }).click();
  await expect(page.getByText('You have no name in the chat yet')).toBeVisible();
  await page.getByRole('button', { name: 'Send me a text message' }).click();
  await expect(page.locator('.notice', { hasText: 'The test message was taken for' })).toBeVisible();
  await page.getByRole('button', { name: 'Send me a test notice' }).click();
  await expect(page.locator('.notice', { hasText: 'The test notice is at the bell.' })).toBeVisible();
  const bell = page.locator('summary[aria-label^="Notices"]');
  await expect(bell).toHaveAccessibleName(/: [1-9]\d* new$/);
  await bell.press('Enter');
  const said = page.getByRole('group', { name: 'Your notices' });
  await expect(said.getByRole('heading', { name: 'The rest' })).toBeVisible();
  await expect(said.getByText('Messages from this workspace reach you.')).toBeVisible();
  await expectAccessible(page);
  await said.getByRole('button', { name: 'Clear “new” marks' }).click();
  await expect(bell).toHaveAccessibleName('Notices: nothing new');
  await page.keyboard.press('Escape');
  await expect(said).toHaveCount(0);

  await page.getByRole('link', { name: 'Post room', exact: true }).click();
  await page.getByLabel('Channel').selectOption('text message');
  await expect(page).toHaveURL(/channel=text/);
  await page.getByRole('link', { name: 'A test message' }).click();
  await page.getByRole('button', { name: 'raw' }).click();
  // The number as gateways take it, and where the receipt was brought.
  await expect(page.locator('pre')).toContainText('"to": "+351265555010"');
  await expect(page.locator('pre')).toContainText('/receipts/text/');

  await open(page, `${app.origin}/people/1`);
  await page.getByRole('checkbox', { name: 'finished, text message' }).check();
  await expect(page.getByText('Saved. It applies now.')).toBeVisible();
  await open(page, `${app.origin}/people/1`);
  await expect(page.getByRole('checkbox', { name: 'finished, text message' })).toBeChecked();
  // Two quick ticks on a slow way: the second waits for the first, and both are kept.
  await page.route('**/people/1?/channels', async (route) => {
    await new Promise((resolve) => setTimeout(resolve, 400));
    await route.continue();
  });
  let answered = 0;
  page.on('response', (answer) => (answered += Number(answer.url().endsWith('?/channels'))));
  await page.getByRole('checkbox', { name: 'finished, text message' }).uncheck();
  await page.getByRole('checkbox', { name: 'due today, text message' }).check();
  await expect.poll(() => answered).toBe(2);
  await page.unroute('**/people/1?/channels');
  await open(page, `${app.origin}/people/1`);
  await expect(page.getByRole('checkbox', { name: 'finished, text message' })).not.toBeChecked();
  await expect(page.getByRole('checkbox', { name: 'due today, text message' })).toBeChecked();
  await expect(page.getByText('too long for a text message')).toHaveCount(3);
});
