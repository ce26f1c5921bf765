import type { InstantMs } from '../../time/zone.ts';
import type { CompiledLead } from '../facts/compile-lead.ts';
import type { RuleFacts } from '../facts/compile-rule.ts';
import type { TaskFacts } from '../facts/facts.ts';
import type { ForecastHistory } from './model.ts';
import type { PastCause } from '../decide/made-up.ts';
import type { ToldBefore } from './simulated.ts';
import type { CompiledTell } from '../../rule/program.ts';
import type { OwnChange } from '../decide/own-changes.ts';
import type { PlannedNotice } from '../plan/planned-notice.ts';
import type { RingAhead } from '../decide/plan-rule.ts';
import { THE_RUN, type TellingKey } from '../plan/telling.ts';

/** A notice on its way, with what it is of. */
export interface NoticeAhead {
  notice: PlannedNotice;
  rule: RuleFacts;
  tell: CompiledTell;
  lead: CompiledLead;
  state: SimulatedTask;
  anchorValue: string;
  own: readonly OwnChange[];
  /** Tests of Watch and Stop are passed over: a by-hand ring, or a run that goes on regardless. */
  regardless: boolean;
  /** Who set off its run; null where nobody did. */
  actorId: number | null;
  /** By which recipients of the Tell it came to whoever is told; empty where the plan did. */
  named: readonly string[];
  /** Its recipient had it put off for themselves. */
  snoozed: boolean;
  /** Somebody else is told: it does not leave. */
  withdrawn?: boolean;
  /** The order in which they were made, kept while one is put off. */
  sequence?: number;
}

/** What a notice of the plan has: nothing that its run did, and no names of those whom it tells. */
export const PLANNED = { own: [], regardless: false, actorId: null, named: [], snoozed: false } as const;

/** A task as a forecast goes through time with it: what it is by then, and what has left about it. */
export class SimulatedTask {
  task: TaskFacts;
  dueAt: InstantMs;
  /** Rings planned before its last change are no longer of the plan. */
  version = 0;
  /** Its plan must be made again, and why; `other` owes what came true. */
  stale: 'created' | 'moved' | 'other' | null = null;
  /** The rule by whose act its plan is stale. */
  staleBy: number | null = null;
  /** The rule that changed it first. */
  changedBy: number | null = null;
  readonly #history: ForecastHistory;
  // Of a hundred thousand tasks most ring once or never: what holds this is made when it is first needed.
  #occupied: Set<string> | null = null;
  /** Everything that rang, sent or not: what is unrung is not owed again. */
  #rang: Set<string> | null = null;
  /** Rings that waited for somebody in whose place another stands now. */
  #passedOn: Set<string> | null = null;
  #waiting: Set<NoticeAhead> | null = null;
  #left: Map<string, number> | null = null;
  #leftTo: Map<string, number> | null = null;
  #lastLeft: Map<string, InstantMs> | null = null;
  #told: ToldBefore[] | null = null;
  #once: Set<string> | null = null;
  #followUps: Map<number, number[]> | null = null;
  /** The rings of its plan, and what has been planned on from them. */
  #plan: { ruleId: number; ring: RingAhead }[] = [];

  constructor(task: TaskFacts, dueAt: InstantMs, history: ForecastHistory) {
    this.task = task;
    this.dueAt = dueAt;
    this.#history = history;
  }

  /** A ring of it is in line. */
  queued({ id: ruleId }: RuleFacts, ring: RingAhead): void {
    this.#plan.push({ ruleId, ring });
  }

  /** A ring in line has come. */
  taken(ring: RingAhead): void {
    this.#plan = this.#plan.filter((one) => one.ring !== ring);
  }

  /** Its plan is made anew. @returns the rings of the one before that come now and have not rung */
  planAnew(now: InstantMs): readonly { ruleId: number; ring: RingAhead }[] {
    const due = this.#plan.filter(({ ring }) => (ring.forwardAt ?? ring.ringAt) === now);
    this.version++;
    this.#plan = [];
    return due;
  }

