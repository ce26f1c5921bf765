import { CHANNELS } from '../../core/channel/channels.ts';
import type { RuleDefinition } from '../../core/rule/model.ts';
import { MS_PER_DAY } from '../../core/time/day.ts';
import { shortDay } from '../../core/time/format.ts';
import { nameFor } from '../../view/bell-view.ts';
import { twoTimes } from '../../view/bells.ts';
import type { HindsightView } from '../../view/rule-trials.ts';
import type { ContainerOptions } from '../options.ts';
import type { Workspace } from '../workspace/workspace.ts';
import { openCopy, type Db } from '../db/open.ts';
import type { ChangeStore } from '../store/changes.ts';
import type { ChangeWriter } from '../store/change-writer.ts';
import type { RecordedTable } from '../store/recorded-tables.ts';
import type { ChangeRow, ChangeSource } from '../store/change-model.ts';
import type { NoticeRecord } from '../store/notices.ts';
import { rewindEngine, setOnlyRule } from '../store/rewind.ts';
import type { Committer } from '../workspace/commit.ts';
import type { RuleOutlooks } from './rule-outlook.ts';
import type { RuleInput } from './rules.ts';
import type { Viewer } from '../workspace/viewer.ts';

const DAYS_BACK = 28;
/** Notices that are listed; the rest are counted. */
const LISTED = 200;
/** Rules stay as they are today: one of them is looked at, the others are silent. */
const STAYING: ReadonlySet<RecordedTable> = new Set(['rule', 'rule_version']);

/** An application over a copy of the workspace. */
type OverCopy = Workspace & { committer: Committer };

/** What is asked to look back. */
export type HindsightServices = Workspace & {
  db: Db;
  options: ContainerOptions;
  outlooks: RuleOutlooks;
  openAnother(options: ContainerOptions): OverCopy;
};

/**
 * What a rule would have done in the last four weeks, had it been on: a copy of the workspace is put back to how it was, and every change
 * that was recorded since happens again at its instant, while the engine itself runs the rule. What other rules did happens as it did; what
 * this rule changed itself is left out, since it changes it anew. The workspace is not touched and nothing is sent.
 * @param signal stops it: somebody looks at something else
 * @returns null where it was stopped
 */
export async function hindsight(
  app: HindsightServices,
  ruleId: number,
  input: RuleInput,
  viewer: Viewer,
  signal?: AbortSignal
): Promise<HindsightView | null> {
  const now = app.clock.now();
  const first = app.stores.changes.firstAt() ?? now;
  const wanted = now - DAYS_BACK * MS_PER_DAY;
  const from = Math.max(wanted, first);
  const { definition } = app.outlooks.compile(ruleId, input);
  const copy = openCopy(app.db);
  try {
    const past = rewound(app, copy, ruleId, definition, from);
    const replayed = await replay(past, ruleId, now, signal);
    return replayed ? view(past, app, { ruleId, from, now, short: wanted < first, viewer }) : null;
  } finally {
    copy.close();
  }
}

interface Recorded {
  at: number;
  actorId: number | null;
  source: ChangeSource;
  rows: ChangeRow[];
}
interface Past extends OverCopy {
  /** What happens again, in order. */
  coming: Recorded[];
}

/** The copy as the workspace was at an instant, with the one rule on. */
function rewound(
  app: HindsightServices,
  copy: Db,
  ruleId: number,
  definition: RuleDefinition,
  from: number
): Past {
  const coming = rowsSince(app.stores.changes, ruleId, from);
  rewindEngine(copy);
  const past = app.openAnother({
    ...app.options,
    db: copy,
    demo: true,
    startAtMs: from,
    machine: app.clock.machine,
    channels: CHANNELS.map((name) => ({ name, send: () => Promise.resolve(), close: () => {} })),
    logLevel: 'silent'
  });
  past.stores.changes.reserveIds();
  past.stores.changes.letThePastBe();
  // What the rule itself changed goes back too; it comes again only where the rule does it again.
  const all = app.stores.changes.since(from);
  past.work.run(() => {
    for (const { id } of [...all].reverse())
      for (const row of past.stores.changes.rowsOf(id))
        if (!STAYING.has(row.table)) past.stores.changes.forceBack(row);
    setOnlyRule(copy, ruleId, definition, from);
  });
  past.clock.set(from, false);
  past.source.invalidate();
  past.stores.plan.enqueueAll();
  // What tasks do by themselves stands in the records; no rule is asked whether it rushes.
  past.engine.attach({ nextAt: () => null, runOne: () => {}, isUnderWay: () => false });
  past.engine.rush.attach(() => new Map([[ruleId, Number.MAX_SAFE_INTEGER]]));
  return Object.assign(past, { coming });
}

