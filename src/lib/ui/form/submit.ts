import type { SubmitFunction } from '@sveltejs/kit';
import { goto } from '$app/navigation';
import { whileUnderWay } from '../frame/notices.svelte.ts';

/** What a form action gives back when something was done. */
export interface Done {
  /** In words: “Task added”. */
  done: string;
  /** The change, to be undone; absent where nothing can be. */
  changeId?: number;
  /** Where it is taken back that is no change of data. */
  back?: { url: string; body: unknown };
  /** Where to go next; absent: stay. */
  goto?: string;
}

/**
 * Submits a form without a page load, says what was done with its undo, and goes where the action points.
 * @param before as soon as it is sent
 * @param accepted when it was done, before the page is read anew
 */
export function submitDone(
  ondone: (done: Done) => void,
  before?: () => void,
  accepted?: (sent: FormData) => void
): SubmitFunction {
  return ({ formData }) => {
    before?.();
    let answered = () => {};
    void whileUnderWay('This takes a moment…', new Promise<void>((resolve) => (answered = resolve)));
    return async ({ result, update }) => {
      answered();
      const data = result.type === 'success' ? (result.data as Done | undefined) : undefined;
      if (!data?.done) return update({ reset: false });
      accepted?.(formData);
      if (data.goto) {
        ondone(data);
        return goto(data.goto, { invalidateAll: true });
      }
      await update({ reset: false });
      // Said when the page has settled: the update takes the focus back, and would close what somebody opens meanwhile.
      ondone(data);
    };
  };
}
