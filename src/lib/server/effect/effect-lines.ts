import { many } from '../../core/many.ts';
import { canBeOverdue, type Facts, type TaskFacts } from '../../core/forecast/facts/facts.ts';
import { Planner } from '../../core/forecast/plan/planner.ts';
import type { PlannedNotice } from '../../core/forecast/plan/planned-notice.ts';
import type { InstantMs, Zone } from '../../core/time/zone.ts';
import { twoTimes } from '../../view/bells.ts';
import type { AtOnceView, EffectLine, EffectView } from '../../view/effects.ts';
import type { NoticeRecord } from '../store/notices.ts';
import type { Viewer } from '../workspace/viewer.ts';

/** Lines of each kind that are listed; the rest are counted. */
const LISTED = 60;

/** A workspace as it stands, or as it would. */
export class Look {
  readonly facts: Facts;
  readonly planner: Planner;
  readonly bells: ReadonlyMap<string, PlannedNotice>;

  constructor(facts: Facts, bells: ReadonlyMap<string, PlannedNotice>) {
    this.facts = facts;
    this.planner = new Planner(facts);
    this.bells = bells;
  }
}

/** What a line says of a task: whom it is about, where somebody, and the rule that rings, where one does. */
interface Words extends Pick<EffectLine, 'who' | 'before' | 'after'> {
  ruleId?: number;
}

/** The differences of two looks, counted and the first of them listed. */
export class Lines {
  readonly #before: Look;
  readonly #after: Look;
  readonly #viewer: Viewer;
  readonly #now: InstantMs;
  readonly #rules: ReadonlyMap<number, string>;
  readonly #counts: EffectView['counts'] = { moved: 0, added: 0, gone: 0, due: 0, overdue: 0, ages: 0 };
  readonly #lines: EffectLine[] = [];

  constructor(before: Look, after: Look, viewer: Viewer, now: InstantMs, rules: ReadonlyMap<number, string>) {
    this.#rules = rules;
    this.#before = before;
    this.#after = after;
    this.#viewer = viewer;
    this.#now = now;
  }

