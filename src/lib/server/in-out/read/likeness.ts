import type { Stores } from '../../store/all.ts';
import type { RowTask } from './interpret.ts';
import { fold } from './names.ts';

/** What a row is of: a task by its key, one that looks the same, a row before it in the file, or nothing yet. */
export interface Origin {
  /** `row`: one that stands before it in the file and is imported with it. */
  by: 'key' | 'likeness' | 'row' | null;
  taskId: number | null;
}

/**
 * Finds which rows of a file are here already: by their key, else by title, project and due date together. Ask once for each row, in the
 * order of the file.
 */
export class Likeness {
  readonly #stores: Stores;
  readonly #known = new Map<string, number>();
  readonly #keys = new Set<string>();
  readonly #rows = new Set<string>();

  constructor(stores: Stores, personId: number) {
    this.#stores = stores;
    for (const { id, name, projectId, dueDate } of stores.tasks.likenesses(personId))
      this.#known.set(textOf(name, String(projectId ?? ''), dueDate), id);
  }

  origin({ key, name, projectId, newProject, dueDate }: RowTask): Origin {
    if (key !== null) {
      const taskId = this.#stores.tasks.idByImportKey(key);
      const again = this.#keys.has(key);
      this.#keys.add(key);
      if (taskId !== null || again) return { by: 'key', taskId };
    }
    const text = textOf(name, projectId === null ? fold(newProject ?? '') : String(projectId), dueDate);
    const taskId = key === null ? (this.#known.get(text) ?? null) : null;
    if (taskId !== null) return { by: 'likeness', taskId };
    const isAgain = key === null && this.#rows.has(text);
    this.#rows.add(text);
    return { by: isAgain ? 'row' : null, taskId: null };
  }
}

function textOf(name: string, project: string, dueDate: string | null): string {
  return `${fold(name)}\n${project}\n${dueDate ?? ''}`;
}
