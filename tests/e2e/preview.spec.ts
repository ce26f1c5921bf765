import { expect, expectAccessible, moveClockTo, open, signIn, test, type App } from './app.ts';
import type { Page } from '@playwright/test';

test.use({ appOptions: { demo: true, name: 'preview' } });

/** Chooses the first rows of the list, by the keyboard: the bar of what is chosen lies over some of them. */
async function choose(page: Page, rows: number) {
  await page.locator('[data-row="0"]').getByRole('checkbox').click();
  for (let i = 1; i < rows; i++) await page.keyboard.press('Shift+ArrowDown');
  await expect(page.getByText(`${rows} tasks chosen`)).toBeVisible();
}

/** What the preview said leaves at once: so many messages, and the subjects that it lists. */
async function said(page: Page, within: ReturnType<Page['getByRole']>) {
  const summary = within.locator('summary', { hasText: /at once, to/ });
  if ((await summary.count()) === 0) return { count: 0, subjects: [] as string[] };
  const [count] = /[\d,]+/.exec(await summary.innerText())!;
  const rows = within.getByRole('table', { name: 'Messages sent at once' }).locator('tbody tr');
  if (!(await rows.first().isVisible())) await summary.click();
  const subjects = await rows.locator('td:nth-child(2)').allInnerTexts();
  return { count: Number(count.replace(',', '')), subjects };
}

/** How many messages the stand-in for mail has had, and the subjects of the newest. */
async function inPostRoom(page: Page, app: App) {
  await open(page, `${app.origin}/post-room?channel=mail`);
  const text = await page
    .getByText(/^[\d,]+ (message|messages)/)
    .first()
    .innerText();
  const count = Number(/[\d,]+/.exec(text)![0].replace(',', ''));
  const subjects = await page.getByRole('table').locator('tbody tr td:nth-child(4)').allInnerTexts();
  return { count, subjects };
}

/** The same once nothing more arrives: each address has a pace, and what a move of the clock sent may still be on its way. */
async function settled(page: Page, app: App) {
  let known = await inPostRoom(page, app);
  for (let same = 0; same < 2;) {
    await page.waitForTimeout(1_500);
    const now = await inPostRoom(page, app);
    same = now.count === known.count ? same + 1 : 0;
    known = now;
  }
  return known;
}

test('by hand on nineteen tasks, and given away: what was said leaves is what the Post room then has', async ({
  app,
  page
}) => {
  await signIn(page, app);
  await moveClockTo(page, '2026-03-05', '10:00');
  await expect(page.getByText('Clock moved to Thu 5 Mar, 10:00.')).toBeVisible({ timeout: 100_000 });
  const first = await settled(page, app);

  await open(page, `${app.origin}/tasks?show=open`);
  await choose(page, 19);
  await page.getByRole('button', { name: 'Overdue tasks to the next working day' }).click();
  const hand = page.getByRole('region', { name: /^What / });
  await expect(hand).toContainText(/at once/);
  const byHand = await said(page, hand);
  await expectAccessible(page);
  await hand.getByRole('button', { name: /^Ring for \d+ tasks$/ }).click();
  await expect(page.getByText(/^Rung by hand for \d+ tasks\.$/)).toBeVisible();
  await expect.poll(async () => (await inPostRoom(page, app)).count).toBe(first.count + byHand.count);

  const before = await settled(page, app);
  await open(page, `${app.origin}/tasks?show=open&project=1`);
  await choose(page, 5);
  await page.getByLabel('What to do').selectOption('owner');
  await page.getByLabel('To whom').selectOption({ label: 'Meera Nair' });
  await page.getByRole('button', { name: 'Preview' }).click();
  const bar = page.getByRole('region', { name: 'Change the chosen tasks' });
  await expect(bar).toContainText(/at once/);
  const given = await said(page, bar);
  expect(given.count).toBeGreaterThan(0);
  await bar.getByRole('button', { name: /^Change \d+ tasks?$/ }).click();
  await expect(page.getByText(/^\d+ tasks? changed/)).toBeVisible();
  await expect.poll(async () => (await inPostRoom(page, app)).count).toBe(before.count + given.count);
  const { subjects } = await inPostRoom(page, app);
  for (const subject of given.subjects) expect(subjects.join('\n')).toContain(subject);
});
