import { BANDS, type Band } from '../../core/ring/overdue.ts';
import { CodedError } from '../../core/errors.ts';
import { PRIORITIES, type Priority } from '../../core/task/model.ts';
import { parseDay } from '../../core/time/day.ts';
import { GROUP_KEYS, SORT_KEYS, type GroupKey, type SortKey } from './task-list.ts';

/** Sets that the workspace counts. */
export const SETS = ['overdue', 'today', 'out of earshot'] as const;
/** What of the tasks is shown: by phase, by where they stand, or one of the counted sets. */
const SHOWS = ['open', 'stuck', 'done', 'all', 'parked', 'archived', 'binned', ...SETS] as const;
export type Show = (typeof SHOWS)[number];

/** Due dates as they are asked for; a date of one's own is `from` and `until`. */
const DUES = ['', 'today', 'tomorrow', 'week', '7', '30', 'past', 'none'] as const;
export type DueChoice = (typeof DUES)[number];

export const SHAPES = ['rows', 'columns', 'days'] as const;
export type Shape = (typeof SHAPES)[number];

/** What the address of the list says. */
export interface ListQuery {
  text: string;
  projectId: number | 'none' | null;
  sectionId: number | null;
  ownerId: number | 'none' | null;
  statusId: number | null;
  priority: Priority | null;
  tag: string;
  due: DueChoice;
  from: string | null;
  until: string | null;
  recurring: boolean;
  /** Of what is overdue: how late by working days. */
  band: Band | null;
  /** `open` is what is shown when nothing is said. */
  show: Show;
  sort: SortKey;
  down: boolean;
  group: GroupKey | null;
  shape: Shape;
  /** The columns shown, in their order; null shows the usual ones. */
  columns: string[] | null;
}

/** Reads the filter from an address; what makes no sense is left out. */
export function readListQuery(parameters: URLSearchParams): ListQuery {
  const text = (name: string) => parameters.get(name) ?? '';
  const id = (name: string) => (/^\d{1,15}$/.test(text(name)) ? Number(text(name)) : null);
  const orNone = (name: string) => (text(name) === 'none' ? ('none' as const) : id(name));
  const one = <T extends string>(name: string, choices: readonly T[]): T | null =>
    choices.find((choice) => choice === text(name)) ?? null;
  const date = (name: string) => (isDate(text(name)) ? text(name) : null);
  return {
    text: text('text').slice(0, 200),
    projectId: orNone('project'),
    sectionId: id('section'),
    ownerId: orNone('owner'),
    statusId: id('status'),
    priority: one('priority', PRIORITIES),
    tag: text('tag').slice(0, 60),
    due: one('due', DUES) ?? '',
    from: date('from'),
    until: date('until'),
    recurring: text('recurring') === 'yes',
    band: text('show') === 'overdue' ? one('band', BANDS) : null,
    show: one('show', SHOWS) ?? 'open',
    sort: one('sort', SORT_KEYS) ?? 'due',
    down: text('order') === 'down',
    group: one('group', GROUP_KEYS),
    shape: one('shape', SHAPES) ?? 'rows',
    columns: parameters.has('columns') ? text('columns').split('.').filter(Boolean).slice(0, 20) : null
  };
}

function isDate(text: string): boolean {
  try {
    parseDay(text);
    return true;
  } catch (error) {
    if (error instanceof CodedError) return false;
    throw error;
  }
}
