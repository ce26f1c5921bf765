import { many } from '../../core/many.ts';
import { ifComputable } from '../../core/if-computable.ts';
import type { CompiledLead } from '../../core/forecast/facts/compile-lead.ts';
import { leadHolds } from '../../core/forecast/facts/lead-filter.ts';
import { canBeOverdue, type TaskFacts } from '../../core/forecast/facts/facts.ts';
import type { Planner } from '../../core/forecast/plan/planner.ts';
import { managerCircles, toldAbove } from '../../core/ladder/above.ts';
import { pauseAt, workedOn, type LadderStart } from '../../core/ladder/clock.ts';
import { parseDay } from '../../core/time/day.ts';
import { shortDay, shortMoment } from '../../core/time/format.ts';
import { nameFor } from '../../view/bell-view.ts';
import { twoTimes } from '../../view/bells.ts';
import type {
  AskedPromise,
  EscalationRow,
  EscalationsOnly,
  EscalationsView,
  LadderBrief
} from '../../view/escalations.ts';
import type { WorkspaceClock } from '../engine/clock.ts';
import type { FactsSource, LiveRule } from '../engine/facts-source.ts';
import type { Stores } from '../store/all.ts';
import type { Sight } from '../store/tasks.ts';
import type { Promises } from '../task/promises.ts';
import { lateness } from '../task/task-rows.ts';
import { mayEdit } from '../task/tasks.ts';
import type { Viewer } from '../workspace/viewer.ts';

/** Which tasks on ladders are looked at; absent asks for all. */
export interface EscalationFilter {
  ruleId?: number | null;
  ownerId?: number | null;
  only?: EscalationsOnly | null;
  /** From 1. */
  page?: number;
}

/** A task on the ladder of a rule. */
interface OnLadder {
  rule: LiveRule;
  lead: CompiledLead;
  task: TaskFacts;
  dueAt: number;
  workdays: number;
}

const ROWS = 100;
/** Tasks with nobody above that are named on the Bell tower. */
const NAMED = 3;

/** Every task on a ladder: where it stands, and what comes next. */
export class Escalations {
  readonly #stores: Stores;
  readonly #source: FactsSource;
  readonly #clock: WorkspaceClock;
  readonly #promises: Promises;

  constructor(stores: Stores, source: FactsSource, clock: WorkspaceClock, promises: Promises) {
    this.#stores = stores;
    this.#source = source;
    this.#clock = clock;
    this.#promises = promises;
  }

