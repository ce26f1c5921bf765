import type { ChannelName } from '../../core/channel/channels.ts';
import { waysFor } from '../../core/channel/ways.ts';
import { noticeKind } from '../../core/forecast/decide/notice-kind.ts';
import { leadWords } from '../../core/rule/words/lead-words.ts';
import { leadOf, type RuleFacts } from '../../core/forecast/facts/compile-rule.ts';
import type { TaskFacts } from '../../core/forecast/facts/facts.ts';
import { forecast } from '../../core/forecast/forecast.ts';
import type { Forecast } from '../../core/forecast/simulate/model.ts';
import { Planner } from '../../core/forecast/plan/planner.ts';
import type { PlannedNotice } from '../../core/forecast/plan/planned-notice.ts';
import { whyText } from '../../core/ring/why-text.ts';
import type { InstantMs } from '../../core/time/zone.ts';
import { bellKindOf, bellView, nameFor } from '../../view/bell-view.ts';
import { twoTimes } from '../../view/bells.ts';
import type { BellView } from '../../view/models.ts';
import type { WorkspaceClock } from '../engine/clock.ts';
import type { FactsSource } from '../engine/facts-source.ts';
import { historyOf } from '../engine/history.ts';
import type { NoticeRecord } from '../store/notices.ts';
import type { Stores } from '../store/all.ts';
import type { Words } from '../engine/words.ts';
import { foretold, saidOf, type ForetoldMessage } from './foretold.ts';
import { readingOf } from '../workspace/reading.ts';
import { Reused } from '../workspace/reused.ts';
import type { Viewer } from '../workspace/viewer.ts';

/** Nothing is put off for longer. */
const PUT_OFF_MS = 14 * 86_400_000;

/** Tasks that are read by their ids rather than all in one pass. */
const MOST_BY_ID = 5_000;

/** A forecast with what is needed to explain it. */
interface Simulated extends Forecast {
  planner: Planner;
  rules: ReadonlyMap<number, RuleFacts>;
  tasks: ReadonlyMap<number, TaskFacts>;
}

/** A notice that somebody will be sent. */
export interface ToldNotice {
  notice: PlannedNotice;
  bell: BellView;
  ways: ChannelName[];
  /** What happens rings each time anew, and is known by its instant. */
  isSetOff: boolean;
}

/** The first bells of a time, with how many there are. */
export interface Soonest {
  bells: BellView[];
  /** Unrung ones too. */
  all: number;
  ringing: number;
  held: number;
  late: number;
}

/** What was computed is shown again for so many times as long as that took, while nobody has changed anything. */
const REST = 10;
/** What takes no longer than this is computed anew each time. */
const QUICK_MS = 50;

/** What will ring, if nothing changes. */
export class ForecastService {
  readonly #stores: Stores;
  readonly #source: FactsSource;
  readonly #clock: WorkspaceClock;
  readonly #words: Words;
  /** By how far ahead is looked. */
  readonly #reused = new Map<number, Reused<Simulated>>();

  constructor(stores: Stores, source: FactsSource, clock: WorkspaceClock, words: Words) {
    this.#words = words;
    this.#stores = stores;
    this.#source = source;
    this.#clock = clock;
  }

