import { ANCHORS, LEAD_ANCHORS } from '../../core/anchor/anchors.ts';
import { leadOf } from '../../core/forecast/facts/compile-rule.ts';
import type { FactsSource } from '../engine/facts-source.ts';
import type { ChangeRow } from '../store/change-model.ts';
import type { Stores } from '../store/all.ts';
import type { LeftMessage, LeftSince } from '../store/undoing.ts';

/** Which anchors of leads count from which column of a task. */
const COUNTED_FROM = new Map(
  Object.entries({ due: 'due', start: 'start', remind: 'remind on' }).flatMap(([prefix, date]) => {
    const anchors = LEAD_ANCHORS.filter((name) => ANCHORS[name].movedBy.includes(date));
    return [`${prefix}_date`, `${prefix}_time`].map((column) => [column, anchors] as const);
  })
);

/** What changes made of one task, as far as it makes messages leave later. */
interface Made {
  /** When, workspace clock. */
  at: number;
  /** The task itself was made. */
  task: boolean;
  /** Anchors whose date was written. */
  anchors: Set<string>;
  /** Who came to own it. */
  owners: Set<number>;
}

/**
 * Messages that had left because of some changes, a row for each task that they are about: what the changes set off, and what rang since by a date
 * that they wrote, to an owner whom they gave a task, about a task that they made, or by a rule that they turned on.
 * @param until what left later is not because of them: they had been taken back by then; workspace clock
 */
export function leftBecauseOf(
  { stores, source }: { stores: Stores; source: FactsSource },
  changeIds: readonly number[],
  until: number
): LeftMessage[] {
  const { undoing, touched } = stores;
  const found = undoing.setOffAndLeft(changeIds);
  const times = new Map(changeIds.map((id) => [id, stores.changes.byId(id)!.at]));
  const rules = new Map<number, number>();
  for (const row of touched.rowsIn(changeIds, ['rule']))
    if (isTurnedOn(row)) rules.set(row.rowId, times.get(row.changeId)!);
  const since = Math.min(...times.values());
  // Very many tasks may have been changed: what was written is read of those of which something has left.
  if (!undoing.hasLeftSince(since, until)) return found;
  const left = undoing.leftSince(touched.tasksGiven(changeIds), [...rules.keys()], since, until);
  const made = new Map<number, Made>();
  for (const row of touched.rowsAbout(changeIds, [...new Set(left.map(({ taskId }) => taskId))]))
    noteTask(made, row, times.get(row.changeId)!);
  const isBecause = (left: LeftSince) => {
    const ruleOn = rules.get(left.ruleId);
    if (ruleOn !== undefined && left.ringAt >= ruleOn) return true;
    const of = made.get(left.taskId);
    if (!of || left.ringAt < of.at) return false;
    return of.task || of.owners.has(left.recipientId) || of.anchors.has(anchorOf(stores, source, left) ?? '');
  };
  const later = left.filter(isBecause);
  const known = new Set(found.map(({ messageId, taskId }) => `${messageId}/${taskId}`));
  return [...found, ...later.filter(({ messageId, taskId }) => !known.has(`${messageId}/${taskId}`))].sort(
    (a, b) => a.leavesAt - b.leavesAt || a.messageId - b.messageId
  );
}

function noteTask(made: Map<number, Made>, { table, rowId, before, after }: ChangeRow, at: number): void {
  if ((table !== 'task' && table !== 'co_owner') || after === null) return;
  const taskId = table === 'task' ? rowId : Number(after.task_id);
  const anchors = [...COUNTED_FROM.keys()]
    .filter((column) => table === 'task' && column in after && before?.[column] !== after[column])
    .flatMap((column) => COUNTED_FROM.get(column)!);
  const given = table === 'co_owner' ? after.person_id : after.owner_id;
  const isGiven = typeof given === 'number' && (table === 'co_owner' || before?.owner_id !== given);
  const isMade = table === 'task' && before === null;
  if (anchors.length === 0 && !isGiven && !isMade) return;
  const of = made.get(taskId) ?? { at, task: false, anchors: new Set(), owners: new Set() };
  made.set(taskId, of);
  of.at = Math.min(of.at, at);
  of.task ||= isMade;
  for (const anchor of anchors) of.anchors.add(anchor);
  if (isGiven) of.owners.add(given);
}

function isTurnedOn({ table, before, after }: ChangeRow): boolean {
  return table === 'rule' && before !== null && before.state !== 'on' && after?.state === 'on';
}

/** From what the lead counts that rang, by the version of its rule that it rang by. */
function anchorOf(stores: Stores, source: FactsSource, { ruleId, versionId, taskId, leadId }: LeftSince) {
  const rule = source.ruleOfVersion(ruleId, versionId) ?? undefined;
  return leadOf(rule, stores.tasks.factsOf(taskId), leadId)?.anchor ?? null;
}