  /** Whether a notice of this key has left or is on its way. */
  occupied(rule: RuleFacts, key: TellingKey): boolean {
    if (this.#occupied?.has(textOf(rule, key))) return true;
    return this.#history.occupied?.(rule, this.task, key) ?? false;
  }

  occupy(rule: RuleFacts, key: TellingKey): void {
    (this.#occupied ??= new Set()).add(textOf(rule, key));
  }

  free(rule: RuleFacts, key: TellingKey): void {
    this.#occupied?.delete(textOf(rule, key));
  }

  rang(rule: RuleFacts, key: TellingKey): void {
    (this.#rang ??= new Set()).add(textOf(rule, key));
  }

  hasRung(rule: RuleFacts, key: TellingKey): boolean {
    return this.#rang?.has(textOf(rule, key)) ?? false;
  }

  /** Notices that are on their way, or wait until the task waits for others no more. */
  get waiting(): ReadonlySet<NoticeAhead> {
    return this.#waiting ?? NONE_WAIT;
  }

  wait(ahead: NoticeAhead): void {
    (this.#waiting ??= new Set()).add(ahead);
  }

  done(ahead: NoticeAhead): void {
    this.#waiting?.delete(ahead);
  }

  /** What waited is as if it had never rung for whom it waited: somebody else stands in their place. */
  passOn(rule: RuleFacts, key: TellingKey): void {
    this.free(rule, key);
    this.#rang?.delete(textOf(rule, key));
    (this.#passedOn ??= new Set()).add(textOf(rule, { ...key, recipientId: THE_RUN }));
  }

  isPassedOn(rule: RuleFacts, key: TellingKey): boolean {
    return this.#passedOn?.has(textOf(rule, { ...key, recipientId: THE_RUN })) ?? false;
  }

  /** How many notices of a lead have left to a recipient for its anchor value; for the run how many of its runs have begun. */
  left(rule: RuleFacts, lead: CompiledLead, anchorValue: string, recipientId: number): number {
    const before = this.#history.left?.(rule, lead, this.task, recipientId, anchorValue) ?? 0;
    return before + (this.#left?.get(`${rule.id}/${lead.lead.id}/${anchorValue}/${recipientId}`) ?? 0);
  }

  /** A notice left. */
  countLeft(
    rule: RuleFacts,
    lead: CompiledLead,
    anchorValue: string,
    recipientId: number,
    told: ToldBefore
  ): void {
    add((this.#left ??= new Map()), `${rule.id}/${lead.lead.id}/${anchorValue}/${recipientId}`);
    add((this.#leftTo ??= new Map()), `${rule.id}/${recipientId}`);
    add(this.#leftTo, String(rule.id));
    (this.#lastLeft ??= new Map()).set(`${rule.id}/${lead.lead.id}`, told.leavesAt);
    this.#toldSoFar().push(told);
  }

  /** A run of a lead began. */
  countRun(rule: RuleFacts, lead: CompiledLead, anchorValue: string): void {
    add((this.#left ??= new Map()), `${rule.id}/${lead.lead.id}/${anchorValue}/${THE_RUN}`);
  }

  /** Notices of a rule that have left to a recipient in this round. */
  leftTo(ruleId: number, recipientId: number): number {
    const before = this.#history.leftTo?.(ruleId, this.task.id, recipientId) ?? 0;
    return before + (this.#leftTo?.get(`${ruleId}/${recipientId}`) ?? 0);
  }

  ringsSoFar(ruleId: number): number {
    const before = this.#history.planner?.ringsSoFar(ruleId, this.task.id) ?? 0;
    return before + (this.#leftTo?.get(String(ruleId)) ?? 0);
  }

  lastLeft(ruleId: number, leadId: string): InstantMs | null {
    return (
      this.#lastLeft?.get(`${ruleId}/${leadId}`) ??
      this.#history.planner?.lastLeft(ruleId, leadId, this.task.id) ??
      null
    );
  }

  /** What has left about it lately, and in the forecast. */
  get told(): readonly ToldBefore[] {
    return this.#toldSoFar();
  }

  /** Whether what a step does once for a task, its round and a value has been done. @param step `id/act` */
  hasDone(ruleId: number, step: string, value: string): boolean {
    const known = this.#once?.has(`${ruleId}/${step}/${value}`) ?? false;
    return known || (this.#history.doneOnce?.(ruleId, step, this.task, value) ?? false);
  }

  does(ruleId: number, step: string, value: string): void {
    (this.#once ??= new Set()).add(`${ruleId}/${step}/${value}`);
  }

  /** Tasks that a rule has made of this one to follow it up, as far as they were open when the forecast began or were made in it. */
  followUps(ruleId: number): readonly number[] {
    const before = this.#history.openFollowUps?.(ruleId, this.task.id) ?? [];
    return [...before, ...(this.#followUps?.get(ruleId) ?? [])];
  }

  followedUp(ruleId: number, taskId: number): void {
    const made = (this.#followUps ??= new Map<number, number[]>());
    made.set(ruleId, [...(made.get(ruleId) ?? []), taskId]);
  }

  #toldSoFar(): ToldBefore[] {
    return (this.#told ??= [...(this.#history.toldLately?.(this.task.id) ?? [])]);
  }

  /** Why a ring that has passed is owed after a change, by the table of past instants. */
  owes(key: { rung: boolean; passedOn: boolean; sinceNow: boolean }): PastCause | null {
    if (this.stale === 'created') return 'created';
    if (this.stale === 'moved') return 'moved';
    if (key.passedOn && !key.rung) return 'new recipient';
    return this.stale === 'other' && !key.rung && key.sinceNow ? 'came true' : null;
  }
}

const NONE_WAIT: ReadonlySet<NoticeAhead> = new Set();

function textOf(rule: RuleFacts, { lead, ordinal, anchorValue, stepId, recipientId }: TellingKey): string {
  return `${rule.id}/${lead.lead.id}/${ordinal}/${anchorValue}/${stepId}/${recipientId}`;
}

function add(counts: Map<string, number>, key: string): void {
  counts.set(key, (counts.get(key) ?? 0) + 1);
}
