import type { AtOnceView } from '../../view/effects.ts';
import type { Workspace } from '../workspace/workspace.ts';
import type { Stores } from '../store/all.ts';
import type { Mark, QueuedMessage } from '../store/since.ts';
import { SAID_TABLES, thingsOf } from '../record/changed-things.ts';
import type { Viewer } from '../workspace/viewer.ts';

/** Messages and acts that are listed; the rest are counted. */
const LISTED = 60;

/**
 * What is changed, leaves and is done at once since a mark, by any rule.
 * @param questions what is asked no more
 */
export function atOnceView(
  app: Pick<Workspace, 'stores' | 'source' | 'clock'>,
  mark: Mark,
  questions: readonly string[],
  viewer: Viewer
): AtOnceView {
  const { stores, source } = app;
  const messages = stores.since.queued(mark);
  const acts = stores.since.acts(mark);
  const names = new Map(stores.rules.all().map(({ id, name }) => [id, name]));
  const rule = (id: number) => names.get(id) ?? 'a removed rule';
  const person = (id: number) => source.facts.people.get(id)?.name ?? 'a removed person';
  return {
    messages: messages.length,
    people: new Set(messages.flatMap(({ readerIds }) => readerIds)).size,
    listed: messages.slice(0, LISTED).map((message) => ({
      subject: subjectFor(stores, message, viewer),
      to: message.readerIds.map(person),
      rules: message.ruleIds.map(rule),
      tasks: message.taskIds.length
    })),
    stopped: stores.since.rushes(mark).map(({ ruleId, count }) => ({ rule: rule(ruleId), messages: count })),
    acts: acts.length,
    actsListed: acts.slice(0, LISTED),
    questions: [...questions],
    changed: thingsOf(app, stores.changes.rowsAfter(mark.changeId, SAID_TABLES), viewer)
  };
}

/** Nobody reads the name of another person's private task. */
function subjectFor({ tasks }: Stores, { subject, taskIds }: QueuedMessage, { personId }: Viewer): string {
  const hidden = taskIds.some((id) => {
    const task = tasks.byId(id);
    return task?.private && task.ownerId !== personId;
  });
  return hidden ? 'about a private task' : subject;
}
