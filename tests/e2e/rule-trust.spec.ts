import { expect } from '@playwright/test';
import { expectAccessible, open, signIn, test, writeWords } from './app.ts';

test.use({ appOptions: { demo: true, name: 'rule-trust' } });
test.describe.configure({ mode: 'serial' });

/** What a coordinator looks at before a rule rings for anybody. */
test('a starter is taken, mended by one press, tried on a task, laid beside the live one, and read in its versions', async ({
  app,
  page
}) => {
  await signIn(page, app);
  await page.getByRole('link', { name: 'Rules', exact: true }).click();
  await page.getByRole('link', { name: 'Starters' }).click();
  await expect(page.getByRole('button', { name: /^Use this: / })).toHaveCount(18);
  await expectAccessible(page);
  await page.getByRole('button', { name: 'Use this: Due today' }).click();
  await expect(page.getByLabel('Name of the rule')).toHaveValue('Due today');

  // What is doubtful stands beside it, with the press that mends it.
  await writeWords(page.getByLabel('Subject', { exact: true }), '‹task› is due tomorrow');
  await expect(page.getByText('The text says “tomorrow”')).toBeVisible();
  await page.getByRole('button', { name: 'use ‹days left›' }).click();
  await expect(page.getByLabel('Subject', { exact: true })).toHaveText('‹task› is ‹days left›');
  await expect(page.getByText('The text says “tomorrow”')).toHaveCount(0);

  await page.getByRole('tab', { name: 'Try on one task' }).click();
  await page.getByLabel('Try it on').fill('dive permit');
  await page.getByLabel('Try it on').press('Tab');
  // In Muscat it is past nine already.
  await expect(
    page.getByText(/It does not ring for this task in the next 90 days: .*Thu 5 Mar, past/)
  ).toBeVisible();
  await page.getByLabel('Try it on').fill('Agree the dive plan for the Sado estuary');
  await page.getByLabel('Try it on').press('Tab');
  const entry = page.getByRole('article').first();
  await expect(entry).toContainText('due today');
  await entry.getByText('Why?').click();
  await expect(entry).toContainText('The due date is Monday 9 March 2026.');
  await expectAccessible(page);

  await page.getByRole('button', { name: 'Turn on…' }).click();
  const check = page.getByRole('region', { name: 'Check before it is turned on' });
  await expect(check).toContainText(/In the next seven days it sends \d+ messages to \d+ people/);
  await check.getByRole('button', { name: 'Turn it on now' }).click();
  await expect(page.getByText('“Due today” is on.')).toBeVisible();

  // An edit of what is on is a draft; beside the live one it says what would change.
  await page.getByRole('group', { name: 'Ring time 1' }).getByLabel('Time of day').fill('11:00');
  await page.getByRole('group', { name: 'Ring time 1' }).getByLabel('Time of day').press('Tab');
  await page.getByRole('tab', { name: 'Compare with live' }).click();
  await expect(page.getByText(/0 added, 0 removed, [1-9]\d* moved/)).toBeVisible();
  await page.getByRole('button', { name: 'Make it live…' }).click();
  await page.getByRole('button', { name: 'Make it live now' }).click();
  await expect(page.getByRole('button', { name: 'Make it live…' })).toBeDisabled();

  await page.getByRole('link', { name: 'versions' }).click();
  const second = page.getByRole('listitem', { name: 'Version 2' });
  await expect(second).toContainText('on the due date, 11:00');
  await page.getByLabel('Compare version').selectOption('1');
  await page.getByLabel('with version').selectOption('2');
  await page.getByRole('button', { name: 'Compare' }).click();
  const beside = page.getByRole('region', { name: 'Version 1 with version 2' });
  await expect(beside).toContainText('on the due date, 09:00');
  await expect(beside).toContainText(/[1-9]\d*\s+moved/);
  await expectAccessible(page);
  await page.getByRole('button', { name: 'Make a draft from version 1' }).click();
  await expect(page.getByText('Draft saved. Make it live to use it.')).toBeVisible();
  await expect(page.getByRole('group', { name: 'Ring time 1' }).getByLabel('Time of day')).toHaveValue(
    '09:00'
  );
});

