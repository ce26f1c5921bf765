import type { ActionResult, SubmitFunction } from '@sveltejs/kit';
import { tick } from 'svelte';
import { goto } from '$app/navigation';
import { returnFocus } from '../frame/kept-focus.ts';
import { announce, whileUnderWay } from '../frame/notices.svelte.ts';

/** No answer at all: the server is gone or the line is down. Whether it was done before is not known. */
export const NO_ANSWER =
  'The server does not answer. Check whether your change was saved when it answers again.';

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
 * Submits a form without a page load, once until it is answered, says what was done with its undo, and goes where the action points.
 * @param before as soon as it is sent
 * @param accepted when it was done, before the page is read anew
 * @param underWay what is said where it takes longer than a moment; nothing where the page says how far it is
 */
export function submitDone(
  ondone: (done: Done) => void,
  before?: () => void,
  accepted?: (sent: FormData) => void,
  underWay: string | null = 'Please wait…'
): SubmitFunction {
  let isUnderWay = false;
  return ({ formData, formElement, cancel }) => {
    // Pressed twice it is done once.
    if (isUnderWay) return cancel();
    isUnderWay = true;
    before?.();
    let answered = () => {};
    const answer = new Promise<void>((resolve) => (answered = resolve));
    if (underWay !== null) void whileUnderWay(underWay, answer);
    return async ({ result, update }) => {
      answered();
      isUnderWay = false;
      if (saysWhyNot(result)) return;
      const data = result.type === 'success' ? (result.data as Done | undefined) : undefined;
      if (!data?.done) {
        await updated(update);
        return focusFirstFault(formElement);
      }
      accepted?.(formData);
      if (data.goto) {
        ondone(data);
        return goto(data.goto, { invalidateAll: true });
      }
      await updated(update);
      // Said when the page has settled: the update takes the focus back, and would close what somebody opens meanwhile.
      ondone(data);
    };
  };
}

/** The page is read anew and drawn; the focus, which that gives to the whole page, is back where it was. */
async function updated(update: (options: { reset: boolean }) => Promise<void>): Promise<void> {
  await update({ reset: false });
  await tick();
  returnFocus();
}

/** Where something was refused, whoever sent it stands at the first thing that is to be mended. */
function focusFirstFault(form: HTMLFormElement): void {
  form.querySelector<HTMLElement>('[aria-invalid="true"]')?.focus();
}

/** Submits a form without a page load, and shows what its page then says; what was typed stays. */
export const submitLook: SubmitFunction =
  ({ formElement }) =>
  async ({ result, update }) => {
    if (saysWhyNot(result)) return;
    await updated(update);
    focusFirstFault(formElement);
  };

/** Where a form was not taken at all, it says why and leaves the page as it is: what was typed is not lost. @returns whether that was so */
function saysWhyNot(result: ActionResult): boolean {
  if (result.type !== 'error') return false;
  announce(result.status === undefined ? NO_ANSWER : (result.error as Error).message, 'error');
  return true;
}
