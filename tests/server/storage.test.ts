import { createHash } from 'node:crypto';
import Database from 'better-sqlite3';
import fc from 'fast-check';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import { afterEach, describe, expect, it } from 'vitest';
import { migrate } from '../../src/lib/server/db/migrate.ts';
import { MIGRATIONS } from '../../src/lib/server/db/migrations.ts';
import { openCopy, openDatabase } from '../../src/lib/server/db/open.ts';
import type { TaskInput } from '../../src/lib/server/task/schema.ts';
import { RECORDED_TABLES } from '../../src/lib/server/store/recorded-tables.ts';
import { drawn } from '../support/drawn.ts';
import { openWorkspace, taskInput, type TestWorkspace } from '../support/workspace.ts';

const folders: string[] = [];
const newFile = () => {
  const folder = mkdtempSync(join(tmpdir(), 'early-bell-db-'));
  folders.push(folder);
  return join(folder, 'workspace.sqlite');
};
afterEach(() => {
  for (const folder of folders.splice(0)) rmSync(folder, { recursive: true });
});

it('a copy of an open file holds what was written last, and keeps to itself what is done to it', () => {
  const db = openDatabase(newFile());
  db.prepare(`INSERT INTO engine_state (key, value) VALUES ('clock', '1')`).run();
  const copy = openCopy(db);
  copy.prepare(`UPDATE engine_state SET value = '2'`).run();
  const clock = `SELECT value FROM engine_state WHERE key = 'clock'`;
  expect(copy.prepare(clock).pluck().get()).toBe('2');
  expect(db.prepare(clock).pluck().get()).toBe('1');
  copy.close();
  db.close();
});

describe('migrations', () => {
  it('are made once and leave a database that is open as it should be', () => {
    const file = newFile();
    openDatabase(file).close();
    const db = openDatabase(file);
    expect(db.pragma('journal_mode', { simple: true })).toBe('wal');
    expect(db.pragma('foreign_keys', { simple: true })).toBe(1);
    expect(db.pragma('synchronous', { simple: true })).toBe(2);
    expect(db.prepare('SELECT count(*) FROM schema_migration').pluck().get()).toBe(MIGRATIONS.length);
    db.close();
  });

  it('leave a database that keeps itself: one open status for each task, nobody for what is parked, a journal that stays', () => {
    const db = openDatabase(newFile());
    expect(db.pragma('foreign_key_check')).toEqual([]);
    db.exec(`
      INSERT INTO calendar (id, name, week) VALUES (1, 'Week', '{}');
      INSERT INTO person (id, name, zone, calendar_id, role) VALUES (1, 'A', 'UTC', 1, 'owner');
      INSERT INTO status (id, name, phase, position) VALUES (1, 'Open', 'under way', 1);
      INSERT INTO task (id, name, status_id, set_aside, set_aside_at, created_at, touched_at) VALUES (1, 'Parked', 1, 'parked', 5, 0, 0);
      INSERT INTO status_span (id, task_id, status_id, from_at, until_at) VALUES (1, 1, 1, 0, 5), (2, 1, 1, 5, NULL);
      INSERT INTO journal (at, machine_at, kind, data) VALUES (0, 0, 'change', '{}');`);
    expect(() => db.exec('UPDATE status_span SET until_at = NULL WHERE id = 1')).toThrow('UNIQUE');
    expect(() => db.exec('UPDATE task SET owner_id = 1')).toThrow('a parked task has no owner');
    expect(() => db.exec("UPDATE journal SET kind = 'x'")).toThrow('append-only');
    db.close();
  });

  it('leave schedules of before on the clock on which they rang: the workspace’s, whatever had been chosen', () => {
    const db = new Database(':memory:');
    db.exec(
      'CREATE TABLE schema_migration (name TEXT PRIMARY KEY, sha256 TEXT NOT NULL, applied_at INTEGER NOT NULL) STRICT'
    );
    for (const { name, sql } of MIGRATIONS.slice(0, 6)) {
      db.exec(sql);
      const sha256 = createHash('sha256').update(sql).digest('hex');
      db.prepare('INSERT INTO schema_migration VALUES (?, ?, 0)').run(name, sha256);
    }
    const zones = [
      { of: 'owner' },
      { of: 'recipient' },
      { of: 'project' },
      { of: 'workspace' },
      { of: 'named', zone: 'Asia/Muscat' }
    ];
    const leads = zones.map((zone, i) => ({ kind: 'schedule', id: `s${i}`, zone, rrule: 'FREQ=DAILY' }));
    const offset = { kind: 'offset', id: 'o', n: -2, repeat: null, zone: { of: 'owner' } };
    const definition = { watch: { projects: null }, leads: [offset, ...leads], steps: [] };
    db.exec("INSERT INTO rule (id, name, position) VALUES (9, 'Weekly', 9)");
    db.prepare('INSERT INTO rule_version (rule_id, number, definition, created_at) VALUES (9, 1, ?, 0)').run(
      JSON.stringify(definition)
    );
    migrate(db);
    const after = JSON.parse(
      db.prepare<[], string>('SELECT definition FROM rule_version WHERE rule_id = 9').pluck().get()!
    ) as typeof definition;
    expect(after).toEqual({
      ...definition,
      leads: [
        offset,
        ...leads.map((lead) => (lead.zone.of === 'named' ? lead : { ...lead, zone: { of: 'workspace' } }))
      ]
    });
    db.close();
  });

  it('refuse a database of before the first release, and say how a demo is laid out anew', () => {
    const file = newFile();
    const before = new Database(file);
    before.exec(`CREATE TABLE schema_migration (name TEXT PRIMARY KEY, sha256 TEXT NOT NULL, applied_at INTEGER NOT NULL) STRICT;
      INSERT INTO schema_migration VALUES ('0001_initial', 'x', 0), ('0002_people', 'x', 0)`);
    before.close();
    expect(() => openDatabase(file)).toThrow(`${dirname(file)} is from before the first release`);
  });

  it('refuse a database of a newer version, and one whose migration was changed', () => {
    const newer = new Database(':memory:');
    migrate(newer);
    newer.prepare("INSERT INTO schema_migration VALUES ('9999_later', 'x', 0)").run();
    expect(() => migrate(newer)).toThrow(expect.objectContaining({ code: 'database-newer' }));
    const changed = new Database(':memory:');
    migrate(changed);
    changed.prepare("UPDATE schema_migration SET sha256 = 'other'").run();
    expect(() => migrate(changed)).toThrow(expect.objectContaining({ code: 'database-changed' }));
  });

  it('keep two notices from occupying one key, and let history repeat it', () => {
    const db = openDatabase(newFile());
    db.exec(
      "INSERT INTO ring (id, rule_id, lead_id, subject_id, anchor_value, ring_at) VALUES (1, 1, 'a', 1, '', 0)"
    );
    const add = db.prepare(
      'INSERT INTO notice (ring_id, recipient_id, state, ring_at, origin_day) VALUES (1, 1, ?, 0, 0)'
    );
    add.run('unrung');
    add.run('withdrawn');
    add.run('sent');
    for (const state of ['planned', 'held', 'folded', 'sending', 'sent', 'in doubt', 'failed'])
      expect(() => add.run(state)).toThrow('UNIQUE');
    expect(() =>
      db.exec(
        "DELETE FROM journal WHERE true; INSERT INTO journal VALUES (1, 0, 0, 'x', NULL, '{}'); DELETE FROM journal"
      )
    ).toThrow('append-only');
    db.close();
  });
});

