import { CodedError } from '../../core/errors.ts';
import { many } from '../../core/many.ts';
import { planForSpan } from '../../core/desk/plan.ts';
import { planShort } from '../../core/desk/place-words.ts';
import { formatDay, type Day } from '../../core/time/day.ts';
import { shortDay } from '../../core/time/format.ts';
import type { ChoiceView, RoundDay, RoundView } from '../../view/desk.ts';
import type { Sight } from '../store/tasks.ts';
import { dayView, hoursOf, nextDayAtWork } from './desk-days.ts';
import { deskOf, isAhead, isLate, type Desk, type DeskEntry, type DeskServices } from './desk-of.ts';
import { deskRows, inOrder, newestFirst } from './desk-rows.ts';
import { givenBackTo } from './given.ts';

/** Which round: what came in, or what is left of today. */
export type RoundKind = 'placing' | 'evening';

/** So much of a description is read in a round. */
const DESCRIPTION = 400;

/** The tasks of a round in its order. */
export function roundIds(app: DeskServices, personId: number, kind: RoundKind): number[] {
  const place = kind === 'placing' ? 'to-place' : 'today';
  return deskOf(app, personId)
    .entries.filter((entry) => entry.place === place)
    .sort(kind === 'placing' ? newestFirst : inOrder)
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
  if (!entry || !task) throw new CodedError('desk-not-there', { name: 'The task' });
  const { description } = task;
  const choices = new Choices(desk, entry);
  const to = givenBackTo(app, entry.row, personId);
  const offered = [
    kind === 'placing' ? choices.leave() : choices.pass(),
    ...(kind === 'placing' ? [choices.today()] : []),
    ...choices.nextDay(),
    choices.weekAfter(),
    choices.other(),
    choices.park(),
    choices.back(to?.name ?? null)
  ];
  const days = choices.days(offered);
  return {
    task: deskRows(app, desk, [entry], sight)[0]!,
    due: entry.task.due === null ? 'No due date' : `Due ${shortDay(entry.task.due, desk.today)}`,
    description: description.length > DESCRIPTION ? `${description.slice(0, DESCRIPTION)}…` : description,
    choices: offered,
    days,
    hours: hoursOf(days)
  };
}

type Said = Pick<ChoiceView, 'to' | 'key' | 'label' | 'when' | 'note'>;

/** What can be done with one task, each with what it comes to. */
class Choices {
  readonly #desk: Desk;
  readonly #entry: DeskEntry;

  constructor(desk: Desk, entry: DeskEntry) {
    this.#desk = desk;
    this.#entry = entry;
  }

  /** It stands where its own dates put it. */
  leave(): ChoiceView {
    const { start, due } = this.#entry.task;
    const { today } = this.#desk;
    const date = start !== null && (due === null || start < due) ? start : due;
    const on = date === null ? null : Math.max(date, today);
    const said = (when: string, note: string): ChoiceView => ({
      ...this.#plain({ to: 'leave', key: 'L', label: 'Leave it', when, note }),
      on: on === null ? null : [formatDay(on), formatDay(on)]
    });
    if (date === null) return said('no date', 'it stands in Undated: no rule sees it');
    const what = date === due ? 'due' : date > today ? 'starts' : 'started';
    const when = `${what} ${shortDay(date, today)}`;
    if (due !== null && due < today) return said(when, 'it stands in Today, and is late');
    if (date <= today) return said(when, `it stands in Today; ${this.#others(today)}`);
    return said(when, `comes to Today by itself on ${shortDay(date, today)}; ${this.#others(date)}`);
  }

