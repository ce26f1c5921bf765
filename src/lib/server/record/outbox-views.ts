import type { WhyStep } from '../../core/ring/why.ts';
import { shortMoment } from '../../core/time/format.ts';
import { formatInstant } from '../../core/time/instant.ts';
import { CHANNEL, type ChannelName } from '../../core/channel/channels.ts';
import { whyText } from '../../core/ring/why-text.ts';
import type { OutboxRowView, TestMessageView } from '../../view/record.ts';
import { NOTICE_ENDS, type OutboxFilter, type OutboxKey, type OutboxRow } from '../store/outbox-list.ts';
import type { ForecastService } from '../tower/forecasts.ts';
import type { Viewer } from '../workspace/viewer.ts';
import type { Workspace } from '../workspace/workspace.ts';
import { FILE_PAGE, PAGE, recordFilter } from './record-filter.ts';

/** By what end notices are looked for. */
export { NOTICE_ENDS } from '../store/outbox-list.ts';

/** What these views ask. */
type Services = Workspace & { forecasts: ForecastService };

/** Test messages are listed so many at most. */
const TESTS_LISTED = 5;

/** The last test messages that people sent themselves, with what came of each. Times are on the viewer's wall. */
export function testMessages({ stores, clock }: Workspace, viewer: Viewer): TestMessageView[] {
  const today = viewer.zone.dayOf(clock.now());
  return stores.deliveries
    .tests(TESTS_LISTED)
    .map(({ id, channel, address, leavesAt, state, lastAnswer }) => ({
      id,
      at: shortMoment(leavesAt, viewer.zone, today),
      to: CHANNEL[channel].shown(address),
      channel: CHANNEL[channel].words,
      end: state === 'accepted' ? 'taken' : state === 'failed' ? 'failed' : 'waiting',
      why: lastAnswer
    }));
}

/** A filter out of an address; what cannot be read asks for nothing. */
export function outboxFilter(parameters: URLSearchParams, viewer: Viewer): OutboxFilter {
  return {
    end: NOTICE_ENDS.find((end) => end === parameters.get('end')) ?? null,
    ...recordFilter(parameters, viewer)
  };
}

/** Where a page goes on, out of an address; null for the first page. */
export function outboxKey(parameters: URLSearchParams): OutboxKey | null {
  const [at, id] =
    /^(\d{1,15})-(\d{1,15})$/
      .exec(parameters.get('before') ?? '')
      ?.slice(1)
      .map(Number) ?? [];
  return at === undefined || id === undefined ? null : { at, id };
}

/** So many of those that still wait stand above what has left. */
const NEXT_SHOWN = 5;

/** A page of the Outbox: what has left or ended, by when; above the first page of all, what leaves next. */
export interface OutboxPage {
  /** The soonest of what still waits. */
  next: OutboxRowView[];
  /** Whether more than that waits. */
  moreWait: boolean;
  rows: OutboxRowView[];
  /** Where the following page goes on; null when this is the last. */
  further: string | null;
}

export function outboxPage(
  app: Services,
  filter: OutboxFilter,
  key: OutboxKey | null,
  viewer: Viewer
): OutboxPage {
  const { outboxList } = app.stores;
  const above = filter.end === null && key === null ? outboxList.toLeave(filter, null, NEXT_SHOWN + 1) : [];
  const found =
    filter.end === 'waiting'
      ? outboxList.toLeave(filter, key, PAGE + 1)
      : outboxList.left(filter, key, PAGE + 1);
  const last = found.length > PAGE ? found[PAGE - 1]! : null;
  const withReplies = rowsWithReplies(app, viewer);
  return {
    next: withReplies(above.slice(0, NEXT_SHOWN)),
    moreWait: above.length > NEXT_SHOWN,
    rows: withReplies(found.slice(0, PAGE)),
    further: last && `${last.at}-${last.id}`
  };
}

/** Rows with what was answered to their messages. */
function rowsWithReplies(app: Services, viewer: Viewer): (rows: readonly OutboxRow[]) => OutboxRowView[] {
  return (rows) => {
    const replies = app.stores.replies.ofNotices(rows.map(({ id }) => id));
    return rows.map((row) => ({
      ...outboxRow(app, row, viewer),
      replies: replies
        .filter(({ noticeId }) => noticeId === row.id && !isHidden(row, viewer))
        .map(({ fromName, fromAddress, automatic, text, at }) => ({
          from: fromName || fromAddress || 'somebody',
          at: shortMoment(at, viewer.zone),
          automatic,
          text
        }))
    }));
  };
}

