import Papa from 'papaparse';
import { afterEach, beforeEach, expect, it } from 'vitest';
import { recordFile } from '../../src/lib/server/in-out/write/record-file.ts';
import { journalCells, journalFilter, journalPage } from '../../src/lib/server/record/journal-views.ts';
import {
  outboxCells,
  outboxFilter,
  outboxKey,
  outboxPage
} from '../../src/lib/server/record/outbox-views.ts';
import type { Viewer } from '../../src/lib/server/workspace/viewer.ts';
import { lead, openWorkspace, ruleOf, ruleOn, taskInput, type TestWorkspace } from '../support/workspace.ts';
import { rule, tell } from '../support/rules.ts';
import { tasksIn } from '../support/tasks.ts';

let workspace: TestWorkspace;
const { add, viewer, moveTo } = tasksIn(() => workspace);
beforeEach(async () => {
  workspace = await openWorkspace('2026-03-02T06:00:00Z');
  ruleOn(workspace, ruleOf([lead(-1, 'day', { time: '09:00' })]), 'The day before');
});
afterEach(() => workspace.close());

const notices = (asked = '', who: Viewer = viewer()) =>
  outboxPage(workspace.container, outboxFilter(new URLSearchParams(asked), who), null, who).rows;
const entries = (asked = '', who: Viewer = viewer()) =>
  journalPage(workspace.container, journalFilter(new URLSearchParams(asked), who), null, who).rows;

it('every notice stands in the Outbox with its end; filters narrow it', async () => {
  const { people } = workspace;
  add({ name: 'First', ownerId: people.Ines!, dueDate: '2026-03-04' });
  add({ name: '100 % _done_', ownerId: people.Nora!, dueDate: '2026-03-05' });
  const { zone } = workspace.container.source.facts.workspace;
  workspace.container.quiet.hush(
    workspace.coordinator,
    { of: 'person', id: people.Nora! },
    '2026-03-10',
    zone
  );
  await moveTo('2026-03-04T14:00:00Z');
  expect(notices().map(({ task, end, why }) => [task, end, why])).toEqual([
    ['100 % _done_', 'not sent', 'hushed'],
    ['First', 'sent', '']
  ]);
  expect(notices('end=sent').map(({ task, recipient, channels }) => [task, recipient, channels])).toEqual([
    ['First', 'Ines', 'mail']
  ]);
  expect(notices('text=100 %25 _').map(({ task }) => task)).toEqual(['100 % _done_']);
  expect(notices('text=100 x')).toEqual([]);
  expect(notices(`person=${people.Ines}`)).toHaveLength(1);
  expect(notices('from=2026-03-04&until=2026-03-04').map(({ task }) => task)).toEqual(['100 % _done_']);
  // What cannot be read asks for nothing.
  expect(notices('end=nonsense&rule=x&from=2026-99-99')).toHaveLength(2);
});

it('what is private has no name for others, in neither record nor file, and is not found by it', async () => {
  const { container, people } = workspace;
  const own = { personId: people.Nora!, source: 'person' as const };
  const secret = { name: 'Secret', ownerId: people.Nora!, dueDate: '2026-03-04', private: true };
  const { result: id } = container.tasks.add(own, taskInput(secret));
  container.tasks.edit(own, id, { dueDate: '2026-03-06' });
  const nora: Viewer = { ...viewer(), personId: people.Nora! };
  expect(entries()[0]).toMatchObject({ what: 'Something private was changed', by: 'Nora' });
  expect(entries('', nora)[0]!.what).toContain('Secret');
  expect(entries('text=Secret')).toEqual([]);
  const filter = journalFilter(new URLSearchParams(), viewer());
  const text = await recordFile(journalCells(container, filter, viewer()), 'csv', 'journal').text();
  expect(text).not.toContain('Secret');
});

it('the journal says by whom or which rule; undone entries say so', async () => {
  const { container, coordinator } = workspace;
  const id = add({ name: '=Formula', dueDate: '2026-03-09' });
  const { changeId } = container.tasks.edit(coordinator, id, { priority: 'high' });
  container.committer.undo(changeId, coordinator.personId!);
  const [undo, edit, added] = entries('text=Formula');
  expect([undo!.way, edit!.way, added!.way]).toEqual(['undo', 'by hand', 'by hand']);
  expect([edit!.undone, added!.undone]).toEqual([true, false]);
  expect(entries('way=undo')).toHaveLength(1);
  expect(entries(`person=${coordinator.personId}`).every(({ by }) => by === 'Ines')).toBe(true);
});

