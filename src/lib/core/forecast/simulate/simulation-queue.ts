import type { RingAhead } from '../decide/plan-rule.ts';
import type { InstantMs } from '../../time/zone.ts';
import type { CompiledLead } from '../facts/compile-lead.ts';
import type { RuleFacts } from '../facts/compile-rule.ts';
import { Heap } from './heap.ts';
import type { RunAhead } from './simulated.ts';
import type { NoticeAhead, SimulatedTask } from './simulated-task.ts';
import { THE_RUN, type TellingKey } from '../plan/telling.ts';

/** Stands for “no due moment” where something must be sorted by it. */
export const NO_DUE = Number.MAX_SAFE_INTEGER;

/** At one instant runs go on first, then it rings, then notices leave. */
interface Place {
  at: InstantMs;
  phase: 0 | 1 | 2;
  position: number;
  ruleId: number;
  dueAt: number;
  taskId: number;
  order: number;
  to: number;
  sequence: number;
}

/** Something that happens in a forecast that goes through time. */
export type SimulatedEvent = Place &
  (
    | { is: 'run'; run: RunAhead }
    | { is: 'ring'; rule: RuleFacts; ring: RingAhead; state: SimulatedTask; version: number }
    | { is: 'schedule'; rule: RuleFacts; lead: CompiledLead }
    | { is: 'leave'; ahead: NoticeAhead }
  );

/** A ring in line, or not yet. */
interface RingLater {
  rule: RuleFacts;
  ring: RingAhead;
  state: SimulatedTask;
  version: number;
  sequence: number;
}

/** What is to come in a forecast, in the order in which the engine takes it. */
export class SimulationQueue {
  readonly #heap = new Heap<SimulatedEvent>(inOrder);
  readonly #until: InstantMs;
  #sequence = 0;
  /** Rings behind the window, which mostly nobody asks for; null once they are in the line with the others. */
  #later: RingLater[] | null = [];

  /** @param until the end of the window */
  constructor(until: InstantMs) {
    this.#until = until;
  }

  /**
   * What comes next; undefined when nothing does. What lies behind the window is put in line when it is come to.
   * @param goesOn whether anybody goes on behind the window
   */
  first(goesOn = true): SimulatedEvent | undefined {
    const event = this.#heap.first();
    if (!event || event.at <= this.#until || !goesOn || !this.#later) return event;
    const later = this.#later;
    this.#later = null;
    for (const one of later) this.#line(one);
    return this.#heap.first();
  }

  /** Takes what comes next out of the line. */
  pop(): void {
    this.#heap.pop();
  }

  ring(rule: RuleFacts, ring: RingAhead, state: SimulatedTask): void {
    const one = { rule, ring, state, version: state.version, sequence: this.#sequence++ };
    state.queued(rule, ring);
    if (this.#later && (ring.forwardAt ?? ring.ringAt) > this.#until) this.#later.push(one);
    else this.#line(one);
  }

  #line({ rule, ring, state, version, sequence }: RingLater): void {
    const { dueAt, task } = state;
    const at = ring.forwardAt ?? ring.ringAt;
    const { position, id: ruleId } = rule;
    const place = { at, phase: 1 as const, position, ruleId, dueAt, taskId: task.id };
    const to = { order: ring.lead.order, to: ring.recipientId, sequence };
    this.#heap.push({ ...place, ...to, is: 'ring', rule, ring, state, version });
  }

  leave(ahead: NoticeAhead): void {
    const { notice, rule, state } = ahead;
    ahead.sequence ??= this.#sequence++;
    this.#heap.push({
      ...{ at: notice.leavesAt, phase: 2, position: rule.position, ruleId: rule.id, dueAt: state.dueAt },
      ...{ taskId: notice.taskId, order: notice.leadOrder, to: 0, sequence: ahead.sequence },
      ...{ is: 'leave', ahead }
    });
  }

  /** @param now a run that should have gone on before goes on now */
  run(run: RunAhead, dueAt: number, now: InstantMs): void {
    this.#heap.push({
      ...{ at: Math.max(run.until, now), phase: 0, position: run.rule.position, ruleId: run.rule.id, dueAt },
      ...{ taskId: run.taskId, order: 0, to: 0, sequence: this.#sequence++, is: 'run', run }
    });
  }

  schedule(rule: RuleFacts, lead: CompiledLead, at: InstantMs): void {
    this.#heap.push({
      ...{ at, phase: 1, position: rule.position, ruleId: rule.id, dueAt: -1, taskId: 0 },
      ...{ order: lead.order, to: 0, sequence: this.#sequence++, is: 'schedule', rule, lead }
    });
  }
}

function inOrder(a: Place, b: Place): number {
  return (
    a.at - b.at ||
    a.phase - b.phase ||
    a.position - b.position ||
    a.ruleId - b.ruleId ||
    a.dueAt - b.dueAt ||
    a.taskId - b.taskId ||
    a.order - b.order ||
    Number(a.to === THE_RUN) - Number(b.to === THE_RUN) ||
    a.to - b.to ||
    a.sequence - b.sequence
  );
}

/** By what a notice is known within its task and round. */
export function keyOf({ notice, tell, lead, anchorValue }: NoticeAhead): TellingKey {
  const { ordinal, recipientId } = notice;
  return { lead, ordinal, anchorValue, stepId: tell.step.id, recipientId };
}
