import type { EffectView } from '$lib/view/effects.ts';
import type { Send } from '$lib/ui/form/send.ts';
import type { Done } from '$lib/ui/form/submit.ts';

/** What ringing a rule for many tasks would do. */
export interface HandOverView {
  chosen: number;
  tasks: number;
  names: string[];
  acts: string[];
  effect: EffectView;
}

/** Asks what a rule would do by hand, and rings it. */
export interface RingMany {
  preview: (ruleId: number, onPart: (part: number) => void) => Promise<HandOverView | { message: string }>;
  /** @returns whether it was done */
  ring: (ruleId: number, stamp: string | null) => Promise<boolean>;
}

/**
 * Rings rules by hand for many tasks.
 * @param which asked when it is pressed: a project, tasks, or what the address of a list finds
 * @param after reads the page again
 */
export function ringMany(
  send: Send,
  which: () => { project?: number; ids?: number[] | null; query?: string },
  ondone: (done: Done) => void,
  after: () => Promise<unknown>
): RingMany {
  return {
    preview: (rule, onPart) => send<HandOverView>('/rules/hand', { ...which(), rule, preview: true }, onPart),
    ring: async (rule, stamp) => {
      const act = { ...which(), rule, stamp };
      const answer = await send<{ message: string; changeId: number }>('/rules/hand', act);
      if ('failed' in answer) return false;
      ondone({ done: answer.message, changeId: answer.changeId });
      await after();
      return true;
    }
  };
}
