import { leadOf } from '../core/forecast/facts/compile-rule.ts';
import type { PlannedNotice } from '../core/forecast/plan/planned-notice.ts';
import { shownAt } from '../core/forecast/simulate/plain-rules.ts';
import { placeOfZone } from '../core/time/zone-names.ts';
import { shortMoment } from '../core/time/format.ts';
import { bellWord } from './bell-words.ts';
import { bellKindFor, nameFor, type Reading, type Told } from './bell-view.ts';
import type { StripMark } from './models.ts';

/** A mark that leads to no row: what comes after those that are listed. */
interface FurtherMark extends StripMark {
  readerId: number;
}

/**
 * What of a forecast lies beyond the bells that are listed, as marks of its strip: one for each reader, day, ring time and kind.
 * A strip shows its whole time, however far the list below it goes.
 * @param listed how many notices are listed, from the first on
 * @param readers whose rows the strip has
 * @returns by the reader's id; each in the order in which they leave
 */
export function furtherMarks(
  told: Told,
  listed: number,
  readers: ReadonlySet<number>,
  reading: Reading
): Map<number, StripMark[]> {
  const { notices } = told;
  const marks = new Map<string, FurtherMark>();
  for (let place = listed; place < notices.length; place++) {
    const notice = notices.at(place);
    if (notice.unrung !== null || !readers.has(notice.readerId)) continue;
    const atMs = shownAt(notice);
    const held = notice.leavesAt !== notice.ringAt;
    const day = reading.zone.dayOf(atMs);
    const key = [notice.readerId, day, notice.stepId, notice.leadId, held, notice.lateBell].join('/');
    const mark = marks.get(key);
    if (mark) mark.count++;
    else marks.set(key, markOf(told, notice, atMs, reading));
  }
  return byReader([...marks.values()]);
}

function markOf(told: Told, notice: PlannedNotice, atMs: number, reading: Reading): FurtherMark {
  const { planner, rules, tasks } = told;
  const rule = rules.get(notice.ruleId)!;
  const task = tasks.get(notice.taskId)!;
  const kind = bellKindFor(rule, leadOf(rule, task, notice.leadId), notice);
  const reader = planner.facts.people.get(notice.readerId)!;
  const { zone, now } = reading;
  const there = `${shortMoment(atMs, reader.zone, zone.dayOf(now))} in ${placeOfZone(reader.zone.nameAt(atMs))}`;
  return {
    bellKey: null,
    atMs,
    kind,
    fromMs: null,
    count: 1,
    label: `${bellWord(kind)}: ${nameFor(task, reading)}, to ${reader.name}, ${there}`,
    readerId: notice.readerId
  };
}

function byReader(marks: readonly FurtherMark[]): Map<number, StripMark[]> {
  const found = new Map<number, StripMark[]>();
  for (const { readerId, ...mark } of marks) {
    const own = found.get(readerId);
    if (own) own.push(mark);
    else found.set(readerId, [mark]);
  }
  return found;
}
