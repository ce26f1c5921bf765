import type { Page } from '@playwright/test';
import { expect, expectAccessible, open, test, type App } from './app.ts';
import { comeIn, type Person } from './http.ts';

/**
 * The Desk of an owner in a real browser, on the demo's clock: Thursday 5 March 2026, 07:40 in Lisbon. Clara works Monday to Friday in Lisbon and is
 * away on Tuesday 10 March from 13:00; Huda works Sunday to Thursday in Muscat.
 */
test.use({ appOptions: { demo: true, name: 'desk' } });
test.describe.configure({ mode: 'serial' });

const NAME = 'Count the spare anchors';
const toast = (page: Page, words: string | RegExp) => page.locator('.notice', { hasText: words });
const part = (page: Page, name: string) => page.getByRole('region', { name: new RegExp(`^${name}`) });
const row = (page: Page, name: string) => page.locator('[data-desk-task]', { hasText: name });

let ines: Person;

async function json(
  app: App,
  path: string,
  { cookie }: Person,
  body: unknown
): Promise<Record<string, unknown>> {
  const response = await fetch(app.origin + path, {
    method: 'POST',
    headers: { origin: app.origin, cookie, 'content-type': 'application/json' },
    body: JSON.stringify(body)
  });
  expect(response.status, await response.clone().text()).toBe(200);
  return (await response.json()) as Record<string, unknown>;
}

/** Comes in as anybody of the demo, where that leads. */
async function comeTo(page: Page, app: App, name: string): Promise<Person> {
  const person = await comeIn(app, name);
  const [cookie, value] = person.cookie.split('=') as [string, string];
  await page.context().addCookies([{ name: cookie, value, url: app.origin }]);
  await open(page, app.origin);
  return person;
}

const moveClock = (app: App, date: string, time: string) =>
  json(app, '/clock', ines, { to: 'moment', date, time });
const give = (app: App, line: string) => json(app, '/quick-add', ines, { line, answers: {}, add: true });

test('an owner comes in at their Desk, which can be read by everybody', async ({ page, app }) => {
  ines = await comeIn(app, 'Inês Moura');
  await comeTo(page, app, 'Clara Pinho');
  await expect(page).toHaveURL(`${app.origin}/desk`);
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Thursday 5 March');
  await expect(page.getByText('You work until 17:00.')).toBeVisible();
  await expect(page.getByText(/next at 08:30, 09:00/)).toBeVisible();
  await expectAccessible(page);
  await page.emulateMedia({ colorScheme: 'dark' });
  await expectAccessible(page);
  await page.setViewportSize({ width: 390, height: 844 });
  await expectAccessible(page);
  expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390);
});

test('what is given is placed for the week after in the round, by keyboard alone', async ({ page, app }) => {
  await give(app, `${NAME}, 30 april, for Clara`);
  await comeTo(page, app, 'Clara Pinho');
  await expect(part(page, 'To place').getByText(NAME)).toBeVisible();
  await expect(row(page, NAME)).toContainText('given by Inês Moura');
  await page.getByRole('link', { name: 'Start the placing round' }).focus();
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { level: 2, name: NAME })).toBeVisible();
  const leave = page.getByRole('button', { name: /^L Leave it/ });
  await expect(leave).toBeFocused();
  // The keys stand on the days to which they lead.
  const days = page.getByRole('region', { name: 'Your days, with the keys that lead there' });
  await expect(days.getByRole('listitem').filter({ hasText: 'Today' })).toContainText('T');
  await expect(days.getByRole('listitem').filter({ hasText: 'Tue 10' })).toContainText(/W.*leave from 13:00/);
  await expectAccessible(page);
  await expect(page.getByRole('button', { name: /^W For the week after/ })).toContainText('9–13 March');
  await expect(page.getByRole('button', { name: /^W For the week after/ })).toContainText(
    'leave from 13:00 on Tue 10 Mar'
  );
  await page.keyboard.press('w');
  await expect(toast(page, 'for 9–13 March.')).toBeVisible();
  // The next one; a step back takes back what was decided.
  await expect(page.getByRole('heading', { level: 2, name: NAME })).toHaveCount(0);
  await page.keyboard.press('Backspace');
  await expect(page.getByRole('heading', { level: 2, name: NAME })).toBeVisible();
  await expect(leave).toBeFocused();
  await page.keyboard.press('w');
  await expect(toast(page, 'for 9–13 March.').first()).toBeVisible();
  // The round is left in the middle; it is still to be done, without what is decided.
  await page.keyboard.press('Escape');
  await expect(page).toHaveURL(`${app.origin}/desk`);
  await expect(part(page, 'Days ahead').getByText(NAME)).toBeVisible();
  await expect(part(page, 'To place').getByText(NAME)).toHaveCount(0);
});

