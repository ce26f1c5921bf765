// `npm run screenshots`: one picture of each place, 1280×800, from a demo workspace laid out afresh.
import { mkdirSync, mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { chromium, type Page } from 'playwright-core';
// @ts-expect-error plain scripts, started before anything is installed
import { layOutDemo, standInEnv, startServer, startStandIn } from './serve.mjs';
// @ts-expect-error as above
import { ROOT, ensureBuild, wholeChromium } from './setup.mjs';

const PORT = 4173;
const MOMENT = '2026-03-05T07:40Z';
const FOLDER = join(ROOT as string, 'docs/screenshots');

/** A place, how its picture is called, and what is done before it is taken. */
const SHOTS: readonly { name: string; path: string; before?: (page: Page) => Promise<unknown> }[] = [
  { name: 'bell-tower', path: '/' },
  { name: 'tasks', path: '/tasks' },
  {
    name: 'task',
    path: '/tasks?text=Renew+the+dive+permit%2C+Outer+Reef',
    before: async (page) => {
      await page.getByRole('link', { name: 'Renew the dive permit, Outer Reef', exact: true }).click();
      await page.getByRole('button', { name: /^Thu 5 Mar, 14:30/ }).click();
    }
  },
  { name: 'tasks-columns', path: '/tasks?shape=columns' },
  { name: 'desk', path: '/desk' },
  {
    name: 'project',
    path: '/projects',
    before: async (page) => {
      await page.getByRole('link', { name: 'Winter buoy service' }).click();
      await page.getByRole('heading', { name: 'Members' }).waitFor();
    }
  },
  { name: 'import', path: '/tasks/import', before: reviewCsv },
  { name: 'rules', path: '/rules' },
  { name: 'rule', path: '/rules/4' },
  { name: 'escalations', path: '/escalations' },
  {
    name: 'digest',
    path: '/digests/2',
    before: (page) => page.getByTestId('stages').waitFor()
  },
  { name: 'people', path: '/people' },
  { name: 'person', path: '/people/12' },
  {
    name: 'calendar',
    path: '/calendars',
    before: async (page) => {
      await page.getByRole('link', { name: /^Kochi/ }).click();
      await page.getByRole('button', { name: /^10 March/ }).click();
      await page.getByLabel('Name', { exact: true }).fill('Regatta');
      await page.getByLabel('Name', { exact: true }).press('Tab');
      await page.getByRole('button', { name: 'Close it' }).click();
      await page.locator('summary', { hasText: /bells? moves?/ }).waitFor();
      await page.evaluate('scrollTo(0, 0)');
    }
  },
  {
    name: 'sweeps',
    path: '/sweeps',
    before: (page) =>
      page
        .getByRole('cell', { name: /^\d+ tasks?$/ })
        .last()
        .waitFor()
  },
  { name: 'outbox', path: '/outbox' },
  { name: 'journal', path: '/journal?way=rule' },
  { name: 'post-room', path: '/post-room' },
  {
    name: 'message',
    path: '/post-room',
    before: async (page) => {
      await page.getByRole('table').getByRole('link').first().click();
      await page.frameLocator('iframe').getByRole('link', { name: 'Open the task' }).waitFor();
    }
  }
];

const CSV = [
  'Task;Owner;Due;Priority;Project',
  'Survey the spring tide marks;Tess Whitlam;11/03/2026;high;Gauge calibration',
  'Order acid for the sample bottles;Deepa Kurian;13/03/2026;ordinary;Sample shipments',
  'Check the siren of the jetty;Jun Boudreau;16/03/2026;pressing;Station safety',
  'Send the tide tables to print;Rui Tavares;31/02/2026;ordinary;Data publication'
].join('\n');

async function reviewCsv(page: Page): Promise<void> {
  const file = { name: 'spring-work.csv', mimeType: 'text/csv', buffer: Buffer.from(CSV) };
  await page.getByLabel(/CSV file/).setInputFiles(file);
  await page.getByRole('button', { name: 'Check the file' }).click();
  await page.getByRole('heading', { name: 'spring-work.csv' }).waitFor();
}

async function takeAll(page: Page, origin: string): Promise<void> {
  mkdirSync(FOLDER, { recursive: true });
  await page.goto(`${origin}/sign-in`);
  await page.getByRole('button', { name: /Inês Moura/ }).click();
  await page.getByRole('heading', { name: 'Bell tower', level: 1 }).waitFor();
  for (const { name, path, before } of SHOTS) {
    await page.goto(`${origin}${path}`, { waitUntil: 'networkidle' });
    await before?.(page);
    await page.waitForLoadState('networkidle');
    await page.mouse.move(0, 0);
    await page.screenshot({ path: join(FOLDER, `${name}.png`), animations: 'disabled' });
    process.stdout.write(`  ${name}.png\n`);
  }
}

const executablePath = (wholeChromium as () => string)();
await (ensureBuild as () => Promise<void>)();
const data = mkdtempSync(join(tmpdir(), 'early-bell-pictures-'));
const standIn = await startStandIn(join(data, 'mail'));
const origin = `http://localhost:${PORT}`;
await layOutDemo({ data, at: MOMENT, standIn, origin });
const server = await startServer({
  port: PORT,
  env: {
    EARLY_BELL_DATA: data,
    EARLY_BELL_DEMO: '1',
    EARLY_BELL_AT: MOMENT,
    ...standInEnv(standIn),
    EARLY_BELL_LOG: 'warn'
  }
});
const browser = await chromium.launch({
  executablePath,
  args: ['--no-sandbox', '--disable-background-networking']
});
try {
  const context = await browser.newContext({ viewport: { width: 1280, height: 800 }, locale: 'en-GB' });
  await takeAll(await context.newPage(), origin);
} finally {
  await browser.close();
  server.child.kill('SIGTERM');
  standIn.child.kill('SIGTERM');
  rmSync(data, { recursive: true, force: true });
}
