/** Everything else that is ready comes to its turn. */
export function aTurn(): Promise<void> {
  return new Promise((resolve) => setImmediate(resolve));
}

/** The pace at which work in slices goes on, so that others come to their turn. */
export interface SlicePace {
  /** How long the transaction that begins now may take, ms. */
  sliceMs(): number;
  /** What is waited for between two of them. */
  letOthersIn(): Promise<unknown>;
}

/** A slice while somebody reads pages. */
export const SHORT_SLICE_MS = 40;
/** While nobody does: each commit waits for the disk, so there are fewer of them. Whoever comes waits for one such slice, once. */
export const LONG_SLICE_MS = 120;