test('the round goes on where it was left, on a phone too, with large presses', async ({ page, app }) => {
  await page.setViewportSize({ width: 390, height: 844 });
  await give(app, 'Write the berth list, 20 march, for Clara');
  await comeTo(page, app, 'Clara Pinho');
  await page.getByRole('link', { name: 'Start the placing round' }).click();
  await expect(page.getByRole('heading', { level: 2, name: 'Write the berth list' })).toBeVisible();
  for (const choice of await page.locator('.choices .choice').all())
    expect((await choice.boundingBox())!.height).toBeGreaterThanOrEqual(44);
  await expectAccessible(page);
  await page.getByRole('button', { name: /^D Another date/ }).click();
  await page.getByLabel('Date', { exact: true }).fill('24 mar');
  await expect(page.getByText('after its due date. It becomes the new due date')).toBeVisible();
  await page.getByLabel('Date', { exact: true }).fill('12 mar');
  await page.getByRole('button', { name: 'Plan it', exact: true }).click();
  await expect(toast(page, 'for Thu 12 Mar.')).toBeVisible();
});

test('somebody else changes the owner while it is being placed: nothing is written, and it is said', async ({
  page,
  app
}) => {
  await give(app, 'Oil the winch, 20 march, for Clara');
  await comeTo(page, app, 'Clara Pinho');
  await open(page, `${app.origin}/desk/round`);
  await expect(page.getByRole('heading', { level: 2, name: 'Oil the winch' })).toBeVisible();
  const href = await page.getByRole('link', { name: 'Oil the winch' }).getAttribute('href');
  const people = await (
    await fetch(`${app.origin}/go?text=Dale`, { headers: { cookie: ines.cookie } })
  ).json();
  const dale = Number(
    /\d+$/.exec((people as { href: string }[]).find((one) => one.href.startsWith('/people/'))!.href)![0]
  );
  await json(app, `${href!}/field`, ines, { patch: { ownerId: dale } });
  await page.keyboard.press('t');
  await expect(toast(page, 'not on your Desk any more')).toBeVisible();
  await expect(page.getByRole('heading', { level: 2, name: 'Oil the winch' })).toBeVisible();
});

test('a task is carried to another day by drag, and what that sets is said before it is let go', async ({
  page,
  app
}) => {
  await give(app, 'Mark the mooring chains, 27 march, for Clara');
  await comeTo(page, app, 'Clara Pinho');
  const task = row(page, 'Mark the mooring chains');
  await page.setViewportSize({ width: 1280, height: 1500 });
  const friday = page.locator('li', { has: page.getByRole('button', { name: /^Fri 6/ }) });
  await task.hover();
  await page.mouse.down();
  const box = (await friday.boundingBox())!;
  await page.mouse.move(box.x + 60, box.y + 10, { steps: 6 });
  await page.mouse.move(box.x + 64, box.y + 12);
  await expect(page.getByText('Planned for Fri 6 Mar. The due date stays.')).toBeVisible();
  await page.mouse.up();
  await expect(toast(page, 'for Fri 6 Mar.')).toBeVisible();
  await page.getByRole('button', { name: /^Fri 6/ }).click();
  await expect(page.getByRole('list', { name: 'Tasks of Fri 6' })).toContainText('Mark the mooring chains');
});

test('several are placed together in the list, one is finished by key, and both go back with undo', async ({
  page,
  app
}) => {
  for (const name of ['Wash the sails', 'Wash the ropes', 'Wash the deck'])
    await give(app, `${name}, 26 march, for Clara`);
  await comeTo(page, app, 'Clara Pinho');
  await page.getByLabel('Choose Wash the deck').click();
  await page.getByLabel('Choose Wash the sails').click({ modifiers: ['Shift'] });
  await expect(page.getByText('3 chosen')).toBeVisible();
  await page.getByRole('button', { name: 'Leave them' }).click();
  await expect(toast(page, '3 tasks left where their dates put them')).toBeVisible();
  await expect(row(page, 'Wash the ropes')).toHaveCount(0);
  await page.keyboard.press('Control+z');
  await expect(row(page, 'Wash the ropes')).toHaveCount(1);
  await page.getByRole('link', { name: 'Wash the ropes' }).focus();
  await page.keyboard.press('f');
  await expect(toast(page, '“Wash the ropes” is finished.')).toBeVisible();
  await page.keyboard.press('Control+z');
  await expect(row(page, 'Wash the ropes')).toHaveCount(1);
});

