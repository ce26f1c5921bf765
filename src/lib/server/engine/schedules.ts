import { CodedError } from '../../core/errors.ts';
import { conditionWords } from '../../core/rule/condition-words.ts';
import { leadHolds } from '../../core/forecast/lead-filter.ts';
import { inScope } from '../../core/rule/watch.ts';
import { folded } from '../../core/rule/compile-condition.ts';
import { scheduleRings } from '../../core/recurrence/schedule.ts';
import type { CompiledLead } from '../../core/forecast/compile-lead.ts';
import type { TaskFacts } from '../../core/forecast/facts.ts';
import { formatInstant } from '../../core/time/instant.ts';
import { isMachineFault } from '../db/machine-fault.ts';
import type { UnitOfWork } from '../db/unit-of-work.ts';
import type { ScheduleRow } from '../store/plan.ts';
import type { Stores } from '../store/all.ts';
import { NO_TASK } from '../store/rule-faults.ts';
import type { Stages } from '../store/runs.ts';
import type { CatchUp } from './catch-up.ts';
import { BY_TIME, type Chain, type SetOff } from './chain.ts';
import type { FactsSource, LiveRule } from './facts-source.ts';
import { recordNames } from './names.ts';
import type { RuleFaults } from './rule-faults.ts';

/** After downtime a schedule's ring is made up for while it is younger than this. */
const DOWNTIME_LIMIT_MS = 12 * 3_600_000;
/** Stands for the test that keeps a task out where none can be made. */
const UNTESTED = 'the rule cannot be computed for them';

/** Rings of a rule over its Watch: by its schedule, or because somebody presses. One parent ring holds the stages, and under it one for each task found. */
export class Schedules {
  readonly #stores: Stores;
  readonly #source: FactsSource;
  readonly #chain: Chain;
  readonly #catchUp: CatchUp;
  #planned: readonly LiveRule[] | null = null;

  readonly #work: UnitOfWork;
  readonly #faults: RuleFaults;

  constructor(
    work: UnitOfWork,
    stores: Stores,
    source: FactsSource,
    chain: Chain,
    catchUp: CatchUp,
    faults: RuleFaults
  ) {
    this.#work = work;
    this.#faults = faults;
    this.#stores = stores;
    this.#source = source;
    this.#chain = chain;
    this.#catchUp = catchUp;
  }

