import type { UnitOfWork } from '../db/unit-of-work.ts';
import type { Stores } from '../store/all.ts';
import type { FactsSource } from './facts-source.ts';

/** What every part of the engine that writes works over. */
export interface WorkingOver {
  work: UnitOfWork;
  stores: Stores;
  source: FactsSource;
}
