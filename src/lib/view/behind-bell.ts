/** One message that stands in the application. */
export interface BehindBellRow {
  id: number;
  subject: string;
  /** Its words, where it is about no task. */
  words: string;
  /** When it left, on its reader's wall. */
  at: string;
  isNew: boolean;
  /** Null where it leads nowhere. */
  href: string | null;
}

/** What stands behind somebody's bell. */
export interface BehindBellView {
  unseen: number;
  tasks: BehindBellRow[];
  rest: BehindBellRow[];
}
