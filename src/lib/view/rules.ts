/** A rule as a row of the list. Times are on the viewer's wall. */
export interface RuleRowView {
  id: number;
  name: string;
  state: string;
  /** Whether a draft stands beside the live version. */
  drafted: boolean;
  /** The Watch in words. */
  watch: string;
  /** When its next notice leaves within a week; null when none does. */
  next: string | null;
  /** Notices that leave in the next seven days. */
  week: number;
  /** When its latest notice left; null when none has. */
  last: string | null;
  sent: number;
  failed: number;
}
