import {
  addFrom,
  expect,
  expectAccessible,
  moveClockTo,
  pick,
  pickMany,
  searchPostRoom,
  signIn,
  test,
  writeWords
} from './app.ts';

/**
 * The main job in a real browser: import tasks, make a rule, see when it rings, move the clock, read the messages. The
 * demo's clock stands at Thursday 5 March 2026, 07:40 in Lisbon.
 */
const CSV = `Task,Owner,Due,Due time,Project
Lisbon permit,rui.tavares@tidewatch.example,2026-03-17,,Spring campaign
Halifax call,Dale Comeau,2026-03-09,15:00,Spring campaign
Halifax form,June Boudreau,2026-03-10,,Spring campaign
Muscat licence,huda.balushi@tidewatch.example,2026-03-16,,Spring campaign
Kochi backup,Anil Varghese,2026-03-09,,Spring campaign
Hobart survey,Tess Whitlam,2026-03-11,10:00,Spring campaign
Quarter report,Clara Pinho,2026-04-15,,Spring campaign
Tide forum,Meera Nair,2026-04-11,,Spring campaign
Lost letter,Nobody Known,2026-03-12,,Spring campaign
Leap plan,Rui Tavares,2026-02-30,,Spring campaign
`;

interface LeadInput {
  n: number;
  unit: string;
  time?: string;
}

const LEADS: LeadInput[] = [
  { n: 2, unit: 'working days', time: '09:00' },
  { n: 1, unit: 'day', time: '09:00' },
  { n: 1, unit: 'week', time: '16:30' },
  { n: 1, unit: 'month', time: '08:00' },
  { n: 2, unit: 'hours' },
  { n: 30, unit: 'minutes' }
];

/** When each message leaves, to whom, and its words: worked out by hand, not by the program. */
const BY_HAND = [
  // Halifax, UTC−4 until 02:00 on Sunday 8 March, then UTC−3. Monday's call: two working days before is Thursday.
  ['2026-03-05T13:00Z', 'dale.comeau', 'Halifax call is due in 4 days'],
  // Hobart is UTC+11. Monday 9 March is Eight Hours Day there: two working days before Wednesday is Friday.
  ['2026-03-05T22:00Z', 'tess.whitlam', 'Hobart survey is due in 5 days'],
  // Kochi works on Saturdays: two working days before Monday is Friday, 09:00 at UTC+5:30.
  ['2026-03-06T03:30Z', 'anil.varghese', 'Kochi backup is due in 3 days'],
  // A day before Monday is Sunday, closed: Friday.
  ['2026-03-06T13:00Z', 'dale.comeau', 'Halifax call is due in 3 days'],
  ['2026-03-06T13:00Z', 'june.boudreau', 'Halifax form is due in 4 days'],
  // In Kochi it is Saturday.
  ['2026-03-07T03:30Z', 'anil.varghese', 'Kochi backup is due in 2 days'],
  // The first bell after Halifax's clock change: 09:00 is now 12:00 UTC.
  ['2026-03-09T12:00Z', 'june.boudreau', 'Halifax form is due tomorrow'],
  // Two hours, then thirty minutes, before 15:00.
  ['2026-03-09T16:00Z', 'dale.comeau', 'Halifax call is due today'],
  ['2026-03-09T17:30Z', 'dale.comeau', 'Halifax call is due today'],
  ['2026-03-09T22:00Z', 'tess.whitlam', 'Hobart survey is due tomorrow'],
  // Two hours and thirty minutes before the end of Monday meet at Tuesday's opening: one late bell.
  ['2026-03-10T03:30Z', 'anil.varghese', 'Kochi backup is overdue'],
  // A week before at 16:30: Muscat closes at 16:00, so it is held until Tuesday 08:00.
  ['2026-03-10T04:00Z', 'huda.balushi', 'Muscat licence is due in 6 days'],
  ['2026-03-10T16:30Z', 'rui.tavares', 'Lisbon permit is due in 7 days'],
  // 08:00 is held to 09:00, still before 10:00: no late bell. Then thirty minutes before.
  ['2026-03-10T22:00Z', 'tess.whitlam', 'Hobart survey is due today'],
  ['2026-03-10T22:30Z', 'tess.whitlam', 'Hobart survey is due today'],
  // A month before 11 April, 08:00, held to 09:00.
  ['2026-03-11T03:30Z', 'meera.nair', 'Tide forum is due in 31 days'],
  ['2026-03-11T12:00Z', 'june.boudreau', 'Halifax form is overdue'],
  // Muscat works from Sunday to Thursday: two working days before Monday the 16th is Thursday the 12th.
  ['2026-03-12T05:00Z', 'huda.balushi', 'Muscat licence is due in 4 days'],
  ['2026-03-13T09:00Z', 'rui.tavares', 'Lisbon permit is due in 4 days'],
  // A month before 15 April is Sunday 15 March: moved to Friday, held from 08:00 to 09:00.
  ['2026-03-13T09:00Z', 'clara.pinho', 'Quarter report is due in 33 days'],
  ['2026-03-15T05:00Z', 'huda.balushi', 'Muscat licence is due tomorrow'],
  ['2026-03-16T09:00Z', 'rui.tavares', 'Lisbon permit is due tomorrow'],
  ['2026-03-17T04:00Z', 'huda.balushi', 'Muscat licence is overdue'],
  ['2026-03-18T09:00Z', 'rui.tavares', 'Lisbon permit is overdue']
] as const;

