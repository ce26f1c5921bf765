import { parseDay } from '../../core/time/day.ts';
import { shortDay, shortMoment } from '../../core/time/format.ts';
import type { Zone } from '../../core/time/zone.ts';
import type { RecordLineView } from '../../view/task-detail.ts';
import type { FieldKind, FieldValue } from '../../core/task/model.ts';
import type { Container } from '../container.ts';
import type { Row } from '../db/row.ts';

const MOST_LINES = 60;

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
  rhythm: 'comes back',
  round: 'round'
};

const SOURCES: Readonly<Record<string, string>> = {
  import: 'by an import',
  bulk: 'with others at once',
  rule: 'by a rule',
  sweep: 'by a sweep',
  renewal: 'by its rhythm',
  undo: 'by an undo',
  link: 'from a message',
  api: 'by another program'
};

/** Everything that was done to a task, the latest first. */
export function recordOf(app: Container, taskId: number, zone: Zone, nowDay: number): RecordLineView[] {
  const value = valueWords(app, nowDay);
  return app.stores.taskParts.record(taskId, MOST_LINES).flatMap((change): RecordLineView[] => {
    const { before, after } = change;
    const columns = Object.keys(after ?? {}).filter((column) => column in NAMES);
    const changes: RecordLineView['changes'] =
      before === null || after === null
        ? []
        : columns
            .filter((column) => before[column] !== after[column])
            .map((column) => ({
              field: NAMES[column]!,
              before: value(column, before[column]),
              after: value(column, after[column])
            }));
    changes.push(...partsOf(app, change.changeId, taskId));
    // What only touched it, and says no more, is no line of its own.
    const says = changes.length > 0 || before === null || !/changed$/.test(change.title);
    if (!says) return [];
    const by =
      change.actorId === null
        ? 'Early Bell'
        : (app.stores.people.byId(change.actorId)?.name ?? 'somebody who is gone');
    return [
      {
        at: shortMoment(change.at, zone, nowDay),
        by,
        source: SOURCES[change.source] ?? null,
        changes,
        title: change.title
      }
    ];
  });
}

/** What a change did to what hangs on a task: its tags, further owners and own fields. */
function partsOf(app: Container, changeId: number, taskId: number): RecordLineView['changes'] {
  return app.stores.changes.partsOf(changeId, taskId).flatMap(({ table, before, after }) => {
    const ends = (field: string, of: (row: Row) => string) => [
      { field, before: before ? of(before) : 'nothing', after: after ? of(after) : 'nothing' }
    ];
    if (table === 'task_tag') return ends('tag', (row) => String(row.name));
    if (table === 'co_owner')
      return ends(
        'also owned by',
        (row) => app.source.facts.people.get(Number(row.person_id))?.name ?? 'gone'
      );
    if (table !== 'field_value') return [];
    const field = app.stores.fields.all().find(({ id }) => id === (after ?? before)!.field_id);
    return ends(field?.name ?? 'a field that is gone', (row) =>
      fieldWords(app, field?.kind, JSON.parse(String(row.value)) as FieldValue)
    );
  });
}

/** A value of an own field in words: people by their names, a range by its ends. */
function fieldWords(app: Container, kind: FieldKind | undefined, value: FieldValue): string {
  const person = (id: string | number) => app.source.facts.people.get(Number(id))?.name ?? 'gone';
  if (Array.isArray(value)) return value.map(kind === 'people' ? person : String).join(', ');
  if (typeof value === 'object') return `${value.from} to ${value.until}`;
  if (typeof value === 'boolean') return value ? 'yes' : 'no';
  return kind === 'person' ? person(value) : String(value);
}

/** A value of a column in words; names are those of today. */
function valueWords(app: Container, nowDay: number): (column: string, value: unknown) => string {
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
        return app.stores.tasks.byId(Number(value))?.name ?? 'gone';
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