  /** @param sight whose tasks are looked at; absent is everybody's */
  view(filter: EscalationFilter, viewer: Viewer, sight: Sight | null = null): EscalationsView {
    const now = this.#clock.now();
    const ladders = this.#ladders();
    const found = this.#seen(this.#onLadders(ladders, now), sight);
    const kept = found.filter((one) => this.#isAsked(one, filter, now));
    const pages = Math.max(1, Math.ceil(kept.length / ROWS));
    const page = Math.min(Math.max(1, filter.page ?? 1), pages);
    return {
      rows: kept.slice((page - 1) * ROWS, page * ROWS).map((one) => this.#row(one, viewer, sight, now)),
      total: kept.length,
      page,
      pages,
      asked: this.#asked(viewer, sight, now),
      circles: managerCircles(this.#source.facts),
      nobodyAbove: new Set(found.filter(({ task }) => !this.#above(task)).map(({ task }) => task.id)).size,
      rules: ladders.map(({ facts }) => ({ id: facts.id, name: facts.name }))
    };
  }

  /** Where one task stands on each of its ladders. */
  ofTask(task: TaskFacts, viewer: Viewer, sight: Sight): EscalationRow[] {
    const now = this.#clock.now();
    return this.#onLaddersOf(task, this.#ladders(), now).map((one) => this.#row(one, viewer, sight, now));
  }

  /** What of the ladders wants a look: how many tasks climb, which have nobody above, what waits for a yes, managers who go round. */
  brief(viewer: Viewer): LadderBrief {
    const found = this.#onLadders(this.#ladders(), this.#clock.now());
    const tasks = [...new Map(found.map(({ task }) => [task.id, task])).values()];
    const alone = tasks.filter((task) => this.#above(task) === null);
    return {
      count: tasks.length,
      nobodyAbove: {
        count: alone.length,
        tasks: alone.slice(0, NAMED).map((task) => ({ id: task.id, name: nameFor(task, viewer) }))
      },
      asked: this.#stores.promises.asked().length,
      circles: managerCircles(this.#source.facts)
    };
  }

  /** Rules that are on and climb. */
  #ladders(): LiveRule[] {
    return this.#source.liveRules().filter(({ facts }) => facts.leads.some(({ rung }) => rung !== null));
  }

  /** Tasks that are late and watched by a ladder, and those that a rung before the date has rung for; the worst first. */
  #onLadders(ladders: readonly LiveRule[], now: number): OnLadder[] {
    if (ladders.length === 0) return [];
    const found = this.#source.whole.tasks().flatMap((task) => this.#onLaddersOf(task, ladders, now));
    return found.sort((a, b) => b.workdays - a.workdays || a.dueAt - b.dueAt || a.task.id - b.task.id);
  }

  #onLaddersOf(task: TaskFacts, ladders: readonly LiveRule[], now: number): OnLadder[] {
    if (!task.due || !canBeOverdue(task)) return [];
    const { planner } = this.#source;
    const dueAt = planner.dates.momentOf('due', task)!;
    return ladders.flatMap((rule) =>
      ifComputable((): OnLadder[] => {
        const lead = this.#lowest(planner, rule, task);
        // Most tasks are not late: what costs more is asked of the others.
        if (!lead || (now < dueAt && !this.#hasBegun(planner, lead, task, now))) return [];
        if (!planner.watches(rule.facts, task, now) || planner.stopped(rule.facts, task, now)) return [];
        return [{ rule, lead, task, dueAt, workdays: planner.dates.workingDaysOverdue(task, now) }];
      }, [])
    );
  }

  /** The first rung that holds for a task. */
  #lowest(planner: Planner, { facts }: LiveRule, task: TaskFacts): CompiledLead | null {
    return facts.leads.find((lead) => lead.rung !== null && leadHolds(lead, task, planner.facts)) ?? null;
  }

  /** Whether the first rung lies before the due moment, and has come. */
  #hasBegun(planner: Planner, lead: CompiledLead, task: TaskFacts, now: number): boolean {
    return planner.ladders.timing(lead, task).n < 0 && planner.ring(lead, task, null).instant <= now;
  }

  #seen(found: OnLadder[], sight: Sight | null): OnLadder[] {
    if (!sight || sight.all) return found;
    const seen = this.#stores.tasks.seen([...new Set(found.map(({ task }) => task.id))], sight);
    return found.filter(({ task }) => seen.has(task.id));
  }

  #isAsked(
    { rule, lead, task }: OnLadder,
    { ruleId, ownerId, only }: EscalationFilter,
    now: number
  ): boolean {
    if (ruleId && rule.facts.id !== ruleId) return false;
    if (ownerId && task.ownerId !== ownerId) return false;
    if (only === 'nobody above') return this.#above(task) === null;
    if (!only) return true;
    const clock = this.#source.planner.ladders.clock(lead, task);
    const isStill = clock !== null && pauseAt(clock, now) !== null;
    return only === 'still' ? isStill : !isStill;
  }

  #above(task: TaskFacts): string | null {
    const { facts } = this.#source;
    const owner = task.ownerId === null ? undefined : facts.people.get(task.ownerId);
    const names = owner ? toldAbove(owner, 1, facts).map(({ name }) => name) : [];
    return names.length > 0 ? names.join(', ') : null;
  }

  #row(one: OnLadder, viewer: Viewer, sight: Sight | null, now: number): EscalationRow {
    const { rule, lead, task } = one;
    const { planner, facts } = this.#source;
    const today = viewer.zone.dayOf(now);
    const clock = planner.ladders.clock(lead, task)!;
    const pause = pauseAt(clock, now);
    const said = this.#stores.promises.openOf(task.id);
    const promised = said?.promised ?? null;
    const record = this.#stores.tasks.byId(task.id)!;
    return {
      taskId: task.id,
      task: nameFor(task, viewer),
      project: facts.projects.get(task.projectId ?? 0)?.name ?? null,
      owner: facts.people.get(task.ownerId ?? 0)?.name ?? null,
      escalatesTo: this.#above(task),
      ruleId: rule.facts.id,
      rule: rule.facts.name,
      rung: this.#lastRung(one, clock.startsAt, viewer, today),
      rungs: lead.rung!.ladder.length,
      since: lateness(planner, record, task, now, viewer.zone).left ?? '',
      onClock: workingTime(workedOn(clock, now)),
      startedBy: STARTED[clock.startsBy],
      next: this.#next(one, viewer, now),
      still:
        pause === null
          ? null
          : {
              why: pause.why,
              until: pause.until === Infinity ? null : shortMoment(pause.until, viewer.zone, today)
            },
      promised:
        promised === null
          ? null
          : { who: facts.people.get(said!.personId)?.name ?? '', day: shortDay(parseDay(promised), today) },
      mayAcknowledge: sight === null || mayEdit(record, sight, { stores: this.#stores })
    };
  }

  /** The highest rung that has told somebody since the clock started, or before the date. */
  #lastRung(
    { rule, task }: OnLadder,
    startsAt: number,
    { zone }: Viewer,
    today: number
  ): EscalationRow['rung'] {
    const { planner } = this.#source;
    const ladder = rule.facts.leads.filter((lead) => lead.rung && leadHolds(lead, task, planner.facts));
    const rang = this.#stores.notices
      .ofTask(task.id)
      .filter(
        ({ ruleId, round, state }) =>
          ruleId === rule.facts.id && round === task.round && state !== 'unrung' && state !== 'withdrawn'
      );
    for (const lead of [...ladder].reverse()) {
      const isBefore = planner.ladders.timing(lead, task).n < 0;
      const last = rang.findLast(
        ({ leadId, ringAt, anchorValue }) =>
          leadId === lead.lead.id &&
          anchorValue === planner.anchorValue(lead, task) &&
          (isBefore || ringAt >= startsAt)
      );
      if (last) return { number: lead.rung!.number, at: shortMoment(last.ringAt, zone, today) };
    }
    return null;
  }

  #next({ rule, task }: OnLadder, viewer: Viewer, now: number): EscalationRow['next'] {
    const { planner, facts } = this.#source;
    const rows = this.#stores.plan.ofTask(task.id).filter(({ ruleId }) => ruleId === rule.facts.id);
    const ahead = rows.flatMap((row) => {
      const lead = rule.facts.leads.find((one) => one.rung && one.lead.id === row.leadId);
      return lead ? [{ ...row, lead }] : [];
    });
    const first = ahead[0];
    if (!first) return null;
    const who = ahead
      .filter(({ ringAt, recipientId }) => ringAt === first.ringAt && recipientId > 0)
      .flatMap(({ recipientId }) => facts.people.get(recipientId)?.name ?? []);
    return {
      time: twoTimes(first.ringAt, planner.dates.ownerZone(task), viewer.zone, now),
      rung: first.lead.rung!.number,
      again: first.ordinal > 0,
      who: [...new Set(who)]
    };
  }

