import { many } from '../../core/many.ts';
import type { BellView } from '../../view/models.ts';

/** Bells that are named in one line; the rest are counted. */
const NAMED = 3;

/**
 * What the bells ahead of a task say of a quiet stretch: how many are kept back because of it, and which ring all the same, as the plan has
 * them and not as anybody would think.
 * @param reason why they are kept back
 * @param until ms; null while its end is not known, and then everything ahead counts
 */
export function stillRings(
  coming: readonly BellView[],
  reason: 'acknowledged' | 'stuck on others',
  until: number | null
): string {
  const within = coming.filter(({ time }) => until === null || time.atMs < until);
  const kept = within.filter(({ unrung }) => unrung === reason);
  const ringing = within.filter(({ unrung }) => unrung === null);
  const names = [...new Set(kept.map(({ recipientName }) => recipientName))];
  return [
    ...(kept.length === 0 ? [] : [`${many(kept.length, 'notice')} to ${list(names)} not sent`]),
    ringing.length === 0 ? 'nothing rings' : `still rings: ${list(ringing.slice(0, NAMED).map(bellWords))}`
  ]
    .join(', ')
    .concat(ringing.length > NAMED ? ` and ${ringing.length - NAMED} more` : '');
}

function bellWords({ ruleName, readerName, time }: BellView): string {
  return `“${ruleName}” to ${readerName}, ${time.here ?? time.there}`;
}

function list(words: readonly string[]): string {
  return words.length < 2 ? words.join('') : `${words.slice(0, -1).join('; ')}; ${words.at(-1)!}`;
}
