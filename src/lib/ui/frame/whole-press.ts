/** A hand that presses may move so far without meaning to go elsewhere, in CSS pixels. */
const STILL = 4;

/**
 * Lets a press count for the button on which it began, also where that has moved away under it: leaving a field takes its fault or what it was read as
 * from the page, and what stands below moves up before the press has ended. Whoever moves off a button before letting go still does nothing.
 */
export function keepWholePresses(of: Document): () => void {
  let began: { button: HTMLButtonElement; x: number; y: number } | null = null;
  const down = ({ target, button, isPrimary, clientX: x, clientY: y }: PointerEvent) => {
    const pressed = target instanceof Element ? target.closest('button') : null;
    began = pressed && isPrimary && button === 0 ? { button: pressed, x, y } : null;
  };
  const up = ({ target, clientX, clientY }: PointerEvent) => {
    const press = began;
    began = null;
    if (!press || !(target instanceof Node) || press.button.contains(target)) return;
    const stayed = Math.abs(clientX - press.x) <= STILL && Math.abs(clientY - press.y) <= STILL;
    if (stayed && press.button.isConnected && hasMoved(press)) press.button.click();
  };
  of.addEventListener('pointerdown', down, true);
  of.addEventListener('pointerup', up, true);
  return () => {
    of.removeEventListener('pointerdown', down, true);
    of.removeEventListener('pointerup', up, true);
  };
}

/** Whether a button no longer lies where the press on it began; something may also have come to lie over it, which is no reason. */
function hasMoved({ button, x, y }: { button: HTMLElement; x: number; y: number }): boolean {
  const { left, right, top, bottom } = button.getBoundingClientRect();
  return x < left || x > right || y < top || y > bottom;
}
