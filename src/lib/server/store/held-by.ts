import type { Db } from '../db/open.ts';

/** Somebody's place in a task or a project beside others. */
export interface PlaceBeside {
  /** Of the row that says so. */
  id: number;
  /** Of the task, or the project. */
  of: number;
}

/** What hangs on a person, for whoever takes it over. */
export class HeldByStore {
  readonly #tasks;
  readonly #besides;
  readonly #standsIn;
  readonly #projects;

  constructor(db: Db) {
    const open = `t.set_aside IS NULL AND s.phase NOT IN ('finished', 'closed')`;
    this.#tasks = db.prepare<[number], { id: number; private: number }>(
      `SELECT t.id, t.private FROM task t JOIN status s ON s.id = t.status_id WHERE t.owner_id = ? AND ${open} ORDER BY t.id`
    );
    this.#besides = db.prepare<[number], PlaceBeside>(
      `SELECT c.id, c.task_id AS "of" FROM co_owner c JOIN task t ON t.id = c.task_id JOIN status s ON s.id = t.status_id
       WHERE c.person_id = ? AND ${open} ORDER BY c.id`
    );
    this.#standsIn = db.prepare<[number, string], { id: number; personId: number }>(
      'SELECT id, person_id AS personId FROM leave WHERE stand_in_id = ? AND until_at >= ? ORDER BY id'
    );
    this.#projects = db.prepare<[number], PlaceBeside>(
      'SELECT id, project_id AS "of" FROM project_member WHERE person_id = ? ORDER BY id'
    );
  }

  /** Open tasks in the list that somebody owns first. */
  tasks(personId: number): { id: number; private: boolean }[] {
    return this.#tasks.all(personId).map((row) => ({ id: row.id, private: row.private === 1 }));
  }

  /** Open tasks in the list that somebody owns besides. */
  ownedBesides(personId: number): PlaceBeside[] {
    return this.#besides.all(personId);
  }

  /** Leave of others that ends on a day or later, in which somebody stands in. @param from ISO 8601 */
  standsIn(personId: number, from: string): { id: number; personId: number }[] {
    return this.#standsIn.all(personId, from);
  }

  memberOf(personId: number): PlaceBeside[] {
    return this.#projects.all(personId);
  }
}
