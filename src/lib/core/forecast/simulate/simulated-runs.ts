import { advance } from '../../rule/advance.ts';
import { leadHolds } from '../facts/lead-filter.ts';
import type { Act } from '../../rule/acts.ts';
import { ONCE_ONLY } from '../../rule/acts.ts';
import type { RuleEvent } from '../../rule/events.ts';
import type { Do } from '../../rule/step-model.ts';
import { waitUntil } from '../../rule/wait-until.ts';
import type { InstantMs } from '../../time/zone.ts';
import { actOn } from '../decide/act-on.ts';
import { resolveAct, type Effect } from '../../rule/resolve-act.ts';
import type { CompiledLead } from '../facts/compile-lead.ts';
import type { RuleFacts } from '../facts/compile-rule.ts';
import { changeBetween, flatten, withoutOwn, type OwnChange } from '../decide/own-changes.ts';
import { isOpen } from '../../task/model.ts';
import { onceValue } from '../decide/once-value.ts';
import { imagined, patched } from './shadow.ts';
import type { RunAhead } from './simulated.ts';
import type { SimulatedTask } from './simulated-task.ts';
import type { SimulationPort } from './simulation-port.ts';
import { eventsOfChange, listens } from '../decide/task-events.ts';

/** Chains in one commit: how deep they go, and how much they change. */
export const DEEPEST_CHAIN = 8;
export const MOST_CHANGES = 200;
/** How often a rule that moves the date it counts from rings again for a task in its round. */
export const MOST_REARMED = 3;

interface Started {
  rule: RuleFacts;
  lead: CompiledLead;
  state: SimulatedTask;
  /** The instruction to begin with. */
  at: number;
  ordinal: number;
  anchorValue: string;
  actorId: number | null;
  originDay: number;
}

/** What a chain has done so far. */
interface Chain {
  depth: number;
  changes: number;
  /** Rules and tasks that have run. */
  ran: Set<string>;
}

/** Runs as a forecast imagines them: people do nothing, so what is asked stays unanswered. */
export class SimulatedRuns {
  readonly #simulation: SimulationPort;
  #chain: Chain = { depth: 0, changes: 0, ran: new Set() };
  #nextId = -1_000_000;

  constructor(simulation: SimulationPort) {
    this.#simulation = simulation;
  }

