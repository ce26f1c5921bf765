import { expect, expectAccessible, open, test } from './app.ts';
import { comeIn } from './http.ts';

/** What I am told, as Clara of the demo reads and changes it: Thursday 5 March 2026, 07:40 in Lisbon. */
test.use({ appOptions: { demo: true, name: 'told' } });

test('what a change of what I am told would do is said before it is saved, and is what then comes', async ({
  page,
  app
}) => {
  const { cookie } = await comeIn(app, 'Clara Pinho');
  const [name, value] = cookie.split('=') as [string, string];
  await page.context().addCookies([{ name, value, url: app.origin }]);
  await open(page, app.origin);
  // Two presses from anywhere.
  await page.getByRole('button', { name: /Clara Pinho: your page/ }).click();
  await page.getByRole('menuitem', { name: 'What I am told' }).click();
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('What I am told');
  const week = page.getByRole('region', { name: 'My next seven days' });
  const would = page.getByRole('region', { name: 'What this would change' });
  await expect(week.getByRole('listitem').first()).toBeVisible();
  await expectAccessible(page);

  await page.getByLabel('Remind me').selectOption({ label: '2 hours before the due time' });
  await expect(would.getByRole('heading', { name: /^\d+ more$/ })).toBeVisible({ timeout: 60_000 });
  const said = await would.getByRole('listitem').allInnerTexts();
  expect(said.length).toBeGreaterThan(0);
  await expectAccessible(page);
  await page.setViewportSize({ width: 390, height: 844 });
  await expect(would).toBeInViewport();
  expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390);
  await page.setViewportSize({ width: 1280, height: 800 });
  await page.getByRole('button', { name: 'Add', exact: true }).click();
  await expect(
    page.locator('.notice', { hasText: 'You are reminded of everything of yours.' })
  ).toBeVisible();
  await expect(would).toHaveCount(0);
  const mine = page.getByRole('list', { name: 'Reminders for everything of mine' });
  await expect(mine).toContainText('2 hours before the due time');
  for (const line of said) {
    const [task = '', when = ''] = line.split('\n').map((part) => part.trim());
    const [day, time] = when.split(', ') as [string, string];
    const on = week.locator('section', { has: page.getByRole('heading', { name: day, exact: true }) });
    await expect(
      on.getByRole('listitem').filter({ hasText: time }).filter({ hasText: task }).first()
    ).toBeVisible();
  }

  // One that goes is said too, before it goes.
  await page.getByRole('button', { name: /^Remove: 2 hours/ }).focus();
  await expect(would.getByRole('heading', { name: /no longer sent/ })).toBeVisible({ timeout: 60_000 });
  await page.keyboard.press('Enter');
  await expect(mine).toHaveCount(0);
});
