import fc from 'fast-check';
import { expect, it } from 'vitest';
import { CodedError } from '../../src/lib/core/errors.ts';
import { compileFacts } from '../../src/lib/core/forecast/facts/compile-facts.ts';
import type { Facts } from '../../src/lib/core/forecast/facts/facts.ts';
import { forecast } from '../../src/lib/core/forecast/forecast.ts';
import { NO_DETAILS } from '../../src/lib/core/task/details.ts';
import { MS_PER_DAY } from '../../src/lib/core/time/day.ts';
import type { Container } from '../../src/lib/server/container.ts';
import { openDatabase, type Db } from '../../src/lib/server/db/open.ts';
import type { CommittedChange } from '../../src/lib/server/workspace/commit.ts';
import {
  MANAGER,
  lead,
  openWorkspace,
  ruleOf,
  ruleOn,
  taskInput,
  type TestWorkspace
} from '../support/workspace.ts';
import { drawn } from '../support/drawn.ts';

/**
 * A unit of work that fails at any of its statements leaves facts, plan, listeners and the next change as if it had not been begun: the
 * statement is kept from running, as a full disk would, and everything that memory keeps is held against what a reader of the rows finds.
 */
class Refused extends Error {}

/** Counts the statements of an act, and keeps one of them from running. */
class Hurdle {
  #left = Infinity;
  #on = false;

  statement(): void {
    if (this.#on && --this.#left < 0) {
      this.#on = false;
      throw new Refused();
    }
  }

  /** @returns whether the act was stopped by it */
  over(statements: number, act: () => void): boolean {
    this.#left = statements;
    this.#on = true;
    try {
      act();
      return false;
    } catch (error) {
      if (error instanceof CodedError) return false;
      if (!(error instanceof Refused)) throw error;
      return true;
    } finally {
      this.#on = false;
    }
  }
}

interface Scene {
  workspace: TestWorkspace;
  ids: number[];
  ruleId: number;
  /** A change that can be undone. */
  changeId: number;
}
type Act = (scene: Scene) => void;

const ACTS: Record<string, Act> = {
  'a date, tags and a zone': ({ workspace: { container, coordinator, people }, ids }) => {
    container.work.run(() => {
      container.tasks.edit(coordinator, ids[0]!, { dueDate: '2026-03-12', tags: ['north', 'urgent'] });
      container.committer.commit(coordinator, 'moved', (writer) =>
        writer.update('person', people.Nora!, { zone: 'Asia/Tokyo' })
      );
    });
  },
  'a new owner': ({ workspace: { container, coordinator, people }, ids }) =>
    void container.tasks.edit(coordinator, ids[1]!, { ownerId: people.Tess! }),
  'finished, to come back': ({ workspace: { container, coordinator }, ids }) =>
    void container.tasks.edit(coordinator, ids[2]!, {
      ...{ rhythm: { n: 1, unit: 'week' }, renewFrom: 'due', statusId: 3 }
    }),
  'a comment': ({ workspace: { container, coordinator }, ids }) =>
    void container.taskActs.comment(coordinator, ids[0]!, 'Ask first.'),
  'a closed day': ({ workspace: { container, coordinator } }) =>
    void container.committer.commit(coordinator, 'closed', (writer) =>
      writer.insert('calendar_day', { calendar_id: 1, date: '2026-03-09', name: 'Closed' })
    ),
  'a hush': ({ workspace: { container, coordinator }, ids }) =>
    void container.quiet.hush(
      coordinator,
      { of: 'task', id: ids[0]! },
      '2026-03-20',
      container.source.facts.workspace.zone
    ),
  'a rule off': ({ workspace: { container, coordinator }, ruleId }) =>
    void container.rules.turnOff(coordinator, ruleId),
  'another version': ({ workspace: { container, coordinator }, ruleId }) =>
    void container.rules.turnOn(coordinator, ruleId, {
      ...{ name: 'Rule', description: '', definition: ruleOf([lead(-3, 'day'), lead(2, 'workday')]) }
    }),
  'somebody gone that rules name': ({ workspace: { container, coordinator, people } }) =>
    void container.people.deactivate(coordinator, people.Salim!),
  'a digest off': ({ workspace: { container, coordinator } }) =>
    void container.digests.turn(coordinator, 1, 'off'),
  'an undo': ({ workspace: { container, people }, changeId }) =>
    void container.committer.undo(changeId, people.Ines!)
};

const WINDOW_DAYS = 60;
const answer = ({ stores, source, clock }: Container, facts: Facts) => {
  const now = clock.now();
  const window = { now, from: now, until: now + WINDOW_DAYS * MS_PER_DAY };
  return [
    ...forecast(
      facts,
      source.liveRules().map(({ facts: rule }) => rule),
      stores.tasks.facts(),
      window
    ).notices
  ];
};
const details =
  ({ stores }: Container) =>
  (id: number) =>
    stores.taskDetails.of(id) ?? NO_DETAILS;
