import { leadHolds } from '../facts/lead-filter.ts';
import type { CompiledLead } from '../facts/compile-lead.ts';
import { repeats, type RuleFacts } from '../facts/compile-rule.ts';
import type { PersonFacts, TaskFacts } from '../facts/facts.ts';
import {
  forwardOf,
  mostOf,
  stillReason,
  tellsForward,
  tellsOf,
  type RingAhead
} from '../decide/plan-rule.ts';
import { aroundNow, sameInstant, type At } from '../plan/series.ts';
import { THE_RUN, runKey } from '../plan/telling.ts';
import { blankNotice } from './plain-rules.ts';
import type { SimulatedRuns } from './simulated-runs.ts';
import { PLANNED, type SimulatedTask } from './simulated-task.ts';
import type { SimulationPort } from './simulation-port.ts';
import type { SimulationQueue } from './simulation-queue.ts';

/** Rings of the plan as a forecast comes to them: whoever is told, the next of a series, and the run that follows. */
export class SimulatedRings {
  readonly #simulation: SimulationPort;
  readonly #queue: SimulationQueue;
  readonly #runs: SimulatedRuns;

  constructor(simulation: SimulationPort, queue: SimulationQueue, runs: SimulatedRuns) {
    this.#simulation = simulation;
    this.#queue = queue;
    this.#runs = runs;
  }

  ring(rule: RuleFacts, ring: RingAhead, state: SimulatedTask): void {
    const { lead, recipientId, anchorValue } = ring;
    const { planner } = this.#simulation;
    if (ring.forwardAt !== null) return this.#bringForward(rule, ring, state);
    const { task } = state;
    const recipient = recipientId === THE_RUN ? null : planner.facts.people.get(recipientId);
    if (recipient === undefined) return;
    let rings: At[] = [ring];
    if (repeats(lead)) {
      if (state.left(rule, lead, anchorValue, recipientId) >= mostOf(lead)) return;
      rings = sameInstant({ planner, lead, task, recipient }, ring);
      this.#queueRepeat(rule, ring, state, recipient);
    }
    if (!this.#isRung(rule, lead, task)) return;
    const still = planner.ladders.stillOfRing(lead, task, this.#simulation.now);
    const stands = still && stillReason(planner, lead, task, still);
    if (still && (stands === null || recipient === null)) return;
    if (recipient === null) {
      const { ordinal, originDay } = rings.at(-1)!;
      state.occupy(rule, runKey(lead, ordinal, anchorValue));
      const at = rule.program.start;
      this.#runs.start({ rule, lead, state, at, ordinal, anchorValue, actorId: null, originDay });
      return;
    }
    for (const tell of tellsOf(planner, { rule, lead, task, recipient })) {
      const of = { ...PLANNED, rule, tell, lead, state, anchorValue };
      for (const { ordinal, originDay } of rings)
        this.#simulation.tell(of, recipient, ordinal, originDay, stands);
    }
  }

  /** What would be late is told now, before its ring instant; at that instant the ring goes on with whatever it does besides. */
  #bringForward(rule: RuleFacts, ring: RingAhead, state: SimulatedTask): void {
    const { lead, ordinal, recipientId, originDay, anchorValue, ringAt } = ring;
    const { planner } = this.#simulation;
    const { task } = state;
    const recipient = planner.facts.people.get(recipientId);
    if (!recipient) return;
    const telling = { rule, lead, task, recipient, ordinal };
    const forwardAt = forwardOf(planner, telling, ringAt, this.#simulation.now);
    this.#queue.ring(rule, { ...ring, forwardAt }, state);
    if (!this.#isRung(rule, lead, task) || planner.ladders.stillOfRing(lead, task, this.#simulation.now))
      return;
    for (const tell of tellsForward(planner, telling, ringAt, this.#simulation.now)) {
      const of = { ...PLANNED, rule, tell, lead, state, anchorValue };
      const key = { lead, ordinal, anchorValue, stepId: tell.step.id, recipientId };
      if (state.occupied(rule, key) || this.#simulation.hasHadEnough(of, recipientId)) continue;
      this.#simulation.queueNotice({
        ...of,
        notice: {
          ...blankNotice(),
          ...{ ruleId: rule.id, leadId: lead.lead.id, leadOrder: lead.order, stepId: tell.step.id },
          ...{ taskId: task.id, recipientId, readerId: recipientId, ordinal, ringAt, originDay },
          leavesAt: this.#simulation.now,
          ifActs: state.changedBy
        }
      });
    }
  }

  /** Whether a rule rings a task now by a lead. */
  #isRung(rule: RuleFacts, lead: CompiledLead, task: TaskFacts): boolean {
    const { planner } = this.#simulation;
    return (
      leadHolds(lead, task, planner.facts) &&
      planner.watches(rule, task, this.#simulation.now) &&
      !planner.stopped(rule, task, this.#simulation.now)
    );
  }

  #queueRepeat(rule: RuleFacts, ring: RingAhead, state: SimulatedTask, recipient: PersonFacts | null): void {
    const { planner } = this.#simulation;
    const { lead } = ring;
    const { task } = state;
    const { next } = aroundNow({ planner, lead, task, recipient }, this.#simulation.now);
    if (!next) return;
    const of = recipient && { rule, lead, task, recipient, ordinal: next.ordinal };
    const forwardAt = of && forwardOf(planner, of, next.ringAt, this.#simulation.now);
    this.#queue.ring(rule, { ...ring, ...next, forwardAt }, state);
  }
}
