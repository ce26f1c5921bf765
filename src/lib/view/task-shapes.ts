import type { Phase } from '../core/task/model.ts';
import type { TaskRowView } from './tasks.ts';

/** The list as columns by status. */
export interface ColumnsView {
  columns: { statusId: number; name: string; phase: Phase; rows: TaskRowView[]; count: number }[];
}

/** The list as the days of a month. */
export interface DaysView {
  title: string;
  /** `YYYY-MM`, and the months beside it. */
  month: string;
  before: string;
  after: string;
  /** Whose closed days are shaded. */
  whose: string | null;
  /** More tasks lie in the month than are shown. */
  more: boolean;
  days: {
    date: string;
    dayOfMonth: number;
    /** 0 is Monday. */
    weekday: number;
    isToday: boolean;
    /** Of the month before or after. */
    outside: boolean;
    closed: boolean;
    holiday: string | null;
    /** As many as there is room for. */
    rows: TaskRowView[];
    /** How many there are. */
    count: number;
  }[];
}
