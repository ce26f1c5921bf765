import { CodedError } from '../../core/errors.ts';
import { isOncePerDate } from '../../core/forecast/plan/schedule-value.ts';
import { leadHolds } from '../../core/forecast/facts/lead-filter.ts';
import { DEEPEST_CHAIN } from '../../core/forecast/simulate/simulated-runs.ts';
import type { TaskFacts } from '../../core/forecast/facts/facts.ts';
import type { CompiledLead } from '../../core/forecast/facts/compile-lead.ts';
import type { RuleFacts } from '../../core/forecast/facts/compile-rule.ts';
import { listens } from '../../core/forecast/decide/task-events.ts';
import type { RuleEvent } from '../../core/rule/events.ts';
import type { UnitOfWork } from '../db/unit-of-work.ts';
import type { ChangeSource } from '../store/change-model.ts';
import type { Stores } from '../store/all.ts';
import type { RunRecord } from '../store/runs.ts';
import type { FactsSource, LiveRule } from './facts-source.ts';
import { ringKey } from './ring-key.ts';
import type { KeeperReports } from './keeper-reports.ts';
import { faultWords, type RuleFaults } from './rule-faults.ts';
import type { RunStarter } from './run-starter.ts';
import type { WorkingOver } from './working-over.ts';

/** A change that rules may listen to. */
export interface Happened {
  changeId: number;
  source: ChangeSource;
  actorId: number | null;
  events: readonly RuleEvent[];
  /** How many tasks the change wrote. */
  tasks: number;
}

/** Who set a ring off, and the change within which they did. */
export interface SetOff {
  actorId: number | null;
  setOffBy: number | null;
}

/** Nobody did: its instant came. */
export const BY_TIME: SetOff = { actorId: null, setOffBy: null };

/** A change of more tasks than this is heard only by leads that say so. */
const MOST_HEARD = 25;

/** What happened, with its place among all that a change made happen. */
interface Placed {
  place: number;
  event: RuleEvent;
}

type EventLead = CompiledLead & { lead: Extract<CompiledLead['lead'], { kind: 'event' }> };

/** The leads of a rule that listen to changes; of a change of very many those alone that say so. */
function listeningLeads({ facts }: LiveRule, wideOnly: boolean): EventLead[] {
  return facts.leads.filter(
    (one): one is EventLead =>
      one.lead.kind === 'event' && one.anchor === null && (!wideOnly || one.lead.wide === true)
  );
}

/** A lead of a rule that is set off: by what happened, by a schedule, or by hand. */
export interface SetOffRule {
  rule: LiveRule;
  lead: CompiledLead;
  /** By what its ring is known. */
  value: string;
  by: SetOff & { parentId?: number | null; regardless?: boolean };
  /** Workspace clock. */
  now: number;
}

/**
 * Rules that set each other off, in one commit. Each rings at once, in the order of rules; none twice on the same task. At the limit what
 * was done stays, the rest is cut, and the keeper is told with the path.
 */
export class Chain {
  readonly #stores: Stores;
  readonly #source: FactsSource;
  readonly #runs: RunStarter;
  readonly #keeper: KeeperReports;
  /** Changes made so far. */
  changes = 0;
  #depth = 0;
  #ran = new Set<string>();
  /** Rules by name, from the first to the one that acts. */
  #path: string[] = [];
  #cut = new Set<string>();

  /** What happens in changes is kept, to be heard in the workspace of which this is a copy. */
  hearsLater = false;
  readonly #work: UnitOfWork;
  readonly #faults: RuleFaults;

  constructor(
    { work, stores, source }: WorkingOver,
    runs: RunStarter,
    keeper: KeeperReports,
    faults: RuleFaults
  ) {
    this.#work = work;
    this.#faults = faults;
    this.#stores = stores;
    this.#source = source;
    this.#runs = runs;
    this.#keeper = keeper;
  }

