import { openDatabase } from '../db/open.ts';
import type { CommittedChange } from '../service/commit.ts';
import type { PlainOptions } from '../threads/talk.ts';
import { doAct, type Act, type Outcomes, type ActName } from './acts.ts';
import { openWriting, type Moment } from './aside.ts';

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

/** How long another process may have the database before the act is given up, ms. */
const PATIENCE_MS = 10_000;

/** Does an act over the workspace, by a connection of its own: as a whole, or not at all. @throws as `doAct` */
export function writeAct(
  { personId, act, stamp, at }: ActQuestion,
  file: string,
  options: PlainOptions
): ActAnswer {
  const db = openDatabase(file);
  try {
    db.pragma(`busy_timeout = ${PATIENCE_MS}`);
    const app = openWriting(db, options, at);
    const changes: CommittedChange[] = [];
    app.committer.listen((change) => void changes.push(change));
    const outcome = doAct(app, personId, act, stamp);
    return { outcome, changes };
  } finally {
    db.close();
  }
}