  /** @param changed the task as it would be, where the task itself changes */
  compareTask(task: TaskFacts, changed: TaskFacts = task): void {
    const was = this.#before.planner.dates.momentOf('due', task);
    const is = this.#after.planner.dates.momentOf('due', changed);
    const text = (look: Look, one: TaskFacts, at: InstantMs | null) =>
      at === null ? 'no due date' : this.#time(at, this.#zoneOf(look, one));
    const words = () => ({
      who: null,
      ...{ before: text(this.#before, task, was), after: text(this.#after, changed, is) }
    });
    if (was !== is) this.#add('due', task, words);
    const late = (one: TaskFacts, at: InstantMs | null) =>
      at !== null && canBeOverdue(one) && this.#now >= at;
    const [wasLate, isLate] = [late(task, was), late(changed, is)];
    if (!wasLate && isLate) this.#add('overdue', task, words);
    if (!wasLate) return;
    const age = (look: Look, one: TaskFacts, overdue: boolean) =>
      overdue ? workingDays(look.planner.dates.workingDaysOverdue(one, this.#now)) : 'not overdue';
    const ageBefore = age(this.#before, task, wasLate);
    const ageAfter = age(this.#after, changed, isLate);
    if (ageBefore !== ageAfter)
      this.#add('ages', task, () => ({ who: null, before: ageBefore, after: ageAfter }));
  }

  /** What waits before and after an act: what is withdrawn, what comes to wait, and what waits until another moment. */
  compareWaiting(task: TaskFacts, before: readonly NoticeRecord[], after: readonly NoticeRecord[]): void {
    const was = new Map(before.map((notice) => [notice.id, notice]));
    for (const notice of after) {
      const same = was.get(notice.id);
      was.delete(notice.id);
      const [then, now] = [same && this.#waitWords(same), this.#waitWords(notice)];
      if (then === now) continue;
      const who = this.#after.facts.people.get(notice.readerId)?.name ?? null;
      const words = () => ({ who, before: then ?? 'no bell', after: now, ruleId: notice.ruleId });
      this.#add(same ? 'moved' : 'added', task, words);
    }
    for (const notice of was.values()) {
      // What has left by then is among the messages.
      const who = this.#before.facts.people.get(notice.readerId)?.name ?? null;
      const { ruleId } = notice;
      this.#add('gone', task, () => ({ who, before: this.#waitWords(notice), after: 'withdrawn', ruleId }));
    }
  }

  #waitWords({ leavesAt, readerId, ringAt, why }: NoticeRecord): string {
    const zone = this.#before.facts.people.get(readerId)?.zone ?? this.#viewer.zone;
    if (leavesAt === null) return `when the task is no longer stuck (${this.#time(ringAt, zone)})`;
    const madeUp = why.some(({ code }) => code === 'caught-up')
      ? ', sent late, because its time has passed'
      : '';
    return this.#time(leavesAt, zone) + madeUp;
  }

  /** @param until bells that leave later on both sides are not compared */
  compareBells(tasks: ReadonlyMap<number, TaskFacts>, until: InstantMs): void {
    const { bells: before } = this.#before;
    const { bells: after } = this.#after;
    const changes: [at: InstantMs, add: () => void][] = [];
    for (const [key, was] of before) {
      const is = after.get(key);
      const task = tasks.get(was.taskId)!;
      const moved = is && (is.leavesAt !== was.leavesAt || is.readerId !== was.readerId);
      if (is && (!moved || Math.min(was.leavesAt, is.leavesAt) > until)) continue;
      if (!is && was.leavesAt > until) continue;
      const kind = is ? 'moved' : 'gone';
      changes.push([
        was.leavesAt,
        () =>
          this.#add(kind, task, () => ({
            who: this.#reader(this.#before, was),
            before: this.#bell(this.#before, was),
            after: is ? this.#bell(this.#after, is) : 'no bell',
            ruleId: was.ruleId
          }))
      ]);
    }
    for (const [key, is] of after) {
      if (before.has(key) || is.leavesAt > until) continue;
      const task = tasks.get(is.taskId)!;
      changes.push([
        is.leavesAt,
        () =>
          this.#add('added', task, () => ({
            who: this.#reader(this.#after, is),
            before: 'no bell',
            after: this.#bell(this.#after, is),
            ruleId: is.ruleId
          }))
      ]);
    }
    changes.sort((a, b) => a[0] - b[0]);
    for (const [, add] of changes) add();
  }

  view(days: number, atOnce: AtOnceView | null = null): EffectView {
    return { counts: this.#counts, lines: this.#lines, days, atOnce, stamp: null };
  }

  /** @param words of what is listed alone: there may be very many more */
  #add(kind: EffectLine['kind'], task: TaskFacts, words: () => Words): void {
    this.#counts[kind]++;
    if (this.#counts[kind] > LISTED) return;
    const { who, before, after, ruleId = null } = words();
    const hidden = task.private && task.ownerId !== this.#viewer.personId;
    this.#lines.push({
      kind,
      taskId: task.id,
      task: hidden ? 'a private task' : task.name,
      who,
      rule: ruleId === null ? null : (this.#rules.get(ruleId) ?? null),
      before,
      after
    });
  }

  #zoneOf(look: Look, task: TaskFacts): Zone {
    return task.due?.zone ?? look.planner.dates.dateSource(task).zone;
  }

  #reader(look: Look, { readerId }: PlannedNotice): string | null {
    return look.facts.people.get(readerId)?.name ?? null;
  }

  #bell(look: Look, notice: PlannedNotice): string {
    const reader = look.facts.people.get(notice.readerId);
    const instead = notice.readerId === notice.recipientId ? '' : `, to ${reader?.name ?? ''}`;
    return `${this.#time(notice.leavesAt, reader?.zone ?? this.#viewer.zone)}${instead}`;
  }

  #time(at: InstantMs, zone: Zone): string {
    const { there, place } = twoTimes(at, zone, this.#viewer.zone, this.#now);
    return `${there} ${place}`;
  }
}

function workingDays(count: number): string {
  return `${many(count, 'working day')} overdue`;
}
