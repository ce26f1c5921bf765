import type { Phase } from '$lib/core/task/model.ts';
import type { TaskDetailView } from '$lib/view/task-detail.ts';

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
