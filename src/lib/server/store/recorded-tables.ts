import { namesOf } from '../../core/names-of.ts';
import type { Deed } from '../../core/access/deeds.ts';

/** What a write to a table means for others. */
interface TableEntry {
  /** Whether each row belongs to one task: whoever sees none of the tasks that a change touched hears nothing of it. */
  of: 'task' | 'workspace';
  /** Whose plan it makes stale; `what every task is`: whether each is open, called off or recorded, and its own fields and contacts, too. */
  plans: 'nothing' | 'its task' | 'every task' | 'what every task is';
  /** What somebody must be allowed to do to take it back, besides undoing; null where it hangs on the task that a row belongs to. */
  deed: Deed | null;
  marks: readonly Mark[];
}

type Mark =
  /** Of a task, besides who owns it first. */
  | 'says who is told'
  /** Where something of it is taken away, a rule may be faulty. */
  | 'named by rules'
  /** Somebody’s own, whoever the task is of: to take one’s own back asks for no right over the task. */
  | 'own word'
  /** Of one person alone, whose id it bears: nobody else takes it back, or reads what it says. */
  | 'its keeper alone'
  /** What an import reads its rows by. */
  | 'imports go by it'
  /** What a planned sweep depends on. */
  | 'sweeps go by it'
  /** Where its task cannot go, as one that was made and then edited, it stays too. */
  | 'stays with its task'
  /** With tasks, by an import: so many go again in a few statements. */
  | 'made in great numbers';

/**
 * Every table whose rows people and rules change, with all that a write to it means: a table that does not stand here cannot be written. Every
 * write to them passes through a `ChangeWriter`.
 */
