import type { Db } from '../db/open.ts';

/** How somebody has it with what they type. */
export interface DeskHabit {
  id: number;
  private: boolean;
  mine: boolean;
  dueDays: number | null;
  dueUnit: 'day' | 'workday';
}

/** A line kept without any duty. */
export interface Capture {
  id: number;
  personId: number;
  text: string;
  /** Workspace clock. */
  at: number;
}

/** A text or link that is used often. */
export interface ShelfItem {
  id: number;
  /** Null: everybody's. */
  personId: number | null;
  name: string;
  text: string;
}

/** A saved list that is counted on a Desk. */
export interface TallyPin {
  id: number;
  listId: number;
  personId: number | null;
  groupId: number | null;
}

type HabitRow = Omit<DeskHabit, 'private' | 'mine'> & { private: number; mine: number };

/** What people keep on their Desk besides tasks. */
export class DeskThingStore {
  readonly #habit;
  readonly #captures;
  readonly #capture;
  readonly #shelf;
  readonly #shelfItem;
  readonly #pinned;
  readonly #pins;

  constructor(db: Db) {
    this.#habit = db.prepare<[number], HabitRow>(
      'SELECT id, private, mine, due_days AS dueDays, due_unit AS dueUnit FROM desk_habit WHERE person_id = ?'
    );
    const capture = 'SELECT id, person_id AS personId, text, at FROM capture';
    this.#captures = db.prepare<[number], Capture>(`${capture} WHERE person_id = ? ORDER BY id DESC`);
    this.#capture = db.prepare<[number], Capture>(`${capture} WHERE id = ?`);
    const item = 'SELECT id, person_id AS personId, name, text FROM shelf_item';
    this.#shelf = db.prepare<[number], ShelfItem>(
      `${item} WHERE person_id IS NULL OR person_id = ? ORDER BY person_id IS NULL, lower(name), id`
    );
    this.#shelfItem = db.prepare<[number], ShelfItem>(`${item} WHERE id = ?`);
    const pin = 'SELECT id, list_id AS listId, person_id AS personId, group_id AS groupId FROM tally_pin';
    this.#pinned = db.prepare<[{ personId: number }], TallyPin>(
      `${pin} WHERE person_id = @personId
       OR group_id IN (SELECT group_id FROM group_member WHERE person_id = @personId) ORDER BY id`
    );
    this.#pins = db.prepare<[number], TallyPin>(`${pin} WHERE list_id = ? ORDER BY id`);
  }

  /** How somebody has it; null where they have said nothing. */
  habit(personId: number): DeskHabit | null {
    const row = this.#habit.get(personId);
    return row ? { ...row, private: row.private === 1, mine: row.mine === 1 } : null;
  }

  /** The latest first. */
  captures(personId: number): Capture[] {
    return this.#captures.all(personId);
  }

  capture(id: number): Capture | null {
    return this.#capture.get(id) ?? null;
  }

  /** Their own, then everybody's. */
  shelf(personId: number): ShelfItem[] {
    return this.#shelf.all(personId);
  }

  shelfItem(id: number): ShelfItem | null {
    return this.#shelfItem.get(id) ?? null;
  }

  /** What is counted on the Desk of somebody: pinned by them, or for a group of theirs. */
  pinned(personId: number): TallyPin[] {
    return this.#pinned.all({ personId });
  }

  /** Where a list is pinned. */
  pinsOf(listId: number): TallyPin[] {
    return this.#pins.all(listId);
  }
}
