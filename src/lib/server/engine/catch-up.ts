/** What is done about rings whose moment passed while the application did not run, where somebody was asked; null goes by each rule. */
export const CATCH_UP_ANSWERS = ['pass over', 'send', 'gather'] as const;
export type CatchUpAnswer = (typeof CATCH_UP_ANSWERS)[number];

/** Why the engine stands still, and between which moments of the workspace clock it should have rung. */
export interface Standing {
  why: 'restored' | 'the clock jumped';
  since: number;
  until: number;
  answer: CatchUpAnswer | null;
}

/** One answer for the whole engine, while it catches up after a restore. */
export class CatchUp {
  answer: CatchUpAnswer | null = null;
  /** What lay before this moment of the workspace clock is what the answer is about. */
  until = 0;

  /** Whether what should have rung or left at a moment is passed over, however little ago it was. */
  passesOver(at: number): boolean {
    return this.answer === 'pass over' && at <= this.until;
  }
}
