import { clockTime } from '../../core/time/format.ts';
import { placeOfZone } from '../../core/time/zone-names.ts';
import { zoneNamed } from '../../core/time/zone.ts';
import type { Sight } from '../store/tasks.ts';
import type { Workspace } from '../workspace/workspace.ts';

/** Outside contacts as they are listed; of tasks those alone that the viewer sees. */
export function contactList({ stores, clock }: Pick<Workspace, 'stores' | 'clock'>, sight: Sight) {
  const now = clock.now();
  const links = stores.contacts.links();
  const tasks = new Map(
    links.flatMap(({ taskId }) => {
      const task = taskId === null ? null : stores.tasks.byId(taskId);
      return task && stores.tasks.seen([task.id], sight).has(task.id) ? [[task.id, task.name]] : [];
    })
  );
  return stores.contacts.all().map((contact) => {
    const own = links.filter(({ contactId }) => contactId === contact.id);
    return {
      ...contact,
      email: contact.email ?? '',
      phone: contact.phone ?? '',
      place: placeOfZone(contact.zone),
      time: clockTime(now, zoneNamed(contact.zone)),
      projectIds: own.flatMap(({ projectId }) => projectId ?? []),
      tasks: own.flatMap(({ taskId }) =>
        taskId !== null && tasks.has(taskId) ? [{ id: taskId, name: tasks.get(taskId)! }] : []
      )
    };
  });
}

/** The first of some tasks that is not there; undefined where all are. */
export function missingTask({ stores }: Pick<Workspace, 'stores'>, ids: readonly number[]) {
  return ids.find((id) => stores.tasks.byId(id) === null);
}
