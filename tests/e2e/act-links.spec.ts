import type { Page } from '@playwright/test';
import { expect, expectAccessible, moveClockTo, open, signIn, test } from './app.ts';

test.use({ appOptions: { demo: true, name: 'act-links' } });

interface Listed {
  messages: { id: number; subject: string; to: string[] }[];
}

const listed = async (mail: string) =>
  ((await (await fetch(`${mail}/messages?limit=200`)).json()) as Listed).messages;

const textOf = async (mail: string, id: number) =>
  ((await (await fetch(`${mail}/messages/${id}`)).json()) as { text: string }).text;

/** Moves the clock on, unless another test of this file has done so: the mail of the weeks before has links to where the demo was laid out. */
async function untilMailHasLeft(
  page: Page,
  { mail, origin }: { mail: string; origin: string }
): Promise<void> {
  const [newest] = await listed(mail);
  if (newest && (await textOf(mail, newest.id)).includes(origin)) return;
  await moveClockTo(page, '2026-03-05', '18:00');
  await expect(page.getByText('Clock moved to Thu 5 Mar, 18:00.')).toBeVisible({ timeout: 150_000 });
}

/** The links of messages that have one, as their readers find them, the newest first. */
async function linksIn(mail: string, words: string): Promise<string[]> {
  const links: string[] = [];
  for (const { id } of await listed(mail)) {
    const found = new RegExp(`^${words}: (http\\S+)$`, 'm').exec(await textOf(mail, id));
    if (found) links.push(found[1]!);
  }
  return links;
}

test('from a phone, without signing in: a task is given another date, and is done, by links in messages', async ({
  app,
  page,
  browser
}) => {
  await signIn(page, app);
  await untilMailHasLeft(page, app);

  const phone = await (await browser.newContext({ viewport: { width: 390, height: 780 } })).newPage();
  const [date = ''] = await linksIn(app.mail, 'Change date');
  await open(phone, date);
  await expect(phone.getByRole('heading', { name: 'Change date' })).toBeVisible();
  await expectAccessible(phone);
  // Nothing is wider than the phone.
  expect(await phone.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390);
  await phone.getByRole('button', { name: /^In a week/ }).click();
  await expect(phone.getByRole('status')).toContainText(/is due on .* now\.$/);
  await phone.getByRole('button', { name: 'Undo' }).click();
  await expect(phone.getByRole('status')).toContainText('is as it was.');
  await open(phone, date);
  await expect(phone.getByText('This link was used')).toBeVisible();
  // Programs that follow links are told too that there is nothing to be had.
  expect((await phone.request.get(date)).status()).toBe(410);
  await expect(phone.getByRole('button')).toHaveCount(0);

  // One with open subtasks is not finished, and says so; its link works on.
  let task = '';
  for (const done of (await linksIn(app.mail, 'Done')).slice(0, 10)) {
    await open(phone, done);
    task = await phone.locator('.task').innerText();
    await phone.getByRole('button', { name: 'Finish the task' }).click();
    await expect(phone.getByRole('status').or(phone.getByRole('alert'))).toBeVisible();
    if (await phone.getByRole('status').isVisible()) break;
    await expect(phone.getByRole('button', { name: 'Finish the task' })).toBeVisible();
  }
  await expect(phone.getByRole('status')).toHaveText(`“${task}” is finished.`);
  const forged = `${app.origin}/act/nothing-of-ours`;
  expect((await phone.request.get(forged)).status()).toBe(404);
  await open(phone, forged);
  await expect(phone.getByText('This link is incomplete.')).toBeVisible();
  // It lets nobody in: the task itself still asks who comes.
  await open(phone, `${app.origin}/tasks`);
  await expect(phone).toHaveURL(/sign-in/);

  await open(page, `${app.origin}/tasks?show=all&text=${encodeURIComponent(task)}`);
  await expect(page.getByRole('link', { name: task, exact: true }).first()).toBeVisible();
  await phone.context().close();
});

test('mail of a kind is stopped by one press of a mail program, and comes again from its page', async ({
  app,
  page,
  browser
}) => {
  await signIn(page, app);
  await untilMailHasLeft(page, app);
  let stop = '';
  for (const { id } of await listed(app.mail)) {
    const { headers } = (await (await fetch(`${app.mail}/messages/${id}`)).json()) as { headers: string };
    stop = /^list-unsubscribe: <([^>]+)>\r?$/im.exec(headers)?.[1] ?? stop;
    if (stop) expect(headers).toMatch(/^list-unsubscribe-post: List-Unsubscribe=One-Click\r?$/im);
    if (stop) break;
  }
  // As RFC 8058 has it: no cookie, no origin, no page.
  const posted = await fetch(stop, {
    method: 'POST',
    headers: { 'content-type': 'application/x-www-form-urlencoded' },
    body: 'List-Unsubscribe=One-Click'
  });
  expect(posted.status).toBe(200);
  const phone = await (await browser.newContext({ viewport: { width: 390, height: 780 } })).newPage();
  await open(phone, stop);
  await expect(phone.getByRole('heading', { name: 'This mail is stopped' })).toBeVisible();
  await expectAccessible(phone);
  await phone.getByRole('button', { name: 'Send it again' }).click();
  await expect(phone.getByRole('heading', { name: 'Stop this mail?' })).toBeVisible();
  expect((await phone.request.get(`${stop}x`)).status()).toBe(404);
  expect((await phone.request.get(`${app.origin}/t/1-abcdefghijk`)).status()).toBe(404);
  await phone.context().close();
});
