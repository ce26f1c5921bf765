// @ts-expect-error plain scripts that set the machine up
import { wholeChromium } from '../../scripts/setup.mjs';
import config from '../../playwright.config.ts';
import { expect, open, signIn, test } from './app.ts';

/** What the browser itself shows and strikes. */
test.use({
  appOptions: { demo: true, name: 'notifications' },
  launchOptions: { ...config.use!.launchOptions, executablePath: wholeChromium() as string }
});

test('an open page says that something new stands behind the bell: by the browser, and with a sound', async ({
  page,
  app
}) => {
  await page.context().grantPermissions(['notifications'], { origin: app.origin });
  // The browser’s own, with what was shown and struck written down: nobody looks at this screen.
  await page.addInitScript(() => {
    const seen = { shown: [] as string[], strokes: 0 };
    Object.assign(window, { seen });
    const Shown = Notification;
    window.Notification = class extends Shown {
      constructor(title: string, options?: NotificationOptions) {
        super(title, options);
        seen.shown.push(title);
      }
    };
    const { start } = OscillatorNode.prototype;
    OscillatorNode.prototype.start = function (when) {
      seen.strokes++;
      start.call(this, when);
    };
  });
  const seen = () =>
    page.evaluate(() => (window as unknown as { seen: { shown: string[]; strokes: number } }).seen);
  await signIn(page, app);
  await open(page, `${app.origin}/settings/channels`);
  const bell = page.locator('summary[aria-label^="Notices"]');
  await bell.press('Enter');
  const said = page.getByRole('group', { name: 'Your notices' });
  await said.getByText('Play a sound').click();
  await expect(said.getByRole('switch', { name: 'Play a sound' })).toBeChecked();
  // It is heard as it is chosen: one stroke is a tone and two of its partials.
  expect((await seen()).strokes).toBe(3);
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: 'Send me a test notice' }).click();
  await expect.poll(async () => (await seen()).shown).toEqual(['A test message']);
  expect((await seen()).strokes).toBe(6);
});
