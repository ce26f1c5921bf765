import { UNDO_DAYS } from '../../core/sweep/model.ts';
import { doneWords, sweepWords } from '../../core/sweep/words.ts';
import { MS_PER_DAY } from '../../core/time/day.ts';
import { shortDay, shortMoment } from '../../core/time/format.ts';
import type { Zone } from '../../core/time/zone.ts';
import type {
  SweepBar,
  SweepRowView,
  SweepRunRowView,
  SweepRunView,
  SweepShow,
  SweepTaskView
} from '../../view/sweeps.ts';
import type { Workspace } from '../workspace/workspace.ts';
import type { SweepService } from './sweeps.ts';
import { recordNames } from '../engine/names.ts';
import type { SweepRowShown, SweepRowState, SweepRun } from '../store/sweep-runs.ts';
import { isLargeShare } from './sweeper.ts';
import type { Viewer } from '../workspace/viewer.ts';

/** What these views ask. */
type Services = Workspace & { sweeps: SweepService };

/** Runs and rows that are shown at once. */
const RUNS_LISTED = 40;
const ROWS_SHOWN = 200;
/** How far back the chart goes. */
const CHART_DAYS = 90;

/** Every sweep in its order, with its next run and its newest. */
export function sweepList(app: Services, zone: Zone): SweepRowView[] {
  const today = zone.dayOf(app.clock.now());
  const { sweeps, sweepRuns } = app.stores;
  return sweeps.all().map((sweep) => {
    const { id, name, state, definition } = sweep;
    const plan = sweeps.planOf(id);
    const runs = sweepRuns.newest(id, RUNS_LISTED);
    // One whose list is made and that has not run is yet to come.
    const isAhead = ({ state: stands }: SweepRun) => stands === 'looking' || stands === 'ready';
    const [ahead, last] = [runs.find(isAhead), runs.find((run) => !isAhead(run))];
    return {
      ...{ id, name },
      act: definition.act.act,
      state: definition.when.by === 'hand' ? 'by hand' : state,
      sentence: sentenceOf(app, definition),
      next: plan && {
        list: shortMoment(plan.looksAt, zone, today),
        runs: shortMoment(plan.at, zone, today)
      },
      ahead: ahead ? runRow(app, ahead, zone) : null,
      last: last ? runRow(app, last, zone) : null
    };
  });
}

function sentenceOf(app: Services, definition: SweepRun['definition']): string {
  return sweepWords(definition, recordNames(app.stores));
}

/** A sweep as it is edited; null where there is none of that id. */
export function sweepAsWritten({ stores }: Pick<Workspace, 'stores'>, id: number) {
  const sweep = stores.sweeps.byId(id);
  if (!sweep) return null;
  const { name, description, definition, state } = sweep;
  return { id, name, description, definition, state };
}

/** How many tasks stand in the lists. */
export function standingTasks({ stores }: Pick<Workspace, 'stores'>): number {
  return stores.tasks.countStanding(null);
}

/** What became of the newest runs, of one sweep or of all. */
export function sweepReports(app: Services, sweepId: number | null, zone: Zone): SweepRunRowView[] {
  return app.stores.sweepRuns.newest(sweepId, RUNS_LISTED).map((run) => runRow(app, run, zone));
}

/** How much each run took lately. */
export function sweepBars(app: Services, zone: Zone): SweepBar[] {
  const now = app.clock.now();
  return app.stores.sweepRuns
    .history(now - CHART_DAYS * MS_PER_DAY)
    .filter(({ done }) => done > 0)
    .map(({ at, name, done }) => ({ day: shortDay(zone.dayOf(at), zone.dayOf(now)), name, count: done }));
}

type Counts = Record<SweepRowState, number>;

function countsOf(app: Services, runId: number): Counts {
  const counts: Counts = { taken: 0, unticked: 0, protected: 0, done: 0, left: 0, undone: 0, kept: 0 };
  for (const { state, count } of app.stores.sweepRuns.counts(runId)) counts[state] += count;
  return counts;
}

function runRow(app: Services, run: SweepRun, zone: Zone, counts = countsOf(app, run.id)): SweepRunRowView {
  const { id, name, at, state, reason, before, after, startedAt } = run;
  const measured =
    before && after && before.listed !== after.listed
      ? `lists ${before.listed} → ${after.listed}, a search ${before.searchMs} → ${after.searchMs} ms`
      : null;
  return {
    ...{ id, state, reason, measured },
    standing: standingWords(run),
    sweep: name,
    at: shortMoment(at, zone, zone.dayOf(app.clock.now())),
    // What came back was done before.
    count: startedAt === null ? counts.taken : counts.done + counts.undone + counts.kept,
    verb: doneWords(run.definition.act),
    left: counts.left
  };
}

