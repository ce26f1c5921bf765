import { cpSync, mkdtempSync, rmSync } from 'node:fs';
import { spawnSync } from 'node:child_process';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { ChildProcess } from 'node:child_process';
import { expect, test as base, type Locator, type Page } from '@playwright/test';
// @ts-expect-error plain scripts that start the application for people and for tests alike
import { freePort, standInEnv, startServer, startStandIn } from '../../scripts/serve.mjs';
import { DEMO_MOMENT, STAND_INS } from './lay-out.ts';

/** The application as a person starts it: its own processes, a database file of its own, the real stand-in. */
export interface App {
  origin: string;
  /** Where its database lies. */
  data: string;
  /** The stand-in's list of messages. */
  mail: string;
  /** The one-time link that a fresh workspace printed. */
  firstLink(): string;
  stop(): Promise<void>;
}

export interface AppOptions {
  /** With the demo in it; else a fresh workspace is started. */
  demo?: boolean;
  /** With so many generated tasks in it. */
  many?: number;
  /** A file with a name of its own gets an application of its own. */
  name?: string;
}

interface Started {
  child: ChildProcess;
}

/** The moment of the generated tasks. */
const MANY_MOMENT = '2026-03-05T08:00Z';

export async function startApp({ demo = false, many }: AppOptions): Promise<App> {
  const data = mkdtempSync(join(tmpdir(), 'early-bell-'));
  if (demo) cpSync(process.env.E2E_LAID_OUT!, data, { recursive: true });
  const port = (await freePort()) as number;
  const origin = `http://localhost:${port}`;
  const standIn = (await startStandIn(join(data, STAND_INS))) as Started & {
    smtpPort: number;
    httpPort: number;
    returnPort: number;
  };
  if (many) layOutMany(data, MANY_MOMENT, many);
  const at = demo ? DEMO_MOMENT : many ? MANY_MOMENT : null;
  const env = {
    EARLY_BELL_DATA: data,
    ...standInEnv(standIn),
    EARLY_BELL_LOG: 'warn',
    ...(at ? { EARLY_BELL_DEMO: '1', EARLY_BELL_AT: at } : {})
  };
  const server = (await startServer({ port, env })) as Started & { output(): string };
  return {
    origin,
    data,
    mail: `http://127.0.0.1:${standIn.httpPort}`,
    firstLink: () => /http\S+\/begin\/\S+/.exec(server.output())![0],
    async stop() {
      await ended(server.child);
      await ended(standIn.child);
      rmSync(data, { recursive: true, force: true });
    }
  };
}

function layOutMany(data: string, at: string, many: number): void {
  const args = ['build/parts/many-tasks.js', data, at, String(many)];
  const { status } = spawnSync(process.execPath, args, { stdio: 'inherit' });
  if (status !== 0) throw new Error('The tasks could not be laid out.');
}

/** One application for all tests of a file. */
export const test = base.extend<object, { appOptions: AppOptions; app: App }>({
  // An error that nobody caught fails the test, whatever else it looks at.
  context: async ({ context }, use) => {
    const uncaught: string[] = [];
    context.on('weberror', (fault) => uncaught.push(fault.error().stack ?? fault.error().message));
    await use(context);
    expect(uncaught).toEqual([]);
  },
  appOptions: [{ demo: true }, { scope: 'worker', option: true }],
  app: [
    async ({ appOptions }, use) => {
      const app = await startApp(appOptions);
      await use(app);
      await app.stop();
    },
    { scope: 'worker', timeout: 300_000 }
  ]
});

export { expect };
export { expectAccessible } from './accessible.ts';

/** Goes to an address and waits until the page answers to keys and presses. */
export async function open(page: Page, url: string): Promise<void> {
  await page.goto(url);
  await started(page);
}

async function started(page: Page): Promise<void> {
  await expect(page.locator('html[data-started]')).toBeAttached();
}

/** Comes in as one of the demo's coordinators. */
export async function signIn(page: Page, app: App, name = 'Inês Moura'): Promise<void> {
  await open(page, app.origin);
  await page.getByRole('button', { name: new RegExp(name) }).click();
  await expect(page.getByRole('heading', { name: 'Bell tower', level: 1 })).toBeVisible();
  await started(page);
}

/** Moves the demo clock to a moment on the viewer's wall. Opens the panel again where a press came while the page was busy. */
export async function moveClockTo(page: Page, date: string, time: string): Promise<void> {
  const panel = page.locator('.panel', { hasText: 'Move the demo clock' });
  await expect(async () => {
    if (!(await panel.isVisible())) await page.getByRole('button', { name: 'Move clock' }).click();
    await panel.getByLabel('Date', { exact: true }).fill(date, { timeout: 3_000 });
    await panel.getByLabel(/^Time in/).fill(time, { timeout: 3_000 });
    await panel.getByLabel(/^Time in/).press('Tab', { timeout: 3_000 });
    await panel.getByRole('button', { name: 'Move the clock' }).click({ timeout: 3_000 });
  }).toPass();
}

/** In the Post room: the mail whose words contain a text. */
export async function searchPostRoom(page: Page, text: string): Promise<void> {
  await page.getByLabel('Search').fill(text);
  await page.getByLabel('Channel').selectOption('mail');
  await expect(page).toHaveURL(/channel=mail/);
}

/** Picks one value of a list that is edited in place: presses what stands there, types, and takes it with Enter. */
export async function pick(within: Page | Locator, label: string, value: string): Promise<void> {
  await within.getByRole('button', { name: `${label}: ` }).click();
  await take(within, label, value);
}

/** Adds something from the list behind “+ …”. */
export async function addFrom(within: Page | Locator, label: string, value: string): Promise<void> {
  await within
    .getByRole('button', { name: /^\p{Lu}/u.test(label) ? label : `Add ${label}`, exact: true })
    .click();
  await take(within, label, value);
}

/** Chooses or leaves out values of a list of which several can be chosen. */
export async function pickMany(within: Page | Locator, label: string, values: string[]): Promise<void> {
  const page = 'page' in within ? within.page() : within;
  await within.getByRole('button', { name: `${label}: ` }).click();
  for (const value of values) await page.getByRole('option', { name: value, exact: true }).click();
  await page.keyboard.press('Escape');
}

/** Types words with merge fields over what stood there, as somebody does who marks it all first. */
export async function writeWords(words: Locator, text: string): Promise<void> {
  await words.click();
  await words.press('ControlOrMeta+a');
  await words.press('Delete');
  await words.pressSequentially(text);
}

async function take(within: Page | Locator, label: string, value: string): Promise<void> {
  const page = 'page' in within ? within.page() : within;
  const box = page.getByRole('combobox', { name: label });
  await box.fill(value);
  // What is computed meanwhile may push the list out of sight; somebody who sees that scrolls.
  await expect(async () => {
    await box.scrollIntoViewIfNeeded({ timeout: 2_000 });
    await page.getByRole('option', { name: value, exact: true }).click({ timeout: 2_000 });
  }).toPass();
}

function ended(child: ChildProcess): Promise<void> {
  return new Promise((resolve) => {
    if (child.exitCode !== null) return resolve();
    child.once('exit', () => resolve());
    child.kill('SIGTERM');
  });
}
