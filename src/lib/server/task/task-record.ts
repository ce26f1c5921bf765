import { shortMoment } from '../../core/time/format.ts';
import type { RecordLineView } from '../../view/task-detail.ts';
import type { Workspace } from '../workspace/workspace.ts';
import type { Sight } from '../store/tasks.ts';
import { taskNames } from '../record/changed-things.ts';
import { RowWords } from '../record/row-words.ts';
import type { Viewer } from '../workspace/viewer.ts';

const MOST_LINES = 60;

const SOURCES: Readonly<Record<string, string>> = {
  import: 'by an import',
  bulk: 'with others at once',
  rule: 'by a rule',
  sweep: 'by a sweep',
  renewal: 'by recurrence',
  undo: 'by an undo',
  link: 'from a message',
  api: 'by another program'
};

/** Everything that was done to a task, the latest first. */
export function recordOf(
  app: Workspace,
  taskId: number,
  viewer: Viewer,
  sight: Sight,
  nowDay: number
): RecordLineView[] {
  const { zone } = viewer;
  const names = taskNames(app, viewer);
  const words = new RowWords(app, nowDay, (id) =>
    app.stores.tasks.seen([id], sight).has(id) ? names(id) : 'a task that you do not see'
  );
  return app.stores.taskParts.record(taskId, MOST_LINES).flatMap((change): RecordLineView[] => {
    const { before, after } = change;
    const changes: RecordLineView['changes'] = before && after ? words.ofTask(before, after) : [];
    const parts = app.stores.changes.partsOf(change.changeId, taskId);
    changes.push(...parts.flatMap((row) => words.ofPart(row)));
    // What only touched it, and says no more, is no line of its own.
    const says = changes.length > 0 || before === null || !/changed$/.test(change.title);
    if (!says) return [];
    const by =
      change.actorId === null
        ? 'Early Bell'
        : (app.stores.people.byId(change.actorId)?.name ?? 'a removed person');
    return [
      {
        at: shortMoment(change.at, zone, nowDay),
        by,
        source:
          change.leftAt === null || !change.subject
            ? (SOURCES[change.source] ?? null)
            : `by the message “${change.subject}” of ${shortMoment(change.leftAt, zone, nowDay)}`,
        changes,
        title: change.title
      }
    ];
  });
}
