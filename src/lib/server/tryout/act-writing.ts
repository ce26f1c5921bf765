import { openDatabase } from '../db/open.ts';
import type { CommittedChange } from '../workspace/commit.ts';
import type { PlainOptions } from '../threads/talk.ts';
import type { ActAnswer, ActQuestion } from './act-question.ts';
import { doAct } from './acts.ts';
import { openWriting } from './aside.ts';

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
