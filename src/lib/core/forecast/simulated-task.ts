import type { InstantMs } from '../time/zone.ts';
import type { CompiledLead } from './compile-lead.ts';
import type { RuleFacts } from './compile-rule.ts';
import type { TaskFacts } from './facts.ts';
import type { ForecastHistory } from './forecast.ts';
import type { PastCause } from './plan-rule.ts';
import type { ToldBefore } from './simulated.ts';

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
  readonly #occupied = new Set<string>();
  /** Everything that rang, sent or not: what is unrung is not owed again. */
  readonly #rang = new Set<string>();
  readonly #left = new Map<string, number>();
  readonly #leftTo = new Map<string, number>();
  readonly #lastLeft = new Map<string, InstantMs>();
  readonly #told: ToldBefore[];
  readonly once = new Set<string>();

  constructor(task: TaskFacts, dueAt: InstantMs, history: ForecastHistory) {
    this.task = task;
    this.dueAt = dueAt;
    this.#history = history;
    this.#told = [...(history.toldLately?.(task.id) ?? [])];
  }

  occupied(
    rule: RuleFacts,
    lead: CompiledLead,
    ordinal: number,
    anchorValue: string,
    stepId: string,
    recipientId: number
  ): boolean {
    if (this.#occupied.has(keyOf(rule, lead, ordinal, anchorValue, stepId, recipientId))) return true;
    return (
      this.#history.occupied?.(rule, lead, this.task, recipientId, ordinal, stepId, anchorValue) ?? false
    );
  }

  occupy(
    rule: RuleFacts,
    lead: CompiledLead,
    ordinal: number,
    anchorValue: string,
    stepId: string,
    recipientId: number
  ): void {
    this.#occupied.add(keyOf(rule, lead, ordinal, anchorValue, stepId, recipientId));
  }

  free(
    rule: RuleFacts,
    lead: CompiledLead,
    ordinal: number,
    anchorValue: string,
    stepId: string,
    recipientId: number
  ): void {
    this.#occupied.delete(keyOf(rule, lead, ordinal, anchorValue, stepId, recipientId));
  }

  rang(
    rule: RuleFacts,
    lead: CompiledLead,
    ordinal: number,
    anchorValue: string,
    stepId: string,
    recipientId: number
  ): void {
    this.#rang.add(keyOf(rule, lead, ordinal, anchorValue, stepId, recipientId));
  }

  hasRung(
    rule: RuleFacts,
    lead: CompiledLead,
    ordinal: number,
    anchorValue: string,
    stepId: string,
    recipientId: number
  ): boolean {
    return this.#rang.has(keyOf(rule, lead, ordinal, anchorValue, stepId, recipientId));
  }

  /** How many notices of a lead have left to a recipient for its anchor value. */
  left(rule: RuleFacts, lead: CompiledLead, anchorValue: string, recipientId: number): number {
    const before = this.#history.left?.(rule, lead, this.task, recipientId, anchorValue) ?? 0;
    return before + (this.#left.get(`${rule.id}/${lead.lead.id}/${anchorValue}/${recipientId}`) ?? 0);
  }

  /** A notice left. */
  countLeft(
    rule: RuleFacts,
    lead: CompiledLead,
    anchorValue: string,
    recipientId: number,
    told: ToldBefore
  ): void {
    add(this.#left, `${rule.id}/${lead.lead.id}/${anchorValue}/${recipientId}`);
    add(this.#leftTo, `${rule.id}/${recipientId}`);
    add(this.#leftTo, String(rule.id));
    this.#lastLeft.set(`${rule.id}/${lead.lead.id}`, told.leavesAt);
    this.#told.push(told);
  }

  /** Notices of a rule that have left to a recipient in this round. */
  leftTo(ruleId: number, recipientId: number): number {
    const before = this.#history.leftTo?.(ruleId, this.task.id, recipientId) ?? 0;
    return before + (this.#leftTo.get(`${ruleId}/${recipientId}`) ?? 0);
  }

  ringsSoFar(ruleId: number): number {
    const before = this.#history.planner?.ringsSoFar(ruleId, this.task.id) ?? 0;
    return before + (this.#leftTo.get(String(ruleId)) ?? 0);
  }

  lastLeft(ruleId: number, leadId: string): InstantMs | null {
    return (
      this.#lastLeft.get(`${ruleId}/${leadId}`) ??
      this.#history.planner?.lastLeft(ruleId, leadId, this.task.id) ??
      null
    );
  }

  get told(): readonly ToldBefore[] {
    return this.#told;
  }

  /** Why a ring that has passed is owed after a change, by the table of past instants. */
  owes(key: { rung: boolean; sinceNow: boolean }): PastCause | null {
    if (this.stale === 'created') return 'created';
    if (this.stale === 'moved') return 'moved';
    return this.stale === 'other' && !key.rung && key.sinceNow ? 'came true' : null;
  }
}

function keyOf(
  rule: RuleFacts,
  lead: CompiledLead,
  ordinal: number,
  anchorValue: string,
  stepId: string,
  recipientId: number
): string {
  return `${rule.id}/${lead.lead.id}/${ordinal}/${anchorValue}/${stepId}/${recipientId}`;
}

function add(counts: Map<string, number>, key: string): void {
  counts.set(key, (counts.get(key) ?? 0) + 1);
}
