import type { Phase } from '$lib/core/task/model.ts';
import type { TaskDetailView } from '$lib/view/task-detail.ts';
import type { TaskRowView } from '$lib/view/tasks.ts';

/** What is most often done with a task. */
export type TaskAct =
  'finish' | 'open again' | 'change date' | 'stuck' | 'acknowledge' | 'snooze' | 'hush' | 'comment';

const WORDS: Record<TaskAct, string> = {
  finish: 'Finish',
  'open again': 'Open again',
  'change date': 'Change date',
  stuck: 'Stuck',
  acknowledge: 'Acknowledge',
  snooze: 'Snooze',
  hush: 'Hush',
  comment: 'Comment'
};

const KEYS: Record<TaskAct, string> = {
  ...{ finish: 'f', 'open again': 'f', 'change date': 'd', stuck: 'u' },
  ...{ acknowledge: 'a', snooze: 'z', hush: 'h', comment: 'c' }
};

/** The key that does it, on the page of a task. */
export function keyOfAct(act: TaskAct): string {
  return KEYS[act];
}

/** What can be done with a task now, in the order of the bar: nothing is offered that would be refused. */
export function actsOn({
  editable,
  row,
  quiet,
  said
}: Pick<TaskDetailView, 'editable' | 'row' | 'quiet' | 'said'>): { name: TaskAct; words: string }[] {
  const over = row.phase === 'finished' || row.phase === 'closed';
  const acts: [TaskAct, boolean][] = [
    ['finish', editable && !over],
    ['open again', editable && over],
    ['change date', editable && !over],
    ['stuck', editable && !over && row.phase !== 'stuck on others'],
    ['acknowledge', said.offered],
    ['snooze', quiet.snoozable.length > 0],
    ['hush', editable && !over],
    ['comment', editable]
  ];
  return acts
    .filter(([, offered]) => offered && row.setAside === null)
    .map(([name]) => ({ name, words: WORDS[name] }));
}

/** What can be done with a row of the list. Whether there is something to acknowledge or to snooze is known where the task is open. */
export function actsOfRow({
  editable,
  phase,
  setAside
}: Pick<TaskRowView, 'editable' | 'phase' | 'setAside'>): { name: TaskAct; words: string }[] {
  if (!editable || setAside !== null) return [];
  const over = phase === 'finished' || phase === 'closed';
  const open: TaskAct[] = phase === 'stuck on others' ? [] : ['stuck'];
  const acts: TaskAct[] = over
    ? ['open again', 'comment']
    : ['finish', 'change date', 'comment', ...open, 'acknowledge', 'snooze', 'hush'];
  return acts.map((name) => ({ name, words: WORDS[name] }));
}

/** What is said where somebody came to do an act that cannot be done with a task now. */
export function notNow(act: TaskAct): string {
  if (act === 'snooze') return 'There is no notice to snooze.';
  return act === 'acknowledge'
    ? 'There is nothing to acknowledge on this task now.'
    : `“${WORDS[act]}” is not possible for this task now.`;
}

/** The act that an address asks for, such as `#do-hush`; null where it asks for none. */
export function actAsked(hash: string): TaskAct | null {
  const acts = Object.keys(WORDS) as TaskAct[];
  return acts.find((act) => hash === `#do-${act}` || hash === `#do-${encodeURIComponent(act)}`) ?? null;
}

const PHASE_OF = {
  finish: 'finished',
  'open again': 'waiting to start',
  stuck: 'stuck on others'
} as const satisfies Partial<Record<TaskAct, Phase>>;

/** The status that an act leads to: the first of its phase; null where the workspace has none. */
export function statusFor(
  act: keyof typeof PHASE_OF,
  statuses: readonly { id: number; phase: Phase }[]
): number | null {
  return statuses.find(({ phase }) => phase === PHASE_OF[act])?.id ?? null;
}