test('a rule is duplicated with another ring time and reader; the list finds it, and its place can be changed', async ({
  app,
  page
}) => {
  await signIn(page, app);
  await open(page, `${app.origin}/rules/2`);
  await page.getByRole('link', { name: 'Copy', exact: true }).click();
  await expect(page.getByText(/has told\s+\d+\s+people\s+of\s+\d+\s+tasks\s+already/)).toBeVisible();
  await page.getByLabel('Name').fill('');
  await page.getByRole('button', { name: 'Add the copy' }).click();
  await expect(page.getByText('Give the rule a name.')).toBeVisible();
  await page.getByLabel('Name').fill('Ahead of the date, to the manager');
  await page.getByLabel('How many').fill('3');
  await page.getByLabel('Tells').selectOption('the owner’s manager');
  await page.getByRole('button', { name: 'Add the copy' }).click();
  await expect(page.locator('.read')).toContainText('3 working days and 2 working days before the due date');
  await expect(page.locator('.read')).toContainText('tell the owner’s manager');

  await page.getByRole('link', { name: 'Rules', exact: true }).first().click();
  await page.getByLabel('Look for rules').fill('to the manager');
  const rows = page.getByRole('table', { name: 'All rules in their order' }).getByRole('link');
  await expect(rows).toHaveCount(1);
  await expect(page).toHaveURL(/text=to\+the\+manager/);
  await page.getByLabel('Look for rules').fill('');
  await page.getByRole('button', { name: 'Move “Overdue by a working day” up' }).click();
  await expect(page.getByText('Order changed.')).toBeVisible();
  await expectAccessible(page);
});

test('what a rule would have done is looked back at; what no bell reaches is mended by one press, and taken back', async ({
  app,
  page
}) => {
  await signIn(page, app);
  await open(page, `${app.origin}/rules/3`);
  await page.getByRole('tab', { name: 'Last four weeks' }).click();
  // The rule was on all that time: what it would have sent is what it did send.
  const said = page.getByText('On since');
  await expect(said).toBeVisible({ timeout: 60_000 });
  const [, sent, did] = /sent\s+(\d+)\s+notices[\s\S]*and\s+sent\s+(\d+)/.exec(await said.innerText())!;
  expect(Number(sent)).toBeGreaterThan(5);
  expect(sent).toBe(did);
  await expectAccessible(page);

  await page.getByRole('tab', { name: 'Next four weeks' }).click();
  const mend = page.getByRole('button', { name: /^Set due date: / });
  await mend.click();
  await expect(page.getByText(/\d+ tasks? changed/)).toBeVisible();
  await expect(mend).toHaveCount(0);
  await page.getByRole('button', { name: 'Undo' }).last().click();
  await expect(mend).toBeVisible();

  await page.getByRole('link', { name: 'Bell tower' }).click();
  await expect(page.getByRole('region', { name: 'Out of earshot' })).toContainText('Make me the owner');
});

test('of two people who edit one rule the second is told and loses nothing', async ({
  app,
  page,
  browser
}) => {
  await signIn(page, app);
  await open(page, `${app.origin}/rules/4`);
  const other = await (await browser.newContext()).newPage();
  await signIn(other, app, 'Nora Fielding');
  await open(other, `${app.origin}/rules/4`);
  await writeWords(other.getByLabel('Subject', { exact: true }), 'Nora’s words: ‹task›');
  await other.getByRole('button', { name: 'Save as a draft' }).click();
  await expect(other.getByText('was saved.')).toBeVisible();

  await writeWords(page.getByLabel('Subject', { exact: true }), 'Other words: ‹task›');
  await page.getByRole('button', { name: 'Save as a draft' }).click();
  await expect(page.getByText('Nora Fielding saved this rule while you were editing.')).toBeVisible();
  await expect(page.getByLabel('Subject', { exact: true })).toHaveText('Other words: ‹task›');
  await page.getByRole('button', { name: 'Save my version' }).click();
  await expect(page.getByText('was saved.')).toBeVisible();
  await other.close();
});
