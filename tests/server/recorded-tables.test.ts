import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { RECORDED_TABLES, entryOf } from '../../src/lib/server/store/recorded-tables.ts';
import { openWorkspace, type TestWorkspace } from '../support/workspace.ts';

/** The catalogue of tables, held against the tables that there are. */
let workspace: TestWorkspace;
beforeAll(async () => (workspace = await openWorkspace('2026-03-05T07:40:00Z')));
afterAll(() => workspace.close());

/** What the engine, the outbox, sign-in and files write for themselves: nobody takes it back. */
const OWN = [
  ...[
    'plan',
    'replan',
    'ring',
    'run',
    'run_step',
    'question',
    'question_passed',
    'notice',
    'turned_on',
    'chore'
  ],
  ...[
    'schedule_plan',
    'schedule_seat',
    'schedule_owed',
    'owed_event',
    'rush',
    'rule_fault',
    'rule_fault_told'
  ],
  ...['digest_plan', 'digest_run', 'sweep_plan', 'sweep_run', 'sweep_row', 'sweep_chunk', 'sweep_question'],
  ...[
    'message',
    'message_notice',
    'delivery',
    'returned_address',
    'dead_end_told',
    'reply',
    'mail_stop',
    'act_used'
  ],
  ...[
    'change',
    'change_row',
    'not_made_up',
    'journal',
    'engine_state',
    'schema_migration',
    'secret',
    'outside'
  ],
  ...['desk_look', 'desk_reading'],
  ...['password', 'session', 'one_time_link', 'sign_in_failure', 'import_job', 'import_row']
];

function tables(): string[] {
  return workspace.container.db
    .prepare<[], { name: string }>(
      `SELECT name FROM sqlite_master WHERE type = 'table' AND name NOT LIKE 'sqlite%' AND name NOT GLOB '*_text*'`
    )
    .all()
    .map(({ name }) => name);
}

function hangsOnTask(table: string): boolean {
  const columns = workspace.container.db.pragma(`table_info(${table})`) as {
    name: string;
    notnull: number;
  }[];
  return columns.some(({ name, notnull }) => name === 'task_id' && notnull === 1);
}

describe('the catalogue of tables', () => {
  it('has every table that people change: another is written by the application for itself, and named here', () => {
    const known = new Set<string>([...RECORDED_TABLES, ...OWN]);
    expect(tables().filter((table) => !known.has(table))).toEqual([]);
    expect([...known].filter((table) => !tables().includes(table))).toEqual([]);
  });

  it('says of each table whether its rows belong to one task, as its columns do', () => {
    const ofTasks = RECORDED_TABLES.filter((table) => entryOf(table).of === 'task');
    // What a rule has done once hangs on a task too, and goes with the rule.
    const hanging = RECORDED_TABLES.filter((table) => hangsOnTask(table) && table !== 'rule_once');
    expect(new Set(ofTasks)).toEqual(new Set([...hanging, 'task']));
  });

  it('lets nothing be taken back that is neither of a task nor asks for a right, but what is one’s own or of several kinds', () => {
    const free = RECORDED_TABLES.filter((table) => {
      const { of, deed } = entryOf(table);
      return of === 'workspace' && deed === null;
    });
    expect(free).toEqual([
      ...['saved_list', 'hush', 'standing_lead', 'desk_habit'],
      ...['capture', 'shelf_item', 'tally_pin']
    ]);
  });

  it('has the plan of each task made anew by whatever says who is told of it', () => {
    const quiet = RECORDED_TABLES.filter((table) => {
      const { plans, marks } = entryOf(table);
      return marks.includes('says who is told') && plans === 'nothing';
    });
    expect(quiet).toEqual([]);
  });
});
