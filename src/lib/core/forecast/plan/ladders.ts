import type { LadderClock, LadderStart } from '../../ladder/clock.ts';
import { pauseAt, pauseOfRing } from '../../ladder/clock.ts';
import { acknowledgedPauses, joined, type LadderPause } from '../../ladder/pauses.ts';
import {
  NONE_BEFORE,
  rungRing,
  wokenRungs,
  type LevelBefore,
  type Rung,
  type RungRing,
  type WokenRungs
} from '../../ladder/rung.ts';
import type { LeadTiming } from '../../ring/lead.ts';
import type { Trace } from '../../ring/why.ts';
import type { InstantMs, Zone } from '../../time/zone.ts';
import type { TaskDetails } from '../../task/details.ts';
import type { CompiledLead, RungPlace } from '../facts/compile-lead.ts';
import type { Facts, TaskFacts } from '../facts/facts.ts';
import { filterHolds, leadHolds } from '../facts/lead-filter.ts';
import type { TaskDates } from '../facts/task-dates.ts';

/** A ladder as it stands for a task. */
interface Standing {
  ladder: readonly CompiledLead[];
  task: TaskFacts;
  details: TaskDetails;
  clock: LadderClock | null;
  /** Those that hold for the task and count from the start of the clock. */
  rungs: readonly Rung[];
  /** The rungs that ring because an acknowledgement has run out, by the zone on whose wall days are counted. */
  woken: { zone: Zone; rungs: WokenRungs } | null;
}

/** The clocks of ladders, from the facts of a workspace. */
export class Ladders {
  readonly #facts: Facts;
  readonly #dates: TaskDates;
  /** The last that was asked for: a series of repeats asks a dozen times for the same. */
  #last: Standing | null = null;

  constructor(facts: Facts, dates: TaskDates) {
    this.#facts = facts;
    this.#dates = dates;
  }

