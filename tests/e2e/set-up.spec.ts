import { expect, expectAccessible, open, test } from './app.ts';

/** A workspace of one's own, without demo data. */
test.use({ appOptions: {} });
test.describe.configure({ mode: 'serial' });

test('outside the demo nobody comes in by one press', async ({ request, app }) => {
  const answer = await request.post(`${app.origin}/sign-in/demo`, {
    form: { person: '1' },
    headers: { origin: app.origin }
  });
  expect(answer.status()).toBe(404);
  const clock = await request.post(`${app.origin}/clock`, { data: { to: 'hour' }, maxRedirects: 0 });
  expect(clock.status()).toBe(303);
});

test('the first coordinator sets the workspace up by a link that works once', async ({
  page,
  app,
  browser
}) => {
  await open(page, app.origin);
  await expect(page.getByText('This workspace has not been set up yet.')).toBeVisible();
  await open(page, app.firstLink());
  await page.getByLabel('Name of the workspace').fill('Harbour office');
  await page.getByLabel('Your name').fill('Ana Reis');
  await page.getByLabel('Your mail address').fill('ana@harbour.example');
  await page.getByLabel('Password').fill('short');
  await page.getByLabel('Time zone').fill('Europe/Lisbon');
  await page.getByRole('button', { name: 'Set up' }).click();
  await expect(page.getByText('A password needs at least 10 characters.')).toBeVisible();
  await expectAccessible(page);
  await page.getByLabel('Password').fill('tide and time');
  await page.getByRole('button', { name: 'Set up' }).click();
  await expect(page.getByRole('heading', { name: 'Begin' })).toBeVisible();
  await expectAccessible(page);

  const again = await (await browser.newContext()).newPage();
  const answer = await again.goto(app.firstLink());
  expect(answer!.status()).toBe(410);
  await open(again, `${app.origin}/tasks`);
  await again.getByLabel('Mail address').fill('ana@harbour.example');
  await again.getByLabel('Password').fill('wrong password');
  await again.getByRole('button', { name: 'Sign in' }).click();
  await expect(again.getByText('Wrong address or password.')).toBeVisible();
  await again.getByLabel('Password').fill('tide and time');
  await again.getByRole('button', { name: 'Sign in' }).click();
  await expect(again.getByRole('heading', { name: 'Tasks', level: 1 })).toBeVisible();
  await expect(again.getByText('There are no tasks yet.')).toBeVisible();
});
