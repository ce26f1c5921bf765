import { CodedError } from '../../core/errors.ts';
import type { LinkAct } from '../../core/message/acts.ts';
import { isOpen } from '../../core/task/model.ts';
import { formatDay, parseDay, type Day } from '../../core/time/day.ts';
import { shortDay, shortMoment } from '../../core/time/format.ts';
import { parseTimeOfDay } from '../../core/time/time-of-day.ts';
import type { Zone } from '../../core/time/zone.ts';
import { instantOnWall } from '../../core/time/instant.ts';
import type { PersonFacts } from '../../core/forecast/facts/facts.ts';
import type { ActLinkView } from '../../view/act-link.ts';
import type { DaysView } from '../../view/days.ts';
import { daysView } from '../calendar/day-views.ts';
import { sightOf } from '../auth/sight.ts';
import type { UnitOfWork } from '../db/unit-of-work.ts';
import { TOKEN_OF_A_COPY, readActToken, tokenHash, type ActSubject } from '../engine/act-tokens.ts';
import type { WorkspaceClock } from '../engine/clock.ts';
import type { FactsSource } from '../engine/facts-source.ts';
import type { Stores } from '../store/all.ts';
import type { NoticeRecord } from '../store/notices.ts';
import type { Task } from '../store/tasks.ts';
import type { Actor } from '../workspace/commit.ts';
import type { HandRings } from '../rule/hand-rings.ts';
import { nextWorkingDay, promiseWords, type Promises } from '../task/promises.ts';
import type { QuietService } from '../rule/quiet.ts';
import { signedInAs, undoerAs } from '../workspace/signed-in.ts';
import { lateness } from '../task/task-rows.ts';
import { mayEdit, type TaskService } from '../task/tasks.ts';
import type { UndoService } from '../record/undo.ts';

/** What a link is about, once it is known to be ours. */
interface Opened {
  act: LinkAct;
  hash: Buffer;
  /** Null for a task in a digest. */
  notice: NoticeRecord | null;
  digestRunId: number | null;
  task: Task;
  reader: PersonFacts;
}

/** A task that has become another person’s private one is not there for whoever was told of it before. */
export function mayRead(task: Task, readerId: number | null): boolean {
  return !task.private || task.ownerId === readerId;
}

const HOUR_MS = 3_600_000;
/** Links that are about work that is still to be done; the others answer a question. */
const TASK_ACTS: ReadonlySet<LinkAct> = new Set(['done', 'date', 'promise', 'later']);

/**
 * What can be done by the links in a message, without signing in: one act, once, for the person whom the message was for. Opening such a
 * link changes nothing, since programs open links in mail too; the press on its page does.
 */
export class ActLinks {
  readonly #work: UnitOfWork;
  readonly #stores: Stores;
  readonly #source: FactsSource;
  readonly #clock: WorkspaceClock;
  readonly #tasks: TaskService;
  readonly #quiet: QuietService;
  readonly #handRings: HandRings;
  readonly #promises: Promises;
  readonly #undo: UndoService;

  constructor(
    {
      work,
      stores,
      source,
      clock
    }: { work: UnitOfWork; stores: Stores; source: FactsSource; clock: WorkspaceClock },
    tasks: TaskService,
    quiet: QuietService,
    handRings: HandRings,
    promises: Promises,
    undo: UndoService
  ) {
    this.#work = work;
    this.#stores = stores;
    this.#source = source;
    this.#clock = clock;
    this.#tasks = tasks;
    this.#quiet = quiet;
    this.#handRings = handRings;
    this.#promises = promises;
    this.#undo = undo;
  }

