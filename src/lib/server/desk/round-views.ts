import { CodedError } from '../../core/errors.ts';
import { many } from '../../core/many.ts';
import { planForSpan } from '../../core/desk/plan.ts';
import { formatDay, type Day } from '../../core/time/day.ts';
import { shortDay, daysWords } from '../../core/time/format.ts';
import type { ChoiceView, RoundView } from '../../view/desk.ts';
import type { Sight } from '../store/tasks.ts';
import { dayView, nextDayAtWork } from './desk-days.ts';
import { deskOf, type Desk, type DeskEntry, type DeskServices } from './desk-of.ts';
import { deskRows, inOrder } from './desk-rows.ts';
import { giverOf } from './given.ts';

/** Which round: what came in, or what is left of today. */
export type RoundKind = 'placing' | 'evening';

/** So much of a description is read in a round. */
const DESCRIPTION = 400;

/** The tasks of a round in its order. */
export function roundIds(app: DeskServices, personId: number, kind: RoundKind): number[] {
  const { entries } = deskOf(app, personId);
  const place = kind === 'placing' ? 'to-place' : 'today';
  return entries
    .filter((entry) => entry.place === place)
    .sort(kind === 'placing' ? (a, b) => b.row.assignedAt - a.row.assignedAt || b.row.id - a.row.id : inOrder)
    .map(({ row }) => row.id);
}

/** One task with what can be done with it, and what stands on each of those days already. @throws CodedError `desk-not-there` */
export function roundView(
  app: DeskServices,
  personId: number,
  taskId: number,
  sight: Sight,
  kind: RoundKind
): RoundView {
  const desk = deskOf(app, personId);
  const entry = desk.entries.find(({ row }) => row.id === taskId);
  const task = app.stores.tasks.byId(taskId);
  if (!entry || !task)
    throw new CodedError('desk-not-there', { name: task && !task.private ? `“${task.name}”` : 'The task' });
  const choices = [
    leave(desk, entry, kind),
    ...(kind === 'placing' ? [today(desk, entry)] : []),
    nextDay(desk, entry),
    weekAfter(desk, entry),
    other(entry)
  ];
  const giver = giverOf(app, entry.row, personId);
  return {
    task: deskRows(app, desk, [entry], sight)[0]!,
    due: entry.task.due === null ? 'No due date' : `Due ${shortDay(entry.task.due, desk.today)}`,
    description:
      task.description.length > DESCRIPTION ? `${task.description.slice(0, DESCRIPTION)}…` : task.description,
    choices: [
      ...choices.flatMap((choice) => choice ?? []),
      plain(
        'park',
        'P',
        'Park it',
        'with a review date',
        'it stands with you, without a commitment, and no rule sees it'
      ),
      plain(
        'back',
        'B',
        'Not mine',
        giver.to ? `back to ${giver.to.name}` : 'to nobody',
        giver.to ? 'with a word from you' : 'the person who gave it is not here any more'
      )
    ]
  };
}

/** What every choice of a round has that asks for nothing. */
const ASKS_NOTHING = { day: null, asksDue: false, newDue: null, asksAsDue: false };

function plain(to: ChoiceView['to'], key: string, label: string, when: string, note: string): ChoiceView {
  return { to, key, label, when, note, ...ASKS_NOTHING };
}

function leave(desk: Desk, entry: DeskEntry, kind: RoundKind): ChoiceView {
  const { task } = entry;
  const date = task.start !== null && (task.due === null || task.start < task.due) ? task.start : task.due;
  const label = kind === 'evening' ? 'Leave it in Today' : 'Leave it';
  if (date === null)
    return plain(
      'leave',
      'L',
      label,
      'no date',
      kind === 'evening' ? 'it stays planned for today' : 'it stands in Undated: no rule sees it'
    );
  const what = `${date === task.due ? 'due' : 'starts'} ${shortDay(date, desk.today)}`;
  if (date < desk.today) return plain('leave', 'L', label, what, 'it stands in Today, and is late');
  if (date === desk.today)
    return plain('leave', 'L', label, what, `it stands in Today${others(desk, entry, date)}`);
  if (kind === 'evening') return plain('leave', 'L', label, what, 'it stays planned for today');
  return plain(
    'leave',
    'L',
    label,
    what,
    `comes to Today by itself on ${shortDay(date, desk.today)}${others(desk, entry, date)}`
  );
}

