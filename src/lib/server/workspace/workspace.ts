import type { UnitOfWork } from '../db/unit-of-work.ts';
import type { WorkspaceClock } from '../engine/clock.ts';
import type { Engine } from '../engine/engine.ts';
import type { FactsSource } from '../engine/facts-source.ts';
import type { Stores } from '../store/all.ts';

/** What whoever looks at a workspace or changes it asks: what is stored, what the core computes from, what time it is, and what rings. */
export interface Workspace {
  /** The one way in which anything is written. */
  work: UnitOfWork;
  stores: Stores;
  source: FactsSource;
  clock: WorkspaceClock;
  engine: Engine;
}
