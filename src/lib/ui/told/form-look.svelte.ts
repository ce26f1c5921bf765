import type { ToldEffect } from '$lib/view/told.ts';
import { askJson } from '../form/send.ts';

/** After so long without another key it is asked. */
const PAUSE_MS = 400;

/** Forms that hold what is set; the others do something when they are sent. */
const SET = new Set(['quiet', 'channels']);

/** What the form that somebody is in would change, asked as they go. Make it while a component is set up. */
export class FormLook {
  /** Of which form it is said, by the name of its act; null where nothing is asked. */
  act = $state<string | null>(null);
  effect = $state.raw<ToldEffect | null>(null);
  /** Why it cannot be said. */
  fault = $state<string | null>(null);
  part = $state<number | null>(null);
  #asked = { act: '', held: '' };
  #timer: ReturnType<typeof setTimeout> | undefined;
  #abort: AbortController | null = null;
  /** What each form held as it came. */
  readonly #first = new WeakMap<HTMLFormElement, string>();

  /** Notes what the forms of a page hold as it comes. */
  begin(page: HTMLElement): void {
    for (const form of page.querySelectorAll('form')) this.#first.set(form, heldBy(form));
  }

  /** Something in the page was touched: asks what its form would change, where that holds anything new. */
  touched = ({ target }: Event): void => {
    const form = target instanceof Element ? target.closest('form') : null;
    const act = form && actOf(form);
    if (!form || !act) return;
    const held = heldBy(form);
    if (!this.#first.has(form)) this.#first.set(form, held);
    const isAsTheyCame = held === this.#first.get(form);
    // To save what stands changes nothing; to hush or to remove does, as soon as it is pressed.
    if (isAsTheyCame && SET.has(act)) return this.#asked.act === act ? this.clear() : undefined;
    if (this.#asked.act === act && this.#asked.held === held) return;
    this.#asked = { act, held };
    clearTimeout(this.#timer);
    this.#timer = setTimeout(() => void this.#ask(act, new FormData(form), isAsTheyCame), PAUSE_MS);
  };

  /** What was said holds no more: it was saved, or is as it was. */
  clear(): void {
    clearTimeout(this.#timer);
    this.#abort?.abort();
    this.#asked = { act: '', held: '' };
    this.act = null;
    this.effect = null;
    this.fault = null;
    this.part = null;
  }

  async #ask(act: string, form: FormData, isAsTheyCame: boolean): Promise<void> {
    this.#abort?.abort();
    const abort = (this.#abort = new AbortController());
    this.act = act;
    this.effect = null;
    this.fault = null;
    this.part = null;
    const said = await askJson<ToldEffect>(`/told/effect?act=${act}`, form, {
      onPart: (part) => (this.part = part),
      signal: abort.signal
    });
    if (!said || abort.signal.aborted) return;
    // Nobody has been wrong who has said nothing yet.
    if (!said.ok && isAsTheyCame) return this.clear();
    this.effect = said.ok ? said.answer : null;
    this.fault = said.ok ? null : said.message;
  }
}

/** The act that a form is sent to; null where it is none of the page. */
function actOf(form: HTMLFormElement): string | null {
  return /^\?\/(\w+)$/.exec(form.getAttribute('action') ?? '')?.[1] ?? null;
}

function heldBy(form: HTMLFormElement): string {
  return [...new FormData(form)].map(([name, value]) => `${name}=${String(value)}`).join('&');
}
