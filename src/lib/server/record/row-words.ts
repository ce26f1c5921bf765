import type { FieldKind, FieldValue } from '../../core/task/model.ts';
import { parseDay } from '../../core/time/day.ts';
import { shortDay } from '../../core/time/format.ts';
import type { ChangedValue } from '../../view/changed-things.ts';
import type { Workspace } from '../workspace/workspace.ts';
import type { Row } from '../db/row.ts';
import type { RecordedTable } from '../store/recorded-tables.ts';
import type { ChangeRow } from '../store/change-model.ts';

/** What a column of a task is called; columns that are not here say nothing to a person. */
const NAMES: Readonly<Record<string, string>> = {
  name: 'name',
  description: 'description',
  project_id: 'project',
  section_id: 'section',
  owner_id: 'owner',
  status_id: 'status',
  priority: 'priority',
  due_date: 'due date',
  due_time: 'due time',
  start_date: 'start date',
  start_time: 'start time',
  remind_date: 'reminder date',
  remind_time: 'reminder time',
  percent: 'percent',
  parent_id: 'subtask of',
  log_time: 'time to be logged',
  keep: 'keep mark',
  private: 'private',
  set_aside: 'place',
  review_date: 'review date',
  rhythm: 'repeats',
  round: 'round'
};

/** Parts of a task of which something is said. */
export const PARTS: ReadonlySet<RecordedTable> = new Set(['task_tag', 'co_owner', 'field_value']);

/** Whether anything is said of a row of a task, or of a part of one. */
export function saysAnything({ table, before, after }: ChangeRow): boolean {
  if (table !== 'task') return PARTS.has(table);
  return !before || !after || Object.keys(after).some((one) => one in NAMES && before[one] !== after[one]);
}

/** What a change did to a row, in words: each value that a person knows, before and after. Names are those of today. */
export class RowWords {
  readonly #app: Pick<Workspace, 'source' | 'stores'>;
  readonly #value: (column: string, value: unknown) => string;

  /** @param taskName what a task is called to whoever reads */
  constructor(app: Pick<Workspace, 'source' | 'stores'>, nowDay: number, taskName: (id: number) => string) {
    this.#app = app;
    this.#value = valueWords(app, nowDay, taskName);
  }

  /** The columns of a task that differ. */
  ofTask(before: Record<string, unknown>, after: Record<string, unknown>): ChangedValue[] {
    return Object.keys(after)
      .filter((column) => column in NAMES && before[column] !== after[column])
      .map((column) => ({
        field: NAMES[column]!,
        before: this.#value(column, before[column]),
        after: this.#value(column, after[column])
      }));
  }

  /** What hangs on a task: a tag, a further owner, an own field, somebody’s word; nothing for what says nothing to a person. */
  ofPart({ table, before, after }: ChangeRow): ChangedValue[] {
    const ends = (field: string, of: (row: Row) => string) => [
      { field, before: before ? of(before) : 'nothing', after: after ? of(after) : 'nothing' }
    ];
    switch (table) {
      case 'task_tag':
        return ends('tag', (row) => String(row.name));
      case 'co_owner':
        return ends(
          'also owned by',
          (row) => this.#app.source.facts.people.get(Number(row.person_id))?.name ?? 'gone'
        );
      case 'field_value': {
        const field = this.#app.stores.fields.all().find(({ id }) => id === (after ?? before)!.field_id);
        return ends(field?.name ?? 'a removed field', (row) =>
          this.#fieldWords(field?.kind, JSON.parse(String(row.value)) as FieldValue)
        );
      }
      default:
        return [];
    }
  }

  /** A value of an own field in words: people by their names, a range by its ends. */
  #fieldWords(kind: FieldKind | undefined, value: FieldValue): string {
    const person = (id: string | number) => this.#app.source.facts.people.get(Number(id))?.name ?? 'gone';
    if (Array.isArray(value)) return value.map(kind === 'people' ? person : String).join(', ');
    if (typeof value === 'object') return `${value.from} to ${value.until}`;
    if (typeof value === 'boolean') return value ? 'yes' : 'no';
    return kind === 'person' ? person(value) : String(value);
  }
}

/** A value of a column in words; names are those of today. */
function valueWords(
  app: Pick<Workspace, 'source' | 'stores'>,
  nowDay: number,
  taskName: (id: number) => string
): (column: string, value: unknown) => string {
  const { people, projects } = app.source.facts;
  const statuses = app.stores.projects.statuses();
  const sections = app.stores.projects.sections();
  const named = (of: { name: string } | undefined) => of?.name ?? 'gone';
  return (column, value) => {
    if (value === null || value === undefined || value === '') return 'nothing';
    switch (column) {
      case 'project_id':
        return named(projects.get(Number(value)));
      case 'owner_id':
        return named(people.get(Number(value)));
      case 'status_id':
        return named(statuses.find(({ id }) => id === value));
      case 'section_id':
        return named(sections.find(({ id }) => id === value));
      case 'parent_id':
        return taskName(Number(value));
      case 'due_date':
      case 'start_date':
      case 'remind_date':
      case 'review_date':
        return shortDay(parseDay(String(value)), nowDay);
      case 'log_time':
      case 'keep':
      case 'private':
        return value === 1 ? 'yes' : 'no';
      case 'round':
        return String(Number(value) + 1);
      case 'rhythm':
        return rhythmWords(String(value));
      default: {
        const text = String(value);
        return text.length > 80 ? `${text.slice(0, 80)}…` : text;
      }
    }
  };
}

function rhythmWords(json: string): string {
  const rhythm = JSON.parse(json) as { n: number; unit: string } | { rrule: string };
  if ('rrule' in rhythm) return rhythm.rrule;
  const unit = rhythm.unit === 'workday' ? 'working day' : rhythm.unit;
  return `every ${rhythm.n === 1 ? unit : `${rhythm.n} ${unit}s`}`;
}
