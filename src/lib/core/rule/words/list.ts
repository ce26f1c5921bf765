import { isolated } from '../../bidi.ts';

/** Items as one says them: “a, b and c”. */
export function list(items: readonly string[], word = 'and'): string {
  return items.length < 2
    ? items.join('')
    : `${items.slice(0, -1).join(', ')} ${word} ${items[items.length - 1]!}`;
}

/** A name as it stands in a sentence. */
export function quoted(words: string): string {
  return `“${isolated(words)}”`;
}
