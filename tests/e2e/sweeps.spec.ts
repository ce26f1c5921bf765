import type { Page } from '@playwright/test';
import {
  addFrom,
  expect,
  expectAccessible,
  moveClockTo,
  open,
  pick,
  searchPostRoom,
  signIn,
  test
} from './app.ts';
import type { App } from './app.ts';

test.use({ appOptions: { demo: true, name: 'sweeps' } });

const GOES = 'Strip the old anemometer';
const STAYS = 'Grease the slipway winch';

async function moveTo(page: Page, date: string, time: string, said: string): Promise<void> {
  await moveClockTo(page, date, time);
  await expect(page.getByText(`Clock moved to ${said}, ${time}.`)).toBeVisible({ timeout: 240_000 });
}

/** Adds a task of the viewer's own with a status. */
async function add(page: Page, app: App, name: string, status: string): Promise<void> {
  await open(page, `${app.origin}/tasks/new`);
  await page.getByLabel('Task', { exact: true }).fill(name);
  await page.getByLabel('Status').selectOption({ label: status });
  await page.getByRole('button', { name: 'Add the task' }).click();
  await expect(page.getByText(`“${name}” was added.`)).toBeVisible();
}

test('late work is re-dated: one left out, the rest done, and taken back', async ({ app, page }) => {
  await signIn(page, app);
  await open(page, `${app.origin}/sweeps`);
  await page.getByRole('link', { name: 'Overdue tasks to the next working day' }).click();
  await expectAccessible(page);
  await page.getByRole('button', { name: 'Make the list now' }).click();
  await expect(page.getByText(/tasks would be given a new due date/)).toBeVisible();
  await expectAccessible(page);
  const first = page.locator('tbody').getByRole('checkbox').first();
  const left = await first.getAttribute('aria-label');
  await first.uncheck();
  await expect(page.getByText('removed by hand').first()).toBeVisible();
  await page.getByRole('button', { name: /^Approve and run/ }).click();
  await expect(page.getByRole('button', { name: 'Undo' })).toBeVisible();
  await page.getByRole('link', { name: /skipped$/ }).click();
  await expect(page.getByRole('row', { name: new RegExp(left!.slice(0, 20)) })).toBeVisible();
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByText('undone', { exact: true })).toBeVisible();
});

test('a sweep is made; bad input is refused and nothing typed is lost', async ({ app, page }) => {
  await signIn(page, app);
  await open(page, `${app.origin}/sweeps`);
  await addFrom(page, 'New sweep', 'ask owners whether stale tasks are still needed');
  await expect(page.getByLabel('Name of the sweep')).toHaveValue('Still needed?');
  await page.getByLabel('Name of the sweep').fill('');
  await page.getByRole('button', { name: 'Save', exact: true }).click();
  await expect(page.getByRole('alert')).toContainText('Give the sweep a name.');
  await page.getByLabel('Name of the sweep').fill('Is it still wanted');
  await pick(page, 'Action of the sweep', 'purge the archive');
  await pick(page, 'When it runs', 'on a schedule');
  await page.getByRole('button', { name: 'Save', exact: true }).click();
  await expect(page.getByText('“Is it still wanted” was saved.')).toBeVisible();
  await page.getByRole('button', { name: 'Turn it on' }).click();
  await expect(page.getByText('The sweep is on.')).toBeVisible();
  await expect(page.getByText(/Next list: .* Next run: /)).toBeVisible();
  await page.getByRole('button', { name: 'Remove' }).click();
  await expect(page.getByText('Sweep removed. Its changes remain.')).toBeVisible();
  await page.keyboard.press('Control+z');
  await expect(page.getByRole('link', { name: 'Is it still wanted' })).toBeVisible();
});

test('“still needed?” is asked of the owner, who keeps, parks or closes', async ({ app, page }) => {
  await signIn(page, app);
  await open(page, `${app.origin}/sweeps`);
  await page.getByRole('link', { name: 'Still needed?', exact: true }).click();
  await page.getByRole('button', { name: 'Make the list now' }).click();
  await expect(page.getByText(/tasks would be asked about/)).toBeVisible();
  const meant = page.getByLabel(/I confirm/);
  if (await meant.isVisible()) await meant.check();
  await page.getByRole('button', { name: /^Approve and run/ }).click();
  await expect(page.getByText('still open')).toBeVisible();
  await open(page, `${app.origin}/sweeps/asked`);
  await expectAccessible(page);
  const keep = page.getByRole('button', { name: /^Keep / }).first();
  const name = (await keep.getAttribute('aria-label'))!.replace('Keep ', '');
  await keep.click();
  await expect(page.getByText(`“${name}” is kept.`)).toBeVisible();
  await page
    .getByRole('button', { name: /^Park / })
    .first()
    .click();
  await expect(page.getByText(/is parked\.$/)).toBeVisible();
});

