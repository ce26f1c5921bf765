import { CodedError } from '../../core/errors.ts';
import { groupBy } from '../../core/group-by.ts';
import { MS_PER_DAY } from '../../core/time/day.ts';
import { shortMoment } from '../../core/time/format.ts';
import type {
  CausedView,
  ChangeRowView,
  ChangeView,
  Counted,
  LeftView,
  UndoPreviewView
} from '../../view/changes.ts';
import type { Workspace } from '../workspace/workspace.ts';
import type { Committer } from '../workspace/commit.ts';
import type { EffectService } from '../effect/effects.ts';
import type { TakenBack } from './taken-back.ts';
import type { ChangeMade } from '../store/change-model.ts';
import type { LeftMessage } from '../store/undoing.ts';
import { WAYS } from './journal-views.ts';
import { LISTED_THINGS, taskNames, thingsOf } from './changed-things.ts';
import { isAnothersAlone, KEPT_ALONE, UNDO_DAYS, type Undoer, type UndoService } from './undo.ts';
import { leftBecauseOf } from './left-because.ts';
import type { Viewer } from '../workspace/viewer.ts';

/** What is asked for a page of a change. */
export type ChangeServices = Workspace & {
  committer: Committer;
  effects: EffectService;
  takenBack: TakenBack;
  undo: UndoService;
};

/** What is listed of one kind of a change; the rest is counted. */
const LISTED = LISTED_THINGS;
const LISTED_OF_PROJECT = 20;
/** How taking back what concerns more tasks would change their bells is not worked out. */
const MOST_TRIED = 10_000;

/** A recorded change as it opens; null where there is none, or where it is not for this person to see. */
export function changeView(
  app: ChangeServices,
  changeId: number,
  viewer: Viewer,
  undoer: Undoer
): ChangeView | null {
  const { stores } = app;
  if (!seesChange(app, changeId, undoer)) return null;
  const change = stores.changes.byId(changeId)!;
  const when = momentWords(app, viewer);
  const name = (id: number | null) =>
    id === null ? 'Early Bell' : (stores.people.byId(id)?.name ?? 'a removed person');
  const undone = change.undoneBy === null ? null : stores.changes.byId(change.undoneBy)!;
  const ids = idsWith(app, change);
  const { things, more } = thingsOf(app, stores.touched.inOrder(ids), viewer);
  return {
    id: change.id,
    title: change.title,
    by: name(change.actorId),
    at: when(change.at),
    way: WAYS[change.source],
    undone: undone && { by: name(undone.actorId), at: when(undone.at), changeId: undone.id },
    stays: whyItStays(app, change, undoer),
    sweepRunId: stores.undoing.sweepRunOf(changeId),
    until: when(change.at + UNDO_DAYS * MS_PER_DAY),
    ...{ things, more },
    caused: causedViews(
      app,
      ids.filter((id) => id !== changeId)
    ),
    left: leftViews(app, leftBecauseOf(app, ids, undone?.at ?? app.clock.now()), viewer),
    readers: undone ? app.takenBack.readers(undone.id).size : 0
  };
}

/** What rules did, each kind of thing once with how often; one that was done once leads to its run. */
function causedViews({ stores }: ChangeServices, ids: readonly number[]): CausedView[] {
  const all = ids.flatMap((id) => stores.changes.byId(id) ?? []).sort((a, b) => a.id - b.id);
  return [...groupBy(all, ({ title }) => title).entries()].map(([title, same]) => ({
    ...{ title, count: same.length },
    ruleId: same[0]!.ruleId,
    runId: same.length === 1 ? same[0]!.runId : null
  }));
}

function whyItStays({ undo }: ChangeServices, { id, source }: ChangeMade, by: Undoer): string | null {
  if (source === 'undo') return 'An undo cannot be undone. Make the change again.';
  try {
    undo.check(id, by);
    return null;
  } catch (error) {
    if (error instanceof CodedError) return error.message;
    throw error;
  }
}

/** What was done to a project, or to several of its tasks at once, while it can be taken back; of what this person may see. */
export function doneToProject(
  app: ChangeServices,
  projectId: number,
  viewer: Viewer,
  undoer: Undoer
): ChangeRowView[] {
  const when = momentWords(app, viewer);
  const since = app.clock.now() - UNDO_DAYS * MS_PER_DAY;
  return app.stores.changes
    .ofProject(projectId, since, LISTED_OF_PROJECT)
    .filter(({ actorId }) => maySee(actorId, undoer))
    .map(({ id, title, actorId, at, undoneBy }) => ({
      ...{ id, title, at: when(at), undone: undoneBy !== null },
      by: actorId === null ? 'Early Bell' : (app.stores.people.byId(actorId)?.name ?? 'a removed person')
    }));
}

/**
 * What taking a change back would do, tried out and taken back itself.
 * @throws CodedError as `UndoService.check` and `Committer.undo`
 */
