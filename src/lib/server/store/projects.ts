import type { Phase } from '../../core/rule/model.ts';
import type { Db } from '../db/open.ts';

export interface Project {
  id: number;
  name: string;
  zone: string | null;
  calendarId: number | null;
  pinned: boolean;
}

export interface Status {
  id: number;
  name: string;
  phase: Phase;
}

/** Projects, and the statuses of the workspace. */
export class ProjectStore {
  readonly #all;
  readonly #statuses;
  readonly #statusUse;

  constructor(db: Db) {
    this.#all = db.prepare<
      [],
      { id: number; name: string; zone: string | null; calendar_id: number | null; pinned: number }
    >('SELECT * FROM project ORDER BY name, id');
    this.#statuses = db.prepare<[], Status>('SELECT id, name, phase FROM status ORDER BY position, id');
    this.#statusUse = db.prepare<[], { id: number; count: number }>(
      'SELECT s.id, count(t.id) AS count FROM status s LEFT JOIN task t ON t.status_id = s.id GROUP BY s.id'
    );
  }

  all(): Project[] {
    return this.#all.all().map(({ id, name, zone, calendar_id, pinned }) => ({
      id,
      name,
      zone,
      calendarId: calendar_id,
      pinned: pinned === 1
    }));
  }

  /** How many tasks have each status. */
  statusUse(): Map<number, number> {
    return new Map(this.#statusUse.all().map(({ id, count }) => [id, count]));
  }

  /** In the order in which they are offered. */
  statuses(): Status[] {
    return this.#statuses.all();
  }
}