test('a project is called off by a button on it, and brought back', async ({ app, page }) => {
  await signIn(page, app);
  await open(page, `${app.origin}/projects`);
  await page.getByRole('link', { name: 'Winter buoy service' }).click();
  const open_ = page.getByRole('link', { name: /^\d+ open$/ });
  const before = await open_.innerText();
  await page.getByRole('button', { name: 'Called off: close its open tasks' }).click();
  const what = page.getByRole('region', { name: /^What Called off/ });
  await expect(what).toContainText('Nobody is reminded of them again.');
  await expect(what).toContainText('No message is sent at once.');
  await expect(what).toContainText(/\d+ changes by rules because of it/);
  await expectAccessible(page);
  await what.getByRole('button', { name: /^Ring for \d+ tasks$/ }).click();
  await expect(page.getByText(/Rung by hand for \d+ tasks\./)).toBeVisible();
  await expect(open_).toHaveText('0 open');
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(open_).toHaveText(before);

  // Over what is chosen in the list, what the rule does not look at is left as it is.
  await open(page, `${app.origin}/tasks?show=overdue`);
  await page.getByRole('checkbox').nth(1).check();
  await page.getByRole('button', { name: 'Overdue tasks to the next working day' }).click();
  await page.getByRole('button', { name: 'Ring for 1 task' }).click();
  await expect(page.getByText('Rung by hand for 1 task.')).toBeVisible();
});

test('finished work is closed, archived and purged as the clock moves; what was reopened stays', async ({
  app,
  page
}) => {
  test.setTimeout(300_000);
  await signIn(page, app);
  await add(page, app, GOES, 'Finished');
  await add(page, app, STAYS, 'Finished');

  // The list goes out a working day ahead, and stands on the page that it leads to.
  await moveTo(page, '2026-03-10', '12:10', 'Tue 10 Mar');
  await open(page, `${app.origin}/post-room`);
  await searchPostRoom(page, 'Close after a last look');
  await expect(page.getByText(/Close after a last look: \d+ on Wed 11 Mar, 12:00/).first()).toBeVisible();
  await page.getByRole('link', { name: 'Sweeps', exact: true }).click();
  const sweep = page.getByRole('row', { name: /^Close after a last look/ }).first();
  await sweep.getByRole('button', { name: 'close finished tasks' }).click();
  await expect(page.getByText(/not yet · \d+ protected/)).toBeVisible();
  await expectAccessible(page);
  await sweep.getByRole('link', { name: 'Wed 11 Mar, 12:00' }).click();
  await expect(page.getByText('It runs Wed 11 Mar, 12:00 unless somebody cancels it.')).toBeVisible();
  await expect(page.getByRole('link', { name: GOES })).toBeVisible();
  await page.getByRole('link', { name: STAYS }).click();
  const detail = page.getByRole('region', { name: 'The task' });
  await detail.getByLabel('Status').selectOption({ label: 'Under way' });
  await detail.getByRole('button', { name: 'Save', exact: true }).click();
  await expect(page.getByText(`“${STAYS}” was saved.`)).toBeVisible();

  await moveTo(page, '2026-03-11', '13:00', 'Wed 11 Mar');
  await open(page, `${app.origin}/sweeps`);
  await page.getByRole('link', { name: 'Wed 11 Mar, 12:00' }).first().click();
  await expect(page.getByText('changed since its list was made', { exact: true })).toBeVisible();
  await page.getByRole('link', { name: /skipped$/ }).click();
  await expect(page.getByRole('row', { name: new RegExp(STAYS) })).toContainText(
    'changed since its list was made'
  );

  await moveTo(page, '2026-03-18', '13:00', 'Wed 18 Mar');
  await open(page, `${app.origin}/tasks?show=archived&text=${encodeURIComponent(GOES)}`);
  await expect(page.getByRole('link', { name: GOES })).toBeVisible();
  const file = await (await page.request.get(`${app.origin}/tasks/export/tasks.csv?show=archived`)).text();
  expect(file.split('\r\n').find((line) => line.includes(GOES))).toContain('archived');
  await open(page, `${app.origin}/tasks?text=${encodeURIComponent(STAYS)}`);
  await expect(page.getByRole('link', { name: STAYS })).toBeVisible();

  // Purging waits for a yes, whatever its wait; then 30 days in the bin.
  await open(page, `${app.origin}/sweeps`);
  await page.getByRole('link', { name: 'Purge the archive' }).click();
  await page.getByLabel('Length of the wait').fill('0');
  await page.getByLabel('Length of the wait').press('Tab');
  await page.getByRole('button', { name: 'Save', exact: true }).click();
  await expect(page.getByText('“Purge the archive” was saved.')).toBeVisible();
  await page.getByRole('button', { name: 'Make the list now' }).click();
  await expect(page.getByText(/tasks would be moved to the bin/)).toBeVisible();
  const run = page.getByRole('button', { name: /^Approve and run: \d+ tasks$/ });
  await expect(run).toBeDisabled();
  await page.getByLabel(/% of these tasks/).check();
  await run.click();
  await expect(page.getByText(/Undo is possible until/)).toBeVisible();
  await open(page, `${app.origin}/tasks?show=binned&text=${encodeURIComponent(GOES)}`);
  await expect(page.getByRole('link', { name: GOES })).toBeVisible();
});