  /** A ring's steps, from where its leading Tells end. */
  start({ rule, lead, state, at, ordinal, anchorValue, actorId, originDay }: Started): void {
    if (this.#simulation.planner.isQuiet(rule, state.task, this.#simulation.now)) return;
    state.countRun(rule, lead, anchorValue);
    const run: RunAhead = {
      ...{ rule, leadId: lead.lead.id, taskId: state.task.id, at, until: this.#simulation.now },
      ...{
        ringAt: this.#simulation.now,
        ordinal,
        anchorValue,
        actorId,
        own: [],
        regardless: false,
        asking: false
      }
    };
    this.#go(run, lead, state, originDay, false);
  }

  /** Whoever has come to a ring since it rang is told of it, without a new run. */
  tellOthers(
    rule: RuleFacts,
    lead: CompiledLead,
    state: SimulatedTask,
    anchorValue: string,
    originDay: number
  ): void {
    const { planner, now } = this.#simulation;
    if (planner.isQuiet(rule, state.task, now)) return;
    for (const tell of rule.program.atOnce)
      if (tell.leads === null || tell.leads.has(lead.lead.id))
        for (const { person, named } of planner.audience.told(rule, tell, state.task, lead.lead.id))
          this.#simulation.tell(
            {
              rule,
              tell,
              lead,
              state,
              anchorValue,
              own: [],
              regardless: false,
              actorId: null,
              named,
              snoozed: false
            },
            person,
            0,
            originDay
          );
  }

  /** A run that waited. */
  goOn(run: RunAhead): void {
    const state = this.#simulation.state(run.taskId);
    const lead = run.rule.leads.find(({ lead: { id } }) => id === run.leadId);
    if (!state || !lead) return;
    const { planner, now } = this.#simulation;
    if (planner.isQuiet(run.rule, state.task, now)) return;
    if (!run.regardless && !run.asking) {
      const seen = withoutOwn(state.task, planner.facts.detailsOf(state.task.id), run.own);
      const details = run.own.length > 0 ? seen.details : null;
      if (
        !planner.watches(run.rule, seen.task, now, details) ||
        planner.stopped(run.rule, seen.task, now, details)
      )
        return;
    }
    this.#chain = { depth: 0, changes: 0, ran: new Set() };
    this.#go(run, lead, state, planner.dates.ownerZone(state.task).dayOf(now), run.asking);
  }

  #go(run: RunAhead, lead: CompiledLead, state: SimulatedTask, originDay: number, answered: boolean): void {
    const simulation = this.#simulation;
    const { planner, now } = simulation;
    const own: OwnChange[] = [...run.own];
    let asking = false;
    let regardless = run.regardless;
    let isAnswer = answered;
    const standing = advance(run.rule.program, run.at, {
      leadId: run.leadId,
      tell: (tell) => {
        const told = planner.audience.told(run.rule, tell, state.task, run.leadId, run.actorId);
        for (const { person, named } of told)
          simulation.tell(
            {
              ...{ rule: run.rule, tell, lead, state, anchorValue: run.anchorValue, own, regardless },
              ...{ actorId: run.actorId, named, snoozed: false }
            },
            person,
            run.ordinal,
            originDay
          );
      },
      act: (step) => {
        if (step.ask && !isAnswer) {
          asking = true;
          return this.#answerBy(step, state);
        }
        isAnswer = false;
        if (!step.ask || step.ask.otherwise === 'yes') own.push(...this.#act(run, lead, step, state));
        return null;
      },
      wait: (step) => {
        regardless = step.regardless;
        const [zone, calendar] = [planner.actZone(lead, state.task), planner.dates.calendarOf(state.task)];
        return waitUntil(step, now, { zone, calendar, endOfDay: planner.facts.workspace.endOfDay });
      },
      holds: (condition) =>
        condition === null || condition.holds(planner.subject(state.task, now, run.rule.id)),
      took: () => {}
    });
    if (standing.until !== null)
      simulation.queueRun({ ...run, at: standing.at, until: standing.until, own, regardless, asking });
  }

  /** What is asked stands for so many working days. */
  #answerBy({ ask }: Do, state: SimulatedTask): InstantMs {
    const { planner, now } = this.#simulation;
    const step = { n: ask!.workingDays, unit: 'workday' as const, time: null, closedDay: 'later' as const };
    const zone = planner.dates.ownerZone(state.task);
    return waitUntil(step, now, {
      zone,
      calendar: planner.dates.calendarOf(state.task),
      endOfDay: planner.facts.workspace.endOfDay
    });
  }

