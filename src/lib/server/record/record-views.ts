import { CodedError } from '../../core/errors.ts';
import { parseDay } from '../../core/time/day.ts';
import { shortMoment } from '../../core/time/format.ts';
import { formatInstant } from '../../core/time/instant.ts';
import { CHANNEL, type ChannelName } from '../../core/channel/channels.ts';
import type { JournalRowView, OutboxRowView, TestMessageView } from '../../view/record.ts';
import type { Workspace } from '../workspace/workspace.ts';
import type { ForecastService } from '../tower/forecasts.ts';
import type { ChangeSource } from '../store/change-model.ts';
import type { JournalFilter, JournalRow } from '../store/journal.ts';
import { NOTICE_ENDS, type OutboxFilter, type OutboxRow } from '../store/outbox-list.ts';
import type { Viewer } from '../workspace/viewer.ts';

/** By what end notices are looked for. */
export { NOTICE_ENDS } from '../store/outbox-list.ts';

/** What these views ask. */
type Services = Workspace & { forecasts: ForecastService };

/** Rows of a page on screen, and of one reading for a file. */
const PAGE = 100;
const FILE_PAGE = 2_000;

export const WAYS: Readonly<Record<ChangeSource | 'other', string>> = {
  person: 'by hand',
  link: 'by a link in a message',
  api: 'by the web API',
  import: 'by import',
  bulk: 'bulk change',
  rule: 'by a rule',
  sweep: 'by a sweep',
  renewal: 'recurrence',
  undo: 'undo',
  'set-up': 'set-up',
  other: 'the engine'
};

/** What can be looked for, for the choices on screen. */
export const JOURNAL_WAYS = Object.entries(WAYS).map(([value, label]) => ({ value, label }));

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

/** A filter out of an address; what cannot be read asks for nothing. Dates are days on the viewer's wall. */
export function outboxFilter(parameters: URLSearchParams, viewer: Viewer): OutboxFilter {
  return {
    end: NOTICE_ENDS.find((end) => end === parameters.get('end')) ?? null,
    ...shared(parameters, viewer)
  };
}

export function journalFilter(parameters: URLSearchParams, viewer: Viewer): JournalFilter {
  const way = parameters.get('way');
  const source = JOURNAL_WAYS.find(({ value }) => value === way)?.value ?? null;
  return { source: source as JournalFilter['source'], ...shared(parameters, viewer) };
}

function shared(parameters: URLSearchParams, { zone }: Viewer) {
  const id = (name: string) => {
    const value = Number(parameters.get(name));
    return Number.isSafeInteger(value) && value !== 0 ? value : null;
  };
  const day = (name: string) => {
    try {
      return parseDay(parameters.get(name) ?? '');
    } catch (failure) {
      // What is no day, or none that can be counted, asks for nothing.
      if (failure instanceof CodedError) return null;
      throw failure;
    }
  };
  const [from, until] = [day('from'), day('until')];
  return {
    ruleId: id('rule'),
    personId: id('person'),
    text: (parameters.get('text') ?? '').trim().slice(0, 200),
    from: from === null ? null : zone.startOfDay(from),
    until: until === null ? null : zone.endOfDay(until)
  };
}

/** Rules and people that a record can be asked for. */
export function recordChoices({ stores }: Services) {
  const named = ({ id, name }: { id: number; name: string }) => ({ id, name });
  return {
    rules: stores.rules.made().map(named),
    people: stores.people
      .all()
      .filter(({ erased }) => !erased)
      .map(named)
  };
}

/** One page, and the key of the next; null when this is the last. */
function paged<T extends { id: number }>(
  rows: readonly T[],
  most: number
): { rows: T[]; next: number | null } {
  return rows.length > most
    ? { rows: rows.slice(0, most), next: rows[most - 1]!.id }
    : { rows: [...rows], next: null };
}

export function outboxPage(
  app: Services,
  filter: OutboxFilter,
  before: number | null,
  viewer: Viewer
): { rows: OutboxRowView[]; next: number | null } {
  const { rows, next } = paged(app.stores.outboxList.page(filter, before, PAGE + 1), PAGE);
  const replies = app.stores.replies.ofNotices(rows.map(({ id }) => id));
  return {
    rows: rows.map((row) => ({
      ...outboxRow(app, row, viewer),
      replies: replies
        .filter(({ noticeId }) => noticeId === row.id && !isHidden(row, viewer))
        .map(({ fromName, fromAddress, automatic, text, at }) => ({
          from: fromName || fromAddress || 'somebody',
          at: shortMoment(at, viewer.zone),
          automatic,
          text
        }))
    })),
    next
  };
}

export function journalPage(
  app: Services,
  filter: JournalFilter,
  before: number | null,
  viewer: Viewer
): { rows: JournalRowView[]; next: number | null } {
  const { rows, next } = paged(app.stores.journal.page(filter, before, PAGE + 1), PAGE);
  return { rows: rows.map((row) => journalRow(app, row, viewer)), next };
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
  const read = (before: number | null) => app.stores.outboxList.page(filter, before, FILE_PAGE);
  for (const row of allOf(read)) {
    const { kind, task, rule, recipient, reader, channels, end, why } = outboxRow(app, row, viewer);
    const leaves = row.leavesAt === null ? '' : formatInstant(leavesAtOf(app, row, row.leavesAt));
    const who = [recipient, reader ?? recipient];
    yield [String(row.id), formatInstant(row.ringAt), leaves, kind, task, rule, ...who, channels, end, why];
  }
}

