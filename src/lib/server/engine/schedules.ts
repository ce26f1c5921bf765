import { conditionWords } from '../../core/rule/condition-words.ts';
import { leadHolds } from '../../core/forecast/lead-filter.ts';
import { inScope } from '../../core/rule/watch.ts';
import { folded } from '../../core/rule/compile-condition.ts';
import { scheduleRings } from '../../core/recurrence/schedule.ts';
import type { CompiledLead } from '../../core/forecast/compile-lead.ts';
import type { TaskFacts } from '../../core/forecast/facts.ts';
import { formatInstant } from '../../core/time/instant.ts';
import type { ScheduleRow } from '../store/plan.ts';
import type { Stores } from '../store/all.ts';
import type { Stages } from '../store/runs.ts';
import type { CatchUp } from './catch-up.ts';
import type { Chain } from './chain.ts';
import type { FactsSource, LiveRule } from './facts-source.ts';
import { recordNames } from './names.ts';

/** After downtime a schedule's ring is made up for while it is younger than this. */
const DOWNTIME_LIMIT_MS = 12 * 3_600_000;

/** Rings of a rule over its Watch: by its schedule, or because somebody presses. One parent ring holds the stages, and under it one for each task found. */
export class Schedules {
  readonly #stores: Stores;
  readonly #source: FactsSource;
  readonly #chain: Chain;
  readonly #catchUp: CatchUp;
  #planned: readonly LiveRule[] | null = null;

  constructor(stores: Stores, source: FactsSource, chain: Chain, catchUp: CatchUp) {
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
    const known = new Map(this.#stores.plan.schedules().map((row) => [`${row.ruleId}/${row.leadId}`, row]));
    const rows = live.flatMap((rule) =>
      rule.facts.leads.flatMap((lead): ScheduleRow[] => {
        if (!lead.schedule) return [];
        const before = known.get(`${rule.facts.id}/${lead.lead.id}`);
        const nextAt = before && before.nextAt <= now ? before.nextAt : this.nextAfter(lead, now);
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

  /** The first ring of a schedule after an instant; null when it has come to its end. */
  nextAfter(lead: CompiledLead, after: number): number | null {
    const { zone: own, calendar } = this.#source.facts.workspace;
    const zone = lead.namedZone ?? own;
    for (const at of scheduleRings({ ...lead.schedule!, zone }, calendar)) if (at > after) return at;
    return null;
  }

  /** Rings the schedules of an instant, in their order. */
  ringDue(at: number, now: number): void {
    for (const row of this.#stores.plan.schedules()) {
      if (row.nextAt > at) return;
      const rule = this.#source.live(row.ruleId);
      const lead = rule?.facts.leads.find(({ lead: { id } }) => id === row.leadId);
      const next = lead?.schedule ? this.nextAfter(lead, row.nextAt) : null;
      this.#stores.plan.moveSchedule(row, next ?? Number.MAX_SAFE_INTEGER);
      // Of several that were missed the last one rings, if it is young enough.
      const overtaken = next !== null && next <= now;
      const late = now > row.nextAt + 60_000;
      const { answer } = this.#catchUp;
      const tooOld =
        answer === null
          ? now - row.nextAt >= DOWNTIME_LIMIT_MS || (late && rule?.facts.past.down === 'do not ring')
          : late && answer === 'pass over';
      if (rule && lead && !overtaken && !tooOld)
        this.ring(
          rule,
          lead,
          this.#stores.tasks.facts(),
          row.nextAt,
          now,
          formatInstant(row.nextAt),
          null,
          true
        );
    }
  }

  /** Passes over the schedules of an instant: one of them cannot be rung, and would stand in the way for ever. */
  passOver(at: number): void {
    for (const row of this.#stores.plan.schedules()) {
      if (row.nextAt > at) return;
      const lead = this.#source.live(row.ruleId)?.facts.leads.find(({ lead: { id } }) => id === row.leadId);
      this.#stores.plan.moveSchedule(
        row,
        (lead?.schedule ? this.nextAfter(lead, row.nextAt) : null) ?? Number.MAX_SAFE_INTEGER
      );
    }
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
    actorId: number | null,
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
    const parent = runs.begin(parentRing, rule.facts.id, rule.versionId, now, { actorId });
    const excluded = new Map<string, number>();
    const { planner } = this.#source;
    const looked = tasks.filter((task) => !asks || inScope(rule.facts.watch, task));
    const found = looked.filter((task) => !asks || this.#isFound(rule, lead, task, at, excluded));
    found.sort(
      (a, b) =>
        (planner.dates.momentOf('due', a) ?? Infinity) - (planner.dates.momentOf('due', b) ?? Infinity) ||
        a.id - b.id ||
        0
    );
    const ringIds: number[] = [];
    for (const task of found) {
      const known = lead.schedule ? this.#chain.foundValue(lead, task.id, at) : value;
      const of = { parentId: parent.id, actorId, regardless: !asks };
      const ringId = known === null ? null : this.#chain.ringFound(rule, lead, task.id, known, now, of);
      if (ringId !== null) ringIds.push(ringId);
    }
    const stages = this.#stages(rule.facts.id, looked.length, ringIds, excluded);
    runs.setStages(parent.id, stages);
    runs.end(parent.id, 'ended', stages.messages === 0 && stages.found === 0 ? 'rang for nobody' : null, now);
    return parent.id;
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
    ruleId: number,
    looked: number,
    ringIds: readonly number[],
    excluded: ReadonlyMap<string, number>
  ): Stages {
    const counts = this.#stores.tellings.countsOfRings(ringIds);
    return {
      looked,
      found: ringIds.length,
      people: counts.notices,
      distinct: counts.people,
      messages: counts.messages,
      expected:
        this.#stores.engineState.read<{ byRule: Record<number, number> }>('foreseen')?.byRule[ruleId] ?? null,
      excluded: [...excluded]
        .map(([test, count]) => ({ test, count }))
        .sort((a, b) => b.count - a.count)
        .slice(0, 5)
    };
  }
}