/** Every notice of a filter as cells of a table, the captions first; instants as RFC 3339 writes them, in UTC. */
export function* outboxCells(app: Services, filter: OutboxFilter, viewer: Viewer): Generator<string[]> {
  yield [
    'notice',
    'rings',
    'leaves',
    'kind',
    'task',
    'rule',
    'recipient',
    'reader',
    'channels',
    'end',
    'why'
  ];
  for (const row of everyRow(app, filter)) {
    const { kind, task, rule, recipient, reader, channels, end, why } = outboxRow(app, row, viewer);
    const leaves = row.leavesAt === null ? '' : formatInstant(leavesAtOf(app, row, row.leavesAt));
    const who = [recipient, reader ?? recipient];
    yield [String(row.id), formatInstant(row.ringAt), leaves, kind, task, rule, ...who, channels, end, why];
  }
}

function* everyRow({ stores: { outboxList } }: Services, filter: OutboxFilter): Generator<OutboxRow> {
  yield* allOf((after) => outboxList.toLeave(filter, after, FILE_PAGE));
  yield* allOf((before) => outboxList.left(filter, before, FILE_PAGE));
}

function* allOf(read: (key: OutboxKey | null) => OutboxRow[]): Generator<OutboxRow> {
  for (let rows = read(null); rows.length > 0; rows = read(rows.at(-1)!)) yield* rows;
}

/** In place of names that only their owner may read. */
const PRIVATE = 'a private task';

/** What is private is named to its owner alone, and nobody else reads what was answered about it. */
function isHidden({ privateOf }: OutboxRow, { personId }: Pick<Viewer, 'personId'>): boolean {
  return privateOf !== null && privateOf !== personId;
}

function outboxRow(
  app: Services,
  row: OutboxRow,
  { zone, personId }: Viewer
): Omit<OutboxRowView, 'replies'> {
  const today = zone.dayOf(app.clock.now());
  const hidden = isHidden(row, { personId });
  const rangAt = shortMoment(row.ringAt, zone, today);
  const at =
    row.state === 'held' && row.leavesAt === null
      ? 'when the task is no longer stuck'
      : shortMoment(leavesAtOf(app, row, row.at), zone, today);
  const name = (id: number) =>
    id > 0
      ? (app.stores.people.byId(id)?.name ?? 'a removed person')
      : (app.source.facts.people.get(id)?.name ?? 'somebody outside');
  return {
    id: row.id,
    at,
    rangAt: rangAt === at ? null : rangAt,
    kind: row.kind,
    task: hidden ? PRIVATE : (row.task ?? 'a removed task'),
    taskId: hidden || row.task === null ? null : row.taskId,
    rule: row.rule ?? 'a removed rule',
    ruleId: row.ruleId,
    runId: row.runId,
    recipient: name(row.recipientId),
    reader: row.readerId === row.recipientId ? null : name(row.readerId),
    channels: (row.channels ?? '')
      .split(',')
      .filter(Boolean)
      .map((channel) => CHANNEL[channel as ChannelName].words)
      .join(', '),
    ...endOf(row),
    steps: hidden ? [] : (JSON.parse(row.whySteps) as WhyStep[]).map(whyText)
  };
}

/** What has left says when; what waits when it will, as its task says. */
function leavesAtOf({ forecasts }: Services, { id, taskId, state }: OutboxRow, leavesAt: number): number {
  const waits = state === 'planned' || state === 'held' || state === 'folded';
  return waits ? forecasts.leavesInTheEnd({ id, taskId, leavesAt }) : leavesAt;
}

function endOf(row: OutboxRow): Pick<OutboxRowView, 'end' | 'why' | 'mark'> {
  const { state, reason, answer, inDoubt, actedAt, lateBell } = row;
  const why = [reason, lateBell ? 'late bell' : null, state === 'failed' ? answer : null]
    .filter(Boolean)
    .join('; ');
  if (state === 'in doubt' || (inDoubt && state !== 'sent'))
    return { end: 'may have arrived', why, mark: 'in doubt' };
  switch (state) {
    case 'sent':
      return {
        end: actedAt === null ? 'sent' : 'sent, answered',
        why: inDoubt ? [why, 'may have arrived twice'].filter(Boolean).join('; ') : why,
        mark: actedAt === null ? 'sent' : 'answered'
      };
    case 'failed':
      return { end: 'failed', why, mark: 'failed' };
    case 'sending':
      return { end: 'being sent', why, mark: 'sending' };
    case 'unrung':
      return { end: 'not sent', why, mark: 'not sent' };
    case 'withdrawn':
      return { end: 'withdrawn', why, mark: 'withdrawn' };
    default:
      return state === 'folded'
        ? { end: 'kept for the digest', why, mark: 'kept' }
        : { end: 'waiting', why, mark: 'waiting' };
  }
}
