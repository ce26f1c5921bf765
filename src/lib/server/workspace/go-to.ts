import { plain } from '../../core/plain.ts';
import type { GoToItem } from '../../view/go-to.ts';
import { offeredProjects } from '../project/project-rights.ts';
import type { TaskListService } from '../task/task-list.ts';
import type { SignedIn } from './signed-in.ts';
import type { Workspace } from './workspace.ts';

/** Of each kind so many are offered. */
const MOST = 6;

/**
 * What somebody sees whose name has all the words that were typed, tasks first. Nothing is found for nothing typed.
 * @param text as typed, at most as long as a search may be
 */
export function goToItems(
  app: Workspace & { taskLists: TaskListService },
  { viewer, sight, may }: Pick<SignedIn, 'viewer' | 'sight' | 'may'>,
  text: string
): GoToItem[] {
  const words = plain(text).split(' ').filter(Boolean);
  if (words.length === 0) return [];
  const fits = ({ name }: { name: string }) => words.every((word) => plain(name).includes(word));
  return [
    ...tasksNamed(app, viewer, sight, text),
    ...offeredProjects(app.stores, sight)
      .filter(fits)
      .slice(0, MOST)
      .map(({ id, name }) => ({ kind: 'project' as const, href: `/projects/${id}`, name, note: '' })),
    ...app.stores.people
      .all()
      .filter((person) => person.active && fits(person))
      .slice(0, MOST)
      .map(({ id, name, role }) => ({ kind: 'person' as const, href: `/people/${id}`, name, note: role })),
    ...(may('make rules') ? app.stores.rules.made() : [])
      .filter(fits)
      .slice(0, MOST)
      .map(({ id, name, state }) => ({ kind: 'rule' as const, href: `/rules/${id}`, name, note: state }))
  ];
}

function tasksNamed(
  { taskLists }: { taskLists: TaskListService },
  viewer: SignedIn['viewer'],
  sight: SignedIn['sight'],
  text: string
): GoToItem[] {
  const query = taskLists.read(new URLSearchParams({ text, show: 'all' }));
  return taskLists.page(query, null, viewer, sight, MOST).rows.map(({ id, name, owner, due }) => ({
    kind: 'task',
    href: `/tasks/${id}`,
    name,
    note: [owner ?? 'no owner', due ?? 'no date'].join(' · ')
  }));
}
