import { shortMoment } from '../../core/time/format.ts';
import { formatInstant } from '../../core/time/instant.ts';
import type { JournalRowView } from '../../view/record.ts';
import type { Workspace } from '../workspace/workspace.ts';
import type { ChangeSource } from '../store/change-model.ts';
import type { JournalFilter, JournalRow } from '../store/journal.ts';
import type { Viewer } from '../workspace/viewer.ts';
import { FILE_PAGE, PAGE, recordFilter } from './record-filter.ts';

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

export function journalFilter(parameters: URLSearchParams, viewer: Viewer): JournalFilter {
  const way = parameters.get('way');
  const source = JOURNAL_WAYS.find(({ value }) => value === way)?.value ?? null;
  return { source: source as JournalFilter['source'], ...recordFilter(parameters, viewer) };
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

export function journalPage(
  app: Workspace,
  filter: JournalFilter,
  before: number | null,
  viewer: Viewer
): { rows: JournalRowView[]; next: number | null } {
  const { rows, next } = paged(app.stores.journal.page(filter, before, PAGE + 1), PAGE);
  return { rows: rows.map((row) => journalRow(app, row, viewer)), next };
}

/** Every entry of a filter as cells of a table, the captions first; instants as RFC 3339 writes them, in UTC. */
export function* journalCells(app: Workspace, filter: JournalFilter, viewer: Viewer): Generator<string[]> {
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

function journalRow(app: Workspace, row: JournalRow, { zone, personId }: Viewer): JournalRowView {
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
    case 'desk read':
      return `Read the Desk of ${person(data.personId) ?? 'somebody'}`;
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
