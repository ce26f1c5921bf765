/**
 * What comes after its page. What came before stays to be seen while it is worked out anew, so that nothing flickers.
 * Make it while a component is set up.
 */
export class Later<T> {
  value = $state.raw<T | null>(null);
  failed = $state(false);

  /**
   * @param of what is waited for
   * @param about what it is about: of something else, what came before says nothing
   */
  constructor(of: () => Promise<T>, about: () => unknown = () => null) {
    let known: unknown = about();
    $effect(() => {
      let isOver = false;
      const now = about();
      if (now !== known) this.value = null;
      known = now;
      of().then(
        (value) => {
          if (isOver) return;
          this.value = value;
          this.failed = false;
        },
        () => {
          if (!isOver) this.failed = true;
        }
      );
      return () => (isOver = true);
    });
  }
}
