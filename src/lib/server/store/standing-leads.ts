import type { Unit } from '../../core/ring/lead.ts';
import type { Db } from '../db/open.ts';

/** How long before the due date of everything of theirs somebody wants to be reminded: `n` is negative before it. */
export interface StandingLead {
  id: number;
  personId: number;
  n: number;
  unit: Unit;
}

/** What people want to be reminded of for everything of theirs. */
export class StandingLeadStore {
  readonly #all;
  readonly #of;

  constructor(db: Db) {
    const select = 'SELECT id, person_id AS personId, n, unit FROM standing_lead';
    this.#all = db.prepare<[], StandingLead>(`${select} ORDER BY id`);
    this.#of = db.prepare<[number], StandingLead>(`${select} WHERE person_id = ? ORDER BY id`);
  }

  all(): StandingLead[] {
    return this.#all.all();
  }

  of(personId: number): StandingLead[] {
    return this.#of.all(personId);
  }
}