  /**
   * What the page of a link shows.
   * @throws CodedError `link-broken`, `link-old`, `link-used`, `task-gone`, `task-not-yours`, `link-task-over` or `link-task-not-yours`
   */
  view(token: string): ActLinkView {
    const { act, notice, task, reader } = this.#open(token);
    this.#standsOpen(act, task, reader);
    const now = this.#clock.now();
    const { zone } = reader;
    const today = zone.dayOf(now);
    return {
      act,
      task: task.name,
      project: this.#source.facts.projects.get(task.projectId ?? 0)?.name ?? null,
      due: task.due === null ? null : shortDay(parseDay(task.due.date), today),
      left: this.#left(task, zone, now),
      reader: reader.name,
      question: this.#question(notice)?.text ?? null,
      today: formatDay(today),
      days: act === 'date' || act === 'promise' ? this.#days(task, reader) : null,
      choices:
        act === 'date' || act === 'promise'
          ? dateChoices(reader, today).map(({ words, day, closed }) => ({
              words: `${words}, ${shortDay(day, today)}${closed ? ', a closed day' : ''}`,
              value: formatDay(day)
            }))
          : act === 'later'
            ? this.#laters(reader, now).map(({ words, at }) => ({
                words: `${words}, ${shortMoment(at, zone, today)}`,
                value: String(at)
              }))
            : []
    };
  }

  /** By which the date of the task goes. */
  #days({ ownerId, projectId }: Task, reader: PersonFacts): DaysView {
    const from = { source: this.#source, clock: this.#clock };
    return daysView(from, reader.id, { task: { owner: ownerId, project: projectId } });
  }

  /**
   * Does what a link is for, and uses it up.
   * @param value of another date, or one that is promised, `YYYY-MM-DD`; of a later reminder its instant, ms
   * @returns what was done, in words, and whether it can be taken back from the page of the link
   * @throws CodedError as `view`, and what keeps the act itself from being done; the link works on then
   */
  perform(token: string, value: string): { words: string; undoable: boolean } {
    return this.#work.run(() => {
      const { act, hash, notice, digestRunId, task, reader } = this.#open(token);
      const by = { act, personId: reader.id, at: this.#clock.now() };
      if (!this.#stores.actLinks.use(hash, { noticeId: notice?.id ?? null, digestRunId }, by))
        throw new CodedError('link-used', { when: 'just now' });
      const messageId = this.#stores.actLinks.messageOf({ noticeId: notice?.id ?? null, digestRunId });
      const actor: Actor = { personId: reader.id, source: 'link', messageId };
      this.#standsOpen(act, task, reader);
      const { words, changeId } = this.#do(actor, act, notice, task, reader, value);
      if (changeId !== null) this.#stores.actLinks.made(hash, changeId);
      if (notice) this.#stores.notices.act(notice.id, by.at);
      return { words, undoable: changeId !== null };
    });
  }

  /**
   * Takes back what a link did, for the person whom it was for.
   * @returns what it took back, in words
   * @throws CodedError `link-broken`, `link-old`, or as `UndoService.undo`
   */
  undo(token: string): string {
    const read = readActToken(this.#stores.actLinks.key(), token);
    const used = read && this.#stores.actLinks.used(tokenHash(token));
    const person = used && this.#stores.people.byId(used.personId);
    if (!used || used.changeId === null || !person?.active) throw new CodedError('link-broken');
    if (this.#clock.now() >= read.expiresAt) throw new CodedError('link-old');
    this.#undo.undo(used.changeId, undoerAs(signedInAs(person, this.#stores)));
    const task = this.#stores.tasks.byId(this.#subjectOf(read.of).taskId ?? 0);
    const name = task && mayRead(task, person.id) ? `“${task.name}”` : 'the task';
    return `Undone: ${name} is as it was.`;
  }

  /** What a message offers may be over by the time that its link is pressed: that is said before a form is shown. */
  #standsOpen(act: LinkAct, task: Task, reader: PersonFacts): void {
    if (!TASK_ACTS.has(act)) return;
    if (!isOpen(task.phase)) throw new CodedError('link-task-over', { name: task.name, state: task.phase });
    if (act === 'later') return;
    const owners = [task.ownerId, ...this.#stores.tasks.otherOwnersOf(task.id)];
    if (act === 'promise' && !owners.includes(reader.id)) {
      const owner = this.#source.facts.people.get(task.ownerId ?? 0);
      const whose = owner ? `${owner.name}’s` : 'nobody’s';
      throw new CodedError('link-task-not-yours', { name: task.name, owner: whose });
    }
    if (act !== 'promise') this.#mayEdit(task, reader.id);
  }

  #do(
    actor: Actor,
    act: LinkAct,
    notice: NoticeRecord | null,
    task: Task,
    reader: PersonFacts,
    value: string
  ): { words: string; changeId: number | null } {
    const today = reader.zone.dayOf(this.#clock.now());
    switch (act) {
      case 'done': {
        const finished = this.#stores.projects.statuses().find(({ phase }) => phase === 'finished');
        if (!finished) throw new CodedError('status-gone');
        const { changeId } = this.#tasks.edit(actor, task.id, { statusId: finished.id });
        return { words: `“${task.name}” is finished.`, changeId };
      }
      case 'date': {
        const day = parseDay(value);
        const { changeId } = this.#tasks.edit(actor, task.id, { dueDate: formatDay(day) });
        return { words: `“${task.name}” is due on ${shortDay(day, today)} now.`, changeId };
      }
      case 'promise': {
        const promised = value === '' ? null : value;
        const { result } = this.#promises.acknowledge(actor, task, reader, promised);
        return { words: promiseWords(task.name, promised, today, result.asked), changeId: null };
      }
      case 'later': {
        const at = Number(value);
        if (!Number.isSafeInteger(at)) throw new CodedError('snooze-past', {}, 'at');
        // A digest offers no such link: what it lists is listed again.
        const { pastDue } = this.#quiet.snooze(actor, notice!.id, at);
        const when = shortMoment(at, reader.zone, today);
        return {
          words: `We will remind you of “${task.name}” on ${when}${pastDue ? ', after its date' : ''}.`,
          changeId: null
        };
      }
      default: {
        const question = this.#question(notice);
        if (!question) throw new CodedError('question-answered');
        this.#handRings.answer(actor, false, question.id, act);
        const words =
          act === 'change' ? 'Answer saved. Open the task to change it.' : `Answer saved: ${act}.`;
        return { words, changeId: null };
      }
    }
  }

  #open(token: string): Opened {
    if (token === TOKEN_OF_A_COPY) throw new CodedError('link-of-a-copy');
    const read = readActToken(this.#stores.actLinks.key(), token);
    if (!read) throw new CodedError('link-broken');
    const now = this.#clock.now();
    const hash = tokenHash(token);
    const { notice, digestRunId, taskId, readerId } = this.#subjectOf(read.of);
    const reader = this.#source.facts.people.get(readerId ?? 0);
    const used = this.#stores.actLinks.used(hash);
    if (used) {
      const zone = reader?.zone ?? this.#source.facts.workspace.zone;
      throw new CodedError('link-used', { when: shortMoment(used.at, zone, zone.dayOf(now)) });
    }
    if (now >= read.expiresAt) throw new CodedError('link-old');
    const task = taskId === null ? null : this.#stores.tasks.byId(taskId);
    if (!task || task.setAside === 'binned' || !mayRead(task, readerId)) throw new CodedError('task-gone');
    if (!reader || !this.#stores.people.byId(reader.id)?.active) throw new CodedError('link-broken');
    return { act: read.act, hash, notice, digestRunId, task, reader };
  }

  /** What a link is about, and who may use it. */
  #subjectOf(of: ActSubject): {
    notice: NoticeRecord | null;
    digestRunId: number | null;
    taskId: number | null;
    readerId: number | null;
  } {
    if ('digestRunId' in of) {
      const { digestRunId, taskId } = of;
      const run = this.#stores.digests.run(digestRunId);
      return { notice: null, digestRunId, taskId, readerId: run?.readerId ?? null };
    }
    const notice = this.#stores.notices.byId(of.noticeId);
    return {
      notice,
      digestRunId: null,
      taskId: notice?.taskId ?? null,
      readerId: notice?.readerId ?? null
    };
  }

  #left(task: Task, zone: Zone, now: number): string | null {
    const facts = this.#stores.tasks.factsOf(task.id);
    return facts ? lateness(this.#source.planner, task, facts, now, zone).left : null;
  }

  /** The message may be older than what its reader may do. */
  #mayEdit(task: Task, personId: number): void {
    const sight = sightOf(this.#stores.people.byId(personId)!, this.#stores);
    if (!mayEdit(task, sight, { stores: this.#stores })) throw new CodedError('task-not-yours');
  }

  #question(notice: NoticeRecord | null) {
    const run = notice && this.#stores.runs.ofRing(notice.ringId);
    return run ? this.#stores.questions.ofRun(run.id, notice.stepId) : null;
  }

  #laters(reader: PersonFacts, now: number): { words: string; at: number }[] {
    const today = reader.zone.dayOf(now);
    // Put off to another day it comes when notices on a date do, on the wall of whoever put it off.
    const { noticeTime } = this.#stores.settings.workspace()!;
    const morning = (day: number) => instantOnWall(day, parseTimeOfDay(noticeTime), reader.zone);
    return [
      { words: 'In an hour', at: Math.ceil((now + HOUR_MS) / 60_000) * 60_000 },
      { words: 'Next working day', at: morning(nextWorkingDay(reader, today)) },
      { words: 'In a week', at: morning(today + 7) }
    ];
  }
}

/** Dates that can be pressed. Where the next day is a closed one for whoever chooses, their next working day comes first. */
function dateChoices(reader: PersonFacts, today: Day): { words: string; day: Day; closed: boolean }[] {
  const isClosed = (day: Day) => !reader.calendar.days.isWorking(day);
  const tomorrow = { words: 'Tomorrow', day: today + 1 };
  const workday = { words: 'Next working day', day: nextWorkingDay(reader, today) };
  const first = isClosed(tomorrow.day) ? [workday, tomorrow] : [tomorrow];
  return [...first, { words: 'In a week', day: today + 7 }].map((one) => ({
    ...one,
    closed: isClosed(one.day)
  }));
}
