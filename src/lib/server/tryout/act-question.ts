import type { CommittedChange } from '../workspace/commit.ts';
import type { Act, ActName, Outcomes } from './acts.ts';
import type { Moment } from './moment.ts';

/** An act that is to be done over the workspace itself. */
export interface ActQuestion {
  personId: number;
  act: Act;
  stamp: string | null;
  at: Moment;
}

/** An act that was done elsewhere. */
export interface ActAnswer {
  outcome: Outcomes[ActName];
  /** Every change that was made, in order: what others have read of it is no longer so. */
  changes: CommittedChange[];
}
