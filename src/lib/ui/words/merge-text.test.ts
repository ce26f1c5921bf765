import { describe, expect, it } from 'vitest';
import fc from 'fast-check';
import { FIELD_NAMES } from '$lib/core/message/fields.ts';
import { documentOf, piecesOf, textOf, written } from './merge-text.ts';

describe('words with merge fields in the editor', () => {
  it('reads fields, their fallbacks and what is no field', () => {
    expect(piecesOf('‹task› by ‹due, else no date yet›, ‹nothing such›')).toEqual([
      { type: 'mergeField', attrs: { field: 'task', fallback: null } },
      { type: 'text', text: ' by ' },
      { type: 'mergeField', attrs: { field: 'due', fallback: 'no date yet' } },
      { type: 'text', text: ', ‹nothing such›' }
    ]);
  });

  it('keeps empty lines and fields that are not closed', () => {
    const text = 'Hello ‹first name›,\n\n‹task\n';
    expect(textOf(documentOf(text))).toBe(text);
  });

  it('gives back every text to the letter', () => {
    const field = fc
      .tuple(fc.constantFrom(...FIELD_NAMES), fc.option(fc.stringMatching(/^[\w ]{1,8}$/)))
      .map(([name, fallback]) => written(name, fallback === null ? null : fallback.trimStart() || 'x'));
    const piece = fc.oneof(field, fc.constantFrom('‹', '›', '\n', ', else ', 'words '), fc.string());
    fc.assert(
      fc.property(fc.array(piece), (pieces) => {
        const text = pieces.join('').replaceAll('\r', '');
        const fields = /‹\s|\s›|\s,\s*else/u.test(text);
        // A field that was typed with spaces inside is written down in its plain form.
        if (!fields) expect(textOf(documentOf(text))).toBe(text);
      })
    );
  });
});
