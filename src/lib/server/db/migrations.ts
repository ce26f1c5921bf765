import initial from './migrations/0001_initial.sql?raw';
import undo from './migrations/0002_undo.sql?raw';
import parkedBy from './migrations/0003_parked_by.sql?raw';

/** Migrations in order. A file is never edited once a database may have been made with it: a change is a new file. */
export const MIGRATIONS: readonly { name: string; sql: string }[] = [
  { name: '0001_initial', sql: initial },
  { name: '0002_undo', sql: undo },
  { name: '0003_parked_by', sql: parkedBy }
];
