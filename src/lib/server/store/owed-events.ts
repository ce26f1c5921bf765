import type { RuleEvent } from '../../core/rule/events.ts';
import type { Db } from '../db/open.ts';

/** What happened to one task in a change, each with its place among all that the change made happen. */
export interface OwedEvents {
  id: number;
  changeId: number;
  actorId: number | null;
  events: { place: number; event: RuleEvent }[];
}

/** What rules that listen have not heard yet. */
export class OwedEventStore {
  readonly #add;
  readonly #next;
  readonly #any;
  readonly #remove;
  readonly #removeOf;

  constructor(db: Db) {
    this.#add = db.prepare<[number, number | null, string]>(
      'INSERT INTO owed_event (change_id, actor_id, events) VALUES (?, ?, ?)'
    );
    this.#next = db.prepare<
      [number],
      { id: number; changeId: number; actorId: number | null; events: string; undone: number }
    >(
      `SELECT o.id, o.change_id AS changeId, o.actor_id AS actorId, o.events, c.undone_by IS NOT NULL AS undone
       FROM owed_event o JOIN change c ON c.id = o.change_id ORDER BY o.id LIMIT ?`
    );
    this.#any = db.prepare('SELECT 1 FROM owed_event LIMIT 1');
    this.#remove = db.prepare<[number]>('DELETE FROM owed_event WHERE id = ?');
    this.#removeOf = db.prepare<[number]>('DELETE FROM owed_event WHERE change_id = ?');
  }

  add({ changeId, actorId, events }: Omit<OwedEvents, 'id'>): void {
    this.#add.run(changeId, actorId, JSON.stringify(events));
  }

  get any(): boolean {
    return this.#any.get() !== undefined;
  }

  /** Some of them, in order. What was undone meanwhile is forgotten: nobody hears of it any more. */
  next(limit: number): OwedEvents[] {
    const rows = this.#next.all(limit);
    const undone = new Set(rows.filter((row) => row.undone === 1).map(({ changeId }) => changeId));
    for (const changeId of undone) this.#removeOf.run(changeId);
    return rows
      .filter(({ changeId }) => !undone.has(changeId))
      .map(({ id, changeId, actorId, events }) => ({
        ...{ id, changeId, actorId },
        events: JSON.parse(events) as OwedEvents['events']
      }));
  }

  remove(id: number): void {
    this.#remove.run(id);
  }
}