/** Every entry of a filter, as above. */
export function* journalCells(app: Services, filter: JournalFilter, viewer: Viewer): Generator<string[]> {
  yield ['entry', 'at', 'what', 'by', 'way', 'undone'];
  const read = (before: number | null) => app.stores.journal.page(filter, before, FILE_PAGE);
  for (const row of allOf(read)) {
    const { what, by, way, undone } = journalRow(app, row, viewer);
    yield [String(row.id), formatInstant(row.at), what, by, way, undone ? 'yes' : ''];
  }
}

function* allOf<T extends { id: number }>(read: (before: number | null) => T[]): Generator<T> {
  for (let rows = read(null); rows.length > 0; rows = read(rows.at(-1)!.id)) yield* rows;
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
  const name = (id: number) =>
    id > 0
      ? (app.stores.people.byId(id)?.name ?? 'a removed person')
      : (app.source.facts.people.get(id)?.name ?? 'somebody outside');
  return {
    id: row.id,
    ringAt: shortMoment(row.ringAt, zone, today),
    leavesAt:
      row.leavesAt === null
        ? row.state === 'held'
          ? 'when the task is no longer stuck'
          : 'never'
        : shortMoment(leavesAtOf(app, row, row.leavesAt), zone, today),
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
    ...endOf(row)
  };
}

/** What has left says when; what waits when it will, as its task says. */
function leavesAtOf({ forecasts }: Services, { id, taskId, state }: OutboxRow, leavesAt: number): number {
  const waits = state === 'planned' || state === 'held' || state === 'folded';
  return waits ? forecasts.leavesInTheEnd({ id, taskId, leavesAt }) : leavesAt;
}

function endOf(row: OutboxRow): Pick<OutboxRowView, 'end' | 'why' | 'tone'> {
  const { state, reason, answer, inDoubt, actedAt, lateBell } = row;
  const why = [reason, lateBell ? 'late bell' : null, state === 'failed' ? answer : null]
    .filter(Boolean)
    .join('; ');
  if (state === 'in doubt' || (inDoubt && state !== 'sent'))
    return { end: 'may have arrived', why, tone: 'failed' };
  switch (state) {
    case 'sent':
      return {
        end: actedAt === null ? 'sent' : 'sent, answered',
        why: inDoubt ? [why, 'may have arrived twice'].filter(Boolean).join('; ') : why,
        tone: 'sent'
      };
    case 'failed':
      return { end: 'failed', why, tone: 'failed' };
    case 'sending':
      return { end: 'being sent', why, tone: 'waiting' };
    case 'unrung':
    case 'withdrawn':
      return { end: state === 'unrung' ? 'not sent' : state, why, tone: 'quiet' };
    default:
      return { end: state === 'folded' ? 'kept for the digest' : 'waiting', why, tone: 'waiting' };
  }
}

function journalRow(app: Services, row: JournalRow, { zone, personId }: Viewer): JournalRowView {
  const hidden = row.privateOf !== null && row.privateOf !== personId;
  const data = JSON.parse(row.data) as Record<string, unknown>;
  const person = (id: unknown) =>
    typeof id === 'number' ? (app.stores.people.byId(id)?.name ?? 'a removed person') : null;
  const actor = person(row.actorId ?? data.actorId);
  return {
    id: row.id,
    at: shortMoment(row.at, zone, zone.dayOf(app.clock.now())),
    what: hidden ? 'Something private was changed' : wordsOf(row, data, person),
    by: row.rule !== null && row.source === 'rule' ? `Rule “${row.rule}”` : (actor ?? 'Early Bell'),
    ruleId: row.rule === null ? null : row.ruleId,
    runId: row.runId,
    way: WAYS[row.source ?? 'other'],
    changeId: hidden || row.kind !== 'change' ? null : row.changeId,
    undone: row.undoneBy !== null
  };
}

function wordsOf(
  { kind, title, rule }: JournalRow,
  data: Record<string, unknown>,
  person: (id: unknown) => string | null
): string {
  switch (kind) {
    case 'change':
      return title ?? String(data.title ?? '');
    case 'rule fault':
      return `The keeper of “${rule ?? 'a removed rule'}” was told: ${String(data.message ?? '')}`;
    case 'fault':
      return `Something went wrong: ${String(data.message ?? '')}`;
    case 'read as':
      return `Previewed as ${person(data.personId) ?? 'somebody'}`;
    case 'clock turned back':
      return 'The server’s clock was set back';
    case 'mail stopped':
      return data.stopped === true
        ? 'An outside contact stopped all mail'
        : 'An outside contact gets mail again';
    case 'erased':
      return 'A person was erased';
    case 'sample data cleared':
      return 'The sample data was removed';
    case 'told of an undo':
      return `Readers were told: ${(title ?? '').replace(/^Undone: /, 'undone, ')}`;
    case 'snoozed':
      return 'A notice was snoozed';
    case 'snooze taken back':
      return 'A snoozed notice is not sent again';
    case 'answered':
      return `A question was answered: ${String(data.answer ?? '')}`;
    case 'rush answered':
      return `Stopped messages: ${String(data.answer ?? '')}`;
    case 'swept':
      return `Sweep “${String(data.name)}” has run: ${String(data.done)} done, ${String(data.left)} skipped`;
    case 'sweep':
      return `Sweep “${String(data.name)}” was ${String(data.what)}`;
    case 'catching up':
      return `Missed notices: ${String(data.answer ?? '')}`;
    default:
      return kind;
  }
}
