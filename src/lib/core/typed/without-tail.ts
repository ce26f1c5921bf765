/** Words that lead to a date and say nothing without it. */
const LEADING = /\b(?:by|due|on|until|at)$/i;

/** A text without the spaces and commas at its end; step by step, so that very many of them take no longer than their number. */
export function withoutTail(text: string): string {
  let end = text.length;
  while (end > 0 && (text[end - 1] === ',' || text[end - 1]!.trim() === '')) end--;
  return text.slice(0, end);
}

/** The same, without the words that led to a date which was taken out. */
export function withoutLeading(text: string): string {
  let rest = withoutTail(text);
  for (let word = LEADING.exec(rest); word; word = LEADING.exec(rest))
    rest = withoutTail(rest.slice(0, word.index));
  return rest;
}
