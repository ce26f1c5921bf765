import { many } from '../../../core/many.ts';
import { CodedError } from '../../../core/errors.ts';
import { weekOn } from '../../../core/calendar/spec.ts';
import { formatDay } from '../../../core/time/day.ts';
import { longDate, longDay, longMoment } from '../../../core/time/format.ts';
import { instantOnWall } from '../../../core/time/instant.ts';
import { parseTimeOfDay } from '../../../core/time/time-of-day.ts';
import type { InstantMs, Zone } from '../../../core/time/zone.ts';
import { weekStartOf } from '../../../core/ring/week-spans.ts';
import { placeOfZone } from '../../../core/time/zone-names.ts';
import type { QuickAbout, QuickChoice, QuickPiece, QuickView } from '../../../view/quick-add.ts';
import type { FactsSource } from '../../engine/facts-source.ts';
import type { WorkspaceClock } from '../../engine/clock.ts';
import type { TaskInput } from '../schema.ts';
import type { QuickAnswers } from './schema.ts';
import type { Stores } from '../../store/all.ts';
import type { Actor, Committed } from '../../workspace/commit.ts';
import { LONGEST_NAME } from '../schema.ts';
import { sightOf } from '../../auth/sight.ts';
import { offeredProjects } from '../../project/project-rights.ts';
import type { TaskService } from '../tasks.ts';
import { nameOfLine, readLine, unclearOf, type PieceAbout, type QuickLine } from './line.ts';
import type { TypedDate, Typist } from '../../../core/typed/date.ts';

/** What a task begins with where the line says nothing else. */
export interface Beginning {
  ownerId: number | null;
  private: boolean;
  dueDate: string | null;
}

/** A task from one line of plain words. */
export class QuickAdd {
  readonly #stores: Stores;
  readonly #source: FactsSource;
  readonly #clock: WorkspaceClock;
  readonly #tasks: TaskService;
  readonly #beginning: (personId: number) => Beginning;

  /** @param beginning what a task that somebody types begins with */
  constructor(
    stores: Stores,
    source: FactsSource,
    clock: WorkspaceClock,
    tasks: TaskService,
    beginning: (personId: number) => Beginning
  ) {
    this.#stores = stores;
    this.#source = source;
    this.#clock = clock;
    this.#tasks = tasks;
    this.#beginning = beginning;
  }

  /** What a line would become, read back as a sentence, with what must be asked. */
  read(text: string, personId: number, answers: QuickAnswers = {}): QuickView {
    const line = this.#line(text, personId);
    const questions = questionsOf(line).filter(({ about }) => answers[about] === undefined);
    const name = nameOf(line, answers);
    return {
      name,
      pieces: piecesOf(line, answers),
      sentence: name === '' ? '' : this.#sentence(line, personId, answers),
      questions
    };
  }

  /**
   * Adds the task; where nothing was answered the first meaning holds only if it is the only one.
   * @throws CodedError `quick-empty`, `quick-unclear` or those of adding a task
   */
  add(actor: Actor, text: string, answers: QuickAnswers = {}): Committed<{ id: number; name: string }> {
    const personId = actor.personId!;
    const line = this.#line(text, personId);
    if (nameOf(line, answers) === '') throw new CodedError('quick-empty');
    const open = questionsOf(line).find(({ about }) => answers[about] === undefined);
    if (open) throw new CodedError('quick-unclear', { question: open.question });
    const input = this.#input(line, personId, answers);
    const { changeId, result } = this.#tasks.add(actor, input);
    return { changeId, result: { id: result, name: input.name } };
  }

