import { gzipSync } from 'node:zlib';
import type { Page } from '@playwright/test';
import { expect, expectAccessible, open, test, type App } from './app.ts';

/** A long list in a real browser: filter, sort, change five hundred at once, undo. `MANY_TASKS=100000` makes it the longest that is promised. */
const MANY = Number(process.env.MANY_TASKS ?? 20_000);
test.use({ appOptions: { many: MANY, name: 'many' } });

async function comeIn(page: Page, app: App): Promise<void> {
  await page.goto(app.origin);
  await page
    .getByRole('button', { name: /Person 0/ })
    .first()
    .click();
  await page.waitForURL(app.origin + '/');
}

test('very many tasks: filter, sort, re-date five hundred, undo', async ({ page, app }) => {
  test.setTimeout(600_000);
  await comeIn(page, app);
  await open(page, `${app.origin}/tasks`);
  await page.waitForLoadState('load');
  const scripts = await page.evaluate(() =>
    performance
      .getEntriesByType('resource')
      .map(({ name }) => name)
      .filter((name) => new URL(name).pathname.endsWith('.js'))
  );
  expect(scripts.length).toBeGreaterThan(3);
  const sizes = scripts.map(
    async (script) => gzipSync(Buffer.from(await (await fetch(script)).arrayBuffer())).byteLength
  );
  const bytes = (await Promise.all(sizes)).reduce((sum, size) => sum + size, 0);
  expect(bytes).toBeLessThan(200_000);

  const count = page.locator('h1 + .quiet');
  // Six in ten are open, and a few in places apart.
  await expect(count).toHaveText(/^\d\d,\d{3} tasks$/);
  const whole = await count.innerText();
  const rows = page.locator('[data-row]');
  // Only what is in view is drawn.
  expect(await rows.count()).toBeLessThan(100);

  await page.getByLabel('Search').fill('lagoon');
  await expect(page).toHaveURL(/text=lagoon/);
  await expect(count).not.toHaveText(whole);
  await page.getByRole('columnheader', { name: 'Task' }).getByRole('button').click();
  await expect(page).toHaveURL(/sort=name/);
  await expect(rows.first()).toContainText('Calibrate the gauge');
  await page.getByRole('columnheader', { name: 'Task' }).getByRole('button').click();
  await expect(rows.first()).toContainText('Ship the samples');
  // What the address says is what is shown after a reload.
  await page.reload();
  await expect(rows.first()).toContainText('Ship the samples');
  await expectAccessible(page);

  await open(page, `${app.origin}/tasks?due=past&sort=due`);
  const before = Number((await count.innerText()).replace(/\D/g, ''));
  await rows.first().getByRole('checkbox').click();
  // Down to the five hundredth row, page by page, and everything between at once.
  await wheelTo(page, 499);
  await page
    .locator('[data-row="499"]')
    .getByRole('checkbox')
    .click({ modifiers: ['Shift'] });
  await expect(page.getByText('500 tasks chosen')).toBeVisible();
  await page.getByLabel('What to do').selectOption('Set due date');
  await page.getByLabel('New date (empty: no date)').fill('2026-04-17');
  // Nobody waits for that look: it is worked out in a thread, and comes line by line.
  const looked = page.waitForResponse((response) => response.url().endsWith('/tasks/bulk'));
  await page.getByRole('button', { name: 'Preview' }).click();
  expect((await looked).headers()['content-type']).toBe('application/x-ndjson');
  await expect(page.locator('summary', { hasText: '500 due times move' })).toBeVisible({ timeout: 60_000 });
  await page.getByRole('button', { name: 'Change 500 tasks' }).click();
  await expect(page.getByText('500 tasks changed')).toBeVisible({ timeout: 60_000 });
  await expect(count).toHaveText(`${(before - 500).toLocaleString('en')} tasks`);
  await page.keyboard.press('Control+z');
  await expect(page.getByText('Undone.')).toBeVisible({ timeout: 60_000 });
  await expect(count).toHaveText(`${before.toLocaleString('en')} tasks`);
});

/** HTML of any page where there are very many tasks; the bar of the design. */
const MOST_HTML = 250 * 1_024;

test('very many tasks: no page is over 250 KB; People lists eighty, and everybody when asked', async ({
  page,
  app
}) => {
  test.setTimeout(600_000);
  await comeIn(page, app);
  const heavy: string[] = [];
  for (const place of [
    ...['/', '/tasks', '/tasks/12', '/tasks?shape=columns', '/tasks?shape=days', '/projects', '/projects/1'],
    ...['/rules', '/digests', '/sweeps', '/escalations', '/outbox', '/journal', '/people', '/people/1']
  ]) {
    const answer = await page.request.get(`${app.origin}${place}`);
    expect({ place, status: answer.status() }).toEqual({ place, status: 200 });
    const { byteLength } = await answer.body();
    if (byteLength > MOST_HTML) heavy.push(`${place}: ${Math.round(byteLength / 1_024)} KB`);
  }
  expect(heavy).toEqual([]);

  await open(page, `${app.origin}/people`);
  const rows = page.getByRole('main').locator('tbody tr');
  await expect(rows).toHaveCount(80);
  await page.getByRole('link', { name: 'List all 200' }).click();
  await expect(rows).toHaveCount(200);
});

/** Where a row is to stand: in the middle, where no bar lies over it. */
const MIDDLE = 400;

/**
 * Turns the wheel until a row stands there, up again where it went too far, and waits until the page is still: how many rows are drawn
 * by then depends on the machine, and a turn that a busy browser carries out late would move the row away from under a click.
 */
async function wheelTo(page: Page, row: number): Promise<void> {
  let before = NaN;
  const drawn = () =>
    page
      .locator('[data-row]')
      .evaluateAll((found) =>
        found.map((one) => ({ row: Number(one.dataset.row), y: one.getBoundingClientRect().y }))
      );
  await page.locator('[data-row]').first().hover();
  await expect(async () => {
    const rows = await drawn();
    const near = rows.find((one) => one.row === row) ?? rows.at(-1)!;
    const away = near.y + (row - near.row) * 37 - MIDDLE;
    if (near.row === row && Math.abs(away) < 150) {
      const still = away === before;
      before = away;
      if (still) return;
      await page.waitForTimeout(300);
      throw new Error(`Row ${row} may move yet.`);
    }
    await page.mouse.wheel(0, Math.max(-3_000, Math.min(3_000, away)));
    throw new Error(`Row ${row} is ${away} px away.`);
  }).toPass({ timeout: 120_000, intervals: [50] });
}
