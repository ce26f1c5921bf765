import type { ScheduleRing } from '../../recurrence/schedule.ts';
import { inScope } from '../../rule/watch.ts';
import type { CompiledLead } from '../facts/compile-lead.ts';
import type { RuleFacts } from '../facts/compile-rule.ts';
import type { LeadClock } from '../plan/lead-clock.ts';
import { leadHolds } from '../facts/lead-filter.ts';
import { isOnOwnClocks, scheduleValue } from '../plan/schedule-value.ts';
import { isOnRecipientsClock, owedByMove, seatsOf, toldOnClock, type Seat } from '../plan/seats.ts';
import type { SimulatedRuns } from './simulated-runs.ts';
import type { SimulatedTask } from './simulated-task.ts';
import type { SimulationPort } from './simulation-port.ts';
import type { SimulationQueue } from './simulation-queue.ts';
import { runKey } from '../plan/telling.ts';

/** A fault of a schedule itself is of no task. */
const NO_TASK = 0;

/** One clock of a schedule, with what comes on it next and the tasks that it rings for; null is all of them. */
interface Sitting {
  next: ScheduleRing | null;
  states: Set<SimulatedTask> | null;
}

/** A schedule of a rule on its clocks. */
interface OnClocks {
  rule: RuleFacts;
  lead: CompiledLead;
  sittings: Map<LeadClock, Sitting>;
  seats: Map<SimulatedTask, readonly Seat[]>;
  /** What rings at once because a clock was changed. */
  owed: { state: SimulatedTask; clock: LeadClock }[];
}

/** Schedules as a forecast goes through time: at each ring one looks for its tasks, and each that it finds rings by itself. */
export class SimulatedSchedules {
  readonly #simulation: SimulationPort;
  readonly #runs: SimulatedRuns;
  readonly #queue: SimulationQueue;
  readonly #onFault: (ruleId: number, taskId: number, error: unknown) => void;
  readonly #leads = new Map<CompiledLead, OnClocks>();
  readonly #onOwn: readonly OnClocks[];

  constructor(
    simulation: SimulationPort,
    runs: SimulatedRuns,
    queue: SimulationQueue,
    onFault: (ruleId: number, taskId: number, error: unknown) => void
  ) {
    this.#simulation = simulation;
    this.#runs = runs;
    this.#queue = queue;
    this.#onFault = onFault;
    for (const rule of simulation.rules)
      for (const lead of rule.leads)
        if (lead.schedule)
          this.#leads.set(lead, { rule, lead, sittings: new Map(), seats: new Map(), owed: [] });
    this.#onOwn = [...this.#leads.values()].filter(({ lead }) => isOnOwnClocks(lead));
  }

  /** Puts the schedules of one clock in line; those of more are, as their tasks are seated. */
  begin(): void {
    for (const one of this.#leads.values())
      if (!isOnOwnClocks(one.lead))
        this.#guarded(one, () => this.#sit(one, this.#simulation.planner.clocks.forAll(one.lead), null));
  }

  /** By which clocks schedules ring for a task as it stands now; what has passed by a change of clock rings at once. */
  seat(state: SimulatedTask): void {
    const { planner, now } = this.#simulation;
    for (const one of this.#onOwn)
      this.#simulation.attempt(one.rule.id, state.task.id, () => {
        const { rule, lead } = one;
        const before = one.seats.get(state) ?? [];
        const after = seatsOf(planner, rule, lead, state.task);
        if (before.length + after.length === 0) return;
        for (const { clock } of before) one.sittings.get(clock)?.states?.delete(state);
        for (const { clock } of after) this.#guarded(one, () => this.#sit(one, clock, state));
        one.seats.set(state, after);
        // What a run changes itself never sets off its own Watch.
        if (state.staleBy === rule.id) return;
        const owed = owedByMove(before, after, now);
        for (const { clock } of owed) one.owed.push({ state, clock });
        if (owed.length > 0) this.#queue.schedule(rule, lead, now);
      });
  }

