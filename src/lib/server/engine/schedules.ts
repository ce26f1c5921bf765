import type { CompiledLead } from '../../core/forecast/facts/compile-lead.ts';
import { isOnOwnClocks } from '../../core/forecast/plan/schedule-value.ts';
import { leadsOnOwnClocks } from '../../core/forecast/plan/seats.ts';
import { isMachineFault } from '../db/machine-fault.ts';
import type { UnitOfWork } from '../db/unit-of-work.ts';
import type { ScheduleRow } from '../store/schedule-plan.ts';
import type { Stores } from '../store/all.ts';
import type { CatchUp } from './catch-up.ts';
import type { FactsSource, LiveRule } from './facts-source.ts';
import { FOR_ALL, type ScheduleClocks } from './schedule-clocks.ts';
import type { Come, ScheduleRings } from './schedule-rings.ts';
import type { WorkingOver } from './working-over.ts';

/** After downtime a schedule's ring is made up for while it is younger than this. */
const DOWNTIME_LIMIT_MS = 12 * 3_600_000;

/** What rings of one schedule at one instant: on several clocks, where those show its time together. */
interface Due {
  ruleId: number;
  leadId: string;
  at: number;
  rows: ScheduleRow[];
  /** Tasks that have come to a clock that was past it. */
  owed: { taskId: number; clock: string }[];
}

/** When schedules ring: the next ring of each on each of its clocks. */
export class Schedules {
  readonly #work: UnitOfWork;
  readonly #stores: Stores;
  readonly #source: FactsSource;
  readonly #clocks: ScheduleClocks;
  readonly #rings: ScheduleRings;
  readonly #catchUp: CatchUp;
  #planned: readonly LiveRule[] | null = null;

  constructor(
    { work, stores, source }: WorkingOver,
    clocks: ScheduleClocks,
    rings: ScheduleRings,
    catchUp: CatchUp
  ) {
    this.#work = work;
    this.#stores = stores;
    this.#source = source;
    this.#clocks = clocks;
    this.#rings = rings;
    this.#catchUp = catchUp;
  }

  /** Plans the next rings of schedules afresh where rules have changed. What was due while the server was down stays due. */
  sync(now: number): void {
    const live = this.#source.liveRules();
    if (this.#planned === live) return;
    this.#planned = live;
    this.#work.onRollback(() => (this.#planned = null));
    const { schedules } = this.#stores;
    schedules.keepOnly(
      live.flatMap(({ facts }) =>
        leadsOnOwnClocks(facts).map(({ lead }) => ({ ruleId: facts.id, leadId: lead.id }))
      )
    );
    const known = new Map(schedules.all().map((row) => [textOf(row), row.nextAt]));
    const asked = [...schedules.clocks(), ...forAll(live)];
    schedules.set(
      asked.flatMap((of): ScheduleRow[] => {
        const before = known.get(textOf(of));
        const nextAt = before !== undefined && before <= now ? before : this.#nextOf(of, now, now);
        return nextAt === null ? [] : [{ ...of, nextAt }];
      })
    );
  }

  /** The clock was set back: what lies between is ahead again. */
  forget(): void {
    this.#planned = null;
    this.#stores.schedules.set([]);
    this.#stores.schedules.forgive();
  }

  /** When the next schedule rings; null when none does. */
  nextAt(): number | null {
    return this.#stores.schedules.nextAt();
  }

  #nextOf(of: Omit<ScheduleRow, 'nextAt'>, after: number, now: number): number | null {
    const [rule, lead] = this.#leadOf(of);
    const clock = lead && this.#clocks.named(lead, of.clock);
    return rule && clock ? this.#clocks.nextAfter(rule, clock, after, now) : null;
  }

