import { CodedError } from '../../core/errors.ts';
import { conditionWords } from '../../core/rule/words/condition-words.ts';
import { leadHolds } from '../../core/forecast/facts/lead-filter.ts';
import { inScope } from '../../core/rule/watch.ts';
import { folded } from '../../core/rule/compile-condition.ts';
import type { CompiledLead } from '../../core/forecast/facts/compile-lead.ts';
import type { TaskFacts } from '../../core/forecast/facts/facts.ts';
import type { LeadClock } from '../../core/forecast/plan/lead-clock.ts';
import { isOnOwnClocks, scheduleValue } from '../../core/forecast/plan/schedule-value.ts';
import { isOnRecipientsClock } from '../../core/forecast/plan/seats.ts';
import type { ScheduleRing } from '../../core/recurrence/schedule.ts';
import { formatInstant } from '../../core/time/instant.ts';
import type { UnitOfWork } from '../db/unit-of-work.ts';
import type { Stores } from '../store/all.ts';
import type { Stages } from '../store/runs.ts';
import { BY_TIME, type Chain, type SetOff } from './chain.ts';
import type { ClockRings } from './clock-rings.ts';
import type { FactsSource, LiveRule } from './facts-source.ts';
import { recordNames } from './names.ts';
import type { RuleFaults } from './rule-faults.ts';
import type { WorkingOver } from './working-over.ts';

/** Stands for the test that keeps a task out where none can be made. */
const UNTESTED = 'the rule cannot be computed';

/** A look of a rule over tasks. */
interface Look {
  rule: LiveRule;
  lead: CompiledLead;
  tasks: readonly TaskFacts[];
  at: number;
  now: number;
  /** By what the parent ring is known. */
  value: string;
  by: SetOff;
  /** Whether Watch is asked; a person may ring for tasks of their choice. */
  asks: boolean;
  /** Whether the date that it tells once has come for a task; absent where it asks for none. */
  hasCome?: (task: TaskFacts) => boolean;
}

/** What a look rings for a task that it finds. */
interface Found {
  /** By what the ring is known. */
  value: string;
  /** @returns the ring; null where nothing rang */
  ring: (of: SetOff & { parentId: number; regardless: boolean }) => number | null;
}

/** An occurrence of a schedule that has come on a clock. */
export interface Come {
  clock: LeadClock;
  ring: ScheduleRing;
}

/** Rings of a rule over its Watch: by its schedule, or because somebody presses. One parent ring holds the stages, and under it one for each task found. */
export class ScheduleRings {
  readonly #work: UnitOfWork;
  readonly #stores: Stores;
  readonly #source: FactsSource;
  readonly #chain: Chain;
  readonly #clockRings: ClockRings;
  readonly #faults: RuleFaults;

  constructor(
    { work, stores, source }: WorkingOver,
    chain: Chain,
    clockRings: ClockRings,
    faults: RuleFaults
  ) {
    this.#work = work;
    this.#stores = stores;
    this.#source = source;
    this.#chain = chain;
    this.#clockRings = clockRings;
    this.#faults = faults;
  }

