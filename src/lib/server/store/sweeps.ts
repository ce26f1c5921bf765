import { blankSweep, type SweepDefinition } from '../../core/sweep/model.ts';
import type { Db } from '../db/open.ts';

export interface Sweep {
  id: number;
  name: string;
  description: string;
  keeperId: number | null;
  state: 'on' | 'off';
  position: number;
  definition: SweepDefinition;
}

/** When a planned sweep sends its list, and when it runs; workspace clock. */
export interface SweepPlanRow {
  sweepId: number;
  looksAt: number;
  at: number;
}

type Row = Omit<Sweep, 'definition'> & { definition: string };

/** Sweeps, and when those that are on come next. */
export class SweepStore {
  readonly #all;
  readonly #byId;
  readonly #plan;
  readonly #planOf;
  readonly #put;
  readonly #drop;

  constructor(db: Db) {
    const sweep =
      'SELECT id, name, description, keeper_id AS keeperId, state, position, definition FROM sweep';
    this.#all = db.prepare<[], Row>(`${sweep} ORDER BY position, id`);
    this.#byId = db.prepare<[number], Row>(`${sweep} WHERE id = ?`);
    const plan = 'SELECT sweep_id AS sweepId, looks_at AS looksAt, at FROM sweep_plan';
    this.#plan = db.prepare<[], SweepPlanRow>(`${plan} ORDER BY at, sweep_id`);
    this.#planOf = db.prepare<[number], SweepPlanRow>(`${plan} WHERE sweep_id = ?`);
    this.#put = db.prepare<[number, number, number]>(
      `INSERT INTO sweep_plan (sweep_id, looks_at, at) VALUES (?, ?, ?)
       ON CONFLICT (sweep_id) DO UPDATE SET looks_at = excluded.looks_at, at = excluded.at`
    );
    this.#drop = db.prepare<[number]>('DELETE FROM sweep_plan WHERE sweep_id = ?');
  }

  /** In their order. */
  all(): Sweep[] {
    return this.#all.all().map(toSweep);
  }

  byId(id: number): Sweep | null {
    const row = this.#byId.get(id);
    return row ? toSweep(row) : null;
  }

  plan(): SweepPlanRow[] {
    return this.#plan.all();
  }

  planOf(sweepId: number): SweepPlanRow | null {
    return this.#planOf.get(sweepId) ?? null;
  }

  put({ sweepId, looksAt, at }: SweepPlanRow): void {
    this.#put.run(sweepId, looksAt, at);
  }

  dropPlan(sweepId: number): void {
    this.#drop.run(sweepId);
  }
}

function toSweep(row: Row): Sweep {
  return { ...row, definition: readSweep(row.definition) };
}

/** What was added to sweeps later has its usual value. */
export function readSweep(text: string): SweepDefinition {
  const stored = JSON.parse(text) as SweepDefinition;
  return { ...blankSweep(stored.act.act), ...stored };
}
