/**
 * Forms of a page in which somebody has typed and not sent: whoever goes elsewhere is asked first. A form is looked at as somebody first comes into
 * it, and again as they leave the page.
 */
export class UnsavedForms {
  readonly #asFound = new Map<HTMLFormElement, string>();
  /** Those that were sent, with how they were found: one that was refused is unsaved still. */
  readonly #sent = new Map<HTMLFormElement, string>();

  /** Watches the forms inside an element that send something; those that only search are passed over. Use it as an action. */
  watch = (node: HTMLElement) => {
    const found = (event: Event) => {
      const form = (event.target as Partial<HTMLInputElement>).form;
      if (form && form.method === 'post' && !this.#asFound.has(form)) this.#asFound.set(form, written(form));
    };
    const sent = (event: Event) => {
      const form = event.target as HTMLFormElement;
      const asFound = this.#asFound.get(form);
      if (asFound !== undefined) this.#sent.set(form, asFound);
      this.#asFound.delete(form);
    };
    node.addEventListener('focusin', found);
    node.addEventListener('submit', sent);
    return {
      destroy: () => {
        node.removeEventListener('focusin', found);
        node.removeEventListener('submit', sent);
      }
    };
  };

  /** Whether something that was typed would be lost. */
  get any(): boolean {
    for (const [form, asFound] of this.#asFound)
      if (!form.isConnected) this.#asFound.delete(form);
      else if (written(form) !== asFound) return true;
    for (const [form, asFound] of this.#sent)
      if (form.isConnected && isRefused(form) && written(form) !== asFound) return true;
    return false;
  }

  /** What was typed is given up. */
  forget(): void {
    this.#asFound.clear();
    this.#sent.clear();
  }
}

function isRefused(form: HTMLFormElement): boolean {
  return form.querySelector('[aria-invalid="true"], [role="alert"]') !== null;
}

/** What stands in the fields of a form that somebody can type into. */
function written(form: HTMLFormElement): string {
  const typed = [...form.elements].filter(
    (one): one is HTMLInputElement =>
      (one instanceof HTMLInputElement && one.type !== 'hidden') ||
      one instanceof HTMLTextAreaElement ||
      one instanceof HTMLSelectElement
  );
  return JSON.stringify(
    typed
      .filter(({ name, type }) => name !== '' && type !== 'password')
      .map(({ name, type, value, checked }) => [
        name,
        type === 'checkbox' || type === 'radio' ? checked : value
      ])
  );
}
