import { askJson } from '$lib/ui/form/send.ts';
import type { EffectView } from '$lib/view/effects.ts';

/** How long a draft must rest before it is asked what it would move. */
const REST_MS = 250;

/** What the server says a draft would move, or why it cannot be worked out. */
export type EffectAnswer = { moved: EffectView } | { error: string };

/**
 * Asks what a draft would move, once it has rested.
 * @param answered is not called for a draft that has been overtaken
 * @param onPart hears how far it has come, from 0 to 1, where that takes long
 * @returns stops asking; call it when the draft changes again
 */
export function askEffect(
  url: string,
  draft: unknown,
  answered: (answer: EffectAnswer) => void,
  onPart?: (part: number) => void
): () => void {
  const overtaken = new AbortController();
  const timer = setTimeout(async () => {
    const said = await askJson<EffectView>(url, draft, { onPart, signal: overtaken.signal });
    if (said) answered(said.ok ? { moved: said.answer } : { error: said.message });
  }, REST_MS);
  return () => {
    clearTimeout(timer);
    overtaken.abort();
  };
}