  #sit(one: OnClocks, clock: LeadClock, state: SimulatedTask | null): void {
    let sitting = one.sittings.get(clock);
    if (!sitting) {
      sitting = { next: null, states: state && new Set() };
      one.sittings.set(clock, sitting);
      this.#queueNext(one, clock, sitting);
    }
    if (state) sitting.states!.add(state);
  }

  #queueNext({ rule, lead }: OnClocks, clock: LeadClock, sitting: Sitting): void {
    sitting.next = clock.nextAfter(this.#simulation.now);
    if (sitting.next) this.#queue.schedule(rule, lead, sitting.next.at);
  }

  /** Rings what is due of a schedule now, on all of its clocks that show its time. */
  ring(rule: RuleFacts, lead: CompiledLead): void {
    const { planner, now } = this.#simulation;
    const one = this.#leads.get(lead)!;
    const due = new Map<SimulatedTask, Map<LeadClock, ScheduleRing>>();
    const add = (state: SimulatedTask, clock: LeadClock, ring: ScheduleRing) =>
      due.set(state, (due.get(state) ?? new Map<LeadClock, ScheduleRing>()).set(clock, ring));
    for (const { state, clock } of one.owed.splice(0)) add(state, clock, clock.lastBy(now)!);
    for (const [clock, sitting] of one.sittings) {
      const { next, states } = sitting;
      if (!next || next.at > now) continue;
      for (const state of states ?? this.#simulation.states()) add(state, clock, next);
      this.#guarded(one, () => this.#queueNext(one, clock, sitting));
    }
    const found = [...due.keys()]
      .filter(({ task }) => inScope(rule.watch, task) && leadHolds(lead, task, planner.facts))
      .sort((a, b) => a.dueAt - b.dueAt || a.task.id - b.task.id);
    for (const state of found)
      this.#simulation.attempt(rule.id, state.task.id, () => {
        if (!planner.watches(rule, state.task, now) || planner.stopped(rule, state.task, now)) return;
        for (const [clock, ring] of due.get(state)!)
          if (planner.anchors.hasCome(lead, state.task, clock.zone.dayOf(ring.at)))
            this.#ringFound(one, state, clock, ring);
      });
  }

  #ringFound({ rule, lead }: OnClocks, state: SimulatedTask, clock: LeadClock, ring: ScheduleRing): void {
    const value = scheduleValue(this.#simulation.planner, lead, state.task, ring);
    if (!isOnRecipientsClock(lead)) this.#simulation.ringAtOnce(rule, lead, state, value, null);
    else this.#tellOnClock(rule, lead, state, clock, value);
  }

  /** Whoever is on this clock is told; where the owner is, the steps that follow are taken. */
  #tellOnClock(
    rule: RuleFacts,
    lead: CompiledLead,
    state: SimulatedTask,
    clock: LeadClock,
    value: string
  ): void {
    const { planner, now } = this.#simulation;
    if (planner.isQuiet(rule, state.task, now)) return;
    const originDay = planner.dates.ownerZone(state.task).dayOf(now);
    for (const { tell, told } of toldOnClock(planner, rule, lead, state.task, clock)) {
      const { person, named } = told;
      const of = { rule, tell, lead, state, anchorValue: value, named };
      this.#simulation.tell(
        { ...of, own: [], regardless: false, actorId: null, snoozed: false },
        person,
        0,
        originDay
      );
    }
    if (rule.program.tellsOnly || planner.clocks.of(lead, state.task, null) !== clock) return;
    const key = runKey(lead, 0, value);
    if (state.occupied(rule, key)) return;
    state.occupy(rule, key);
    const at = rule.program.start;
    this.#runs.start({ rule, lead, state, at, ordinal: 0, anchorValue: value, actorId: null, originDay });
  }

  /** A schedule that cannot be computed on a clock does not ring on it. */
  #guarded({ rule }: OnClocks, work: () => void): void {
    try {
      work();
    } catch (error) {
      this.#onFault(rule.id, NO_TASK, error);
    }
  }
}