  /** Everything that happens inside belongs to one chain; the outermost begins and ends it. */
  within(work: () => void): void {
    if (this.#depth > 0) return work();
    this.#begin();
    this.#depth = 1;
    try {
      work();
    } finally {
      this.#depth = 0;
    }
  }

  /** What a rule does while it acts has it in its path. */
  by<T>(rule: RuleFacts, work: () => T): T {
    this.#path.push(`“${rule.name}”`);
    try {
      return work();
    } finally {
      this.#path.pop();
    }
  }

  /** A change was made: rules that listen ring, in the same transaction. */
  happened({ changeId, source, actorId, events, tasks }: Happened, now: number): void {
    if (events.length === 0 || source === 'undo' || source === 'set-up') return;
    const wideOnly = source === 'import' || source === 'sweep' || (source === 'bulk' && tasks > MOST_HEARD);
    const placed = [...events.entries()].map(([place, event]) => ({ place, event }));
    if (this.hearsLater) return this.#owe(placed, wideOnly, { changeId, actorId });
    if (this.#depth === 0) this.#begin();
    this.#tell(placed, wideOnly, { actorId, setOffBy: changeId }, now);
  }

  /** Whether something happened that rules have not heard yet. */
  get owes(): boolean {
    return this.#stores.owedEvents.any;
  }

  /**
   * Rules hear of some of what happened in a change of very many: task by task, each in a part of its own.
   * @param attempt does one, and says what failed
   */
  hearOwed(limit: number, now: number, attempt: (work: () => void) => void, isOver: () => boolean): void {
    for (const { id, changeId, actorId, events } of this.#stores.owedEvents.next(limit)) {
      attempt(() => {
        this.#begin();
        this.#tell(events, true, { actorId, setOffBy: changeId }, now);
      });
      this.#stores.owedEvents.remove(id);
      if (isOver()) return;
    }
  }

  /** Each rule hears of each event in turn. */
  #tell(events: readonly Placed[], wideOnly: boolean, by: SetOff, now: number): void {
    for (const rule of this.#source.liveRules()) {
      const leads = listeningLeads(rule, wideOnly);
      if (leads.length === 0) continue;
      for (const { place, event } of events)
        for (const lead of leads)
          if (listens(lead.lead, event))
            this.#attempt({ rule, lead, by, now, value: `change ${by.setOffBy}/${place}` }, event);
    }
  }

  /** What some rule listens to is kept, task by task. */
  #owe(
    events: readonly Placed[],
    wideOnly: boolean,
    { changeId, actorId }: { changeId: number; actorId: number | null }
  ): void {
    const leads = this.#source.liveRules().flatMap((rule) => listeningLeads(rule, wideOnly));
    if (leads.length === 0) return;
    const ofTask = new Map<number, Placed[]>();
    for (const placed of events) {
      if (!leads.some(({ lead }) => listens(lead, placed.event))) continue;
      const { taskId } = placed.event;
      const known = ofTask.get(taskId);
      if (known) known.push(placed);
      else ofTask.set(taskId, [placed]);
    }
    for (const heard of ofTask.values()) this.#stores.owedEvents.add({ changeId, actorId, events: heard });
  }

  /** A question stayed unanswered: rules may listen for that. */
  unanswered(taskId: number, questionId: number, run: RunRecord, now: number): void {
    const event: RuleEvent = { name: 'question unanswered', taskId, before: null, after: null };
    for (const rule of this.#source.liveRules())
      for (const lead of rule.facts.leads)
        if (lead.lead.kind === 'event' && listens(lead.lead, event))
          this.#attempt(
            {
              ...{ rule, lead, now, value: `question ${questionId}` },
              by: { actorId: null, setOffBy: run.setOffBy }
            },
            event
          );
  }

