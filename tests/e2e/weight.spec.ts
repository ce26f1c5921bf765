import { gzipSync } from 'node:zlib';
import type { Page, Response } from '@playwright/test';
import { expect, signIn, test } from './app.ts';

// What a page sends with the demo: its HTML as it is, and the scripts that it loads by itself, each compressed.

const KB = 1_024;
/** HTML of any page; the bar of the design. */
const MOST_HTML = 150 * KB;
/** Scripts of the pages on which people come in. */
const MOST_SCRIPT = 130 * KB;
const COME_IN = ['/', '/desk', '/tasks'];
// prettier-ignore
const PLACES = [
  '/', '/desk', '/tasks', '/tasks/12', '/tasks/86', '/tasks/88', '/tasks?shape=columns', '/tasks?shape=days', '/projects', '/projects/1', '/rules', '/rules/2', '/rules/starters',
  '/digests', '/digests/1', '/sweeps', '/sweeps/1', '/escalations', '/outbox', '/journal', '/post-room', '/people', '/people/1', '/calendars',
  '/calendars/1', '/settings', '/settings/channels'
];

async function weigh(page: Page, address: string): Promise<{ html: number; script: number }> {
  const came: Response[] = [];
  const note = (response: Response) => came.push(response);
  page.on('response', note);
  await page.goto(address, { waitUntil: 'networkidle' });
  page.off('response', note);
  const bodies = (ofKind: (response: Response) => boolean) =>
    Promise.all(came.filter(ofKind).map((response) => response.body()));
  const html = await bodies((response) => response.request().resourceType() === 'document');
  const scripts = await bodies((response) => new URL(response.url()).pathname.endsWith('.js'));
  const sum = (sizes: number[]) => sizes.reduce((all, size) => all + size, 0);
  return {
    html: sum(html.map(({ byteLength }) => byteLength)),
    script: sum(scripts.map((script) => gzipSync(script).byteLength))
  };
}

test('no page of the demo is over 150 KB, and who comes in loads no more than 130 KB of script', async ({
  page,
  app
}) => {
  await signIn(page, app);
  const heavy: string[] = [];
  for (const place of PLACES) {
    const { html, script } = await weigh(page, `${app.origin}${place}`);
    if (html > MOST_HTML) heavy.push(`${place}: ${Math.round(html / KB)} KB of HTML`);
    if (COME_IN.includes(place) && script > MOST_SCRIPT)
      heavy.push(`${place}: ${Math.round(script / KB)} KB of script`);
  }
  expect(heavy).toEqual([]);
});
