import { namesById } from '$lib/server/workspace/choices.ts';
import { many, agree } from '$lib/core/many.ts';
import { error, fail } from '@sveltejs/kit';
import { CodedError } from '$lib/core/errors.ts';
import { parseDay } from '$lib/core/time/day.ts';
import { longDay } from '$lib/core/time/format.ts';
import { COLUMNS, COLUMN_NAMES, type Mapping } from '$lib/server/in-out/read/columns.ts';
import { NAMED_COLUMNS, fold, type Matches } from '$lib/server/in-out/read/names.ts';
import type { ImportChoices } from '$lib/server/in-out/read/interpret.ts';
import { signedIn } from '$lib/server/web/web.ts';
import type { Actions, PageServerLoad } from './$types';

const KNOWN = ['leave out', 'update', 'add again'] as const;

export const load: PageServerLoad = async (event) => {
  const { person } = signedIn(event);
  const { app } = event.locals;
  try {
    const review = await app.imports.review(event.params.token, person.id);
    const labels = new Map(COLUMN_NAMES.map((name) => [name, COLUMNS[name].label]));
    const people = namesById(app, 'people');
    const projects = namesById(app, 'projects');
    return {
      review: {
        ...review,
        preview: undefined,
        problems: review.problems.map(({ line, cells, faults }) => ({
          line,
          cells,
          faults: faults.map(({ column, index, reason }) => ({
            ...{ index, reason, label: labels.get(column)! },
            cell: cells[index] ?? ''
          }))
        }))
      },
      columns: COLUMN_NAMES.map((name) => ({ name, label: COLUMNS[name].label })),
      preview: review.preview.map(({ line, task }) => ({
        line,
        name: task.name,
        owner: task.ownerId === null ? null : (people.get(task.ownerId) ?? null),
        project: task.newProject ?? (task.projectId === null ? null : (projects.get(task.projectId) ?? null)),
        due: written(task.dueDate, task.dueTime),
        start: written(task.startDate, task.startTime),
        priority: task.priority
      }))
    };
  } catch (failure) {
    if (failure instanceof CodedError) error(404, failure.message);
    throw failure;
  }
};

export const actions: Actions = {
  choose: async (event) => {
    const { person } = signedIn(event);
    try {
      await event.locals.app.imports.review(
        event.params.token,
        person.id,
        readChoices(await event.request.formData())
      );
    } catch (failure) {
      if (failure instanceof CodedError) return fail(400, { message: failure.message });
      throw failure;
    }
  },
  nearest: async (event) => {
    const { person } = signedIn(event);
    return orSay(() => event.locals.app.imports.matchNearest(event.params.token, person.id));
  },
  mend: async (event) => {
    const { person } = signedIn(event);
    const form = await event.request.formData();
    const number = (name: string) => Number(form.get(name));
    const text = String(form.get('cell') ?? '').slice(0, 30_000);
    return orSay(() =>
      event.locals.app.imports.mend(event.params.token, person.id, number('line'), number('index'), text)
    );
  },
  import: async (event) => {
    const { actor } = signedIn(event);
    try {
      const { changeId, result } = await event.locals.app.imports.confirm(actor, event.params.token);
      const { created, updated } = result;
      const words = [
        created > 0 ? `${many(created, 'task', 'tasks')} ${agree(created, 'was', 'were')} added` : '',
        updated > 0 ? `${many(updated, 'task', 'tasks')} ${agree(updated, 'was', 'were')} updated` : ''
      ].filter(Boolean);
      return { done: `${words.join(', ')}.`, changeId, goto: '/tasks' };
    } catch (failure) {
      if (failure instanceof CodedError) return fail(400, { message: failure.message });
      throw failure;
    }
  }
};

/** What cannot be done any more is said. */
async function orSay(work: () => void | Promise<void>) {
  try {
    await work();
  } catch (failure) {
    if (failure instanceof CodedError) return fail(400, { message: failure.message });
    throw failure;
  }
}

/** Names as they were matched: `match owner Innes`. */
function readMatches(form: FormData): Matches {
  const matches: Matches = {};
  for (const [key, value] of form) {
    const column = NAMED_COLUMNS.find((one) => key.startsWith(`match ${one} `));
    if (column) (matches[column] ??= {})[fold(key.slice(`match ${column} `.length))] = String(value);
  }
  return matches;
}

function readChoices(form: FormData): Partial<ImportChoices> {
  const mapping: Mapping = {};
  for (const column of COLUMN_NAMES) {
    const index = form.get(`column.${column}`);
    if (typeof index === 'string' && /^\d{1,4}$/.test(index)) mapping[column] = Number(index);
  }
  const order = form.get('dateOrder');
  return {
    mapping,
    dateOrder: order === 'day-first' || order === 'month-first' ? order : null,
    unknownOwners: form.get('unknownOwners') === 'unowned' ? 'unowned' : 'skip',
    known: KNOWN.find((one) => one === form.get('known')) ?? 'leave out',
    matches: readMatches(form)
  };
}

function written(date: string | null, time: string | null): string | null {
  return date === null ? null : `${longDay(parseDay(date))}${time === null ? '' : `, ${time}`}`;
}
