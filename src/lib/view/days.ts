/** The days that a date field counts and shades: those of one calendar, over some years. */
export interface DaysView {
  /** The first day, `YYYY-MM-DD`. */
  from: string;
  /** A character a day: `1` where work starts on it, `0` where it is closed. */
  working: string;
  /** Closed days that have a name, by date. */
  names: Record<string, string>;
  /** The first day of the working week, 0 Monday to 6 Sunday. */
  weekStart: number;
  /** Whose days these are: “the owner’s calendar”. */
  of: string;
}

/** Whose calendar a date goes by. Nothing named is the person's own. */
export interface DaysOf {
  /** Of a task of this owner and project: the owner's, else the project's, else the workspace's. */
  task?: { owner: number | null; project: number | null };
  /** Of somebody. */
  person?: number;
}
