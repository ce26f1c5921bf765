const FOCUSABLE =
  'a[href], button:not(:disabled), input:not(:disabled):not([type="hidden"]), select:not(:disabled), textarea:not(:disabled), summary, [tabindex]:not([tabindex="-1"])';

/** What has the focus, what it stands in from the inside out, and its place among what can have it there. */
interface Held {
  element: HTMLElement;
  within: { element: HTMLElement; place: number }[];
}

let held: Held | null = null;
/** The whole page was given the focus, as happens when a form has been answered: nobody went there. */
let taken = false;

/** Another page is there: the focus begins anew. */
export function letGoOfFocus(): void {
  held = null;
}

/** Puts the focus back to where it was taken from, or to what stands in the place of what has gone. Whoever let go of it is left alone. */
export function returnFocus(): void {
  if (!held || document.activeElement !== document.body) return;
  const isThere = canHaveIt(held.element);
  if (isThere && !taken) return;
  const back = isThere ? held.element : successorOf(held);
  back?.focus({ preventScroll: true });
}

function canHaveIt(element: HTMLElement): boolean {
  return element.isConnected && !element.matches(':disabled') && element.checkVisibility();
}

/**
 * Keeps the focus near where it was when what has it goes away: a row that is removed, a form that closes, a button that can no longer be
 * pressed. It goes to what stands in its place, inside the nearest part of the page that is still there; without this it falls to the page,
 * and whoever works by keyboard begins at its top again. Use it as an action on the whole page.
 */
export function keepsFocus(node: HTMLElement) {
  let asked = false;

  const note = ({ target }: FocusEvent) => {
    taken = target === document.body;
    if (taken) return;
    held = target instanceof HTMLElement && node.contains(target) ? heldBy(target, node) : null;
  };
  const look = () => {
    asked = false;
    if (held && !canHaveIt(held.element)) returnFocus();
  };
  // Whatever puts the focus somewhere itself, as a dialog that closes, comes first.
  const observer = new MutationObserver(() => {
    if (asked || !held) return;
    asked = true;
    requestAnimationFrame(() => requestAnimationFrame(look));
  });
  document.addEventListener('focusin', note);
  observer.observe(node, {
    childList: true,
    subtree: true,
    attributes: true,
    attributeFilter: ['disabled', 'hidden']
  });
  return {
    destroy() {
      document.removeEventListener('focusin', note);
      observer.disconnect();
    }
  };
}

function heldBy(element: HTMLElement, whole: HTMLElement): Held {
  const within: Held['within'] = [];
  for (let outer = element.parentElement; outer && whole.contains(outer); outer = outer.parentElement)
    within.push({ element: outer, place: focusableIn(outer).indexOf(element) });
  return { element, within };
}

function successorOf({ within }: Held): HTMLElement | undefined {
  for (const { element, place } of within) {
    if (!element.isConnected) continue;
    const all = focusableIn(element);
    const after = all.slice(Math.max(place, 0)).find((one) => one.checkVisibility());
    const next = after ?? all.reverse().find((one) => one.checkVisibility());
    if (next) return next;
  }
  return undefined;
}

function focusableIn(element: HTMLElement): HTMLElement[] {
  return [...element.querySelectorAll<HTMLElement>(FOCUSABLE)];
}
