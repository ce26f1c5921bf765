import Database from 'better-sqlite3';
import fc from 'fast-check';
import { createHash } from 'node:crypto';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterEach, describe, expect, it } from 'vitest';
import type { Facts } from '../../src/lib/core/forecast/facts.ts';
import { forecast } from '../../src/lib/core/forecast/forecast.ts';
import { compileFacts } from '../../src/lib/core/forecast/compile-facts.ts';
import { readFactsInput } from '../../src/lib/server/engine/read-facts.ts';
import { migrate } from '../../src/lib/server/db/migrate.ts';
import { MIGRATIONS } from '../../src/lib/server/db/migrations.ts';
import { openDatabase } from '../../src/lib/server/db/open.ts';
import type { TaskInput } from '../../src/lib/server/schema/task.ts';
import { RECORDED_TABLES } from '../../src/lib/server/store/changes.ts';
import { lead, openWorkspace, ruleOf, taskInput, type TestWorkspace } from '../support/workspace.ts';

const folders: string[] = [];
const newFile = () => {
  const folder = mkdtempSync(join(tmpdir(), 'early-bell-db-'));
  folders.push(folder);
  return join(folder, 'workspace.sqlite');
};
afterEach(() => {
  for (const folder of folders.splice(0)) rmSync(folder, { recursive: true });
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

  it('bring a database of the first version on, with everything that is in it', () => {
    const db = new Database(':memory:');
    db.exec(MIGRATIONS[0]!.sql);
    db.exec(`
      CREATE TABLE schema_migration (name TEXT PRIMARY KEY, sha256 TEXT NOT NULL, applied_at INTEGER NOT NULL) STRICT;
      INSERT INTO calendar (id, name, week) VALUES (1, 'Week', '{}');
      INSERT INTO person (id, name, email, zone, calendar_id, role) VALUES
        (1, 'A', NULL, 'UTC', 1, 'owner'), (2, 'B', 'b@test.example', 'UTC', 1, 'coordinator'), (3, 'C', NULL, 'UTC', 1, 'coordinator');
      UPDATE person SET manager_id = 2 WHERE id = 1;
      INSERT INTO rule (id, name, position, live_version) VALUES (1, 'R', 1, 1);
      INSERT INTO rule_version (id, rule_id, number, definition, created_at) VALUES (1, 1, 1, '{"tell":{"to":"owner"}}', 0);
      INSERT INTO journal (at, machine_at, kind, data) VALUES (0, 0, 'change', '{}');`);
    const { name, sql } = MIGRATIONS[0]!;
    const sha256 = createHash('sha256').update(sql).digest('hex');
    db.prepare('INSERT INTO schema_migration VALUES (?, ?, 0)').run(name, sha256);
    db.pragma('foreign_keys = ON');
    migrate(db);
    expect(
      db
        .prepare(
          'SELECT p.id, p.name, p.role, p.manager_id, t.private FROM person p LEFT JOIN task t ON false'
        )
        .all()
    ).toEqual([
      { id: 1, name: 'A', role: 'owner', manager_id: 2, private: null },
      { id: 2, name: 'B', role: 'administrator', manager_id: null, private: null },
      { id: 3, name: 'C', role: 'coordinator', manager_id: null, private: null }
    ]);
    expect(db.prepare('SELECT definition FROM rule_version').pluck().get()).toBe(
      '{"tell":{"to":"owner","away":"stand-in"}}'
    );
    expect(db.pragma('foreign_key_check')).toEqual([]);
    expect(() => db.exec("UPDATE journal SET kind = 'x'")).toThrow('append-only');
    db.close();
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
    priority: fc.constantFrom('low', 'high') as fc.Arbitrary<TaskInput['priority']>,
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
      { numRuns: 15 }
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

describe('the kept plan', () => {
  it('is the fresh one, after any edits of dates, calendars, leave and zones', async () => {
    const anyAct = fc.oneof(
      fc.record({
        kind: fc.constant('date' as const),
        task: fc.nat(4),
        day: fc.integer({ min: 1, max: 28 })
      }),
      fc.record({
        kind: fc.constant('status' as const),
        task: fc.nat(4),
        status: fc.integer({ min: 1, max: 3 })
      }),
      fc.record({ kind: fc.constant('zone' as const), zone: fc.constantFrom('Asia/Tokyo', 'Europe/Lisbon') }),
      fc.record({ kind: fc.constant('closed' as const), day: fc.integer({ min: 1, max: 28 }) }),
      fc.record({
        kind: fc.constant('leave' as const),
        day: fc.integer({ min: 1, max: 27 }),
        standIn: fc.boolean()
      }),
      fc.record({ kind: fc.constant('move' as const), day: fc.integer({ min: 1, max: 28 }) }),
      fc.record({ kind: fc.constant('week' as const), day: fc.integer({ min: 1, max: 28 }) }),
      fc.record({ kind: fc.constant('clock' as const), hours: fc.integer({ min: 1, max: 60 }) })
    );
    const date = (day: number) => `2026-03-${String(day).padStart(2, '0')}`;
    await fc.assert(
      fc.asyncProperty(fc.array(anyAct, { minLength: 1, maxLength: 8 }), async (acts) => {
        const workspace = await openWorkspace('2026-03-05T07:40:00Z');
        const { tasks, rules, committer, engine, clock, stores } = workspace.container;
        const base = taskInput({ ownerId: workspace.people.Ines!, dueDate: '2026-03-12' });
        const ids = Array.from({ length: 5 }, () => tasks.add(workspace.coordinator, base).result);
        const definition = ruleOf([lead(-2, 'workday'), lead(-3, 'hour'), lead(1, 'day')]);
        const { result: ruleId } = rules.add(workspace.coordinator, 'Plan', definition);
        rules.turnOn(workspace.coordinator, ruleId, { name: 'Plan', description: '', definition });
        for (const act of acts) {
          if (act.kind === 'date')
            tasks.edit(workspace.coordinator, ids[act.task]!, { ...base, dueDate: date(act.day) });
          if (act.kind === 'status')
            tasks.edit(workspace.coordinator, ids[act.task]!, { ...base, statusId: act.status });
          if (act.kind === 'zone')
            committer.commit(workspace.coordinator, 'zone', (writer) =>
              writer.update('person', workspace.people.Ines!, { zone: act.zone })
            );
          if (
            act.kind === 'closed' &&
            !stores.calendars.all()[0]!.days.some((day) => day.date === date(act.day))
          )
            committer.commit(workspace.coordinator, 'closed', (writer) =>
              writer.insert('calendar_day', { calendar_id: 1, date: date(act.day), name: 'Closed' })
            );
          const { people } = workspace.container;
          if (act.kind === 'leave') {
            const days = {
              fromDate: date(act.day),
              fromTime: '12:00',
              untilDate: date(act.day + 1),
              untilTime: null
            };
            const standInId = act.standIn ? workspace.people.Tess! : null;
            const taken = stores.people
              .leaveOf(workspace.people.Ines!)
              .map(({ from }) => Number(from.slice(8, 10)));
            if (taken.every((day) => Math.abs(day - act.day) > 1))
              people.addLeave(workspace.coordinator, workspace.people.Ines!, {
                ...days,
                standInId,
                note: ''
              });
          }
          if (act.kind === 'move')
            people.move(workspace.coordinator, workspace.people.Ines!, {
              from: date(act.day),
              zone: 'Asia/Kolkata'
            });
          if (act.kind === 'week') {
            const { id, ...calendar } = stores.calendars.all().find((one) => one.id === 1)!;
            const weeks = [{ from: date(act.day), week: { sun: ['08:00-12:00'], wed: ['08:00-12:00'] } }];
            workspace.container.calendars.save(workspace.coordinator, id, { ...calendar, weeks });
          }
          if (act.kind === 'clock') await engine.moveClock(clock.now() + act.hours * 3_600_000);
        }
        await engine.tick();
        const kept = stores.plan.all();
        stores.plan.enqueueAll();
        await engine.tick();
        expect(kept).toEqual(stores.plan.all());
        // What was compiled once and kept through all the edits answers as what is compiled now from the rows.
        const { source } = workspace.container;
        const live = source.liveRules().map(({ facts }) => facts);
        const window = { now: clock.now(), from: clock.now(), until: clock.now() + 60 * 86_400_000 };
        const answer = (facts: Facts) => [...forecast(facts, live, stores.tasks.facts(), window).notices];
        expect(answer(source.facts)).toEqual(answer(compileFacts(readFactsInput(stores))));
        await workspace.close();
      }),
      { numRuns: 25 }
    );
  });
});
