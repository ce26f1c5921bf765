import { compileRule, type RuleFacts } from '../../core/forecast/facts/compile-rule.ts';
import type { ChannelName } from '../../core/channel/channels.ts';
import type { Facts } from '../../core/forecast/facts/facts.ts';
import type { FactsInput } from '../../core/forecast/facts/records.ts';
import { Planner, type PlannerHistory } from '../../core/forecast/plan/planner.ts';
import { NO_DETAILS, type TaskDetails } from '../../core/task/details.ts';
import type { Stores } from '../store/all.ts';
import type { Digest } from '../store/digests.ts';
import type { Rule } from '../store/rules.ts';
import { compileFacts } from '../../core/forecast/facts/compile-facts.ts';
import { WholeList } from './whole-list.ts';
import { readFactsInput } from './read-facts.ts';
import { ringKey } from './ring-key.ts';

/** A rule that is on, compiled, with the version that is live. */
export interface LiveRule {
  facts: RuleFacts;
  versionId: number;
  /** The change that turned it on. */
  onChange: number;
  /** When this version became live, workspace clock: rings before that are not made up for because something came true. */
  liveAt: number;
}

/** Tasks of which conditions are asked one by one rather than all at once. */
const ONE_BY_ONE_DETAILS = 500;
/** Hears what is no longer believed of what was read. */
export interface ForgetListener {
  /** What was compiled; what tasks are too. */
  invalidated(tasksToo: boolean): void;
  forgot(taskIds: Iterable<number>): void;
  forgotDigests(): void;
}

/** Details of tasks that are kept at most. */
const MOST_KEPT = 20_000;

/**
 * The workspace compiled for the core: people, calendars, projects and live rules. Kept until something it is made of
 * changes; tasks are read when they are needed.
 */
export class FactsSource {
  readonly #stores: Stores;
  readonly #channels: () => readonly ChannelName[];
  #planner: Planner | null = null;
  #live: LiveRule[] | null = null;
  /** Rules by the version that a run started with. */
  readonly #versions = new Map<number, RuleFacts>();
  readonly #details = new Map<number, TaskDetails>();
  #digests: readonly Digest[] | null = null;
  /** Goes up with every change of tasks or of what they are compiled with. */
  changes = 0;
  #listener: ForgetListener | null = null;
  #held: number | null = null;
  #hasArrived = false;

  /** Every task, kept for whoever looks at rules. */
  readonly whole: WholeList;

  /** @param channels those that messages can go by */
  constructor(stores: Stores, channels: () => readonly ChannelName[]) {
    this.#stores = stores;
    this.#channels = channels;
    this.whole = new WholeList(stores);
  }

  /** From now on this one hears what is forgotten. */
  listen(listener: ForgetListener): void {
    this.#listener = listener;
  }

  /**
   * Forgets what was compiled.
   * @param tasksToo whether what tasks are has changed with it; otherwise those that are kept stay
   */
  invalidate(tasksToo = true): void {
    this.#planner = null;
    this.#live = null;
    this.#versions.clear();
    this.#details.clear();
    this.#digests = null;
    this.changes++;
    if (tasksToo) this.whole.forgetAll();
    this.#listener?.invalidated(tasksToo);
  }

  /**
   * While a sweep changes very many tasks one after another, what looks at all of them goes on by how they stood before it; rings do not,
   * and no ring comes before it is done.
   */
  hold(held: boolean): void {
    this.#held = held ? (this.#held ?? this.changes) : null;
    this.whole.hold(held);
  }

  /** What is held is let go once everything that was changed has been read again, a part at a time: then no page waits for that. */
  letGo(isOver: () => boolean): void {
    if (this.whole.catchUp(isOver)) this.hold(false);
  }

  /** Very many tasks have come in at once: what looks at all of them sees them once they have been read, part by part. */
  arrived(taskIds: Iterable<number>): void {
    this.hold(true);
    this.#hasArrived = true;
    this.forget(taskIds);
  }

