import { expect, it } from 'vitest';
import { shortText } from './short.ts';

it('says what it is about and where it leads', () => {
  expect(shortText('Renew the permit is due today', 'http://bell.test/tasks/4')).toBe(
    'Renew the permit is due today http://bell.test/tasks/4'
  );
  expect(shortText('Renew the permit is due today', '')).toBe('Renew the permit is due today');
});

it('is three parts of a text message at most, its link whole', () => {
  const text = shortText('x'.repeat(500), 'http://bell.test/tasks/4');
  expect(text.length).toBeLessThanOrEqual(201);
  expect(text).toMatch(/… http:\/\/bell\.test\/tasks\/4$/);
});

it('does not cut a letter in half', () => {
  const text = shortText('𝄞'.repeat(150), '');
  expect(text.isWellFormed?.() ?? encodeURIComponent(text)).toBeTruthy();
});
