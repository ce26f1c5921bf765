// Workspaces of very many tasks, made faster than one by one.
import { blankDefinition } from '../../src/lib/core/rule/model.ts';
import { blankTell } from '../../src/lib/core/rule/step-model.ts';
import { offsetLead } from '../../src/lib/core/rule/lead-model.ts';
import type { Container } from '../../src/lib/server/container.ts';
import { fillWorkspace } from '../many-tasks.ts';

/** Made one by one; what is more is copied from them, row by row, with other dates. */
const MADE = 10_000;
export const BENCHER = { personId: 1, source: 'person' as const };

/** Fills an empty workspace with so many tasks of two hundred people. */
export function fillWithVeryMany(container: Container, tasks: number): void {
  fillWorkspace(container, { tasks: MADE, people: 200, projects: 40 });
  copyTasks(container, tasks / MADE);
}

/** The rows of the tasks again and again. */
function copyTasks({ db, work, source }: Container, times: number): void {
  const columns = (table: string, but: readonly string[]) =>
    (db.pragma(`table_info(${table})`) as { name: string }[])
      .map(({ name }) => name)
      .filter((name) => !but.includes(name))
      .join(', ');
  const task = columns('task', ['id', 'due_date', 'import_key', 'parent_id']);
  const span = columns('status_span', ['id', 'task_id']);
  work.run(() => {
    for (let k = 1; k < times; k++) {
      const offset = k * MADE;
      db.prepare(
        `INSERT INTO task (id, due_date, ${task}) SELECT id + ${offset}, date(due_date, '+' || ((id * 7 + ${k}) % 40) || ' days'), ${task}
         FROM task WHERE id <= ${MADE}`
      ).run();
      db.prepare(
        `INSERT INTO status_span (task_id, ${span}) SELECT task_id + ${offset}, ${span} FROM status_span WHERE task_id <= ${MADE}`
      ).run();
    }
  });
  source.invalidate();
}

/** Rules that tell owners on the working days before a task is due, the first on the day itself; all of them on. */
export function turnOnRules(container: Container, rules: number): void {
  for (let i = 0; i < rules; i++) {
    const definition = {
      ...blankDefinition(),
      leads: [offsetLead(`lead-${i}`, -i, 'workday')],
      steps: [{ ...blankTell(), to: [{ who: 'owner' as const }] }]
    };
    const { result: id } = container.rules.add(BENCHER, `Rule ${i}`, definition);
    container.rules.turnOn(BENCHER, id, { name: `Rule ${i}`, description: '', definition });
  }
}