const STANDING: Record<SweepRun['state'], string> = {
  looking: 'making its list',
  ready: 'list ready',
  running: 'under way',
  halted: 'stopped part-way',
  done: 'done',
  stopped: 'stopped',
  passed: 'skipped',
  undoing: 'being undone',
  undone: 'undone'
};

function standingWords({ state, reason, planned, definition }: SweepRun): string {
  if (state === 'done') return doneWords(definition.act);
  return state === 'ready' && planned && reason !== null ? 'needs approval' : STANDING[state];
}

/** The states of rows that are shown under a word. */
const SHOWN: Record<SweepShow, readonly SweepRowState[]> = {
  list: ['taken', 'unticked', 'done', 'undone', 'kept'],
  protected: ['protected'],
  left: ['left', 'unticked'],
  kept: ['kept']
};

/** A run with a page of its list. @throws CodedError `sweep-run-gone` */
export function sweepRunView(
  app: Services,
  id: number,
  { show, after }: { show: SweepShow; after: number },
  viewer: Viewer
): SweepRunView {
  const run = app.sweeps.needRun(id);
  const { zone } = viewer;
  const now = app.clock.now();
  const today = zone.dayOf(now);
  const counts = countsOf(app, id);
  const rows = app.stores.sweepRuns.rows(id, SHOWN[show], after, ROWS_SHOWN);
  const undoUntil = (run.startedAt ?? 0) + UNDO_DAYS * MS_PER_DAY;
  const isUndoable = (run.state === 'done' || run.state === 'halted') && counts.done > 0 && now <= undoUntil;
  return {
    ...runRow(app, run, zone, counts),
    sweepId: app.stores.sweeps.byId(run.sweepId) ? run.sweepId : null,
    sentence: sentenceOf(app, run.definition),
    planned: run.planned,
    waits: run.state === 'ready' && run.reason !== null,
    share: isLargeShare(counts.taken, run.standing) ? Math.round((100 * counts.taken) / run.standing) : null,
    looked: run.looked,
    waiting: run.waiting,
    unticked: counts.unticked,
    done: counts.done,
    kept: counts.kept,
    reasons: reasonsOf(app, id),
    answers: app.stores.sweepQuestions
      .counts(id)
      .map(({ answer, count }) => ({ answer: ANSWERS[answer ?? 'open'], count })),
    startedBy: run.startedBy === null ? null : (app.stores.people.byId(run.startedBy)?.name ?? null),
    undoUntil: isUndoable ? shortMoment(undoUntil, zone, today) : null,
    show,
    tasks: rows.map((row) => taskView(app, row, viewer)),
    next: rows.length === ROWS_SHOWN ? rows.at(-1)!.taskId : null
  };
}

const ANSWERS = {
  keep: 'kept',
  park: 'parked',
  close: 'closed',
  moot: 'changed meanwhile',
  none: 'not answered',
  open: 'still open'
} as const;

/** Why tasks are protected or were left out: the titles of changes are counted together. */
function reasonsOf(app: Services, runId: number): SweepRunView['reasons'] {
  const found = new Map<string, SweepRunView['reasons'][number]>();
  for (const { state, reason, count } of app.stores.sweepRuns.counts(runId)) {
    if (state !== 'protected' && state !== 'left') continue;
    const [words = 'not found'] = (reason ?? 'not found').split(':');
    const known = found.get(`${state}/${words}`);
    if (known) known.count += count;
    else found.set(`${state}/${words}`, { state, reason: words, count });
  }
  return [...found.values()];
}

function taskView(
  app: Services,
  { taskId, name, private: hidden, ownerId, projectId, since, state, reason }: SweepRowShown,
  { zone, personId }: Viewer
): SweepTaskView {
  const { people, projects } = app.source.facts;
  const isHidden = hidden === 1 && ownerId !== personId;
  return {
    taskId,
    name: isHidden ? 'a private task' : (name ?? 'a removed task'),
    owner: ownerId === null ? 'no owner' : (people.get(ownerId)?.name ?? 'a removed person'),
    project: isHidden || projectId === null ? '' : (projects.get(projectId)?.name ?? ''),
    since: since === null ? '' : shortMoment(since, zone, zone.dayOf(app.clock.now())),
    ticked: state !== 'unticked',
    reason: state === 'unticked' ? 'removed by hand' : reason
  };
}
