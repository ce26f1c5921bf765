import { askJson } from '$lib/ui/form/send.ts';
import type { SweepNowView } from '$lib/view/sweeps.ts';

/**
 * Asks the server what a sweep would take now.
 * @param written as it is being written; null for what is saved
 * @returns a sentence where it cannot be said
 */
export async function askNow(sweepId: number, written: unknown): Promise<SweepNowView | string> {
  const said = (await askJson<SweepNowView>(`/sweeps/${sweepId}/now`, written))!;
  return said.ok ? said.answer : said.message;
}
