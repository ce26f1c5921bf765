import type { SweepNowView } from '$lib/view/sweeps.ts';

/**
 * Asks the server what a sweep would take now.
 * @param written as it is being written; null for what is saved
 * @returns a sentence where it cannot be said
 */
export async function askNow(sweepId: number, written: unknown): Promise<SweepNowView | string> {
  try {
    const response = await fetch(`/sweeps/${sweepId}/now`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify(written)
    });
    const body = (await response.json()) as SweepNowView | { message: string };
    return 'message' in body ? body.message : body;
  } catch {
    // No answer at all: that is all there is to say.
    return 'The server does not answer.';
  }
}