function today(desk: Desk, entry: DeskEntry): ChoiceView {
  const here = desk.entries.filter((one) => one.place === 'today' && one !== entry);
  const late = here.filter(({ task }) => task.due !== null && task.due < desk.today).length;
  const note =
    here.length === 0
      ? 'nothing is on it yet'
      : `${many(here.length, 'task is', 'tasks are')} on it${late > 0 ? `, ${late} of them late` : ''}`;
  return { ...dated('today', 'T', 'For today', desk, entry, desk.today, note), day: null };
}

function nextDay(desk: Desk, entry: DeskEntry): ChoiceView | null {
  const day = nextDayAtWork(desk.person, desk.today);
  if (day === null) return null;
  return dated('day', 'N', 'For the next working day', desk, entry, day, onDay(desk, entry, day));
}

function weekAfter(desk: Desk, entry: DeskEntry): ChoiceView {
  const plan = planForSpan('after', desk.today, desk.wall);
  const [first, last] =
    plan.kind === 'days' ? [plan.first, plan.last ?? plan.first] : [desk.today, desk.today];
  const here = desk.entries.filter((one) => one.place === 'after' && one !== entry).length;
  const notes = [here === 0 ? 'nothing is in it yet' : many(here, 'task'), ...leaveIn(desk, first, last)];
  const { asksDue, asksAsDue } = asked(entry, first);
  return {
    ...{
      to: 'after',
      key: 'W',
      label: 'For the week after',
      when: daysWords(first, last, desk.today),
      note: notes.join('; ')
    },
    ...{ day: null, asksDue, asksAsDue, newDue: asksDue || asksAsDue ? formatDay(last) : null }
  };
}

function other(entry: DeskEntry): ChoiceView {
  const note =
    entry.task.due === null
      ? 'it may become its due date too'
      : 'after its due date it asks for a new one, and that is a slip';
  return { ...plain('day', 'D', 'Another date', 'you choose', note), asksAsDue: entry.task.due === null };
}

function dated(
  to: ChoiceView['to'],
  key: string,
  label: string,
  { today: now }: Desk,
  entry: DeskEntry,
  day: Day,
  note: string
): ChoiceView {
  const { asksDue, asksAsDue } = asked(entry, day);
  return {
    to,
    key,
    label,
    when: shortDay(day, now),
    note,
    day: formatDay(day),
    asksDue,
    asksAsDue,
    newDue: asksDue || asksAsDue ? formatDay(day) : null
  };
}

/** A day after the due date asks for a new one; of a task without a date it is asked whether it is one. */
function asked({ task: { due } }: DeskEntry, day: Day): { asksDue: boolean; asksAsDue: boolean } {
  return { asksDue: due !== null && day > due, asksAsDue: due === null };
}

function onDay(desk: Desk, entry: DeskEntry, day: Day): string {
  const count = standing(desk, entry, day);
  const { notes } = dayView(desk.person, day);
  return [
    count === 0 ? 'nothing is on it yet' : `${many(count, 'task is', 'tasks are')} on it`,
    ...notes
  ].join('; ');
}

function others(desk: Desk, entry: DeskEntry, day: Day): string {
  const count =
    day === desk.today
      ? desk.entries.filter((one) => one.place === 'today' && one !== entry).length
      : standing(desk, entry, day);
  return count === 0
    ? '; nothing else is on that day'
    : `; ${many(count, 'other task is', 'other tasks are')} on that day`;
}

function standing({ entries }: Desk, entry: DeskEntry, day: Day): number {
  return entries.filter(
    (one) =>
      one !== entry &&
      one.day === day &&
      (one.place === 'rest' || one.place === 'after' || one.place === 'further')
  ).length;
}

/** Leave and holidays from one date to another, in words. */
function leaveIn({ person, today: now }: Desk, first: Day, last: Day): string[] {
  const notes: string[] = [];
  for (let day = first; day <= last; day++)
    for (const note of dayView(person, day).notes) notes.push(`${note} on ${shortDay(day, now)}`);
  return notes.slice(0, 3);
}