  #asked(viewer: Viewer, sight: Sight | null, now: number): AskedPromise[] {
    const { facts } = this.#source;
    const today = viewer.zone.dayOf(now);
    const asked = this.#stores.promises.asked();
    const seen =
      sight && !sight.all
        ? this.#stores.tasks.seen(
            asked.map(({ taskId }) => taskId),
            sight
          )
        : null;
    return asked.flatMap(({ id, taskId, personId, promised, due }): AskedPromise[] => {
      const task = this.#stores.tasks.factsOf(taskId);
      if (!task || (seen && !seen.has(taskId))) return [];
      return [
        {
          ...{
            id,
            taskId,
            task: nameFor(task, viewer),
            who: facts.people.get(personId)?.name ?? 'a removed person'
          },
          promised: shortDay(parseDay(promised!), today),
          due: due === null ? 'no date' : shortDay(parseDay(due), today),
          left: lateness(this.#source.planner, this.#stores.tasks.byId(taskId)!, task, now, viewer.zone).left,
          mayAnswer: viewer.personId !== null && this.#promises.mayAnswer(task, viewer.personId)
        }
      ];
    });
  }
}

const STARTED: Record<LadderStart, string | null> = {
  due: null,
  created: 'since it was created',
  're-dated': 'since its date changed',
  assigned: 'since the owner got it'
};

/** Working time in words: “9 working hours”, below one hour minutes. */
function workingTime(ms: number): string {
  const minutes = Math.floor(ms / 60_000);
  if (minutes < 60) return many(minutes, 'working minute');
  const hours = Math.floor(minutes / 60);
  return many(hours, 'working hour');
}
