import type { LaterName } from '../workspace/later.ts';
import type { Moment } from '../tryout/moment.ts';
import type { ForgottenSince } from './forgotten.ts';

/** A view that is asked of a reader. */
export interface ViewQuestion {
  name: LaterName;
  personId: number;
  args: unknown;
  at: Moment;
  /** What the workspace has forgotten since it was last asked. */
  forgotten: ForgottenSince;
  /** The last change of the workspace by then. */
  lastChange: number;
}