  #leadOf({
    ruleId,
    leadId
  }: Pick<ScheduleRow, 'ruleId' | 'leadId'>): [LiveRule, CompiledLead] | [undefined, undefined] {
    const rule = this.#source.live(ruleId);
    const lead = rule?.facts.leads.find(({ lead: { id } }) => id === leadId);
    return rule && lead?.schedule ? [rule, lead] : [undefined, undefined];
  }

  /**
   * Rings the schedules of an instant, in their order. One that fails keeps none of the others from ringing.
   * @param onFault hears of what cannot be rung at all
   */
  ringDue(at: number, now: number, onFault: (error: unknown, ruleId: number) => void): void {
    for (const due of this.#dueBy(at)) {
      const [rule, lead] = this.#leadOf(due);
      const rows = due.rows.filter((row) => {
        const next = this.#moveOn(row, now);
        return rule !== undefined && !this.#isTooLate(rule, row.nextAt, next, now);
      });
      if (!rule) continue;
      try {
        this.#work.run(() => this.#ring(rule, lead, { ...due, rows }, now));
      } catch (error) {
        if (isMachineFault(error)) throw error;
        onFault(error, due.ruleId);
      }
    }
  }

  /** @returns when it rings next on that clock; null where it does no more */
  #moveOn(row: ScheduleRow, now: number): number | null {
    const { schedules } = this.#stores;
    const isUsed = row.clock === FOR_ALL || schedules.onClock(row).length > 0;
    const nextAt = isUsed ? this.#nextOf(row, row.nextAt, now) : null;
    if (nextAt === null) schedules.drop(row);
    else schedules.put({ ...row, nextAt });
    return nextAt;
  }

  /** What is due, by rule and instant; what is owed is no longer owed. */
  #dueBy(at: number): Due[] {
    const { schedules } = this.#stores;
    const all = new Map<string, Due>();
    const dueOf = ({ ruleId, leadId }: Pick<ScheduleRow, 'ruleId' | 'leadId'>, at: number): Due => {
      const key = `${ruleId}/${leadId}/${at}`;
      let due = all.get(key);
      if (!due) all.set(key, (due = { ruleId, leadId, at, rows: [], owed: [] }));
      return due;
    };
    for (const row of schedules.all()) if (row.nextAt <= at) dueOf(row, row.nextAt).rows.push(row);
    for (const row of schedules.owed(at)) {
      schedules.settled(row);
      dueOf(row, row.at).owed.push(row);
    }
    return [...all.values()];
  }

  #ring(rule: LiveRule, lead: CompiledLead, { at, rows, owed }: Due, now: number): void {
    const { tasks } = this.#stores;
    if (!isOnOwnClocks(lead)) {
      if (rows.length === 0) return;
      const come = this.#comeOn(lead, FOR_ALL, at);
      this.#rings.bySchedule({ rule, lead, at, now }, tasks.facts(), () => come);
      return;
    }
    const come = new Map<number, Come[]>();
    const add = (taskId: number, one: readonly Come[]) =>
      come.set(taskId, [...(come.get(taskId) ?? []), ...one]);
    for (const { taskId, clock } of owed) add(taskId, this.#comeOn(lead, clock, at));
    for (const row of rows) {
      const one = this.#comeOn(lead, row.clock, at);
      for (const taskId of this.#stores.schedules.onClock(row)) add(taskId, one);
    }
    if (come.size === 0) return;
    const among = tasks.factsAmong([...come.keys()]);
    this.#rings.bySchedule({ rule, lead, at, now }, among, (taskId) => come.get(taskId) ?? []);
  }

  /** The occurrence that a clock shows at an instant. */
  #comeOn(lead: CompiledLead, key: string, at: number): Come[] {
    const clock = this.#clocks.named(lead, key);
    const ring = clock?.lastBy(at);
    return clock && ring ? [{ clock, ring }] : [];
  }

  /** Of several that were missed the last one rings, if it is young enough. */
  #isTooLate(rule: LiveRule, at: number, next: number | null, now: number): boolean {
    if (next !== null && next <= now) return true;
    if (this.#catchUp.passesOver(at)) return true;
    if (this.#catchUp.answer !== null && at <= this.#catchUp.until) return false;
    const late = now > at + 60_000;
    return now - at >= DOWNTIME_LIMIT_MS || (late && rule.facts.past.down === 'do not ring');
  }
}

/** The schedules that ring on one clock for all. */
function forAll(live: readonly LiveRule[]): Omit<ScheduleRow, 'nextAt'>[] {
  return live.flatMap(({ facts }) =>
    facts.leads
      .filter((lead) => lead.schedule && !isOnOwnClocks(lead))
      .map(({ lead }) => ({ ruleId: facts.id, leadId: lead.id, clock: FOR_ALL }))
  );
}

function textOf({ ruleId, leadId, clock }: Omit<ScheduleRow, 'nextAt'>): string {
  return `${ruleId}/${leadId}/${clock}`;
}
