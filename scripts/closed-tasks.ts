import { blankSweep, type SweepDefinition } from '../src/lib/core/sweep/model.ts';
import { fillWorkspace } from './many-tasks.ts';
import { openApart } from './open-apart.ts';

const LONG = 30 * 86_400_000;

/**
 * A workspace in a folder with tasks of which the first were closed a month ago, and a sweep that archives those.
 * @param at where its clock stands, ms
 */
export async function layOutClosed(
  folder: string,
  at: number,
  { closed, ...size }: { tasks: number; closed: number; people: number; projects: number },
  cutOff: SweepDefinition['cutOff'] = 'go on'
): Promise<void> {
  const container = openApart(folder, at);
  const { db, sweeps, source, clock, engine } = container;
  clock.set(at - LONG, false);
  fillWorkspace(container, size);
  db.prepare(
    `UPDATE task SET set_aside = NULL, set_aside_at = NULL, private = 0, parent_id = NULL, keep = 0, log_time = 0,
     status_id = (SELECT id FROM status WHERE phase = CASE WHEN task.id <= @closed THEN 'closed' ELSE 'waiting to start' END ORDER BY id LIMIT 1),
     finished_at = CASE WHEN id <= @closed THEN @then END`
  ).run({ closed, then: at - LONG });
  db.prepare('UPDATE status_span SET status_id = (SELECT status_id FROM task WHERE task.id = task_id)').run();
  source.invalidate();
  const definition = { ...blankSweep('archive'), cutOff };
  sweeps.insert({ personId: 1, source: 'person' }, { name: 'Archive', description: '', definition });
  clock.set(at, true);
  await engine.tick();
  await container.stop();
}