export function undoPreview(
  app: ChangeServices,
  changeId: number,
  viewer: Viewer,
  undoer: Undoer
): UndoPreviewView {
  const { stores, committer, work, effects } = app;
  app.undo.check(changeId, undoer);
  const when = momentWords(app, viewer);
  const ids = stores.changes.withCaused(changeId);
  const waits = stores.undoing.waitsBecauseOf(ids);
  const tried = work.tryOut(() => {
    const { changeId: undoId, result } = committer.undo(changeId, undoer.personId);
    const taskIds = tasksWrittenBy(app, undoId);
    const rows = stores.touched.inOrder([undoId]);
    if (taskIds.length > MOST_TRIED) return { result, taskIds: null, changed: thingsOf(app, rows, viewer) };
    return { result, taskIds, rows: [...rows] };
  });
  const { kept, left } = tried.result;
  // Once they are back each is named and led to as it stands.
  const { things, more } = tried.changed ?? thingsOf(app, tried.rows, viewer);
  const undo = () => void committer.undo(changeId, undoer.personId);
  const names = taskNames(app, viewer);
  return {
    ...{ things, more },
    kept: counted(kept, ({ title, actorId }) => ({
      what: title,
      by: actorId === null ? 'Early Bell' : (stores.people.byId(actorId)?.name ?? 'somebody')
    })),
    withdrawn: counted(waits, ({ taskId, readerId, leavesAt }) => ({
      task: names(taskId),
      to: readerName(app, readerId),
      at: leavesAt === null ? 'when the task is no longer stuck' : when(leavesAt)
    })),
    left: leftViews(app, left, viewer),
    effect: tried.taskIds && effects.ofAct(tried.taskIds, undo, viewer)
  };
}

/**
 * Before a change is taken back: whether that would still do what its preview said.
 * @throws CodedError `preview-stale`, or as `undoPreview`
 */
export function checkUndoPreview(
  app: ChangeServices,
  changeId: number,
  viewer: Viewer,
  undoer: Undoer,
  stamp: string | null
): void {
  const { committer, effects, undo, work } = app;
  if (stamp === null || effects.isFresh(stamp)) return;
  undo.check(changeId, undoer);
  const act = () => committer.undo(changeId, undoer.personId);
  const taskIds = work.tryOut(() => tasksWrittenBy(app, act().changeId));
  effects.check(stamp, taskIds, () => void act(), viewer);
}

function tasksWrittenBy({ stores }: ChangeServices, changeId: number): number[] {
  return [...new Set(stores.touched.rowsIn([changeId], ['task']).map(({ rowId }) => rowId))];
}

/** A change after what rules did because of it, also where all of it was taken back. */
function idsWith({ stores }: ChangeServices, { id, undoneBy }: ChangeMade): number[] {
  return undoneBy === null ? stores.changes.withCaused(id) : stores.changes.takenBackBy(undoneBy);
}

/**
 * Whether there is such a change and somebody may see it: theirs or as one who watches the whole team, and every task that is still there of those
 * that it is about, as its title names them too.
 */
export function seesChange(app: ChangeServices, changeId: number, undoer: Undoer): boolean {
  const { stores } = app;
  const { sight, personId } = undoer;
  const change = stores.changes.byId(changeId);
  if (!change || !maySee(change.actorId, undoer)) return false;
  const ids = idsWith(app, change);
  if (isAnothersAlone(stores.touched.rowsIn(ids, [...KEPT_ALONE]), personId)) return false;
  const there = stores.tasks.there(stores.touched.tasks(ids));
  return stores.tasks.seen(there, sight).size === there.length;
}

function maySee(actorId: number | null, { personId, may }: Undoer): boolean {
  return actorId === personId || may('watch the whole team');
}

function momentWords({ clock }: ChangeServices, { zone }: Viewer): (at: number) => string {
  const today = zone.dayOf(clock.now());
  return (at) => shortMoment(at, zone, today);
}

function readerName({ source }: ChangeServices, id: number): string {
  return source.facts.people.get(id)?.name ?? 'a removed person';
}

function leftViews(app: ChangeServices, left: readonly LeftMessage[], viewer: Viewer): Counted<LeftView> {
  const when = momentWords(app, viewer);
  const messages = new Map(left.map((one) => [one.messageId, one]));
  return counted([...messages.values()], ({ subject, readerId, leavesAt }) => ({
    subject,
    to: readerName(app, readerId),
    at: when(leavesAt)
  }));
}

function counted<T, V>(all: readonly T[], view: (one: T) => V): Counted<V> {
  return { count: all.length, listed: all.slice(0, LISTED).map(view) };
}

/** What of a change is worked out at once; a longer one comes after its page. */
const MOST_AT_ONCE = 2_000;

/** Whether a change wrote so many rows that working it out takes long. */
export function isLongChange({ stores }: Pick<Workspace, 'stores'>, id: number): boolean {
  return stores.touched.count([id]) > MOST_AT_ONCE;
}
