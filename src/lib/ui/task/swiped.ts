/** A finger that goes this far sideways, and not further up or down, has swiped. CSS pixels. */
const FAR_ENOUGH = 45;

/**
 * Tells when a finger swipes over an element: to the left, which opens what is behind it, or to the right, which puts it away. Use it as an
 * action. The page still scrolls up and down under the finger.
 */
export function swiped(node: HTMLElement, tell: (left: boolean) => void) {
  let from: { x: number; y: number } | null = null;
  const start = ({ touches }: TouchEvent) => {
    const [touch] = touches;
    from = touches.length === 1 && touch ? { x: touch.clientX, y: touch.clientY } : null;
  };
  const end = ({ changedTouches }: TouchEvent) => {
    const [touch] = changedTouches;
    if (!from || !touch) return;
    const [right, down] = [touch.clientX - from.x, touch.clientY - from.y];
    from = null;
    if (Math.abs(right) >= FAR_ENOUGH && Math.abs(right) > Math.abs(down)) tell(right < 0);
  };
  node.addEventListener('touchstart', start, { passive: true });
  node.addEventListener('touchend', end, { passive: true });
  return {
    destroy() {
      node.removeEventListener('touchstart', start);
      node.removeEventListener('touchend', end);
    }
  };
}