  /** How a rung is timed for a task. */
  timing({ timing, rung }: CompiledLead, task: TaskFacts): LeadTiming {
    const instead = rung?.instead.find(({ only, tags }) => filterHolds(only, tags, task, this.#facts));
    return instead?.timing ?? timing;
  }

  /** The clock of a ladder for a task; null where that can never be late. */
  clock(lead: CompiledLead, task: TaskFacts): LadderClock | null {
    const dueAt = this.#dates.momentOf('due', task);
    if (!lead.rung || task.register || !task.due || dueAt === null) return null;
    const { createdAt, dueSince, assignedAt } = this.#facts.detailsOf(task.id);
    const starts: [InstantMs, LadderStart][] = [
      [dueAt, 'due'],
      [createdAt, 'created'],
      [dueSince, 're-dated'],
      [task.ownerId === null ? 0 : assignedAt, 'assigned']
    ];
    const [startsAt, startsBy] = starts.reduce((latest, one) => (one[0] > latest[0] ? one : latest));
    const { pauses, wakes } = this.#said(task);
    const zone = this.#dates.ownerZone(task);
    return {
      startsAt,
      startsBy,
      originDay: startsBy === 'due' && task.due.minute === null ? task.due.day : zone.dayOf(startsAt),
      calendar: this.#dates.calendarOf(task),
      pauses: joined([...pauses, ...this.#otherPauses(lead, task)]),
      wakes
    };
  }

  /**
   * When a rung rings that is not before the due moment; null where the task can never be late.
   * @param walls on whose a rung in days rings, and on whose it does for the owner
   * @param which the level before the date that rings last, and which repeat
   */
  ring(
    lead: CompiledLead,
    task: TaskFacts,
    { zone, ownZone }: { zone: Zone; ownZone: Zone },
    { before, k }: { before: LevelBefore; k: number },
    trace: Trace = null
  ): RungRing | null {
    if (!lead.rung) return null;
    const standing = this.#standing(lead, lead.rung, task);
    const { clock, rungs } = standing;
    if (!clock) return null;
    const { noticeMinute } = this.#facts.workspace;
    if (standing.woken?.zone !== ownZone)
      standing.woken = { zone: ownZone, rungs: wokenRungs(clock, rungs, { zone: ownZone, noticeMinute }) };
    const rung = this.#rung(lead, task);
    return rungRing(clock, rungs, rung, standing.woken.rungs, before, { zone, noticeMinute }, k, trace);
  }

  #standing(lead: CompiledLead, { ladder }: RungPlace, task: TaskFacts): Standing {
    const details = this.#facts.detailsOf(task.id);
    const last = this.#last;
    if (last?.task === task && last.ladder === ladder && last.details === details) return last;
    const rungs = this.#rungs(ladder, task);
    return (this.#last = { ladder, task, details, clock: this.clock(lead, task), rungs, woken: null });
  }

  /** When the next rung of the same ladder, or the next repeat of the last, rings after an instant; null when none does. */
  nextAfter(lead: CompiledLead, task: TaskFacts, after: InstantMs, zone: Zone): InstantMs | null {
    let next: InstantMs | null = null;
    for (const rung of lead.rung?.ladder ?? []) {
      if (!leadHolds(rung, task, this.#facts) || this.timing(rung, task).n < 0) continue;
      const most = rung.lead.kind === 'offset' ? (rung.lead.repeat?.most ?? 1) : 1;
      for (let k = 0; k < most; k++) {
        const at = this.ring(rung, task, { zone, ownZone: zone }, { before: NONE_BEFORE, k })?.instant ?? NaN;
        if (Number.isNaN(at) || (next !== null && at >= next)) break;
        if (at > after) {
          next = at;
          break;
        }
      }
    }
    return next;
  }

  /** Why the ladder of a rule stands still for a task at an instant; null while it climbs. A leave keeps nobody from hearing. */
  stillAt(lead: CompiledLead, task: TaskFacts, at: InstantMs): LadderPause | null {
    if (!lead.rung) return null;
    // Each by itself: joined ones keep one reason alone.
    return pauseAt({ pauses: this.#stops(task) }, at);
  }

  /** The same for a ring at an instant: one that comes as a pause begins has come before it. */
  stillOfRing(lead: CompiledLead, task: TaskFacts, ringAt: InstantMs): LadderPause | null {
    const stops = lead.rung ? this.#stops(task) : [];
    const isStill = pauseOfRing({ pauses: joined(stops), startsAt: -Infinity }, ringAt) !== null;
    return isStill ? pauseAt({ pauses: stops }, ringAt) : null;
  }

  /**
   * When a level before the date is caught up, whose instant falls into a pause that ends before the due moment: at the next opening after
   * it, if it is the latest such level. Nothing is caught up of what was quiet.
   * @param recipientId whom it would have told
   * @param instantOf when the levels before the date ring by their offset alone
   * @returns null where it is not
   */
  caughtUp(
    lead: CompiledLead,
    task: TaskFacts,
    recipientId: number | null,
    instantOf: (level: CompiledLead) => InstantMs
  ): { until: InstantMs; at: InstantMs } | null {
    const dueAt = this.#dates.momentOf('due', task);
    const stops = this.#stops(task);
    if (!lead.rung || dueAt === null || stops.length === 0) return null;
    const instant = instantOf(lead);
    const pause = pauseOfRing({ pauses: joined(stops), startsAt: -Infinity }, instant);
    if (!pause || pause.until >= dueAt || this.#isQuiet(lead, task, recipientId, instant)) return null;
    const isLater = (other: CompiledLead) => {
      const at = instantOf(other);
      return at < pause.until && (at > instant || (at === instant && other.rung!.number > lead.rung!.number));
    };
    if (this.levelsBefore(lead, task).some((other) => other !== lead && isLater(other))) return null;
    return { until: pause.until, at: this.#dates.calendarOf(task).spans.nextOpening(pause.until - 1) };
  }

  /** The levels of its ladder that ring before the due moment and hold for a task. */
  levelsBefore(lead: CompiledLead, task: TaskFacts): CompiledLead[] {
    return (lead.rung?.ladder ?? []).filter(
      (one) => this.timing(one, task).n < 0 && leadHolds(one, task, this.#facts)
    );
  }

  /** Whether a level before the date may be caught up at all. */
  everStopped(task: TaskFacts): boolean {
    return this.#stops(task).length > 0;
  }

  /** What makes a ladder stand still besides quiet and leave: somebody's word, or its status. */
  #stops(task: TaskFacts): LadderPause[] {
    return [...this.#said(task).pauses, ...this.#facts.detailsOf(task.id).stops];
  }

  #isQuiet(lead: CompiledLead, task: TaskFacts, recipientId: number | null, at: InstantMs): boolean {
    const { hushes } = this.#facts;
    return (hushes ?? []).some(({ of, id, from, until }) => {
      const isOf =
        of === 'person'
          ? id === task.ownerId || id === recipientId
          : id === { task: task.id, project: task.projectId, rule: lead.ruleId }[of];
      return isOf && from <= at && at < until;
    });
  }

  /** What was said of it since it came to its owner: who had it before spoke for themselves. */
  #said(task: TaskFacts): ReturnType<typeof acknowledgedPauses> {
    const { acknowledgements, assignedAt } = this.#facts.detailsOf(task.id);
    return acknowledgedPauses(
      task.ownerId === null ? acknowledgements : acknowledgements.filter(({ at }) => at >= assignedAt)
    );
  }

  #otherPauses(lead: CompiledLead, task: TaskFacts): LadderPause[] {
    const facts = this.#facts;
    const pauses: LadderPause[] = [...facts.detailsOf(task.id).stops];
    const quiet = { task: task.id, project: task.projectId, person: task.ownerId, rule: lead.ruleId };
    for (const { of, id, from, until } of facts.hushes ?? [])
      if (quiet[of] === id) pauses.push({ from, until, why: 'hushed' });
    const owner = task.ownerId === null ? undefined : facts.people.get(task.ownerId);
    if (lead.rung?.awayStops && owner)
      for (const [from, until] of owner.leave.stretches) pauses.push({ from, until, why: 'away' });
    return pauses;
  }

  #rungs(ladder: readonly CompiledLead[], task: TaskFacts): Rung[] {
    return ladder
      .filter((one) => leadHolds(one, task, this.#facts) && this.timing(one, task).n >= 0)
      .map((one) => this.#rung(one, task));
  }

  #rung(lead: CompiledLead, task: TaskFacts): Rung {
    const repeat = lead.lead.kind === 'offset' ? lead.lead.repeat : null;
    return { number: lead.rung!.number, timing: this.timing(lead, task), repeat };
  }
}
