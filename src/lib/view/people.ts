import type { Role } from '../core/access/deeds.ts';

/** A zone as it is chosen: by place, with the time there now. */
export interface ZoneChoice {
  name: string;
  /** What its wall shows now. */
  time: string;
}

/** Leave as it is read. */
export interface LeaveView {
  id: number;
  from: string;
  until: string;
  /** `Mon 9 Mar to Fri 13 Mar 12:00` */
  text: string;
  standIn: string | null;
  note: string;
  over: boolean;
}

/** A person as a row of the list. */
export interface PersonRowView {
  id: number;
  name: string;
  role: Role;
  active: boolean;
  groups: string[];
  email: string | null;
  place: string;
  /** `Thu 07:40` there. */
  localTime: string;
  presence: { word: 'at work' | 'closed' | 'on leave'; until: string | null };
  calendar: string;
  week: { weekday: string; open: string }[];
  holiday: { date: string; name: string | null } | null;
  /** The leave they are on, or the next one. */
  leave: LeaveView | null;
  manager: string | null;
  /** Why they cannot be told anything; null when they can. */
  unreachable: string | null;
}