describe('changes', () => {
  const snapshot = ({ container }: TestWorkspace) =>
    Object.fromEntries(
      RECORDED_TABLES.map((table) => [
        table,
        container.db.prepare(`SELECT * FROM ${table} ORDER BY id`).all()
      ])
    );
  const anyEdit = fc.record({
    name: fc.constantFrom('Task', 'Renamed'),
    dueDate: fc.constantFrom(null, '2026-03-09', '2026-03-20'),
    priority: fc.constantFrom('low', 'high'),
    statusId: fc.constantFrom(1, 2, 3)
  });

  it('undone one after the other restore the workspace exactly', async () => {
    await fc.assert(
      fc.asyncProperty(fc.array(anyEdit, { minLength: 1, maxLength: 6 }), async (edits) => {
        const workspace = await openWorkspace('2026-03-05T07:40:00Z');
        const { tasks, committer } = workspace.container;
        const undone: { changeId: number; before: unknown }[] = [];
        const act = (work: () => { changeId: number }) => {
          const before = snapshot(workspace);
          undone.unshift({ before, ...work() });
        };
        let id = 0;
        act(() => {
          const added = tasks.add(workspace.coordinator, taskInput({ dueDate: '2026-03-09' }));
          id = added.result;
          return added;
        });
        for (const edit of edits) act(() => tasks.edit(workspace.coordinator, id, taskInput(edit)));
        for (const { changeId, before } of undone) {
          committer.undo(changeId, workspace.people.Ines!);
          expect(snapshot(workspace)).toEqual(before);
        }
        await workspace.close();
      }),
      drawn(15)
    );
  });

  it('refuse a person or project that is gone, at its field', async () => {
    const workspace = await openWorkspace('2026-03-05T07:40:00Z');
    const { tasks } = workspace.container;
    const add = (patch: Partial<TaskInput>) => () => tasks.add(workspace.coordinator, taskInput(patch));
    expect(add({ ownerId: 99 })).toThrow(expect.objectContaining({ code: 'person-gone', field: 'ownerId' }));
    expect(add({ projectId: 99 })).toThrow(expect.objectContaining({ code: 'project-gone' }));
    await workspace.close();
  });
});
