import { addFrom, expect, expectAccessible, moveClockTo, open, pick, signIn, test } from './app.ts';

test('a digest for a manager: made, looked at, turned on; what arrives is what the screen showed', async ({
  page,
  app
}) => {
  await signIn(page, app);
  await page.getByRole('link', { name: 'Digests', exact: true }).click();
  await expect(page.getByRole('row', { name: /^Your day/ })).toContainText(
    'at each recipient’s own digest times'
  );
  await expectAccessible(page);
  await page.getByRole('button', { name: 'New digest' }).click();
  await page.getByLabel('Name of the digest').fill('Noon for managers');
  await pick(page, 'Whose work', 'the work of each recipient’s team');
  await page.getByRole('button', { name: 'Remove the coordinators' }).click();
  await expect(page.getByText('The digest goes to nobody. Choose a recipient.')).toBeVisible();
  await addFrom(page, 'a recipient', 'managers');
  await page.getByLabel('Time of the digest').fill('12:00');
  await page.getByLabel('Time of the digest').press('Tab');
  await page.getByRole('button', { name: 'Save', exact: true }).click();
  await expect(page.getByText('“Noon for managers” was saved.')).toBeVisible();
  // The message as a page runs no script, so nothing can look into its frame.
  await page.getByRole('button', { name: 'as text' }).click();
  await expectAccessible(page);
  await page.getByRole('button', { name: 'Turn it on' }).click();
  await expect(page.getByText('The digest is on.', { exact: true })).toBeVisible();

  // Looked at for noon of the same day, from the facts as they stand.
  const answered = page.waitForResponse(
    (answer) => answer.url().endsWith('/preview') && answer.request().postData()!.endsWith('"time":"12:00"}')
  );
  await page.getByLabel('Time of the preview').fill('12:00');
  await page.getByLabel('Time of the preview').press('Tab');
  const { subject } = (await (await answered).json()) as { subject: string };
  await expect(page.locator('p', { hasText: /^Subject/ })).toContainText(subject);
  const foreseen = await page.locator('pre').innerText();
  expect(foreseen).toContain('• all:');

  await moveClockTo(page, '2026-03-05', '12:00');
  await expect(page.getByText('Clock moved to Thu 5 Mar, 12:00.')).toBeVisible({ timeout: 120_000 });
  await open(page, `${app.origin}/post-room?search=${encodeURIComponent('Noon for managers')}`);
  const listed = page.getByRole('row', { name: /Inês Moura/ });
  await expect(listed).toContainText(subject);
  await listed.getByRole('link').first().click();
  await page.getByRole('button', { name: 'as text' }).click();
  const arrived = await page.getByTestId('message-text').innerText();
  // What rang and was done in between is in both, so the numbers are the same.
  expect(arrived.trim()).toBe(foreseen.trim());

  await open(page, `${app.origin}/digests`);
  await expect(page.getByRole('row', { name: /^Noon for managers/ })).toContainText('Thu 5 Mar, 12:00');
});

test('all open tasks as one table: its order and groups are chosen, and the preview follows; a list must be named', async ({
  page,
  app
}) => {
  await signIn(page, app);
  await open(page, `${app.origin}/digests`);
  await page.getByRole('link', { name: 'Everything open' }).click();
  const table = page.frameLocator('iframe').getByRole('table').last();
  const first = table.locator('tbody tr').first();
  await expect(first).toContainText('Data publication');
  await pick(page, 'Groups of the tables', 'grouped by priority');
  await expect(first).toContainText('pressing priority');
  await expect(table.locator('thead')).toContainText('Owner');
  await addFrom(page, 'a section', 'all tasks of a saved list, as a table');
  await page.getByRole('button', { name: 'Save', exact: true }).click();
  await expect(
    page.getByRole('alert').filter({ hasText: 'Choose the saved list of “all tasks of a list”.' }).first()
  ).toBeVisible();
  await pick(page, 'Saved list of the table', 'Permits this month');
  await page.getByRole('button', { name: 'Save', exact: true }).click();
  await expect(page.getByText('“Everything open” was saved.')).toBeVisible();
});

test('bad input: no name, a time that is none, leaving with something unsaved', async ({ page, app }) => {
  await signIn(page, app);
  await open(page, `${app.origin}/digests/3`);
  await page.getByLabel('Name of the digest').fill('  ');
  await page.getByRole('button', { name: 'Save', exact: true }).click();
  await expect(page.getByRole('alert').filter({ hasText: 'Give the digest a name' }).first()).toBeVisible();
  await page.getByLabel('Name of the digest').fill('After close');
  await page.getByLabel('Time of the digest').fill('25:99');
  await page.getByLabel('Time of the digest').press('Tab');
  await expect(page.getByRole('alert').filter({ hasText: '“25:99” is not a time of day' })).toBeVisible();
  await page.getByRole('button', { name: 'Save', exact: true }).click();
  await expect(page.getByLabel('Time of the digest')).toHaveValue('25:99');
  await page.getByLabel('Name of the digest').fill('After closing');
  await page.getByRole('link', { name: 'Rules', exact: true }).click();
  await page.getByRole('alertdialog').getByRole('button', { name: 'Stay' }).click();
  await expect(page.getByLabel('Name of the digest')).toHaveValue('After closing');
  await open(page, `${app.origin}/digests/999`);
  await expect(page.getByText('This digest was not found.')).toBeVisible();
});