  /** Every notice of all rules that are on in `(from, until]`, as the viewer reads it. */
  bells(from: InstantMs, until: InstantMs, viewer: Viewer): BellView[] {
    const simulated = this.#ahead(from, until);
    const reading = readingOf(this.#stores, this.#clock, viewer);
    return [...simulated.notices].map((notice) => bellView(simulated, notice, reading));
  }

  /** Those that one person reads. */
  bellsOf(readerId: number, from: InstantMs, until: InstantMs, viewer: Viewer): BellView[] {
    const simulated = this.#ahead(from, until);
    const reading = readingOf(this.#stores, this.#clock, viewer);
    return [...simulated.notices]
      .filter((notice) => notice.readerId === readerId)
      .map((notice) => bellView(simulated, notice, reading));
  }

  /** What one person reads in `(from, until]` and will be sent, with the channels by which each goes to them. */
  toldTo(readerId: number, from: InstantMs, until: InstantMs, viewer: Viewer): ToldNotice[] {
    const simulated = this.#ahead(from, until);
    const reading = readingOf(this.#stores, this.#clock, viewer);
    const reader = simulated.planner.facts.people.get(readerId);
    return [...simulated.notices].flatMap((notice): ToldNotice[] => {
      if (notice.readerId !== readerId || notice.unrung !== null) return [];
      const rule = simulated.rules.get(notice.ruleId)!;
      const lead = leadOf(rule, simulated.tasks.get(notice.taskId), notice.leadId);
      const tell = rule.program.tells.get(notice.stepId);
      const ways = reader && lead && tell ? waysFor(reader, noticeKind(tell, lead), tell.step.channels) : [];
      const bell = bellView(simulated, notice, reading);
      const isSetOff = lead === undefined || lead.anchor === null;
      return [{ notice, bell, ways: ways.map(({ channel }) => channel), isSetOff }];
    });
  }

  /** The same as they are computed, for whoever counts them. */
  coming(from: InstantMs, until: InstantMs): PlannedNotice[] {
    return [...this.#ahead(from, until).notices];
  }

  /** The first of them, as many as somebody can look at, with how many there are in all. */
  soonest(from: InstantMs, until: InstantMs, viewer: Viewer, most: number): Soonest {
    const simulated = this.#ahead(from, until);
    const reading = readingOf(this.#stores, this.#clock, viewer);
    const found: Soonest = { bells: [], all: 0, ringing: 0, held: 0, late: 0 };
    for (const notice of simulated.notices) {
      found.all++;
      if (found.bells.length < most) found.bells.push(bellView(simulated, notice, reading));
      if (notice.unrung !== null) continue;
      found.ringing++;
      if (notice.lateBell) found.late++;
      if (notice.leavesAt !== notice.ringAt) found.held++;
    }
    return found;
  }

  /** When the first notice to each reader leaves in `(from, until]`. */
  firstByReader(from: InstantMs, until: InstantMs): Map<number, InstantMs> {
    const { notices } = this.#ahead(from, until);
    const first = new Map<number, InstantMs>();
    for (const { unrung, readerId, leavesAt } of notices)
      if (unrung === null && !(first.get(readerId)! <= leavesAt)) first.set(readerId, leavesAt);
    return first;
  }

  /** The same as plain notices: what the engine will do, to be compared with what it does. */
  notices(from: InstantMs, until: InstantMs): PlannedNotice[] {
    const rules = this.#source.liveRules().map(({ facts }) => facts);
    return [...this.#simulate(rules, from, until, this.#stores.notices.waiting()).notices];
  }

  /** The messages of all rules in `(from, until]`, with their words as they would be when they leave. */
  messages(from: InstantMs, until: InstantMs): ForetoldMessage[] {
    const rules = this.#source.liveRules().map(({ facts }) => facts);
    const simulated = this.#simulate(rules, from, until, this.#stores.notices.waiting());
    const said = [...simulated.notices]
      .filter(({ unrung }) => unrung === null)
      .map((notice) => saidOf(notice, { ...simulated, now: this.#clock.now() }));
    return foretold(said, simulated.planner, this.#words);
  }

  /** Messages of each rule from now to an instant. */
  countByRule(until: InstantMs): ReadonlyMap<number, number> {
    const seen = new Set<string>();
    const counts = new Map<number, number>();
    for (const { ruleId, readerId, leavesAt, taskId, stepId } of this.notices(this.#clock.now(), until)) {
      const tell = this.#source.live(ruleId)?.facts.program.tells.get(stepId);
      const alone = tell?.step.gather === 'per task' ? taskId : '';
      const key = [ruleId, readerId, leavesAt, alone].join('/');
      if (seen.has(key)) continue;
      seen.add(key);
      counts.set(ruleId, (counts.get(ruleId) ?? 0) + 1);
    }
    return counts;
  }

  /**
   * Tasks of which something can leave by an instant: those that ring by then, as the kept plan has it, and those of which something
   * waits. A hold only ever moves a notice later, so no other can. While the plan is stale: all of them.
   */
  #tasksThatRing(until: InstantMs, waiting: readonly NoticeRecord[]): readonly TaskFacts[] {
    const { plan, tasks, schedules } = this.#stores;
    const scheduled = schedules.nextAt();
    if (plan.isStale || (scheduled !== null && scheduled <= until)) return this.#source.whole.tasks();
    const running = this.#stores.runs.waiting().flatMap(({ taskId }) => taskId ?? []);
    const ids = new Set([...plan.tasksBy(until), ...waiting.map(({ taskId }) => taskId), ...running]);
    // By its id each costs more than in one pass over all.
    if (ids.size > MOST_BY_ID) return this.#source.whole.tasks();
    return tasks.factsAmong([...ids]);
  }

  /**
   * When a notice that waits leaves in the end, as the page of its task says too: what it is held for is known, and step 8 may put it off once
   * more, into a digest or to another day.
   * @param leavesAt as it is recorded; said as it is where the notice is not expected to leave at all
   */
  leavesInTheEnd({ id, taskId, leavesAt }: { id: number; taskId: number; leavesAt: number }): InstantMs {
    const rules = this.#source.liveRules().map(({ facts }) => facts);
    const task = this.#stores.tasks.factsOf(taskId);
    const waiting = this.#stores.notices.waitingOf(taskId);
    // Most leave when they are to: only of the others is it looked how far they are put off.
    for (const until of [leavesAt, leavesAt + PUT_OFF_MS]) {
      const { notices } = this.#simulate(rules, this.#clock.now(), until, waiting, task ? [task] : []);
      for (const { noticeId, unrung, leavesAt: at } of notices)
        if (noticeId === id && unrung === null) return at;
    }
    return leavesAt;
  }

  /** The coming notices of one task. */
  ofTask(taskId: number, until: InstantMs, viewer: Viewer): BellView[] {
    const rules = this.#source.liveRules().map(({ facts }) => facts);
    const task = this.#stores.tasks.factsOf(taskId);
    const waiting = this.#stores.notices.waitingOf(taskId);
    const simulated = this.#simulate(rules, this.#clock.now(), until, waiting, task ? [task] : []);
    const reading = readingOf(this.#stores, this.#clock, viewer);
    return [...simulated.notices].map((notice) => bellView(simulated, notice, reading));
  }

  /** A recorded notice as the viewer reads it, with the why that was written when it rang. */
  recorded(notice: NoticeRecord, viewer: Viewer): BellView {
    const rule = this.#stores.rules.byId(notice.ruleId);
    const live = this.#source.liveRules().find(({ facts }) => facts.id === notice.ruleId);
    const facts = live?.facts.ofTask ? this.#stores.tasks.factsOf(notice.taskId) : null;
    const lead = leadOf(live?.facts, facts, notice.leadId);
    const person = this.#source.facts.people.get(notice.recipientId);
    const task = this.#stores.tasks.byId(notice.taskId);
    const reader = this.#source.facts.people.get(notice.readerId);
    const zone = reader?.zone ?? viewer.zone;
    const now = this.#clock.now();
    const leaves = notice.leavesAt ?? notice.ringAt;
    const unrung =
      notice.state === 'unrung' || notice.state === 'withdrawn' ? (notice.reason ?? notice.state) : null;
    return {
      key: `n${notice.id}`,
      kind: unrung
        ? 'unrung'
        : notice.lateBell
          ? 'late bell'
          : leaves !== notice.ringAt || notice.leavesAt === null
            ? 'held'
            : bellKindOf(notice.kind),
      ruleId: notice.ruleId,
      ruleName: rule?.name ?? 'a removed rule',
      lead: lead ? leadWords(lead.lead) : 'a removed ring time',
      taskId: notice.taskId,
      taskName: task ? nameFor(task, viewer) : 'a removed task',
      recipientId: notice.recipientId,
      recipientName: person?.name ?? 'a removed person',
      readerId: notice.readerId,
      readerName: reader?.name ?? 'a removed person',
      time: twoTimes(unrung ? notice.ringAt : leaves, zone, viewer.zone, now),
      heldFrom: !unrung && leaves !== notice.ringAt ? twoTimes(notice.ringAt, zone, viewer.zone, now) : null,
      unrung,
      lateBell: notice.lateBell,
      inDoubt: this.#stores.deliveries.isInDoubt(notice.id),
      ifActs: null,
      why: notice.why.map(whyText)
    };
  }

  /** All rules that are on, over the tasks of which something can leave. */
  #ahead(from: InstantMs, until: InstantMs): Simulated {
    const length = until - from;
    let reused = this.#reused.get(length);
    if (!reused) this.#reused.set(length, (reused = new Reused(this.#clock, REST, QUICK_MS)));
    const { planner, changesSeen, isHeld } = this.#source;
    // In a rush, when thousands wait to leave, every page would compute it again, and nothing would leave for that.
    return reused.get([planner, changesSeen], () => this.#computeAhead(from, until), isHeld);
  }

  #computeAhead(from: InstantMs, until: InstantMs): Simulated {
    const rules = this.#source.liveRules().map(({ facts }) => facts);
    const waiting = this.#stores.notices.waiting();
    return this.#simulate(rules, from, until, waiting, this.#tasksThatRing(until, waiting));
  }

  #simulate(
    rules: readonly RuleFacts[],
    from: InstantMs,
    until: InstantMs,
    waiting: readonly NoticeRecord[],
    tasks: readonly TaskFacts[] = this.#source.whole.tasks()
  ): Simulated {
    const now = this.#clock.now();
    const facts = this.#source.factsFor(rules, tasks.length);
    const planner = new Planner(facts, this.#source.history);
    const byId = new Map(rules.map((rule) => [rule.id, rule]));
    const history = historyOf(
      { stores: this.#stores, source: this.#source, planner, now },
      byId,
      waiting,
      tasks
    );
    const result = forecast(facts, rules, tasks, { now, from, until }, history);
    return {
      ...result,
      planner,
      rules: byId,
      tasks: new Map([...tasks, ...result.imagined].map((task) => [task.id, task]))
    };
  }
}
