import { leadWords } from '../../core/rule/words/lead-words.ts';
import { many } from '../../core/many.ts';
import { whyText } from '../../core/ring/why-text.ts';
import { addMonths, dayFromParts, partsOfDay } from '../../core/time/day.ts';
import { monthWords, shortMoment } from '../../core/time/format.ts';
import type { NoticeState } from '../store/notices.ts';
import type { RunRowView, RunView, StagesView } from '../../view/runs.ts';
import type { Workspace } from '../workspace/workspace.ts';
import { recordNames } from '../engine/names.ts';
import type { CameTo } from '../store/run-counts.ts';
import type { RunRecord, Stages } from '../store/runs.ts';
import { RowWords } from '../record/row-words.ts';
import { taskNames } from '../record/changed-things.ts';
import type { Viewer } from '../workspace/viewer.ts';

/** Runs that are listed of a rule. */
const LISTED = 100;

const STATE_WORDS: Record<RunRecord['state'], string> = {
  running: 'goes on',
  asking: 'waits for an answer',
  ended: 'ended',
  stopped: 'stopped'
};

/** The newest runs of a rule, and how much it was used by month. */
export function runsOfRule(app: Workspace, ruleId: number, viewer: Viewer) {
  const now = app.clock.now();
  const words = wordsOf(app, viewer, now);
  return {
    runs: app.stores.runs.ofRule(ruleId, LISTED).map(words),
    months: usedByMonth(app, ruleId, viewer, now),
    listed: LISTED
  };
}

/** How much a rule was used in each of the last twelve months on the viewer’s wall, the newest first; months without a run are left out. */
function usedByMonth({ stores }: Workspace, ruleId: number, { zone }: Viewer, now: number) {
  const today = partsOfDay(zone.dayOf(now));
  const first = dayFromParts(today.year, today.month, 1);
  return Array.from({ length: 12 }, (_, back) => {
    const month = addMonths(first, -back);
    const [from, until] = [zone.startOfDay(month), zone.startOfDay(addMonths(month, 1))];
    return { month: monthWords(month), ...stores.runs.used(ruleId, from, until) };
  }).filter(({ runs }) => runs > 0);
}

/** One run with its steps: what each found and did, which side it took, what it sent and what it changed. */
export function runDetail(app: Workspace, runId: number, viewer: Viewer): RunView | null {
  const { stores, clock } = app;
  const run = stores.runs.byId(runId);
  const rule = run && stores.rules.byId(run.ruleId);
  if (!run || !rule) return null;
  const now = clock.now();
  const nowDay = viewer.zone.dayOf(now);
  const words = wordsOf(app, viewer, now);
  const setOffBy = run.setOffBy === null ? null : stores.changes.byId(run.setOffBy);
  const when = (at: number) => shortMoment(at, viewer.zone, nowDay);
  const nameOf = (id: number) => app.source.facts.people.get(id)?.name ?? 'a removed person';
  return {
    ...words(run),
    rule: { id: rule.id, name: rule.name, version: stores.rules.version(run.versionId)?.number ?? 0 },
    actor: run.actorId === null ? null : nameOf(run.actorId),
    until: run.nextAt === null ? null : when(run.nextAt),
    steps: stores.runs.stepsOf(run.id).map(({ id, kind, name, at, input, output }) => ({
      id,
      kind,
      name,
      at: when(at),
      input: pairs(input),
      output: pairs(output)
    })),
    notices: stores.notices
      .ofRing(run.ringId)
      .map(({ id, recipientId, state, reason, leavesAt, ringAt, why }) => ({
        id,
        person: nameOf(recipientId),
        state,
        reason,
        inDoubt: stores.deliveries.isInDoubt(id),
        at: when(leavesAt ?? ringAt),
        why: why.map(whyText)
      })),
    changes: changesOf(app, run.id, viewer),
    setOffBy: setOffBy && { id: setOffBy.id, title: setOffBy.title, undone: setOffBy.undoneBy !== null },
    parent: run.parentId,
    children: stores.runs.childrenOf(run.id).map(words)
  };
}

/** Changes that are listed with what each did to which task. */
const CHANGES_LISTED = 200;

