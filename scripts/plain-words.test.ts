import { describe, expect, it } from 'vitest';
import { visibleFiles, wordsOf } from './visible-files.ts';

/** Words that no longer stand on a screen, in a message or in a document for users, with what is said in their place. */
const DROPPED: readonly [RegExp, string][] = [
  [/\(s\)/, 'one or more, by core/many.ts'],
  [/\bunrung\b/i, 'not sent'],
  [/\b(on|at|a|the|first|last|next|no) rungs?\b|\brungs\b/i, 'level'],
  [/\b(taken|take it|take them|taking it) back\b/i, 'undo'],
  [/\btak(e|en|ing)( (it|this|them|that))? (out|off)\b/i, 'remove'],
  [/\ball the same\b/i, 'anyway'],
  [/\bgood day\b/i, 'hello'],
  [/\bwhoever\b/i, 'the person who'],
  [/\banew\b/i, 'again'],
  [/\bwall\b/i, 'time zone'],
  [/\bstand(s)? still\b/i, 'paused, stopped'],
  [/\bmade up for\b/i, 'sent later'],
  [/\bno longer there\b/i, 'not found'],
  [/\bmoved later\b/i, 'postponed'],
  [/\b(comes|came) back\b/i, 'repeats, returns'],
  [/\bthrown? away\b/i, 'discard'],
  [/\bthe most for a day\b|\ba day’s most\b/i, 'daily limit'],
  [/\bforeseen\b/i, 'forecast'],
  [/\bby a yes\b|\bfor a yes\b/i, 'approval']
];
/** Names in code that look like words, and are shown to nobody as they are. */
const CODES = new Set(['snooze taken back', 'latest at the next opening']);
/** How it is built and run and why, the law of timing, and SQL: these keep the words of the code. */
const FOR_BUILDERS =
  /^docs\/(architecture|decisions|timing|performance|formats|operations)\.md$|^src\/lib\/server\/store\//;

describe('visible words', () => {
  it('hold none of those that were dropped, and no “(s)”', () => {
    const found = visibleFiles()
      .filter((file) => !FOR_BUILDERS.test(file))
      .flatMap((file) =>
        wordsOf(file).flatMap(({ line, words }) =>
          DROPPED.filter(([dropped]) => dropped.test(words) && !CODES.has(words)).map(
            ([, better]) => `${file}:${line} “${words}”: say ${better}`
          )
        )
      );
    expect(found).toEqual([]);
  });
});
