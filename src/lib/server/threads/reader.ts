import Database from 'better-sqlite3';
import type { Container } from '../container.ts';
import type { Db } from '../db/open.ts';
import { CodedError } from '../../core/errors.ts';
import { LATER } from '../workspace/later.ts';
import { signedInAs } from '../workspace/signed-in.ts';
import { openReading } from '../tryout/aside.ts';
import type { Moment } from '../tryout/moment.ts';
import type { ForgottenSince } from './forgotten.ts';
import type { Told } from './talk.ts';
import type { ViewQuestion } from './view-question.ts';

/** The application over the workspace itself, which it only reads: what it has read is kept from one question to the next. */
export class Reader {
  readonly #told: Told;
  #open: { db: Db; app: Container; at: { now: number } } | null = null;

  constructor(told: Told) {
    this.#told = told;
  }

  /** @throws CodedError what keeps it from being shown */
  view({ name, personId, args, at, forgotten, lastChange }: ViewQuestion): unknown {
    const { db, app, at: machine } = (this.#open ??= this.#begin(at));
    machine.now = at.machineMs;
    if (app.clock.movable) app.clock.set(at.workspaceMs, false);
    // All of a view is of one moment.
    db.exec('BEGIN');
    try {
      this.#forget(app, forgotten, lastChange);
      const person = app.stores.people.byId(personId);
      if (!person) throw new CodedError('person-gone');
      return LATER[name](app, signedInAs(person, app.stores), args as never);
    } finally {
      db.exec('COMMIT');
    }
  }

  #begin(at: Moment): { db: Db; app: Container; at: { now: number } } {
    const db = new Database(this.#told.file, { readonly: true });
    const machine = { now: at.machineMs };
    return { db, app: openReading(db, this.#told.options, machine), at: machine };
  }

  #forget(
    { source, stores }: Container,
    { compiled, taskIds, digests }: ForgottenSince,
    lastChange: number
  ): void {
    // Something was changed between the question and this moment: nothing says what.
    if (stores.changes.lastId() !== lastChange) return source.invalidate();
    if (compiled !== 'no') source.invalidate(compiled === 'with tasks');
    source.forget(taskIds);
    if (digests) source.forgetDigests();
  }
}