  /** Plans the next ring of each schedule afresh where rules have changed. What was due while the server was down stays due. */
  sync(now: number): void {
    const live = this.#source.liveRules();
    if (this.#planned === live) return;
    this.#planned = live;
    this.#work.onRollback(() => (this.#planned = null));
    const known = new Map(this.#stores.plan.schedules().map((row) => [`${row.ruleId}/${row.leadId}`, row]));
    const rows = live.flatMap((rule) =>
      rule.facts.leads.flatMap((lead): ScheduleRow[] => {
        if (!lead.schedule) return [];
        const before = known.get(`${rule.facts.id}/${lead.lead.id}`);
        const nextAt = before && before.nextAt <= now ? before.nextAt : this.#nextOf(rule, lead, now, now);
        return nextAt === null ? [] : [{ ruleId: rule.facts.id, leadId: lead.lead.id, nextAt }];
      })
    );
    this.#stores.plan.setSchedules(rows);
  }

  /** The clock was set back: what lies between is ahead again. */
  forget(): void {
    this.#planned = null;
    this.#stores.plan.setSchedules([]);
  }

  /** The first ring of a schedule after an instant; null when it has come to its end. @throws CodedError where it cannot be computed */
  nextAfter(lead: CompiledLead, after: number): number | null {
    const { zone: own, calendar } = this.#source.facts.workspace;
    const zone = lead.namedZone ?? own;
    for (const at of scheduleRings({ ...lead.schedule!, zone }, calendar)) if (at > after) return at;
    return null;
  }

  /** The same; a schedule that cannot be computed is a fault of its rule, and does not ring. */
  #nextOf(rule: LiveRule, lead: CompiledLead, after: number, now: number): number | null {
    try {
      const next = this.nextAfter(lead, after);
      this.#faults.rang(rule.facts.id, NO_TASK);
      return next;
    } catch (error) {
      if (!(error instanceof CodedError)) throw error;
      this.#faults.note(rule.facts.id, NO_TASK, 'planning', error, now);
      return null;
    }
  }

  /**
   * Rings the schedules of an instant, in their order. One that fails keeps none of the others from ringing.
   * @param onFault hears of what cannot be rung at all
   */
  ringDue(at: number, now: number, onFault: (error: unknown, ruleId: number) => void): void {
    for (const row of this.#stores.plan.schedules()) {
      if (row.nextAt > at) return;
      const rule = this.#source.live(row.ruleId);
      const lead = rule?.facts.leads.find(({ lead: { id } }) => id === row.leadId);
      const next = rule && lead?.schedule ? this.#nextOf(rule, lead, row.nextAt, now) : null;
      this.#stores.plan.moveSchedule(row, next ?? Number.MAX_SAFE_INTEGER);
      if (!rule || !lead || this.#isTooLate(rule, row.nextAt, next, now)) continue;
      const value = formatInstant(row.nextAt);
      try {
        const tasks = this.#stores.tasks.facts();
        this.#work.run(() => this.ring(rule, lead, tasks, row.nextAt, now, value, BY_TIME, true));
      } catch (error) {
        if (isMachineFault(error)) throw error;
        onFault(error, row.ruleId);
      }
    }
  }

  /** Of several that were missed the last one rings, if it is young enough. */
  #isTooLate(rule: LiveRule, at: number, next: number | null, now: number): boolean {
    if (next !== null && next <= now) return true;
    const late = now > at + 60_000;
    const { answer } = this.#catchUp;
    if (answer !== null) return late && answer === 'pass over';
    return now - at >= DOWNTIME_LIMIT_MS || (late && rule.facts.past.down === 'do not ring');
  }

  /**
   * Looks for the tasks of a rule among some and rings each that it finds.
   * @param value by what the parent ring is known
   * @param asks whether Watch is asked; a person may ring for tasks of their choice
   * @returns the run that holds the stages
   */
  ring(
    rule: LiveRule,
    lead: CompiledLead,
    tasks: readonly TaskFacts[],
    at: number,
    now: number,
    value: string,
    { actorId, setOffBy }: SetOff,
    asks: boolean
  ): number {
    const { notices, runs } = this.#stores;
    const key = {
      ruleId: rule.facts.id,
      leadId: lead.lead.id,
      taskId: 0,
      anchorValue: value,
      round: 0,
      ordinal: 0
    };
    const parentRing = notices.ring(key, at, 'none');
    const parent = runs.begin(parentRing, rule.facts.id, rule.versionId, now, { actorId, setOffBy });
    const excluded = new Map<string, number>();
    const { planner } = this.#source;
    const looked = tasks.filter((task) => !asks || inScope(rule.facts.watch, task));
    const found = looked.filter((task) => !asks || this.#canBeFound(rule, lead, task, at, now, excluded));
    found.sort(
      (a, b) =>
        (planner.dates.momentOf('due', a) ?? Infinity) - (planner.dates.momentOf('due', b) ?? Infinity) ||
        a.id - b.id ||
        0
    );
    let rung = 0;
    for (const task of found) {
      const known = lead.schedule ? this.#chain.foundValue(lead, task.id, at) : value;
      if (known === null) continue;
      const of = { parentId: parent.id, actorId, setOffBy, regardless: !asks };
      try {
        const ringId = this.#work.run(() => this.#chain.ringFound(rule, lead, task.id, known, now, of));
        if (ringId !== null) rung++;
      } catch (error) {
        // One task that it cannot be rung for keeps none of the others from being told of.
        if (!(error instanceof CodedError)) throw error;
        this.#chain.failed(rule, lead, task.id, known, error, now, of);
      }
    }
    const stages = this.#stages(lead.schedule ? rule.facts.id : null, looked.length, rung, excluded);
    runs.setStages(parent.id, stages);
    runs.end(parent.id, 'ended', rung === 0 ? 'rang for nobody' : null, now);
    return parent.id;
  }

  /** A task that cannot be tested is not found, and keeps none of the others from being found. */
  #canBeFound(
    rule: LiveRule,
    lead: CompiledLead,
    task: TaskFacts,
    at: number,
    now: number,
    excluded: Map<string, number>
  ): boolean {
    try {
      return this.#isFound(rule, lead, task, at, excluded);
    } catch (error) {
      if (!(error instanceof CodedError)) throw error;
      this.#faults.note(rule.facts.id, task.id, 'ringing', error, now);
      excluded.set(UNTESTED, (excluded.get(UNTESTED) ?? 0) + 1);
      return false;
    }
  }

  /** Whether a task in scope passes; the test that keeps it out is counted. */
  #isFound(
    rule: LiveRule,
    lead: CompiledLead,
    task: TaskFacts,
    at: number,
    excluded: Map<string, number>
  ): boolean {
    const { planner } = this.#source;
    const count = (test: string) => {
      excluded.set(test, (excluded.get(test) ?? 0) + 1);
      return false;
    };
    if (!leadHolds(lead, task, planner.facts)) return count('the ring time is for others');
    const { watch, id } = rule.facts;
    if (watch.asks) {
      const subject = planner.subject(task, at, id);
      if (watch.tags && !subject.details.tags.some((tag) => watch.tags!.has(folded(tag))))
        return count('its tags');
      const failing = watch.condition?.failing(subject);
      if (failing) return count(conditionWords(failing, recordNames(this.#stores)));
    }
    return planner.stopped(rule.facts, task, at) ? count('it has come to its end for the task') : true;
  }

  #stages(
    ruleId: number | null,
    looked: number,
    found: number,
    excluded: ReadonlyMap<string, number>
  ): Stages {
    return {
      looked,
      found,
      // What somebody rings by hand nobody has foreseen.
      expected:
        ruleId === null
          ? null
          : (this.#stores.engineState.read<{ byRule: Record<number, number> }>('foreseen')?.byRule[ruleId] ??
            null),
      excluded: [...excluded]
        .map(([test, count]) => ({ test, count }))
        .sort((a, b) => b.count - a.count)
        .slice(0, 5)
    };
  }
}