  /**
   * Reads on what looks at all tasks need, in what time is left.
   * @returns whether nothing is left to be read
   */
  readOn(isOver: () => boolean): boolean {
    if (!this.#hasArrived) return this.whole.readOn(isOver);
    this.letGo(isOver);
    this.#hasArrived = this.isHeld;
    return !this.isHeld;
  }

  get isHeld(): boolean {
    return this.#held !== null;
  }

  /** As `changes`, for what looks at all tasks: while they are held it stays as it was. */
  get changesSeen(): number {
    return this.#held ?? this.changes;
  }

  /** Forgets which digests there are. */
  forgetDigests(): void {
    this.#digests = null;
    this.#listener?.forgotDigests();
  }

  /** Digests that are on, in their order. */
  digests(): readonly Digest[] {
    return (this.#digests ??= this.#stores.digests.all().filter(({ state }) => state === 'on'));
  }

  /** Forgets what was read of some tasks. */
  forget(taskIds: Iterable<number>): void {
    const ids = [...taskIds];
    if (ids.length > 0) this.changes++;
    for (const id of ids) this.#details.delete(id);
    this.whole.forget(ids);
    this.#listener?.forgot(ids);
  }

  /** The records that facts are compiled from. */
  input(): FactsInput {
    return readFactsInput(this.#stores, this.#channels());
  }

  get facts(): Facts {
    return this.planner.facts;
  }

  get planner(): Planner {
    return (this.#planner ??= new Planner(
      compileFacts(this.input(), (id) => this.detailsOf(id)),
      this.history
    ));
  }

  /** What has left already, where rings depend on it. */
  get history(): PlannerHistory {
    const { notices, tellings } = this.#stores;
    return {
      ringsSoFar: (ruleId, taskId) => tellings.ringsSoFar(ruleId, taskId),
      lastLeft: (ruleId, leadId, taskId) => tellings.lastLeft(ruleId, leadId, taskId),
      hasTold: (rule, task, { lead, anchorValue, ordinal, stepId, recipientId }) =>
        notices.occupied({ ...ringKey(rule, lead, task, anchorValue, ordinal), stepId, recipientId })
    };
  }

  detailsOf(taskId: number): TaskDetails {
    let details = this.#details.get(taskId);
    if (details) return details;
    details = this.#stores.taskDetails.of(taskId) ?? NO_DETAILS;
    if (this.#details.size >= MOST_KEPT) this.#details.clear();
    this.#details.set(taskId, details);
    return details;
  }

  /** The facts that a forecast of some rules for so many tasks goes by: what many are asked is read of all of them at once. */
  factsFor(rules: readonly RuleFacts[], tasks: number): Facts {
    const asks = rules.some((rule) => rule.watch.asks || !rule.plain || rule.stop.condition !== null);
    return asks && tasks > ONE_BY_ONE_DETAILS ? { ...this.facts, detailsOf: this.allDetails() } : this.facts;
  }

  /** The details of all tasks, read at once: for what goes through all of them. */
  allDetails(): (taskId: number) => TaskDetails {
    const all = this.#stores.taskDetails.all();
    return (id) => all.get(id) ?? NO_DETAILS;
  }

  /** Rules that are on, in their order. */
  liveRules(): readonly LiveRule[] {
    return (this.#live ??= this.#stores.rules.all().flatMap((rule) => {
      const live = this.#liveRule(rule);
      return live ? [live] : [];
    }));
  }

  live(ruleId: number): LiveRule | undefined {
    return this.liveRules().find(({ facts }) => facts.id === ruleId);
  }

  /** A rule as it was when a run started. */
  ruleOfVersion(ruleId: number, versionId: number): RuleFacts | null {
    const live = this.live(ruleId);
    if (live?.versionId === versionId) return live.facts;
    let facts = this.#versions.get(versionId);
    if (facts) return facts;
    const rule = this.#stores.rules.byId(ruleId);
    const version = this.#stores.rules.version(versionId);
    if (!rule || !version) return null;
    facts = this.#compile(rule, version.definition);
    this.#versions.set(versionId, facts);
    return facts;
  }

  #liveRule(rule: Rule): LiveRule | null {
    if (rule.state !== 'on' || rule.liveVersion === null) return null;
    const version = this.#stores.rules.version(rule.liveVersion);
    if (!version) return null;
    return {
      facts: this.#compile(rule, version.definition),
      versionId: version.id,
      onChange: rule.onChange ?? 0,
      liveAt: rule.liveAt ?? 0
    };
  }

  #compile(rule: Rule, definition: Parameters<typeof compileRule>[3]): RuleFacts {
    return compileRule(rule.id, rule.name, rule.position, definition, {
      keeperId: rule.keeperId,
      ofTask: rule.kind === 'reminders',
      world: this.facts
    });
  }
}
