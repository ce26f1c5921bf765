import { describe, expect, it } from 'vitest';
import { readsAsWords, wordsOfDocument, wordsOfScript, wordsOfSvelte } from './visible-words.ts';

describe('what reads as words', () => {
  it.each(['Save', 'two words', 'It rings.', '{…} tasks are late'])('%s', (text) => {
    expect(readsAsWords(text)).toBe(true);
  });
  it.each(['due', 'task_id', 'SELECT id FROM task', './a.ts', 'FREQ=DAILY', '{…}', '12:00', 'a.b.c'])(
    'and not %s',
    (text) => {
      expect(readsAsWords(text)).toBe(false);
    }
  );
});

it('of a script its texts are listed, with what is put into them as a mark, and nothing of its types', () => {
  const source = [
    "import { a } from './two words.ts';",
    "type State = 'is not seen' | 'nor this';",
    "const said = 'It was saved.';",
    'const many = `${n} tasks ${n === 1 ? "has no date" : "have none"}`;'
  ].join('\n');
  expect(wordsOfScript(source)).toEqual([
    { line: 3, words: 'It was saved.' },
    { line: 4, words: '{…} tasks {…}' },
    { line: 4, words: 'has no date' },
    { line: 4, words: 'have none' }
  ]);
});

it('of a page its text, the attributes that are read, and the texts in expressions', () => {
  const source = [
    '<script lang="ts">',
    "  const SAID = { on: 'it rings', off: 'it is quiet' };",
    '</script>',
    '',
    '<p class="two words">',
    '  {count} tasks <b>wait</b>',
    '</p>',
    '<input name="due date" placeholder="a new section" aria-label="Move {name} up" />',
    "{#if late}{late > 1 ? 'They are late' : 'It is late'}{:else}On time{/if}"
  ].join('\n');
  expect(wordsOfSvelte(source)).toEqual([
    { line: 2, words: 'it rings' },
    { line: 2, words: 'it is quiet' },
    { line: 6, words: '{…} tasks' },
    { line: 6, words: 'wait' },
    { line: 8, words: 'a new section' },
    { line: 8, words: 'Move {…} up' },
    { line: 9, words: 'They are late' },
    { line: 9, words: 'It is late' },
    { line: 9, words: 'On time' }
  ]);
});

it('of a document its lines, without what is code', () => {
  const source = '# Two words\n\n```\nnpm run two words\n```\n- and a point\n| a cell | and one |\n';
  expect(wordsOfDocument(source).map(({ line, words }) => `${line} ${words}`)).toEqual([
    '1 Two words',
    '6 and a point',
    '7 a cell and one'
  ]);
});