  /** What somebody rings for some tasks. @returns the run that holds the stages */
  byHand(look: Look): number {
    const { rule, lead, value, now } = look;
    return this.#look(look, (taskId) => [
      { value, ring: (by) => this.#chain.ringFound({ rule, lead, value, by, now }, taskId) }
    ]);
  }

  /**
   * What a schedule rings at an instant.
   * @param come what has come for each of the tasks, by its id
   */
  bySchedule(
    { rule, lead, at, now }: Pick<Look, 'rule' | 'lead' | 'at' | 'now'>,
    tasks: readonly TaskFacts[],
    come: (taskId: number) => readonly Come[]
  ): void {
    const look = {
      ...{ rule, lead, tasks, at, now, value: formatInstant(at), by: BY_TIME, asks: true },
      hasCome: (task: TaskFacts) => come(task.id).some((one) => this.#hasCome(lead, task, one))
    };
    this.#look(look, (taskId) => {
      // What rang before it at this instant may have changed its date.
      const task = this.#stores.tasks.factsOf(taskId);
      return task
        ? come(taskId)
            .filter((one) => this.#hasCome(lead, task, one))
            .map((one) => this.#found(rule, lead, task, one, now))
        : [];
    });
  }

  #hasCome(lead: CompiledLead, task: TaskFacts, { clock, ring }: Come): boolean {
    return this.#source.planner.anchors.hasCome(lead, task, clock.zone.dayOf(ring.at));
  }

  #found(rule: LiveRule, lead: CompiledLead, task: TaskFacts, { clock, ring }: Come, now: number): Found {
    const value = scheduleValue(this.#source.planner, lead, task, ring);
    return {
      value,
      ring: (by) =>
        isOnRecipientsClock(lead)
          ? this.#clockRings.ring({ rule, lead, value, by, now }, task, clock)
          : this.#chain.ringFound({ rule, lead, value, by, now }, task.id)
    };
  }

  /** Looks for the tasks of a rule among some and rings each that it finds. @returns the run that holds the stages */
  #look(look: Look, foundOf: (taskId: number) => readonly Found[]): number {
    const { rule, lead, tasks, at, now, value, by, asks } = look;
    const { notices, runs } = this.#stores;
    const of = { ruleId: rule.facts.id, leadId: lead.lead.id };
    const key = { ...of, taskId: 0, anchorValue: value, round: 0, ordinal: 0 };
    const parent = runs.begin(notices.ring(key, at, 'none'), rule.facts.id, rule.versionId, now, by);
    const excluded = new Map<string, number>();
    const { planner } = this.#source;
    const looked = tasks.filter((task) => !asks || inScope(rule.facts.watch, task));
    const found = looked.filter((task) => !asks || this.#canBeFound(look, task, excluded));
    found.sort(
      (a, b) =>
        (planner.dates.momentOf('due', a) ?? Infinity) - (planner.dates.momentOf('due', b) ?? Infinity) ||
        a.id - b.id ||
        0
    );
    const rung = found.filter(({ id }) => this.#ringEach(look, id, parent.id, foundOf(id))).length;
    runs.setStages(parent.id, this.#stages(lead, rule.facts.id, looked.length, rung, excluded));
    runs.end(parent.id, 'ended', rung === 0 ? 'no task matched' : null, now);
    return parent.id;
  }

  /** @returns whether anything rang */
  #ringEach({ rule, lead, now, by, asks }: Look, taskId: number, parentId: number, found: readonly Found[]) {
    let rung = false;
    for (const { value, ring } of found) {
      const of = { parentId, ...by, regardless: !asks };
      try {
        if (this.#work.run(() => ring(of)) !== null) rung = true;
      } catch (error) {
        // One task that it cannot be rung for keeps none of the others from being told of.
        if (!(error instanceof CodedError)) throw error;
        this.#chain.failed({ rule, lead, value, by: of, now }, taskId, error);
      }
    }
    return rung;
  }

  /** A task that cannot be tested is not found, and keeps none of the others from being found. */
  #canBeFound(look: Look, task: TaskFacts, excluded: Map<string, number>): boolean {
    try {
      return this.#isFound(look, task, excluded);
    } catch (error) {
      if (!(error instanceof CodedError)) throw error;
      this.#faults.note(look.rule.facts.id, task.id, 'ringing', error, look.now);
      excluded.set(UNTESTED, (excluded.get(UNTESTED) ?? 0) + 1);
      return false;
    }
  }

  /** Whether a task in scope passes; the test that keeps it out is counted. */
  #isFound({ rule, lead, at, hasCome }: Look, task: TaskFacts, excluded: Map<string, number>): boolean {
    const { planner } = this.#source;
    const count = (test: string) => {
      excluded.set(test, (excluded.get(test) ?? 0) + 1);
      return false;
    };
    if (!leadHolds(lead, task, planner.facts)) return count('the ring time is for other tasks');
    if (hasCome?.(task) === false) return count('its date is missing, too early or still to come');
    const { watch, id } = rule.facts;
    if (watch.asks) {
      const subject = planner.subject(task, at, id);
      if (watch.tags && !subject.details.tags.some((tag) => watch.tags!.has(folded(tag))))
        return count('its tags');
      const failing = watch.condition?.failing(subject);
      if (failing) return count(conditionWords(failing, recordNames(this.#stores)));
    }
    return planner.stopped(rule.facts, task, at) ? count('the rule has ended for the task') : true;
  }

  #stages(
    lead: CompiledLead,
    ruleId: number,
    looked: number,
    found: number,
    excluded: ReadonlyMap<string, number>
  ): Stages {
    const foreseen = this.#stores.engineState.read<{ byRule: Record<number, number> }>('foreseen');
    // What somebody rings by hand nobody has foreseen, and what is foreseen of a day comes on several clocks one after the other.
    const isForeseen = lead.schedule !== null && !isOnOwnClocks(lead);
    return {
      looked,
      found,
      expected: isForeseen ? (foreseen?.byRule[ruleId] ?? null) : null,
      excluded: [...excluded]
        .map(([test, count]) => ({ test, count }))
        .sort((a, b) => b.count - a.count)
        .slice(0, 5)
    };
  }
}
