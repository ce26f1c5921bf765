import type { TestWorkspace } from './workspace.ts';

/** Everything that stands in a workspace because of what was done to many tasks, without the numbers of rows. */
export function standing({ container }: TestWorkspace) {
  const { stores, db } = container;
  const all = (sql: string) => db.prepare(sql).raw().all();
  return {
    tasks: stores.tasks.facts().map(({ name, due, ownerId, phase }) => ({ name, due, ownerId, phase })),
    tags: all('SELECT t.name, g.name FROM task_tag g JOIN task t ON t.id = g.task_id ORDER BY 1, 2'),
    reminders: all('SELECT t.name, r.timing FROM reminder r JOIN task t ON t.id = r.task_id ORDER BY 1'),
    spans: all('SELECT status_id, until_at IS NULL, count(*) FROM status_span GROUP BY 1, 2'),
    plan: all('SELECT t.name, p.ring_at FROM plan p JOIN task t ON t.id = p.task_id ORDER BY 1, 2'),
    runs: all('SELECT r.state, r.outcome, count(*) FROM run r GROUP BY 1, 2 ORDER BY 1, 2'),
    notices: all('SELECT kind, state, reason, count(*) FROM notice GROUP BY 1, 2, 3 ORDER BY 1, 2, 3'),
    found: all("SELECT count(*) FROM task_text WHERE task_text MATCH 'Task'"),
    recorded: all(
      'SELECT c.title, r.table_name, count(*) FROM change c JOIN change_row r ON r.change_id = c.id GROUP BY 1, 2 ORDER BY 1, 2'
    ),
    journal: all('SELECT kind, count(*) FROM journal GROUP BY 1 ORDER BY 1')
  };
}
