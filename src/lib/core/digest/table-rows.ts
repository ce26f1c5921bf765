import { PRIORITIES } from '../task/model.ts';
import type { DigestTable, TableGroup, TableOrder } from './model.ts';
import { heavierFirst, soonestFirst, type DigestRow } from './row.ts';

/** Rows that stand under one heading. */
export interface DigestGroup {
  heading: string;
  /** Index of its first row. */
  from: number;
  count: number;
}

type Named = ReadonlyMap<number, { name: string }>;
type Names = { projects: Named; people: Named };

/** What a table is named and grouped by. */
export interface TableAsked {
  names: Names;
  detailsOf: (taskId: number) => { statusId: number };
  /** Names of statuses by id, in their order. */
  statuses: ReadonlyMap<number, string>;
  /** Who sees the project of their private tasks; null: nobody does. */
  seenBy: number | null;
}

/** A heading, and where it stands among the others: those without come last. */
interface Heading {
  place: number;
  words: string;
}

/**
 * The rows of a table in the order of a digest, grouped as it says. What has no project or owner stands last; the project of a private task is
 * a matter of whoever sees it.
 */
export function tableRows(
  rows: readonly DigestRow[],
  { order, group }: Pick<DigestTable, 'order' | 'group'>,
  asked: TableAsked
): { rows: DigestRow[]; groups: DigestGroup[] } {
  const text = new TextOf(asked.names, asked.seenBy);
  const sorted = [...rows].sort(byOrder(order, text));
  if (group === 'none') return { rows: sorted, groups: [] };
  const found = new Map<string, { heading: Heading; rows: DigestRow[] }>();
  for (const row of sorted) {
    const heading = headingOf(group, row, text, asked);
    const known = found.get(heading.words);
    if (known) known.rows.push(row);
    else found.set(heading.words, { heading, rows: [row] });
  }
  const parts = [...found.values()].sort(
    ({ heading: a }, { heading: b }) => a.place - b.place || compareText(a.words, b.words)
  );
  let from = 0;
  const groups = parts.map(({ heading: { words }, rows: { length: count } }) => {
    const one = { heading: words, from, count };
    from += count;
    return one;
  });
  return { rows: parts.flatMap((part) => part.rows), groups };
}

function headingOf(
  group: Exclude<TableGroup, 'none'>,
  { task }: DigestRow,
  text: TextOf,
  { detailsOf, statuses }: TableAsked
): Heading {
  switch (group) {
    case 'project':
      return named(text.project(task), 'No project');
    case 'owner':
      return named(text.owner(task), 'No owner');
    case 'priority':
      return {
        place: PRIORITIES.length - PRIORITIES.indexOf(task.priority),
        words: `${task.priority} priority`
      };
    case 'status': {
      const { statusId } = detailsOf(task.id);
      return { place: [...statuses.keys()].indexOf(statusId), words: statuses.get(statusId) ?? 'No status' };
    }
  }
}

function named(name: string | null, none: string): Heading {
  return name === null ? { place: 1, words: none } : { place: 0, words: name };
}

/** What a row is called by. */
class TextOf {
  readonly #names: Names;
  readonly #seenBy: number | null;

  constructor(names: Names, seenBy: number | null) {
    this.#names = names;
    this.#seenBy = seenBy;
  }

  project({ projectId, private: own, ownerId }: DigestRow['task']): string | null {
    if (projectId === null || (own && ownerId !== this.#seenBy)) return null;
    return this.#names.projects.get(projectId)?.name ?? null;
  }

  owner({ ownerId }: DigestRow['task']): string | null {
    return ownerId === null ? null : (this.#names.people.get(ownerId)?.name ?? null);
  }

  /** A private task has no name for others, and no place among names. */
  task({ name, private: own, ownerId }: DigestRow['task']): string | null {
    return own && ownerId !== this.#seenBy ? null : name;
  }
}

function byOrder(order: TableOrder, text: TextOf): (a: DigestRow, b: DigestRow) => number {
  switch (order) {
    case 'due':
      return soonestFirst;
    case 'priority':
      return (a, b) => heavierFirst(a, b) || soonestFirst(a, b);
    case 'task':
      return (a, b) => compareText(text.task(a.task), text.task(b.task)) || soonestFirst(a, b);
    case 'owner':
      return (a, b) => compareText(text.owner(a.task), text.owner(b.task)) || soonestFirst(a, b);
    case 'project':
      return (a, b) => compareText(text.project(a.task), text.project(b.task)) || soonestFirst(a, b);
  }
}

// eslint-disable-next-line no-restricted-globals -- the order of English names, whatever the machine’s own is
const COLLATOR = new Intl.Collator('en', { numeric: true });

/** As a person looks a name up; what has none comes last. */
function compareText(a: string | null, b: string | null): number {
  if (a === null || b === null) return Number(a === null) - Number(b === null);
  return COLLATOR.compare(a, b);
}
