import axe, { type AxeResults, type RunOptions } from 'axe-core';
import { expect, type Page } from '@playwright/test';

/** Wrong things alone are listed, and sheets of style are not read again: listing what is right takes three times as long and finds the same. */
const ASKED: RunOptions = {
  resultTypes: ['violations'],
  preload: false,
  // What is read aloud holds what is seen (WCAG 2.5.3); axe asks this only where it is told to.
  rules: { 'label-content-name-mismatch': { enabled: true } }
};

/** No finding of axe, of any impact. */
export async function expectAccessible(page: Page): Promise<void> {
  await page.evaluate(axe.source);
  await page.evaluate(markLooks);
  const { violations } = await page.evaluate((asked): Promise<AxeResults> => {
    const { axe } = window as unknown as { axe: typeof import('axe-core') };
    axe.configure({ rules: [{ id: 'color-contrast', selector: '[data-look]' }] });
    return axe.run(asked);
  }, ASKED);
  expect(
    violations.map(({ id, nodes }) => `${id}: ${nodes.map(({ html }) => html.slice(0, 160)).join(' | ')}`)
  ).toEqual([]);
}

/**
 * Contrast follows from the colours and the size of a text and from what lies behind it. Of elements that are alike in all of these a few are marked,
 * to be looked at: a list has a thousand of a dozen looks, and each costs some milliseconds.
 */
function markLooks(): void {
  // More than one, since one may be in a place of which axe does not ask.
  const LOOKED_AT = 3;
  for (const marked of document.querySelectorAll('[data-look]')) marked.removeAttribute('data-look');
  const behind = new Map<Element, string>();
  const behindOf = (element: Element): string => {
    const known = behind.get(element);
    if (known !== undefined) return known;
    const { backgroundColor, backgroundImage, opacity, filter } = getComputedStyle(element);
    const own = [backgroundColor, backgroundImage, opacity, filter].join();
    const parent = element.parentElement ? behindOf(element.parentElement) : '';
    const all = own === 'rgba(0, 0, 0, 0),none,1,none' ? parent : `${parent}/${own}`;
    behind.set(element, all);
    return all;
  };
  const seen = new Map<string, number>();
  for (const element of document.body.querySelectorAll('*')) {
    const says = [...element.childNodes].some(
      ({ nodeType, textContent }) => nodeType === Node.TEXT_NODE && textContent!.trim() !== ''
    );
    if (!says && !(element instanceof HTMLInputElement)) continue;
    if (!element.checkVisibility()) continue;
    const { color, fontSize, fontWeight, position, textShadow } = getComputedStyle(element);
    const isDisabled = element.closest('[disabled], [aria-disabled="true"]') !== null;
    const isLabel = element.closest('label') !== null;
    const look = [
      color,
      fontSize,
      fontWeight,
      position,
      textShadow,
      isDisabled,
      isLabel,
      behindOf(element)
    ].join('|');
    const times = seen.get(look) ?? 0;
    seen.set(look, times + 1);
    if (times < LOOKED_AT) element.setAttribute('data-look', '');
  }
}