  #line(text: string, personId: number): QuickLine {
    const { people } = this.#source.facts;
    const person = this.#stores.people.byId(personId)!;
    return readLine(text.slice(0, LONGEST_NAME + 500), this.#typist(personId), {
      people: [...people.values()].filter(({ active }) => active),
      projects: offeredProjects(this.#stores, sightOf(person, this.#stores)),
      selfId: personId
    });
  }

  #typist(personId: number): Typist {
    const { calendar } = this.#source.facts.people.get(personId) ?? this.#source.facts.workspace;
    const { zone, now } = this.#here(personId);
    const week = weekOn(calendar.calendar, zone.dayOf(now));
    return { wall: zone.localOf(now), days: calendar.days, weekStart: weekStartOf(week) };
  }

  /** Where and when somebody types. */
  #here(personId: number): { zone: Zone; now: InstantMs } {
    const { people, workspace } = this.#source.facts;
    return { zone: (people.get(personId) ?? workspace).zone, now: this.#clock.now() };
  }

  #input(line: QuickLine, personId: number, answers: QuickAnswers): TaskInput {
    const due = chosen(line.due?.choices ?? [], answers.due);
    const owner = chosen(line.owners, answers.owner);
    const project = chosen(line.projects, answers.project);
    const { zone } = this.#here(personId);
    const habit = this.#beginning(personId);
    const ownerId = owner?.id ?? habit.ownerId;
    return {
      name: nameOf(line, answers).slice(0, LONGEST_NAME),
      description: '',
      projectId: project?.id ?? null,
      ownerId,
      statusId: null,
      priority: line.priority ?? 'ordinary',
      dueDate: due ? formatDay(due.day) : habit.dueDate,
      dueTime: due?.time ?? null,
      dueZone: due?.time ? zone.nameAt(momentOf(due, zone)) : undefined,
      startDate: null,
      startTime: null,
      private: habit.private && ownerId === personId,
      tags: line.tags,
      rhythm: due || habit.dueDate !== null || line.rhythm === null ? line.rhythm : null,
      renewFrom: 'due'
    };
  }

  /** The line as one plain sentence, in the words of the screens. */
  #sentence(line: QuickLine, personId: number, answers: QuickAnswers): string {
    const input = this.#input(line, personId, answers);
    const { people, projects } = this.#source.facts;
    const owner = input.ownerId === null ? undefined : people.get(input.ownerId);
    const { zone, now } = this.#here(personId);
    const due = chosen(line.due?.choices ?? [], answers.due);
    const parts = [`“${input.name}”`];
    if (!due && input.dueDate !== null) parts.push(`due ${longDate(input.dueDate)}, as you have set it`);
    else if (due) parts.push(this.#dueWords(due, input, owner?.zone ?? zone, zone, now));
    else parts.push('without a date');
    parts.push(owner?.id === personId ? 'yours' : `for ${owner?.name ?? 'nobody'}`);
    if (input.private) parts.push('private, as you have set it');
    if (input.projectId !== null) parts.push(`in ${projects.get(input.projectId)!.name}`);
    if (line.priority) parts.push(`${line.priority} priority`);
    if (line.tags.length > 0) parts.push(`tagged ${line.tags.join(', ')}`);
    if (line.rhythm && 'n' in line.rhythm) {
      const { n, unit } = line.rhythm;
      const word = unit === 'workday' ? 'working day' : unit;
      parts.push(
        input.dueDate !== null
          ? `repeating every ${n === 1 ? word : many(n, word)}`
          : 'repeating only when it has a date'
      );
    }
    return `${parts.join(', ')}.`;
  }

  #dueWords(due: TypedDate, input: TaskInput, there: Zone, here: Zone, now: number): string {
    const past = due.day < here.dayOf(now) ? ' (already past)' : '';
    if (due.time === null) return `due ${longDay(due.day)}${past}`;
    const at = momentOf(due, here);
    const own = `due ${longMoment(at, here)} in ${placeOfZone(input.dueZone!)}`;
    const differs = there.offsetAt(at) !== here.offsetAt(at);
    return `${own}${differs ? ` (${longMoment(at, there)} in ${placeOfZone(there.nameAt(at))})` : ''}${at <= now ? ' (already past)' : ''}`;
  }
}

function momentOf({ day, time }: TypedDate, zone: Zone): number {
  return instantOnWall(day, parseTimeOfDay(time!), zone);
}

function chosen<T>(choices: readonly T[], answer: number | undefined): T | null {
  return choices[answer ?? 0] ?? null;
}

/** The name with what was not understood, until somebody says that it is to be left out. */
function nameOf(line: QuickLine, answers: QuickAnswers): string {
  return nameOfLine(line, (nth) => answers[`unclear${nth}`] !== LEFT_OUT);
}

const KEEP_OR_LEAVE = ['Keep it in the name', 'Leave it out'];
const LEFT_OUT = 1;

function questionsOf(line: QuickLine): QuickView['questions'] {
  const { due, owners, projects } = line;
  const ask = (about: QuickChoice['about'], question: string, labels: string[]) =>
    labels.length > 1 ? [{ about, question, choices: labels }] : [];
  const names = (those: readonly { name: string }[]) => those.map(({ name }) => name);
  return [
    ...ask('due', 'When is it due?', due?.choices.map(({ label }) => label) ?? []),
    ...ask('owner', 'Who is the owner?', names(owners)),
    ...ask('project', 'In which project?', names(projects)),
    ...unclearOf(line).map(({ said, why }, nth) => ({
      about: `unclear${nth}` as const,
      question: why.includes(said) ? why : `“${said}” was not understood. ${why}`,
      choices: KEEP_OR_LEAVE
    }))
  ];
}

const PIECE_LABELS: Record<PieceAbout, string> = {
  due: 'Due',
  owner: 'Owner',
  project: 'Project',
  priority: 'Priority',
  tag: 'Tag',
  rhythm: 'Repeats'
};

/** What was understood, each with its meaning; where that must be asked first, only what it is about. */
function piecesOf(line: QuickLine, answers: QuickAnswers): QuickPiece[] {
  const one = <T>(of: readonly T[], about: QuickAbout, words: (of: T) => string) =>
    of.length > 1 && answers[about] === undefined ? 'which one?' : words(of[answers[about] ?? 0]!);
  const means: Record<PieceAbout, (said: string) => string> = {
    due: () => one(line.due!.choices, 'due', ({ label }) => label),
    owner: () => one(line.owners, 'owner', ({ name }) => name),
    project: () => one(line.projects, 'project', ({ name }) => name),
    priority: () => line.priority!,
    tag: (said) => said.replace(/^tag(?:ged)?\s+/i, ''),
    rhythm: (said) => said
  };
  return line.pieces.map(({ about, said }) => ({
    label: PIECE_LABELS[about],
    said,
    means: means[about](said)
  }));
}
