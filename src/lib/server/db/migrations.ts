import initial from './migrations/0001_initial.sql?raw';
import undo from './migrations/0002_undo.sql?raw';
import parkedBy from './migrations/0003_parked_by.sql?raw';
import followUps from './migrations/0004_follow_ups.sql?raw';
import actedByMessage from './migrations/0005_acted_by_message.sql?raw';
import undoByLink from './migrations/0006_undo_by_link.sql?raw';
import schedulesOnClocks from './migrations/0007_schedules_on_clocks.sql?raw';
import stoppedMail from './migrations/0008_stopped_mail_and_replies.sql?raw';
import questionsPassedOn from './migrations/0009_questions_passed_on.sql?raw';
import tasksByDue from './migrations/0010_tasks_by_due.sql?raw';
import owedEvents from './migrations/0011_owed_events.sql?raw';
import keptMail from './migrations/0012_kept_mail.sql?raw';
import outboxByLeaving from './migrations/0013_outbox_by_leaving.sql?raw';
import desk from './migrations/0014_desk.sql?raw';
import plannedAt from './migrations/0015_planned_at.sql?raw';
import standingLead from './migrations/0016_standing_lead.sql?raw';

/** Migrations in order. A file is never edited once a database may have been made with it: a change is a new file. */
export const MIGRATIONS: readonly { name: string; sql: string }[] = [
  { name: '0001_initial', sql: initial },
  { name: '0002_undo', sql: undo },
  { name: '0003_parked_by', sql: parkedBy },
  { name: '0004_follow_ups', sql: followUps },
  { name: '0005_acted_by_message', sql: actedByMessage },
  { name: '0006_undo_by_link', sql: undoByLink },
  { name: '0007_schedules_on_clocks', sql: schedulesOnClocks },
  { name: '0008_stopped_mail_and_replies', sql: stoppedMail },
  { name: '0009_questions_passed_on', sql: questionsPassedOn },
  { name: '0010_tasks_by_due', sql: tasksByDue },
  { name: '0011_owed_events', sql: owedEvents },
  { name: '0012_kept_mail', sql: keptMail },
  { name: '0013_outbox_by_leaving', sql: outboxByLeaving },
  { name: '0014_desk', sql: desk },
  { name: '0015_planned_at', sql: plannedAt },
  { name: '0016_standing_lead', sql: standingLead }
];
