/** One value that was changed, in words. */
export interface ChangedValue {
  field: string;
  before: string;
  after: string;
}

/** What was done to one thing: a task, or anything else by what it is. */
export interface ChangedThing {
  /** Null for what is no task, or is there no more. */
  taskId: number | null;
  name: string;
  /** What became of it as a whole: “added”, “taken out”; null where only values changed. */
  as: string | null;
  values: ChangedValue[];
}
