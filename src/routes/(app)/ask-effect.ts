import type { EffectView } from '$lib/view/effects.ts';

/** How long a draft must rest before it is asked what it would move. */
const REST_MS = 250;

/** What the server says a draft would move, or why it cannot be worked out. */
export type EffectAnswer = { moved: EffectView } | { error: string };

/**
 * Asks what a draft would move, once it has rested.
 * @param answered is not called for a draft that has been overtaken
 * @returns stops asking; call it when the draft changes again
 */
export function askEffect(url: string, draft: unknown, answered: (answer: EffectAnswer) => void): () => void {
  const overtaken = new AbortController();
  const timer = setTimeout(async () => {
    try {
      const response = await fetch(url, {
        method: 'POST',
        headers: { 'content-type': 'application/json' },
        body: JSON.stringify(draft),
        signal: overtaken.signal
      });
      const answer = (await response.json()) as EffectView & { message: string };
      answered(response.ok ? { moved: answer } : { error: answer.message });
    } catch {
      // Overtaken, or the line is down: of the latter alone is there something to say.
      if (!overtaken.signal.aborted) answered({ error: 'The server does not answer.' });
    }
  }, REST_MS);
  return () => {
    clearTimeout(timer);
    overtaken.abort();
  };
}
