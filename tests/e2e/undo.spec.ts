import { expect, expectAccessible, moveClockTo, open, signIn, test } from './app.ts';

test.use({ appOptions: { demo: true, name: 'undo' } });

test('a project is called off, and taken back two seconds later: three days on nobody has heard of it', async ({
  app,
  page
}) => {
  await signIn(page, app);
  await page.getByRole('link', { name: 'Projects', exact: true }).click();
  await page.getByRole('link', { name: 'Winter buoy service' }).click();
  await page.getByRole('button', { name: 'Called off: close its open tasks' }).click();
  await page.getByRole('button', { name: /^Ring for \d+ tasks$/ }).click();
  await expect(page.getByText(/^Rung by hand for \d+ tasks\.$/)).toBeVisible();
  const lately = page.getByRole('region', { name: 'Done lately' });
  await lately.getByRole('link', { name: /^Called off: close its open tasks/ }).click();
  await page.getByRole('button', { name: 'Undo…' }).click();
  const would = page.getByRole('region', { name: 'Effect of undo' });
  await expect(would).toContainText(/\d+\s+changes are undone/);
  const waits = /(\d+)\s+waiting notices are not sent/.exec(await would.innerText())!;
  await expectAccessible(page);
  await would.getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByText('Undone.', { exact: false }).first()).toBeVisible();
  await moveClockTo(page, '2026-03-08', '20:00');
  await expect(page.getByText('Clock moved to Sun 8 Mar, 20:00.')).toBeVisible({ timeout: 200_000 });
  await open(page, `${app.origin}/outbox?end=withdrawn`);
  const rows = page.getByRole('table').locator('tbody tr').filter({ hasText: 'undone' });
  await expect(rows).toHaveCount(Number(waits[1]));
  await expect(rows.first()).toContainText('finished');
});

test('what was done to several tasks is taken back from the Journal a week later', async ({ app, page }) => {
  await signIn(page, app);
  await open(page, `${app.origin}/tasks?search=mooring`);
  await page.getByRole('checkbox').nth(1).check();
  await page.getByRole('checkbox').nth(2).check();
  await page.getByLabel('What to do').selectOption('priority');
  await page.getByLabel('Which priority').selectOption('pressing');
  await page.getByRole('button', { name: 'Preview' }).click();
  await page.getByRole('button', { name: 'Change 2 tasks' }).click();
  await expect(page.getByText('2 tasks changed')).toBeVisible();
  await moveClockTo(page, '2026-03-12', '10:00');
  await expect(page.getByText('Clock moved to Thu 12 Mar, 10:00.')).toBeVisible({ timeout: 200_000 });
  await page.getByRole('link', { name: 'Journal', exact: true }).click();
  await page.getByLabel('Search entries').fill('of pressing priority');
  await page.getByRole('link', { name: '2 tasks of pressing priority' }).click();
  await page.getByRole('button', { name: 'Undo…' }).click();
  const would = page.getByRole('region', { name: 'Effect of undo' });
  await expect(would).toContainText(/2\s+changes are undone/);
  await would.getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByText('by Inês Moura, Thu 12 Mar, 10:00')).toBeVisible();
  await page.reload();
  await expect(page.getByRole('button', { name: 'Undo…' })).toHaveCount(0);
});