  /**
   * A rule that fails while it listens is a fault of the rule: what it had done by then is taken back, the change that it listened to stands,
   * and its run says so.
   */
  #attempt(set: SetOffRule, event: RuleEvent): void {
    try {
      this.#work.run(() => this.#hear(set, event));
    } catch (error) {
      if (!(error instanceof CodedError)) throw error;
      this.failed(set, event.taskId, error);
    }
  }

  /** Records the run of a ring that failed, and that its rule cannot be computed for the task. */
  failed({ rule, lead, value, by, now }: SetOffRule, taskId: number, error: unknown): void {
    const { notices, runs, tasks } = this.#stores;
    const task = tasks.factsOf(taskId);
    this.#faults.note(rule.facts.id, taskId, 'ringing', error, now);
    if (!task) return;
    const ringId = notices.ring(ringKey(rule.facts, lead, task, value, 0), now);
    const run = runs.begin(ringId, rule.facts.id, rule.versionId, now, by);
    runs.end(run.id, 'stopped', faultWords(error), now);
  }

  #hear(set: SetOffRule, event: RuleEvent): void {
    const { planner } = this.#source;
    const { rule, lead, now } = set;
    const task = this.#stores.tasks.factsOf(event.taskId);
    if (!task || !leadHolds(lead, task, planner.facts) || !planner.watches(rule.facts, task, now)) return;
    if (planner.stopped(rule.facts, task, now)) return;
    this.#ring(set, task);
  }

  /** One rule rings another by hand for a task. */
  ringAnother(ruleId: number, taskId: number, run: RunRecord, now: number): void {
    const rule = this.#source.live(ruleId);
    const task = this.#stores.tasks.factsOf(taskId);
    const lead = rule?.facts.leads.find(({ lead }) => lead.kind === 'by hand') ?? rule?.facts.leads[0];
    if (rule && task && lead && this.#source.planner.watches(rule.facts, task, now))
      this.#ring({ rule, lead, value: `run ${run.id}`, by: run, now }, task);
  }

  /** What a schedule finds, or a person rings. @returns the ring */
  ringFound({ rule, lead, value, by, now }: SetOffRule, taskId: number): number | null {
    const task = this.#stores.tasks.factsOf(taskId);
    if (!task) return null;
    // Once for a date is once when it is heard: what is hushed comes by the next look after it.
    if (isOncePerDate(lead) && this.#source.planner.isQuiet(rule.facts, task, now)) return null;
    const key = ringKey(rule.facts, lead, task, value, 0);
    const of = { rule, lead, task, now };
    const { notices } = this.#stores;
    if (notices.hasRing(key)) {
      const known = notices.ring(key, now);
      // Once for a date is once for each recipient: whoever has come since hears of it.
      return isOncePerDate(lead) && this.#runs.tellOthers(of, known) ? known : null;
    }
    const ringId = notices.ring(key, now);
    this.#runs.start(of, ringId, { ...by, from: 0 });
    return ringId;
  }

  #ring({ rule, lead, value, by: { actorId, setOffBy }, now }: SetOffRule, task: TaskFacts): void {
    const key = `${rule.facts.id}/${task.id}`;
    const circle = [...this.#path, `“${rule.facts.name}”`];
    if (this.#ran.has(key)) {
      // A rule that only tells is heard once and nothing is lost; one that acts would go round in a circle.
      if (rule.facts.program.acts) this.cut(rule.facts, task.id, circle, now);
      return;
    }
    if (this.#depth >= DEEPEST_CHAIN) return this.cut(rule.facts, task.id, circle, now);
    this.#ran.add(key);
    const ringId = this.#stores.notices.ring(ringKey(rule.facts, lead, task, value, 0), now);
    this.#depth++;
    try {
      this.#runs.start({ rule, lead, task, now }, ringId, { actorId, setOffBy, from: 0 });
    } finally {
      this.#depth--;
    }
  }

  /** Records that a chain was cut, and tells the keeper with the path. */
  cut(rule: RuleFacts, taskId: number, path: readonly string[], now: number): void {
    const key = `${rule.id}/${taskId}`;
    if (this.#cut.has(key)) return;
    this.#cut.add(key);
    this.#keeper.tell(
      rule,
      `“${rule.name}” was stopped`,
      [
        `The rule “${rule.name}” was started again by other rules and stopped: ${path.join(', then ')}.`,
        'Changes made so far stay. Change one of these rules to break the circle.'
      ],
      taskId,
      now
    );
  }

  #begin(): void {
    this.changes = 0;
    this.#ran = new Set();
    this.#path = [];
    this.#cut = new Set();
  }
}
