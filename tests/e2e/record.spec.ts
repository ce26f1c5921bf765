import { readFileSync } from 'node:fs';
import { expect, expectAccessible, open, signIn, test } from './app.ts';

test('Outbox and Journal: filtered in the address, page by page, taken away as files', async ({
  page,
  app
}) => {
  await signIn(page, app);
  await page.getByRole('link', { name: 'Outbox', exact: true }).click();
  const notices = page.getByRole('table', { name: 'What has left or ended, the last first' });
  await expect(notices.getByRole('row')).toHaveCount(51);
  await expectAccessible(page);
  // The why of a notice is in its row.
  const first = notices.getByRole('button', { name: /, why$/ }).first();
  await first.click();
  await expect(notices.locator('[id^="why-"] li').first()).toBeVisible();
  await first.click();
  await expect(notices.getByRole('row')).toHaveCount(51);
  await page.getByRole('link', { name: 'Older' }).click();
  await expect(page).toHaveURL(/before=\d+-\d+/);
  await page.getByLabel('End', { exact: true }).selectOption('not sent');
  await expect(page).toHaveURL(/end=not\+sent$/);
  await expect(notices.getByRole('row').nth(1)).toContainText('not sent');
  await expect(notices.getByRole('row').nth(1)).not.toContainText('waiting');
  await page.getByLabel('Name of the task').fill('no task is called this');
  await page.getByLabel('Name of the task').press('Enter');
  await expect(page.getByText('No notice matches.')).toBeVisible();
  // What the address says is shown after a reload.
  await page.reload();
  await expect(page.getByText('No notice matches.')).toBeVisible();

  await open(page, `${app.origin}/outbox?end=sent`);
  const downloading = page.waitForEvent('download');
  await page.getByRole('link', { name: 'CSV' }).click();
  const lines = readFileSync(await (await downloading).path(), 'utf8')
    .trim()
    .split('\r\n');
  expect(lines[0]).toBe('notice,rings,leaves,kind,task,rule,recipient,reader,channels,end,why');
  expect(lines.length).toBeGreaterThan(100);
  expect(lines.slice(1).every((line) => line.includes(',sent'))).toBe(true);

  await page.getByRole('link', { name: 'Journal', exact: true }).click();
  // What one rule did in one minute is one line, and the others behind it.
  const entries = page.getByRole('table', { name: 'Entries, newest first' }).getByRole('row');
  const more = page.getByRole('button', { name: /^\d+ more by .* in this minute$/ }).first();
  const folded = Number(/^\d+/.exec((await more.textContent()) ?? '')?.[0]);
  const before = await entries.count();
  await more.click();
  await expect(entries).toHaveCount(before + folded);
  await page.getByLabel('Source', { exact: true }).selectOption('by a rule');
  await expect(page).toHaveURL(/way=rule/);
  const entry = page.getByRole('table', { name: 'Entries, newest first' }).getByRole('row').nth(1);
  await expect(entry).toContainText('creates the follow-up');
  await expectAccessible(page);
  // The entry leads to what was done, and its rule to the run that did it.
  await expect(entry.getByRole('link').first()).toHaveAttribute('href', /^\/changes\/\d+$/);
  await entry.getByRole('link').last().click();
  await expect(page).toHaveURL(/\/rules\/\d+\/runs\/\d+/);
  // A file that there is none of says so.
  const answer = await page.request.get(`${app.origin}/outbox/outbox.xlsx`);
  expect(answer.status()).toBe(404);
});