  /** @returns what it changed of the task itself */
  #act(run: RunAhead, lead: CompiledLead, step: Do, state: SimulatedTask): OwnChange[] {
    const { rule, actorId } = run;
    const own: OwnChange[] = [];
    for (const act of step.acts) {
      if (this.#chain.changes >= MOST_CHANGES) break;
      const once = `${step.id}/${act.act}`;
      if (act.act === 'follow-up' && this.#hasOpenFollowUp(rule, state)) continue;
      if (ONCE_ONLY.includes(act.act)) {
        const value = onceValue(lead, run.anchorValue, state.task);
        if (state.hasDone(rule.id, once, value)) continue;
        state.does(rule.id, once, value);
      }
      const { planner, now, result } = this.#simulation;
      const effect = resolveAct(act, actOn(planner, rule, state.task, now, actorId));
      if (!effect) continue;
      this.#chain.changes++;
      if (now <= this.#simulation.until)
        result.acts.push({ at: now, ruleId: rule.id, taskId: state.task.id, stepId: step.id, act: act.act });
      const change = this.#effect(rule, act, effect, state, actorId);
      if (change) own.push(change);
    }
    return own;
  }

  /** While one of a rule is open for a task no second is made. */
  #hasOpenFollowUp(rule: RuleFacts, state: SimulatedTask): boolean {
    return state.followUps(rule.id).some((id) => {
      const made = this.#simulation.state(id)?.task;
      // One that no rule of the forecast changes stays as it was.
      return !made || (isOpen(made.phase) && made.aside !== 'binned' && made.aside !== 'archived');
    });
  }

  #effect(
    rule: RuleFacts,
    act: Act,
    effect: Effect,
    state: SimulatedTask,
    actorId: number | null
  ): OwnChange | null {
    const simulation = this.#simulation;
    const { planner, now } = simulation;
    switch (effect.kind) {
      case 'patch':
        return this.#patch(rule, effect.patch, state, actorId);
      case 'new task': {
        const { name, made: before } = state.task;
        const by = { ruleIds: [rule.id, ...(before?.ruleIds ?? [])], origin: before?.origin ?? name };
        const made = imagined(this.#nextId--, effect.task, by, now, planner.facts);
        const fresh = simulation.adopt(made.task, made.details, rule.id, 'created');
        if (effect.of === 'follow-up') state.followedUp(rule.id, made.task.id);
        simulation.result.imagined.push(made.task);
        this.#happened(
          [{ name: 'created', taskId: made.task.id, before: null, after: null }],
          fresh,
          rule,
          actorId
        );
        return null;
      }
      case 'open tasks': {
        for (const other of [...simulation.states()])
          if (other.task.projectId === state.task.projectId && other.task.aside === null)
            this.#patch(rule, { statusId: effect.statusId }, other, actorId);
        return null;
      }
      case 'ring': {
        const other = simulation.rules.find(({ id }) => id === effect.ruleId);
        const lead = other?.leads[0];
        if (other && lead && planner.watches(other, state.task, now))
          this.#ringInChain(other, lead, state, `act ${act.act} ${now}`, actorId);
        return null;
      }
      default:
        return null;
    }
  }

  #patch(
    rule: RuleFacts,
    patch: Parameters<typeof patched>[1],
    state: SimulatedTask,
    actorId: number | null
  ): OwnChange | null {
    const { planner, now } = this.#simulation;
    const before = { task: state.task, details: planner.facts.detailsOf(state.task.id) };
    const after = patched(before, patch, now, planner.facts);
    const change = changeBetween(flatten(before.task, before.details), flatten(after.task, after.details));
    if (!change) return null;
    const moved = 'due' in change.after || 'start' in change.after;
    this.#simulation.adopt(after.task, after.details, rule.id, moved ? 'moved' : 'other');
    this.#happened(eventsOfChange(state.task.id, change), state, rule, actorId);
    return change;
  }

  /** Rules that listen ring in the same commit, in their order. */
  #happened(events: readonly RuleEvent[], state: SimulatedTask, by: RuleFacts, actorId: number | null): void {
    const { planner, rules, now } = this.#simulation;
    for (const event of events)
      for (const rule of rules) {
        if (rule.id === by.id) continue;
        for (const lead of rule.leads) {
          if (lead.lead.kind !== 'event' || lead.anchor !== null || !listens(lead.lead, event)) continue;
          // A rule that cannot be computed for the task keeps nobody else from acting.
          this.#simulation.attempt(rule.id, state.task.id, () => {
            if (!leadHolds(lead, state.task, planner.facts) || !planner.watches(rule, state.task, now))
              return;
            if (!planner.stopped(rule, state.task, now))
              this.#ringInChain(rule, lead, state, `${event.name} ${now}`, actorId);
          });
        }
      }
  }

  #ringInChain(
    rule: RuleFacts,
    lead: CompiledLead,
    state: SimulatedTask,
    value: string,
    actorId: number | null
  ): void {
    const key = `${rule.id}/${state.task.id}`;
    if (this.#chain.depth >= DEEPEST_CHAIN || this.#chain.ran.has(key)) return;
    this.#chain.ran.add(key);
    this.#chain.depth++;
    this.#simulation.ringAtOnce(rule, lead, state, value, actorId);
    this.#chain.depth--;
  }
}
