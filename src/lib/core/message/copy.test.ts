import { expect, test } from 'vitest';
import { asCopy } from './copy.ts';

const MESSAGE = {
  subject: 'Due tomorrow: Send the log',
  text: 'Hello Salim,\n\nit is due.\n',
  html: '<!doctype html><html lang="en"><body style="margin:0"><p>Hello Salim</p></body></html>'
};

test('a copy says what it is above the words, in the text and in the HTML, and in its subject', () => {
  const copy = asCopy(MESSAGE, 'Tried', 'Only you get this.');
  expect(copy.subject).toBe('Tried: Due tomorrow: Send the log');
  expect(copy.text).toBe('Only you get this.\n\nHello Salim,\n\nit is due.\n');
  expect(copy.html).toMatch(
    /<body style="margin:0"><p style="[^"]*">Only you get this\.<\/p><p>Hello Salim<\/p><\/body>/
  );
});

test('what people have written stands in a copy as they wrote it', () => {
  const note = 'You tried “<b>$& $1</b>”.';
  const escaped = '&#60;b&#62;$&#38; $1&#60;/b&#62;';
  expect(asCopy(MESSAGE, 'Tried', note).html).toContain(`You tried “${escaped}”.`);
  expect(asCopy(MESSAGE, 'Tried', note).text).toContain(note);
});