test('tasks in, one rule, the right moment, the message read', async ({ page, app }) => {
  await signIn(page, app);
  await expectAccessible(page);

  // Import, with a preview of the rows that have a problem.
  await page.getByRole('link', { name: 'Tasks', exact: true }).click();
  await page.getByRole('link', { name: 'Import CSV' }).click();
  await page
    .getByLabel(/CSV file/)
    .setInputFiles({ name: 'spring.csv', mimeType: 'text/csv', buffer: Buffer.from(CSV) });
  await page.getByRole('button', { name: 'Check the file' }).click();
  await expect(page.getByRole('heading', { name: 'spring.csv' })).toBeVisible();
  await expect(page.getByText('No person is named “Nobody Known”.')).toBeVisible();
  await expect(page.getByText('2026-02-30 is not a date: February 2026 has 28 days.')).toBeVisible();
  await expectAccessible(page);
  await page.getByRole('button', { name: 'Import 8 tasks' }).click();
  await expect(page.getByText('8 tasks were added.')).toBeVisible();

  // A rule from nothing.
  await page.getByRole('link', { name: 'Rules', exact: true }).click();
  await page.getByRole('button', { name: 'New rule' }).click();
  await page.getByLabel('Name of the rule').fill('Spring campaign');
  await pickMany(page, 'Projects', ['Spring campaign']);
  for (const [i, lead] of LEADS.entries()) {
    await addFrom(page, 'a ring time', 'before or after a date');
    const row = page.getByRole('group', { name: `Ring time ${i + 1}` });
    await row.getByLabel('How many').fill(String(lead.n));
    await row.getByLabel('How many').press('Tab');
    await pick(row, 'Unit', lead.unit);
    if (lead.time) {
      await row.getByLabel('Time of day').fill(lead.time);
      await row.getByLabel('Time of day').press('Tab');
    }
  }
  // Nobody is told yet, and so it cannot be turned on.
  await page.getByRole('button', { name: 'Turn on…' }).click();
  await expect(page.getByText('The rule tells nobody. Choose a recipient.')).toBeVisible();
  await addFrom(page, 'a recipient', 'the owner');
  await pick(page, 'How tasks are combined', 'one message per task');
  // The demo's own rules tell some of the same: a must is never taken for told.
  await pick(page, 'What it ignores', 'required: ignores “no reminder”, limit and digest');
  await writeWords(page.getByLabel('Subject', { exact: true }), 'Spring bell: ‹task› is ‹days left›');
  await writeWords(
    page.getByLabel('Words', { exact: true }),
    'Dear ‹first name›, ‹task› in ‹project›: ‹due›. ‹link›'
  );
  await expect(page.getByText('24 bells, 8 people')).toBeVisible();
  await expect(page.locator('section[aria-busy="true"]')).toHaveCount(0);

  // The forecast, as it stands in the table.
  const table = page.getByRole('table', { name: 'Every notice of this rule in the next four weeks' });
  const forecast: string[] = [];
  for (const row of await table.locator('tbody tr:not(.unrung)').all()) {
    const cells = (await row.locator('td').allInnerTexts()).map((text) => text.replace(/\s+/g, ' ').trim());
    forecast.push([cells[0], cells[3], cells[2]].join(' | '));
  }
  expect(forecast).toHaveLength(BY_HAND.length);
  await expect(table.locator('tr.unrung', { hasText: 'same moment' })).toHaveCount(4);
  await expect(table.locator('tbody tr', { hasText: 'late bell' })).toHaveCount(4);

  // Every computed time opens its why.
  await table.getByRole('button', { name: /Mon 9 Mar, 09:00 Halifax/ }).click();
  await expect(page.getByText('1 day before is Monday 9 March 2026.')).toBeVisible();
  await expect(page.getByText('The rule rings at 09:00 in Halifax.', { exact: true })).toBeVisible();
  await expectAccessible(page);

  await page.getByRole('button', { name: 'Turn on…' }).click();
  await page.getByRole('button', { name: 'Turn it on now' }).click();
  await expect(page.getByText('“Spring campaign” is on.')).toBeVisible();

  // The clock is moved to a chosen moment, and everything on the way rings.
  await moveClockTo(page, '2026-03-20', '00:00');
  await expect(page.getByText('Clock moved to Fri 20 Mar, 00:00.')).toBeVisible({ timeout: 200_000 });

  // The Post room has the same messages as the forecast, at the same moments, for the same people.
  await page.getByRole('link', { name: 'Post room', exact: true }).click();
  await searchPostRoom(page, 'Spring bell');
  await expect(page.getByText('24 messages')).toBeVisible();
  const received: string[] = [];
  for (const row of await page.getByRole('table').locator('tbody tr').all()) {
    const cells = (await row.locator('td').allInnerTexts()).map((text) => text.replace(/\s+/g, ' ').trim());
    received.push(
      [cells[0], cells[2]!.replace(/ \S+@\S+$/, ''), /^Spring bell: (.*) is /.exec(cells[3]!)![1]].join(' | ')
    );
  }
  expect([...received].sort()).toEqual([...forecast].sort());
  await expectAccessible(page);

  // And they came over SMTP with exactly these moments, readers and words.
  const answer = await fetch(`${app.mail}/messages?search=${encodeURIComponent('Spring bell')}&limit=100`);
  const { messages } = (await answer.json()) as {
    messages: { date: number; to: string[]; subject: string; copies: number }[];
  };
  const inOrder = messages.map(
    ({ date, to, subject }) =>
      `${new Date(date).toISOString().slice(0, 16)}Z ${to[0]!.split('@')[0]} ${subject}`
  );
  const byHand = BY_HAND.map(([at, reader, words]) => `${at} ${reader} Spring bell: ${words}`);
  expect([...inOrder].sort()).toEqual([...byHand].sort());
  expect(messages.every(({ copies }) => copies === 1)).toBe(true);

  // One of them, read.
  await page.getByRole('link', { name: 'Spring bell: Hobart survey is due tomorrow' }).click();
  await page.getByRole('button', { name: 'as text' }).click();
  await expect(page.getByTestId('message-text')).toContainText(
    'Dear Tess, Hobart survey in Spring campaign: Wednesday 11 March 2026 at 10:00.'
  );
  await expect(page.getByTestId('message-text')).toContainText('1 day before is Tuesday 10 March 2026.');
  await page.getByRole('button', { name: 'as a page' }).click();
  await expect(page.frameLocator('iframe').getByRole('link', { name: 'Open the task' })).toBeVisible();
});
