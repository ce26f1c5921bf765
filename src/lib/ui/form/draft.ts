/** What became of a draft when its page was read again. */
export type Followed =
  /** The page holds what it held before. */
  | 'same'
  /** Nothing was being written: the draft is what the page holds now. */
  | 'taken'
  /** What was written while it was being saved stays, and is not saved yet. */
  | 'written on'
  /** Somebody else has saved it: what is being written here stays, and saving it will say so. */
  | 'overtaken';

/**
 * What is known of something that is written before it is saved. What is written is compared as text, so that what was changed and changed back
 * is no change.
 */
export class Draft {
  /** What the page held when it was last read. */
  #loaded: string;
  /** What the server last had. */
  #saved: string;
  /** What this page itself has saved, until it is read again. */
  #sent: string | null = null;

  constructor(text: string) {
    this.#loaded = this.#saved = text;
  }

  isUnsaved(text: string): boolean {
    return text !== this.#saved;
  }

  /** What was sent is saved, whatever has been written since. */
  markSaved(sent: string): void {
    this.#saved = this.#sent = sent;
  }

  /**
   * The page has been read again: after a save or an undo it holds what the server has. What it is read again for without a change, the clock for
   * one, must not touch what somebody is typing.
   * @param written what stands in the draft
   */
  follow(fresh: string, written: string): Followed {
    const sent = this.#sent;
    this.#sent = null;
    if (fresh === this.#loaded) return 'same';
    this.#loaded = fresh;
    if (sent !== null && sent !== written) return 'written on';
    if (this.isUnsaved(written) && fresh !== written) return 'overtaken';
    this.#saved = fresh;
    return 'taken';
  }
}
