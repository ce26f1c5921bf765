import { untrack } from 'svelte';
import { Draft } from './draft.ts';
import { askBeforeLeaving } from './leaving.ts';

/** Something that is written before it is saved: a rule, a digest, a sweep. */
export class EditedDraft<T> {
  readonly #draft: Draft;
  /** How often what is known of it has changed: what is derived of that is derived anew. */
  #changes = $state(0);

  input = $state() as T;
  readonly text = $derived(JSON.stringify(this.input));

  constructor(input: T) {
    this.input = structuredClone(input);
    this.#draft = new Draft(JSON.stringify(input));
  }

  get unsaved(): boolean {
    return this.#changes >= 0 && this.#draft.isUnsaved(this.text);
  }

  /** What was sent is saved, whatever has been written since. */
  markSaved(sent: string): void {
    this.#draft.markSaved(sent);
    this.#changes++;
  }

  /** The page has been read again. */
  follow(fresh: T): ReturnType<Draft['follow']> {
    const text = JSON.stringify(fresh);
    return untrack(() => {
      const followed = this.#draft.follow(text, this.text);
      if (followed === 'taken' && text !== this.text) this.input = structuredClone(fresh);
      this.#changes++;
      return followed;
    });
  }

  /** Asks whoever leaves the page with something unsaved. Call it while the page is set up. @param what “This rule” */
  guard(what: string): void {
    askBeforeLeaving(() => this.unsaved, `${what} has unsaved changes. Leave the page?`);
  }
}

/**
 * The draft of a page: it follows what the page is read again with, and asks whoever leaves it unsaved. Call it while the page is set up.
 * @param held what of the page is written
 * @param what “This digest”
 */
export function pageDraft<T>(held: () => T, what: string): EditedDraft<T> {
  const draft = new EditedDraft(untrack(held));
  $effect(() => void draft.follow(held()));
  draft.guard(what);
  return draft;
}