/** What memory keeps, and what a reader of the rows finds. */
const kept = (container: Container) => ({
  notices: answer(container, container.source.facts),
  live: container.source.liveRules().map(({ facts, versionId }) => [facts.id, versionId]),
  digests: container.source.digests().map(({ id }) => id),
  tasks: container.source.whole.tasks(),
  tags: container.stores.tasks.facts().map(({ id }) => container.source.detailsOf(id))
});
const read = (container: Container) => {
  const { source, stores } = container;
  const facts = compileFacts(source.input(), details(container));
  source.invalidate();
  return {
    notices: answer(container, facts),
    live: source.liveRules().map(({ facts: rule, versionId }) => [rule.id, versionId]),
    digests: stores.digests
      .all()
      .filter(({ state }) => state === 'on')
      .map(({ id }) => id),
    tasks: stores.tasks.facts(),
    tags: stores.tasks.facts().map(({ id }) => details(container)(id))
  };
};

/** Whoever acts may look at what is so by then, and so fill what is kept with what is not committed. */
function actAndLook(scene: Scene, name: string): void {
  ACTS[name]!(scene);
  kept(scene.workspace.container);
}

/** Every row of every table. */
function rowsOf(db: Db): Record<string, unknown[]> {
  const tables = db
    .prepare<[], string>(
      `SELECT name FROM sqlite_schema WHERE type = 'table' AND name NOT LIKE 'sqlite_%' ORDER BY name`
    )
    .pluck()
    .all();
  return Object.fromEntries(tables.map((table) => [table, db.prepare(`SELECT * FROM ${table}`).all()]));
}

async function laidOut(db: Db): Promise<Scene> {
  const workspace = await openWorkspace('2026-03-05T07:40:00Z', { db });
  const { container, coordinator, people } = workspace;
  const ids = ['2026-03-06', '2026-03-10', '2026-03-11'].map(
    (dueDate) => container.tasks.add(coordinator, taskInput({ dueDate, ownerId: people.Ines! })).result
  );
  const ruleId = ruleOn(
    workspace,
    ruleOf([lead(-1, 'workday'), lead(1, 'day')], { to: [{ who: 'owner' }, MANAGER] })
  );
  // It names somebody, listens, and acts: what it does belongs to the change that it hears.
  const listening = ruleOf(
    [{ ...lead(0, 'day'), kind: 'event', event: 'commented', wide: false } as never, lead(-2, 'day')],
    { to: [{ who: 'person', id: people.Salim! }] }
  );
  ruleOn(workspace, listening, 'Listens');
  const { changeId } = container.tasks.edit(coordinator, ids[1]!, { dueDate: '2026-03-13', tags: ['south'] });
  await container.engine.tick();
  return { workspace, ids, ruleId, changeId };
}

it('leaves everything as if it had not been begun, at whichever statement it fails', async () => {
  const hurdle = new Hurdle();
  const db = openDatabase(':memory:', () => hurdle.statement());
  const scene = await laidOut(db);
  const { container, coordinator } = scene.workspace;
  // Each act is tried on a copy that is put back: what fails changes nothing, so all are tried on one workspace.
  fc.assert(
    fc.property(
      fc.constantFrom(...Object.keys(ACTS)),
      fc.nat(150),
      fc.boolean(),
      (name, statements, warm) => {
        // Both with what was compiled before, and with nothing kept, so that it is read while the unit is under way.
        if (warm) kept(container);
        else container.source.invalidate();
        const before = rowsOf(db);
        const heard: CommittedChange[] = [];
        const stopListening = container.committer.listen((change) => void heard.push(change));
        try {
          // A savepoint around it all takes back what was not stopped.
          let stopped = false;
          try {
            container.work.run(() => {
              stopped = hurdle.over(statements, () => container.work.run(() => actAndLook(scene, name)));
              throw new Refused();
            });
          } catch (error) {
            if (!(error instanceof Refused)) throw error;
          }
          expect([name, stopped, heard]).toEqual([name, stopped, []]);
          expect(container.work.isOpen).toBe(false);
          expect(rowsOf(db)).toEqual(before);
          expect(kept(container)).toEqual(read(container));
          // The next change tells of itself alone.
          const { changeId } = container.taskActs.comment(coordinator, scene.ids[2]!, 'Next.');
          expect(heard.map((change) => change.changeId)).toEqual([changeId]);
        } finally {
          stopListening();
        }
      }
    ),
    drawn(120)
  );
  await scene.workspace.close();
}, 300_000);

it('is told once, whole, where it does not fail', async () => {
  for (const [name, act] of Object.entries(ACTS)) {
    const scene = await laidOut(openDatabase(':memory:'));
    const { container } = scene.workspace;
    const heard: CommittedChange[] = [];
    container.committer.listen((change) => void heard.push(change));
    container.work.run(() => {
      act(scene);
      expect([name, heard]).toEqual([name, []]);
    });
    expect([name, heard.length > 0]).toEqual([name, true]);
    expect(kept(container)).toEqual(read(container));
    await scene.workspace.close();
  }
}, 120_000);