const TABLES = {
  setting: {
    of: 'workspace',
    plans: 'every task',
    deed: 'change settings',
    marks: ['imports go by it', 'sweeps go by it']
  },
  calendar: { of: 'workspace', plans: 'every task', deed: 'keep calendars', marks: ['sweeps go by it'] },
  calendar_day: { of: 'workspace', plans: 'every task', deed: 'keep calendars', marks: ['sweeps go by it'] },
  calendar_week: { of: 'workspace', plans: 'every task', deed: 'keep calendars', marks: ['sweeps go by it'] },
  person: {
    of: 'workspace',
    plans: 'every task',
    deed: 'look after people',
    marks: ['says who is told', 'named by rules', 'imports go by it', 'sweeps go by it']
  },
  person_zone: {
    of: 'workspace',
    plans: 'every task',
    deed: 'look after people',
    marks: ['sweeps go by it']
  },
  leave: { of: 'workspace', plans: 'every task', deed: 'look after people', marks: [] },
  team_group: {
    of: 'workspace',
    plans: 'every task',
    deed: 'look after people',
    marks: ['says who is told', 'named by rules']
  },
  group_member: {
    of: 'workspace',
    plans: 'every task',
    deed: 'look after people',
    marks: ['says who is told']
  },
  contact: {
    of: 'workspace',
    plans: 'what every task is',
    deed: 'look after people',
    marks: ['says who is told']
  },
  contact_link: {
    of: 'workspace',
    plans: 'what every task is',
    deed: 'look after people',
    marks: ['says who is told']
  },
  project: {
    of: 'workspace',
    plans: 'what every task is',
    deed: 'look after projects',
    marks: ['named by rules', 'imports go by it']
  },
  status: {
    of: 'workspace',
    plans: 'what every task is',
    deed: 'change settings',
    marks: ['named by rules', 'imports go by it']
  },
  task: { of: 'task', plans: 'its task', deed: null, marks: ['made in great numbers'] },
  slip: {
    of: 'task',
    plans: 'its task',
    deed: null,
    marks: ['stays with its task', 'made in great numbers']
  },
  status_span: {
    of: 'task',
    plans: 'nothing',
    deed: null,
    marks: ['stays with its task', 'made in great numbers']
  },
  co_owner: {
    of: 'task',
    plans: 'its task',
    deed: null,
    marks: ['says who is told', 'stays with its task', 'made in great numbers']
  },
  task_tag: {
    of: 'task',
    plans: 'its task',
    deed: null,
    marks: ['stays with its task', 'made in great numbers']
  },
  comment: { of: 'task', plans: 'its task', deed: null, marks: ['own word'] },
  time_entry: { of: 'task', plans: 'its task', deed: null, marks: ['own word'] },
  field: {
    of: 'workspace',
    plans: 'what every task is',
    deed: 'change settings',
    marks: ['named by rules', 'imports go by it']
  },
  field_value: {
    of: 'task',
    plans: 'its task',
    deed: null,
    marks: ['says who is told', 'stays with its task', 'made in great numbers']
  },
  task_link: { of: 'task', plans: 'nothing', deed: null, marks: [] },
  reminder: { of: 'task', plans: 'its task', deed: null, marks: ['own word', 'made in great numbers'] },
  promise: { of: 'task', plans: 'its task', deed: null, marks: [] },
  placement: {
    of: 'task',
    plans: 'nothing',
    deed: null,
    marks: ['own word', 'stays with its task', 'made in great numbers']
  },
  task_round: {
    of: 'task',
    plans: 'nothing',
    deed: null,
    marks: ['stays with its task', 'made in great numbers']
  },
  project_member: {
    of: 'workspace',
    plans: 'every task',
    deed: 'look after projects',
    marks: ['says who is told']
  },
  section: {
    of: 'workspace',
    plans: 'nothing',
    deed: 'look after projects',
    marks: ['named by rules', 'imports go by it']
  },
  saved_list: {
    of: 'workspace',
    plans: 'every task',
    deed: null,
    marks: ['named by rules', 'its keeper alone']
  },
  rule: { of: 'workspace', plans: 'every task', deed: 'make rules', marks: ['named by rules'] },
  rule_version: { of: 'workspace', plans: 'every task', deed: 'make rules', marks: [] },
  rule_once: { of: 'workspace', plans: 'nothing', deed: 'make rules', marks: [] },
  digest: { of: 'workspace', plans: 'nothing', deed: 'make rules', marks: [] },
  sweep: { of: 'workspace', plans: 'nothing', deed: 'make rules', marks: ['sweeps go by it'] },
  hush: { of: 'workspace', plans: 'every task', deed: null, marks: [] },
  no_reminder: { of: 'task', plans: 'its task', deed: null, marks: ['own word'] },
  reader_list: {
    of: 'workspace',
    plans: 'every task',
    deed: 'make rules',
    marks: ['says who is told', 'named by rules']
  },
  message_template: { of: 'workspace', plans: 'nothing', deed: 'make rules', marks: [] },
  standing_lead: { of: 'workspace', plans: 'every task', deed: null, marks: ['its keeper alone'] },
  desk_habit: { of: 'workspace', plans: 'nothing', deed: null, marks: ['its keeper alone'] },
  capture: { of: 'workspace', plans: 'nothing', deed: null, marks: ['its keeper alone'] },
  shelf_item: { of: 'workspace', plans: 'nothing', deed: null, marks: ['its keeper alone'] },
  tally_pin: { of: 'workspace', plans: 'nothing', deed: null, marks: ['its keeper alone'] }
} as const satisfies Record<string, TableEntry>;

export type RecordedTable = keyof typeof TABLES;
export const RECORDED_TABLES = namesOf(TABLES);

/** What a write to a table means. */
export function entryOf(table: RecordedTable): TableEntry {
  return TABLES[table];
}

/** The tables of which something holds. */
export function tablesWhere(holds: (entry: TableEntry) => boolean): ReadonlySet<RecordedTable> {
  return new Set(RECORDED_TABLES.filter((table) => holds(TABLES[table])));
}

/** The tables that bear a mark. */
export function tablesMarked(mark: Mark): ReadonlySet<RecordedTable> {
  return tablesWhere(({ marks }) => marks.includes(mark));
}
