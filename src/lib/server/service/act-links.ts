import { CodedError } from '../../core/errors.ts';
import type { LinkAct } from '../../core/message/acts.ts';
import { isOpen } from '../../core/rule/model.ts';
import { formatDay, parseDay } from '../../core/time/day.ts';
import { shortDay, shortMoment } from '../../core/time/format.ts';
import { parseTimeOfDay } from '../../core/time/time-of-day.ts';
import type { Zone } from '../../core/time/zone.ts';
import { instantOnWall } from '../../core/time/instant.ts';
import type { PersonFacts } from '../../core/forecast/facts.ts';
import type { ActLinkView } from '../../view/act-link.ts';
import { sightOf } from '../auth/sight.ts';
import type { UnitOfWork } from '../db/unit-of-work.ts';
import { readActToken, tokenHash, type ActSubject } from '../engine/act-tokens.ts';
import type { WorkspaceClock } from '../engine/clock.ts';
import type { FactsSource } from '../engine/facts-source.ts';
import type { Stores } from '../store/all.ts';
import type { NoticeRecord } from '../store/notices.ts';
import type { Task } from '../store/tasks.ts';
import type { Actor } from './commit.ts';
import type { HandRings } from './hand-rings.ts';
import { nextWorkingDay, promiseWords, type Promises } from './promises.ts';
import type { QuietService } from './quiet.ts';
import { lateness } from './task-rows.ts';
import { mayEdit, type TaskService } from './tasks.ts';

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

const HOUR_MS = 3_600_000;

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
    promises: Promises
  ) {
    this.#work = work;
    this.#stores = stores;
    this.#source = source;
    this.#clock = clock;
    this.#tasks = tasks;
    this.#quiet = quiet;
    this.#handRings = handRings;
    this.#promises = promises;
  }

  /**
   * What the page of a link shows.
   * @throws CodedError `link-broken`, `link-old`, `link-used` or `task-gone`
   */
  view(token: string): ActLinkView {
    const { act, notice, task, reader } = this.#open(token);
    const now = this.#clock.now();
    const { zone } = reader;
    const today = zone.dayOf(now);
    const workday = nextWorkingDay(reader, today);
    const dates = [
      { words: 'Tomorrow', day: today + 1 },
      { words: 'Next working day', day: workday },
      { words: 'In a week', day: today + 7 }
    ].filter(({ day }, i, all) => all.findIndex((one) => one.day === day) === i);
    return {
      act,
      task: task.name,
      project: this.#source.facts.projects.get(task.projectId ?? 0)?.name ?? null,
      due: task.due === null ? null : shortDay(parseDay(task.due.date), today),
      left: this.#left(task, zone, now),
      reader: reader.name,
      question: this.#question(notice)?.text ?? null,
      today: formatDay(today),
      choices:
        act === 'date' || act === 'promise'
          ? dates.map(({ words, day }) => ({
              words: `${words}, ${shortDay(day, today)}`,
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

  /**
   * Does what a link is for, and uses it up.
   * @param value of another date, or one that is promised, `YYYY-MM-DD`; of a later reminder its instant, ms
   * @returns what was done, in words
   * @throws CodedError as `view`, and what keeps the act itself from being done; the link works on then
   */
  perform(token: string, value: string): string {
    return this.#work.run(() => {
      const { act, hash, notice, digestRunId, task, reader } = this.#open(token);
      const by = { act, personId: reader.id, at: this.#clock.now() };
      if (!this.#stores.actLinks.use(hash, { noticeId: notice?.id ?? null, digestRunId }, by))
        throw new CodedError('link-used', { when: 'just now' });
      const messageId = this.#stores.actLinks.messageOf({ noticeId: notice?.id ?? null, digestRunId });
      const actor: Actor = { personId: reader.id, source: 'link', messageId };
      const words = this.#do(actor, act, notice, task, reader, value);
      if (notice) this.#stores.notices.act(notice.id, by.at);
      return words;
    });
  }

  #do(
    actor: Actor,
    act: LinkAct,
    notice: NoticeRecord | null,
    task: Task,
    reader: PersonFacts,
    value: string
  ): string {
    const today = reader.zone.dayOf(this.#clock.now());
    switch (act) {
      case 'done': {
        const finished = this.#stores.projects.statuses().find(({ phase }) => phase === 'finished');
        if (!finished) throw new CodedError('status-gone');
        this.#mayEdit(task, reader.id);
        if (isOpen(task.phase)) this.#tasks.edit(actor, task.id, { statusId: finished.id });
        return `“${task.name}” is finished.`;
      }
      case 'date': {
        this.#mayEdit(task, reader.id);
        const day = parseDay(value);
        this.#tasks.edit(actor, task.id, { dueDate: formatDay(day) });
        return `“${task.name}” is due on ${shortDay(day, today)} now.`;
      }
      case 'promise': {
        const promised = value === '' ? null : value;
        const { result } = this.#promises.acknowledge(actor, task, reader, promised);
        return promiseWords(task.name, promised, today, result.asked);
      }
      case 'later': {
        const at = Number(value);
        if (!Number.isSafeInteger(at)) throw new CodedError('snooze-past', {}, 'at');
        // A digest offers no such link: what it lists is listed again.
        const { pastDue } = this.#quiet.snooze(actor, notice!.id, at);
        const when = shortMoment(at, reader.zone, today);
        return `You are reminded of “${task.name}” on ${when}${pastDue ? ', after its date' : ''}.`;
      }
      default: {
        const question = this.#question(notice);
        if (!question) throw new CodedError('question-answered');
        this.#handRings.answer(actor, false, question.id, act);
        return act === 'change'
          ? 'Your answer was taken: something must change. Open the task to change it.'
          : `Your answer was taken: ${act}.`;
      }
    }
  }

  #open(token: string): Opened {
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
    if (!task || task.setAside === 'binned') throw new CodedError('task-gone');
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
    if (!mayEdit(task, sight, this.#stores)) throw new CodedError('task-not-yours');
  }

  #question(notice: NoticeRecord | null) {
    const run = notice && this.#stores.runs.ofRing(notice.ringId);
    return run ? this.#stores.questions.ofRun(run.id, notice!.stepId) : null;
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
