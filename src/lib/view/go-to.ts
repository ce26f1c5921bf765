/** A thing that can be gone to, found by its name. */
export interface GoToItem {
  kind: 'task' | 'project' | 'person' | 'rule';
  href: string;
  name: string;
  /** What tells it from another of the same name: its owner and date, its place, whether it is on. */
  note: string;
}
