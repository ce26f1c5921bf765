import type { ListScope } from './list-scope.ts';
import type { FieldKind } from '../task/model.ts';

/** What is there for a rule to name. */
export interface Known {
  project(id: number): boolean;
  person(id: number): boolean;
  group(id: number): boolean;
  status(id: number): boolean;
  section(id: number): boolean;
  readers(id: number): boolean;
  rule(id: number): boolean;
  /** A saved list; a text says why no rule can look at it, null that it is gone. */
  list(id: number): ListScope | string | null;
  /** The kind of a field of the workspace's own; null when it is gone. */
  field(id: number): FieldKind | null;
}
