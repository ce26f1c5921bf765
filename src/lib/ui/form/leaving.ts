import { beforeNavigate, goto } from '$app/navigation';
import { ask } from '../dialog/ask.svelte.ts';

/**
 * Asks whoever leaves a page with something unsaved. Call it while the page is set up. A browser that closes asks in its own words.
 * @param unsaved whether something would be lost
 * @param question “This rule has unsaved changes. Leave the page?”
 * @param given up what was written is given up
 */
export function askBeforeLeaving(
  unsaved: () => boolean,
  question: string,
  givenUp: () => void = () => {}
): void {
  let leaving = false;
  beforeNavigate((navigation) => {
    if (leaving || navigation.type === 'form' || !unsaved()) return;
    navigation.cancel();
    if (navigation.willUnload) return;
    void ask({ title: question, yes: 'Leave the page', no: 'Stay' }).then((leave) => {
      if (!leave) return;
      givenUp();
      leaving = true;
      if (navigation.type === 'popstate' && navigation.delta) history.go(navigation.delta);
      else if (navigation.to) void goto(navigation.to.url).finally(() => (leaving = false));
    });
  });
}
