import type { RenewFrom } from '../../core/recurrence/renewal.ts';
import type { ClosedDayRule } from '../../core/ring/lead.ts';
import type { Phase, Priority, SetAside } from '../../core/task/model.ts';
import { parseDay } from '../../core/time/day.ts';
import type { Moment } from '../../core/time/instant.ts';
import { parseTimeOfDay } from '../../core/time/time-of-day.ts';
import { zoneNamed } from '../../core/time/zone.ts';

/** A date, or a date with time and zone, as stored: three columns, never one instant. */
export interface StoredMoment {
  date: string;
  time: string | null;
  zone: string | null;
}

/** A task as it is stored, with what its status says. */
export interface TaskRow {
  id: number;
  name: string;
  description: string;
  project_id: number | null;
  owner_id: number | null;
  status_id: number;
  status: string;
  phase: Phase;
  priority: Priority;
  due_date: string | null;
  due_time: string | null;
  due_zone: string | null;
  original_due_date: string | null;
  original_due_time: string | null;
  original_due_zone: string | null;
  start_date: string | null;
  start_time: string | null;
  start_zone: string | null;
  created_at: number;
  finished_at: number | null;
  round: number;
  slips: number;
  private: number;
  created_by: number | null;
  touched_at: number;
  remind_date: string | null;
  remind_time: string | null;
  remind_zone: string | null;
  percent: number | null;
  parent_id: number | null;
  section_id: number | null;
  log_time: number;
  keep: number;
  set_aside: SetAside | null;
  set_aside_at: number | null;
  review_date: string | null;
  former_owner_id: number | null;
  parked_by: number | null;
  rhythm: string | null;
  renew_from: RenewFrom | null;
  renew_closed_day: ClosedDayRule;
  renew_copy: number;
  rhythm_origin: string | null;
  rhythm_date: string | null;
}

export const TASK_COLUMNS = `t.*, s.name AS status, s.phase,
  (SELECT count(*) FROM slip WHERE slip.task_id = t.id AND slip.round = t.round) AS slips`;
export const FROM_TASK = 'FROM task t JOIN status s ON s.id = t.status_id';

/** The moment that three columns stand for. */
export function toMoment(stored: StoredMoment): Moment {
  return {
    day: parseDay(stored.date),
    minute: stored.time === null ? null : parseTimeOfDay(stored.time),
    zone: stored.zone === null ? null : zoneNamed(stored.zone)
  };
}

export function stored(date: string | null, time: string | null, zone: string | null): StoredMoment | null {
  return date === null ? null : { date, time, zone };
}
