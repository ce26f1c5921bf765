import type { Condition, Test } from '../../core/rule/condition.ts';
import { BAND_DAYS } from '../../core/ring/overdue.ts';
import type { ListScope, ListScopes } from '../../core/rule/list-scope.ts';
import { type Unseen, PHASES, type Phase } from '../../core/task/model.ts';
import { formatDay, parseDay } from '../../core/time/day.ts';
import { readListQuery, type ListQuery, type Show } from '../store/list-query.ts';
import type { SavedList } from '../store/saved-lists.ts';

/** What saved lists hold, as rules look at it. */
export function listScopes(lists: readonly SavedList[]): ListScopes {
  return new Map(lists.map(({ id, query }) => [id, scopeOf(readListQuery(new URLSearchParams(query)))]));
}

/**
 * What a list asks, as a condition. “Today” in it is the owner's at the instant of the ring, as in every condition; its order, groups and
 * columns mean nothing to a rule.
 * @returns why no rule can look at it, where it asks something that a task does not tell by itself
 */
function scopeOf(query: ListQuery): ListScope | string {
  if (query.text) return 'it searches for words, in comments too';
  if (query.due === 'week') return '“this week” differs from person to person';
  if (query.show === 'out of earshot') return '“out of earshot” means that no rule reaches the task';
  const { phases, standing, tests } = SHOWN[query.show];
  return { condition: { all: [...testsOf(query), ...tests] }, phases, standing };
}

function testsOf(query: ListQuery): Condition[] {
  const tests: (Test | null)[] = [
    orEmpty('project', query.projectId),
    orEmpty('owner', query.ownerId),
    query.sectionId === null ? null : { field: 'section', op: 'is', value: query.sectionId },
    query.statusId === null ? null : { field: 'status', op: 'is', value: query.statusId },
    query.priority === null ? null : { field: 'priority', op: 'is', value: query.priority },
    query.tag === '' ? null : { field: 'tag', op: 'is', value: query.tag },
    query.recurring ? { field: 'recurring', op: 'is yes' } : null,
    ...bandTests(query)
  ];
  return [...tests.filter((test) => test !== null), ...dueTests(query)];
}

function bandTests({ band }: ListQuery): Test[] {
  if (band === null) return [];
  const [from, to] = BAND_DAYS[band];
  const test = (op: Test['op'], value: number): Test => ({ field: 'working days overdue', op, value });
  return [test('at least', from), ...(to === Infinity ? [] : [test('at most', to)])];
}

function orEmpty(field: 'project' | 'owner', id: number | 'none' | null): Test | null {
  if (id === null) return null;
  return id === 'none' ? { field, op: 'is empty' } : { field, op: 'is', value: id };
}

function dueTests({ due, from, until }: ListQuery): Condition[] {
  const test = (op: Test['op'], value?: Test['value']): Test => ({ field: 'due', op, value });
  switch (due) {
    case 'today':
      return [test('on', 'today')];
    case 'tomorrow':
      return [test('within the next days', 1), { none: [test('on', 'today')] }];
    case '7':
    case '30':
      return [test('within the next days', Number(due))];
    case 'past':
      return [test('before', 'today')];
    case 'none':
      return [test('is empty')];
    default:
      // Both ends of a list belong to it.
      return [
        ...(from === null ? [] : [test('after', formatDay(parseDay(from) - 1))]),
        ...(until === null ? [] : [test('before', formatDay(parseDay(until) + 1))])
      ];
  }
}

interface Shown {
  phases: readonly Phase[] | null;
  standing: Unseen | null;
  tests: readonly Test[];
}
const OPEN: Shown = { phases: null, standing: null, tests: [] };
/** “Open” is what a list shows when nothing is said: which phases count is then the rule's to say. */
const SHOWN: Record<Show, Shown> = {
  open: OPEN,
  stuck: { ...OPEN, phases: ['stuck on others'] },
  done: { ...OPEN, phases: ['finished', 'closed'] },
  all: { ...OPEN, phases: PHASES },
  parked: { ...OPEN, phases: PHASES, standing: 'parked' },
  archived: { ...OPEN, phases: PHASES, standing: 'archived' },
  binned: { ...OPEN, phases: PHASES, standing: 'binned' },
  overdue: { ...OPEN, tests: [{ field: 'overdue', op: 'is yes' }] },
  today: { ...OPEN, tests: [{ field: 'due', op: 'on', value: 'today' }] },
  'out of earshot': OPEN
};