test('a line is kept by a key anywhere, and becomes a task; no list has it before', async ({ page, app }) => {
  await comeTo(page, app, 'Clara Pinho');
  await open(page, `${app.origin}/tasks`);
  await page.locator('main').focus();
  await page.keyboard.press('k');
  const dialog = page.getByRole('dialog', { name: 'Keep a line' });
  await dialog.getByLabel('Line').fill('Ask about the grey paint');
  await page.keyboard.press('Enter');
  await expect(toast(page, 'Kept. It is on your Desk.')).toBeVisible();
  await open(page, `${app.origin}/tasks?text=grey+paint&show=all`);
  await expect(page.getByText('Ask about the grey paint')).toHaveCount(0);
  await open(page, `${app.origin}/desk`);
  await page.getByRole('button', { name: 'Make it a task: Ask about the grey paint' }).click();
  await expect(row(page, 'Ask about the grey paint')).toHaveCount(1);
});

test('a manager sees their people, asks one now, and reads as one, who sees that', async ({ page, app }) => {
  await comeTo(page, app, 'Salim Harthy');
  const people = part(page, 'My people');
  await expect(people).toBeVisible();
  await expectAccessible(page);
  const first = people.getByRole('button', { expanded: false }).first();
  const name = (await first.locator('b').textContent())!;
  await first.click();
  await people
    .getByRole('button', { name: /^Ask about it now/ })
    .first()
    .click();
  await expect(toast(page, /is asked about “/)).toBeVisible();
  await people.getByRole('link', { name: `Read as ${name}` }).click();
  await expect(page.getByText(`You see this Desk as ${name} does`)).toBeVisible();
  await expect(page.getByRole('button', { name: /^For when/ })).toHaveCount(0);
  await expectAccessible(page);
  await page.context().clearCookies();
  await comeTo(page, app, name);
  await expect(page.getByText('Salim Harthy read your Desk')).toBeVisible();
});

test('somebody who works Sunday to Thursday has other weeks', async ({ page, app }) => {
  await comeTo(page, app, 'Huda Balushi');
  await expect(page.getByText('Fri 6, Sat 7')).toBeVisible();
  await expect(page.getByRole('button', { name: /^Sun 8/ })).toBeVisible();
});

test('the week turns, the start day comes, and what is left in the evening goes to the next working day', async ({
  page,
  app
}) => {
  await moveClock(app, '2026-03-09', '10:00');
  await comeTo(page, app, 'Clara Pinho');
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Monday 9 March');
  const ahead = part(page, 'Days ahead');
  await expect(ahead.getByRole('heading', { name: /^Rest of the week/ })).toContainText('no day yet');
  await expect(ahead.getByText(NAME)).toBeVisible();
  await moveClock(app, '2026-03-13', '17:05');
  await page.reload();
  await expect(part(page, 'Today').getByText(NAME)).toBeVisible();
  await expect(page.getByText('Your working day ended at 17:00.')).toBeVisible();
  await page.getByRole('link', { name: 'Start the evening round' }).click();
  await page.waitForURL('**/desk/round**');
  await expect(page.getByRole('heading', { level: 1 })).toHaveText(/Evening round/i);
  const heading = page.getByRole('heading', { level: 2, name: NAME });
  const passed = (await page.getByRole('heading', { level: 2 }).first().textContent())!;
  // One after another, until this one comes.
  await expect(async () => {
    if (!(await heading.isVisible())) await page.keyboard.press('l');
    await expect(heading).toBeVisible({ timeout: 1_500 });
  }).toPass({ timeout: 60_000 });
  await page.keyboard.press('n');
  await expect(toast(page, 'for Mon 16 Mar.')).toBeVisible();
  await open(page, `${app.origin}/desk`);
  await expect(part(page, 'Today').getByText(NAME)).toHaveCount(0);
  // What was passed over stands where it stood.
  if (passed !== NAME) await expect(part(page, 'Today').getByText(passed)).toBeVisible();
  await page.getByRole('button', { name: /^Mon 16/ }).click();
  await expect(page.getByRole('list', { name: 'Tasks of Mon 16' })).toContainText(NAME);
  await moveClock(app, '2026-03-16', '00:01');
  await page.reload();
  await expect(part(page, 'Today').getByText(NAME)).toBeVisible();
});
