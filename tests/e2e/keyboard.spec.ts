import { expect, open, signIn, test } from './app.ts';
import type { Locator, Page } from '@playwright/test';

// The main job by keyboard alone: nothing is pointed at, and wherever the keyboard is taken it is said where it stands.

/** What is wrong with where the keyboard is; null where somebody can see and hear where that is. */
function faultOfFocus(page: Page): Promise<string | null> {
  return page.evaluate(() => {
    const at = document.activeElement;
    if (!(at instanceof HTMLElement) || at === document.body) return 'the focus is on the page itself';
    const said = `${at.outerHTML.slice(0, 160)}`;
    const names = [
      at.getAttribute('aria-label'),
      ...(at.getAttribute('aria-labelledby') ?? '')
        .split(' ')
        .map((id) => document.getElementById(id)?.textContent),
      ...[...((at as HTMLInputElement).labels ?? [])].map(({ textContent }) => textContent),
      at.getAttribute('title'),
      at.textContent
    ];
    if (!names.some((name) => name?.trim())) return `it has no name: ${said}`;
    const box = at.getBoundingClientRect();
    const inSight = box.bottom > 0 && box.right > 0 && box.top < innerHeight && box.left < innerWidth;
    if (box.width === 0 || box.height === 0 || !inSight) return `it is out of sight: ${said}`;
    const { outlineStyle, outlineWidth, boxShadow } = getComputedStyle(at);
    const marked = (outlineStyle !== 'none' && outlineWidth !== '0px') || boxShadow !== 'none';
    return marked ? null : `nothing marks it: ${said}`;
  });
}

/** Presses Tab until something has the focus. Wherever it is on the way, it can be seen there, and has a name. */
async function tabTo(page: Page, to: Locator, most = 60): Promise<void> {
  for (let i = 0; i < most; i++) {
    await page.keyboard.press('Tab');
    expect(await faultOfFocus(page)).toBeNull();
    if (await to.evaluate((element) => element === document.activeElement)) return;
  }
  await expect(to).toBeFocused();
}

/** Opens Go to, types, and takes what is found first. */
async function goTo(page: Page, words: string): Promise<void> {
  await page.keyboard.press('Control+k');
  const go = page.getByRole('dialog', { name: 'Go to' });
  await expect(go.getByRole('combobox')).toBeFocused();
  await page.keyboard.type(words);
  await expect(go.getByRole('option').first()).toHaveAttribute('aria-selected', 'true');
  await page.keyboard.press('Enter');
  await expect(go).toHaveCount(0);
}

test('a rule is chosen, checked and turned on, rings, and its why is read, without anything pointed at', async ({
  page,
  app
}) => {
  await signIn(page, app);
  await open(page, `${app.origin}/rules`);
  await page.keyboard.press('Tab');
  await page.keyboard.press('Enter');
  await expect(page.locator('main')).toBeFocused();
  await tabTo(page, page.getByRole('link', { name: 'Starters' }));
  await page.keyboard.press('Enter');
  const use = page.getByRole('button', { name: 'Use this: An hour and half an hour before' });
  await expect(use).toBeVisible();
  await tabTo(page, use);
  await page.keyboard.press('Enter');
  const name = page.getByLabel('Name of the rule');
  await expect(name).toHaveValue('An hour and half an hour before');

  await tabTo(page, name);
  await page.keyboard.press('End');
  await page.keyboard.type(', by keyboard');
  const turnOn = page.getByRole('button', { name: 'Turn on…' });
  await tabTo(page, turnOn);
  await page.keyboard.press('Enter');
  const now = page.getByRole('button', { name: 'Turn it on now' });
  await expect(now).toBeVisible();
  await tabTo(page, now);
  await page.keyboard.press('Enter');
  await expect(page.getByText('“An hour and half an hour before, by keyboard” is on.')).toBeVisible();
  // What was pressed is gone; the keyboard stands beside where it was.
  expect(await page.evaluate(() => document.activeElement === document.body)).toBe(false);

  await goTo(page, 'outbox');
  await expect(page).toHaveURL(/\/outbox/);
  const why = page.getByRole('button', { name: /, why$/ }).first();
  await tabTo(page, why);
  await page.keyboard.press('Enter');
  await expect(page.locator('[id^="why-"] li').first()).toBeVisible();
  await expect(why).toBeFocused();

  await goTo(page, 'Log the drift of gauge 15, second');
  const task = page.getByRole('region', { name: 'The task' });
  await expect(task).toBeVisible();
  await page.keyboard.press('f');
  await expect(task.getByRole('button', { name: 'Open again' })).toBeVisible();
});
