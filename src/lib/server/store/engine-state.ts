import type { Db } from '../db/open.ts';

type StateKey =
  'clock' | 'seeded' | 'tzdata' | 'foreseen' | 'standing' | 'backed up' | 'seen' | 'downtime' | 'sample';

/** Small values that the engine keeps for itself; not settings, and no change records. */
export class EngineStateStore {
  readonly #read;
  readonly #write;

  constructor(db: Db) {
    this.#read = db.prepare<[string], { value: string }>('SELECT value FROM engine_state WHERE key = ?');
    this.#write = db.prepare<[string, string]>(
      'INSERT INTO engine_state (key, value) VALUES (?, ?) ON CONFLICT (key) DO UPDATE SET value = excluded.value'
    );
  }

  read<T>(key: StateKey): T | null {
    const row = this.#read.get(key);
    return row ? (JSON.parse(row.value) as T) : null;
  }

  write(key: StateKey, value: unknown): void {
    this.#write.run(key, JSON.stringify(value));
  }
}