/** What a run and those under it changed: each task with its values, before and after. */
function changesOf(app: Workspace, runId: number, viewer: Viewer): RunView['changes'] {
  const { stores } = app;
  const words = new RowWords(app, viewer.zone.dayOf(app.clock.now()), taskNames(app, viewer));
  return [runId, ...stores.runs.childrenOf(runId).map(({ id }) => id)]
    .flatMap((id) => stores.changes.ofRun(id))
    .slice(0, CHANGES_LISTED)
    .map(({ id, title, undone }) => {
      const rows = stores.changes.rowsOf(id);
      const of = rows.find(({ table }) => table === 'task');
      const taskId = of?.rowId ?? Number(rows.find(({ after }) => after?.task_id)?.after!.task_id ?? 0);
      const task = stores.tasks.byId(taskId);
      const isHidden = task?.private === true && task.ownerId !== viewer.personId;
      const values = isHidden
        ? []
        : rows.flatMap((row) =>
            row.table !== 'task'
              ? words.ofPart(row)
              : row.before && row.after
                ? words.ofTask(row.before, row.after)
                : []
          );
      return {
        ...{ id, title, undone, values },
        task: task && { id: task.id, name: isHidden ? 'a private task' : task.name }
      };
    });
}

function wordsOf(app: Workspace, viewer: Viewer, now: number): (run: RunRecord) => RunRowView {
  const names = recordNames(app.stores);
  const nowDay = viewer.zone.dayOf(now);
  const { zone } = app.source.facts.workspace;
  return (run) => {
    const version = app.stores.rules.version(run.versionId);
    const lead = version?.definition.leads.find(({ id }) => id === run.leadId);
    const task = run.taskId === null ? null : app.stores.tasks.byId(run.taskId);
    const hidden = task?.private && task.ownerId !== viewer.personId;
    const dayBegan = zone.startOfDay(zone.dayOf(run.startedAt));
    const came = run.stages && app.stores.runCounts.cameTo(run.id, dayBegan);
    return {
      id: run.id,
      at: shortMoment(run.startedAt, viewer.zone, nowDay),
      lead: lead ? leadWords(lead, names) : 'a removed ring time',
      task: task && { id: task.id, name: hidden ? 'a private task' : task.name },
      state: STATE_WORDS[run.state],
      outcome: run.outcome ?? (run.stages && came ? foundWords(run.stages, came) : outcomeOf(app, run)),
      stages: run.stages && came && stagesOf(run.stages, came)
    };
  };
}

/** The stages of a ring over a Watch: what was looked at and found then, and what has come of it by now. */
function stagesOf({ looked, found, expected, excluded }: Stages, came: CameTo): StagesView {
  return { looked, found, excluded, ...came, expected: expectedWords(expected, came) };
}

/** What was foreseen for the day beside what has left, and why that differs. */
function expectedWords(
  expected: number | null,
  { messages, waiting, unsent, changedSince }: CameTo
): string | null {
  if (expected === null) return null;
  const foreseen = `the day’s forecast was ${expected}`;
  if (messages === expected) return foreseen;
  const why = [
    waiting > 0 ? `${many(waiting, 'notice')} still waiting` : '',
    unsent.length > 0
      ? `${many(
          unsent.reduce((sum, { count }) => sum + count, 0),
          'notice'
        )} not sent`
      : '',
    changedSince > 0 ? `${many(changedSince, 'task')} created or changed since the day began` : ''
  ].filter(Boolean);
  return why.length > 0 ? `${foreseen}: ${why.join(', ')}` : foreseen;
}

/** What a ring over a Watch came to, in a few words. */
function foundWords({ found }: Stages, { messages, waiting, changes }: CameTo): string {
  const parts = [
    `${many(found, 'task')} found`,
    messages > 0 ? `${many(messages, 'message')} sent` : '',
    waiting > 0 ? `${many(waiting, 'notice')} waiting` : '',
    changes > 0 ? many(changes, 'change') : ''
  ].filter(Boolean);
  return parts.length === 1 ? `${parts[0]!}, nobody told` : parts.join(', ');
}

/** What the run of one task came to, in a few words. */
function outcomeOf(app: Workspace, run: RunRecord): string {
  const notices = app.stores.notices.ofRing(run.ringId);
  const inStates = (...states: NoticeState[]) => notices.filter(({ state }) => states.includes(state)).length;
  const sent = inStates('sent', 'sending');
  const waiting = inStates('planned', 'held', 'folded');
  const changes = app.stores.changes.ofRun(run.id).length;
  const parts = [
    sent > 0 ? `${sent} sent` : '',
    waiting > 0 ? `${waiting} waiting` : '',
    notices.length > sent + waiting ? `${notices.length - sent - waiting} not sent` : '',
    changes > 0 ? `${changes} changed` : ''
  ].filter(Boolean);
  return parts.join(', ') || 'nothing yet';
}

function pairs(of: Record<string, unknown>): { label: string; value: string }[] {
  return Object.entries(of).map(([label, value]) => ({
    label,
    value: Array.isArray(value) ? value.map(String).join('; ') || 'none' : String(value ?? 'none')
  }));
}