/** What was recorded since, without what the rule itself did. */
function rowsSince(changes: ChangeStore, ruleId: number, from: number): Recorded[] {
  return changes
    .since(from)
    .filter((change) => change.ruleId !== ruleId)
    .map(({ id, at, actorId, source }) => ({
      at,
      actorId,
      source,
      rows: changes
        .rowsOf(id)
        .reverse()
        .filter(({ table }) => !STAYING.has(table))
    }))
    .filter(({ rows }) => rows.length > 0);
}

/** Lets everything happen again, each at its instant. @returns whether it came to the end */
async function replay(past: Past, ruleId: number, now: number, signal?: AbortSignal): Promise<boolean> {
  for (const { at, actorId, source, rows } of past.coming) {
    if (signal?.aborted) return false;
    await past.engine.moveClock(Math.max(at, past.clock.now()));
    past.committer.commit({ personId: actorId, source }, 'again', (writer) => {
      for (const row of rows) again(row, writer);
    });
  }
  if (signal?.aborted) return false;
  await past.engine.moveClock(now);
  return true;
}

/** Writes a row as it was written then: what the rule has changed of it meanwhile stays. */
function again({ table, rowId, before, after }: ChangeRow, writer: ChangeWriter): void {
  if (after === null) writer.remove(table, rowId);
  else if (before === null) writer.insert(table, after);
  else {
    const columns = Object.keys(after).filter((column) => after[column] !== before[column]);
    writer.update(table, rowId, Object.fromEntries(columns.map((column) => [column, after[column]!])));
  }
}

function view(
  past: Past,
  app: HindsightServices,
  about: { ruleId: number; from: number; now: number; short: boolean; viewer: Viewer }
): HindsightView {
  const { ruleId, from, now, short, viewer } = about;
  const notices = past.stores.notices.ofRule(ruleId);
  const sent = notices.filter(({ state }) => state === 'sent' || state === 'sending');
  const unrung = notices.filter(({ state }) => state === 'unrung' || state === 'withdrawn');
  const reasons = new Map<string, number>();
  for (const { reason } of unrung) reasons.set(reason ?? '', (reasons.get(reason ?? '') ?? 0) + 1);
  const { people } = past.source.facts;
  const today = viewer.zone.dayOf(now);
  const row = (notice: NoticeRecord): HindsightView['rows'][number] => {
    const reader = people.get(notice.readerId);
    const task = past.stores.tasks.factsOf(notice.taskId);
    return {
      at: twoTimes(notice.leavesAt ?? notice.ringAt, reader?.zone ?? viewer.zone, viewer.zone, now),
      task: task ? nameFor(task, viewer) : 'a removed task',
      taskId: app.stores.tasks.byId(notice.taskId) ? notice.taskId : null,
      reader: reader?.name ?? 'somebody outside',
      unrung: notice.state === 'unrung' || notice.state === 'withdrawn' ? notice.reason : null
    };
  };
  const really = app.stores.notices
    .ofRule(ruleId)
    .filter(({ state, leavesAt }) => state === 'sent' && leavesAt !== null && leavesAt > from);
  return {
    from: shortDay(viewer.zone.dayOf(from), today),
    short,
    sent: sent.length,
    people: new Set(sent.map(({ readerId }) => readerId)).size,
    tasks: new Set(sent.map(({ taskId }) => taskId)).size,
    changes: past.stores.changes.since(from).filter((change) => change.ruleId === ruleId).length,
    really: really.length,
    unrung: [...reasons].map(([reason, count]) => ({ reason, count })).sort((a, b) => b.count - a.count),
    rows: [...sent, ...unrung]
      .map(row)
      .sort((a, b) => a.at.atMs - b.at.atMs)
      .slice(0, LISTED)
  };
}
