import { digestReaders } from '../../core/digest/readers.ts';
import type { Zone } from '../../core/time/zone.ts';
import { listChoices } from '../rule/list-choices.ts';
import type { Sight } from '../store/tasks.ts';
import {
  activePeople,
  groupChoices,
  projectChoices,
  readerListChoices,
  type Choice
} from '../workspace/choices.ts';
import type { Workspace } from '../workspace/workspace.ts';
import { digestList, digestRuns } from './digest-views.ts';

/** A digest as it is edited, with what it can name; null where there is none of that id. Times are on the viewer's wall. */
export function digestView(app: Workspace, id: number, { zone, sight }: { zone: Zone; sight: Sight }) {
  const digest = app.stores.digests.byId(id);
  if (!digest) return null;
  const { name, description, definition, keeperId } = digest;
  return {
    digest: { id, name, description, definition },
    row: digestList(app, zone).find((row) => row.id === id)!,
    runs: digestRuns(app, id, zone),
    readers: digestReaders(definition, app.source.facts, keeperId).map((one): Choice => ({
      id: one.id,
      name: one.name
    })),
    choices: {
      people: activePeople(app),
      groups: groupChoices(app),
      readers: readerListChoices(app),
      projects: projectChoices(app),
      lists: listChoices(app, sight.personId),
      tags: app.stores.taskParts.allTags(sight)
    }
  };
}
