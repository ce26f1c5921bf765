import { untrack } from 'svelte';
import { readJson } from '$lib/ui/form/send.ts';
import type { TaskRowView } from '$lib/view/tasks.ts';

/** Rows of a list, and what those after them are asked for with; null at its end. */
interface Rows {
  rows: TaskRowView[];
  next: string | null;
}
const A_PAGE = 100;
const MOST_AGAIN = 1_000;

/** A list as it is scrolled: its first page comes with the page, and the others are asked for. */
export class ListedRows {
  readonly #first: () => Rows | null;
  readonly #search: () => string;
  #further = $state.raw<Rows | null>(null);
  #asking = false;
  /** Of which list the rows are. */
  #listed = '';
  #filled: unknown = null;

  /**
   * @param search what the list is asked for by
   * @param onother is called when it is another list
   */
  constructor(first: () => Rows | null, search: () => string, onother: () => void) {
    this.#first = first;
    this.#search = search;
    // Another list begins at its beginning; the same one read anew keeps as many rows as were there.
    $effect(() => {
      const page = first();
      const asked = search();
      // What was asked for since is not watched: having it must not ask for it again.
      const below = untrack(() => this.#further?.rows.length ?? 0);
      const isNew = page !== this.#filled;
      this.#filled = page;
      if (asked !== this.#listed) {
        this.#listed = asked;
        this.#further = null;
        onother();
      } else if (isNew && below > 0) void this.#refill(below);
    });
  }

  get rows(): TaskRowView[] {
    return [...(this.#first()?.rows ?? []), ...(this.#further?.rows ?? [])];
  }

  get next(): string | null {
    return this.#further ? this.#further.next : (this.#first()?.next ?? null);
  }

  async more(): Promise<void> {
    const { next } = this;
    if (this.#asking || next === null) return;
    this.#asking = true;
    const from = this.#listed;
    const answer = await this.#ask(next, A_PAGE);
    // Where it failed the next scrolling asks again.
    this.#asking = false;
    if (answer && from === this.#listed)
      this.#further = { rows: [...(this.#further?.rows ?? []), ...answer.rows], next: answer.next };
  }

  async #refill(count: number): Promise<void> {
    const from = this.#listed;
    const after = this.#first()?.next ?? null;
    const answer = await this.#ask(after, Math.max(A_PAGE, Math.min(MOST_AGAIN, count)));
    if (answer && from === this.#listed) this.#further = answer;
  }

  #ask(after: string | null, count: number): Promise<Rows | null> {
    const asked = untrack(this.#search).replace(/^\?/, '');
    const from = after === null ? '' : `after=${encodeURIComponent(after)}`;
    return readJson<Rows>(`/tasks/rows?${[asked, from, `rows=${count}`].filter(Boolean).join('&')}`);
  }
}