it('the files hold every row of the filter, as a table and as a line each, cells defused', async () => {
  const { container } = workspace;
  for (let i = 0; i < 1_203; i++) add({ name: i === 7 ? '=SUM(A1)' : `Task ${i}` });
  const filter = journalFilter(new URLSearchParams('way=person'), viewer());
  const csv = await recordFile(journalCells(container, filter, viewer()), 'csv', 'journal').text();
  // Read back by another reader than the one that wrote it would be better; RFC 4180 is all that both know.
  const rows = Papa.parse<string[]>(csv.trim()).data;
  const counted = container.db
    .prepare(
      `SELECT count(*) AS n FROM journal j JOIN change c ON c.id = j.change_id WHERE c.source = 'person'`
    )
    .get() as { n: number };
  expect(rows).toHaveLength(counted.n + 1);
  const lines = (
    await recordFile(journalCells(container, filter, viewer()), 'jsonl', 'journal').text()
  ).trim();
  const objects = lines.split('\n').map((line) => JSON.parse(line) as Record<string, string>);
  expect(objects).toHaveLength(counted.n);
  expect(Object.keys(objects[0]!)).toEqual(['entry', 'at', 'what', 'by', 'way', 'undone']);
  expect(objects[0]!.at).toBe('2026-03-02T06:00:00Z');
});

it('pages follow one another without a gap or a repeat', async () => {
  const { container, people } = workspace;
  for (let i = 0; i < 230; i++) add({ name: `Task ${i}`, ownerId: people.Ines!, dueDate: '2026-03-04' });
  await moveTo('2026-03-03T12:00:00Z');
  const filter = outboxFilter(new URLSearchParams(), viewer());
  const ids: number[] = [];
  let address = '';
  do {
    const key = outboxKey(new URLSearchParams({ before: address }));
    const page: ReturnType<typeof outboxPage> = outboxPage(container, filter, key, viewer());
    ids.push(...page.rows.map(({ id }) => id));
    address = page.further ?? '';
  } while (address !== '');
  expect(new Set(ids).size).toBe(230);
  expect(ids).toEqual([...ids].sort((a, b) => b - a));
  expect([...outboxCells(container, filter, viewer())]).toHaveLength(231);
});

it('the Outbox stands in the order of leaving: what waits first, the soonest on top, then what left, the last on top', async () => {
  const { container, people } = workspace;
  const held = rule([lead(0, 'day', { time: '07:30' })], [tell('tell', { reach: 'working hours' })]);
  ruleOn(workspace, held, 'Before work');
  const owner = { ownerId: people.Ines! };
  const second = add({ name: 'Second', dueDate: '2026-03-05', ...owner });
  const first = add({ name: 'First', dueDate: '2026-03-04', ...owner });
  const third = add({ name: 'Third', dueDate: '2026-03-06', ...owner });
  await moveTo('2026-03-05T08:00:00Z');
  const page = outboxPage(container, outboxFilter(new URLSearchParams(), viewer()), null, viewer());
  expect(page.next.map(({ taskId, mark, at, rangAt }) => [taskId, mark, at, rangAt])).toEqual([
    [second, 'waiting', 'Thu 5 Mar, 09:00', 'Thu 5 Mar, 07:30']
  ]);
  expect(page.next[0]!.steps.join(' ')).toContain('09:00');
  expect(notices('end=waiting').map(({ taskId }) => taskId)).toEqual([second]);
  await moveTo('2026-03-05T12:00:00Z');
  expect(notices().map(({ taskId, at }) => [taskId, at])).toEqual([
    [third, 'Thu 5 Mar, 09:00'],
    [second, 'Thu 5 Mar, 09:00'],
    [second, 'Wed 4 Mar, 09:00'],
    [first, 'Wed 4 Mar, 09:00'],
    [first, 'Tue 3 Mar, 09:00']
  ]);
});