  /** In the evening it stays in Today, as it is. */
  pass(): ChoiceView {
    const note = 'nothing is changed: it stands there tomorrow too';
    const said = this.#plain({ to: 'leave', key: 'L', label: 'Leave it in Today', when: 'as it is', note });
    const today = formatDay(this.#desk.today);
    return { ...said, passes: true, on: [today, today] };
  }

  today(): ChoiceView {
    const desk = this.#desk;
    const here = this.#beside((one) => one.place === 'today');
    const late = here.filter((one) => isLate(one, desk)).length;
    const note = `${onIt(here.length)}${late > 0 ? `, ${late} of them late` : ''}`;
    const said = { to: 'today', key: 'T', label: 'For today', when: shortDay(desk.today), note } as const;
    return this.#onDays(said, desk.today, desk.today, null);
  }

  /** On their own calendar, leave counted as closed; none where no such day is known. */
  nextDay(): ChoiceView[] {
    const { person, today } = this.#desk;
    const day = nextDayAtWork(person, today);
    if (day === null) return [];
    const note = [onIt(this.#onDay(day)), ...dayView(person, day).notes].join('; ');
    const when = shortDay(day, today);
    const said = { to: 'day', key: 'N', label: 'For the next working day', when, note } as const;
    return [this.#onDays(said, day, day, formatDay(day))];
  }

  weekAfter(): ChoiceView {
    const { today, wall } = this.#desk;
    const plan = planForSpan('after', today, wall);
    const last = plan.last ?? plan.first;
    const here = this.#beside(({ place }) => place === 'after').length;
    const note = [
      here === 0 ? 'nothing is in it yet' : many(here, 'task'),
      ...this.#notesIn(plan.first, last)
    ];
    const when = planShort(plan, today);
    const said = { to: 'after', key: 'W', label: 'For the week after', when, note: note.join('; ') } as const;
    return this.#onDays(said, plan.first, last, null);
  }

  other(): ChoiceView {
    const isUndated = this.#entry.task.due === null;
    const note = isUndated
      ? 'it may become its due date too'
      : 'after its due date it asks for a new one, and that is a slip';
    const said = { to: 'day', key: 'D', label: 'Another date', when: 'you choose', note } as const;
    return { ...this.#plain(said), asksAsDue: isUndated };
  }

  park(): ChoiceView {
    const note = 'it stands with you, without a commitment, and no rule sees it';
    return this.#plain({ to: 'park', key: 'P', label: 'Park it', when: 'with a review date', note });
  }

  /** @param to who has it then */
  back(to: string | null): ChoiceView {
    const [when, note] =
      to === null ? ['to nobody', 'it has no owner then'] : [`back to ${to}`, 'with a word from you'];
    return this.#plain({ to: 'back', key: 'B', label: 'Not mine', when, note });
  }

  /** Their days to the end of the week after, with the keys of the choices that would put it there: of several days, on those they work. */
  days(choices: readonly ChoiceView[]): RoundDay[] {
    const { person, today, wall } = this.#desk;
    const days: RoundDay[] = [];
    for (let day = today; day < wall.nextWeekAfter(today) + 7; day++) {
      // A date that is skipped where they are is none of theirs.
      if (day !== today && wall.reachedWith(day) !== day) continue;
      const shown = dayView(person, day);
      const isOn = ({ on }: ChoiceView) =>
        on !== null && on[0] <= shown.date && shown.date <= on[1] && (on[0] === on[1] || !shown.closed);
      days.push({ ...shown, count: this.#onDay(day), keys: choices.filter(isOn).map(({ key }) => key) });
    }
    return days;
  }

  #plain(said: Said): ChoiceView {
    return {
      ...said,
      day: null,
      asksDue: false,
      newDue: null,
      asksAsDue: false,
      mayKeepDue: false,
      passes: false,
      on: null
    };
  }

  /** From a first day on: after the due date it asks for a new one; of a task without a date it is asked whether it is one. */
  #onDays(said: Said, first: Day, last: Day, day: string | null): ChoiceView {
    const { due } = this.#entry.task;
    const asksDue = due !== null && first > due;
    const asksAsDue = due === null;
    const newDue = asksDue || asksAsDue ? formatDay(last) : null;
    const mayKeepDue = asksDue && due > this.#desk.today;
    const on: ChoiceView['on'] = [formatDay(first), formatDay(last)];
    return { ...this.#plain(said), day, asksDue, asksAsDue, newDue, mayKeepDue, on };
  }

  #beside(is: (one: DeskEntry) => boolean): DeskEntry[] {
    return this.#desk.entries.filter((one) => one !== this.#entry && is(one));
  }

  #onDay(day: Day): number {
    const { today } = this.#desk;
    return this.#beside(({ place, day: on }) =>
      day === today ? place === 'today' : on === day && isAhead(place)
    ).length;
  }

  #others(day: Day): string {
    const count = this.#onDay(day);
    return count === 0
      ? 'nothing else is on that day'
      : `${many(count, 'other task is', 'other tasks are')} on that day`;
  }

  /** Leave and holidays from one date to another, in words. */
  #notesIn(first: Day, last: Day): string[] {
    const { person, today } = this.#desk;
    const days = Array.from({ length: last - first + 1 }, (_, i) => first + i);
    return days
      .flatMap((day) => dayView(person, day).notes.map((note) => `${note} on ${shortDay(day, today)}`))
      .slice(0, 3);
  }
}

function onIt(count: number): string {
  return count === 0 ? 'nothing is on it yet' : `${many(count, 'task is', 'tasks are')} on it`;
}
