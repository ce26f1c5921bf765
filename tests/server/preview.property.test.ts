import fc from 'fast-check';
import { expect, it } from 'vitest';
import { openCopy } from '../../src/lib/server/db/open.ts';
import { RECORDED_TABLES } from '../../src/lib/server/store/recorded-tables.ts';
import { openAside } from '../../src/lib/server/tryout/aside.ts';
import { plainOptions } from '../../src/lib/server/threads/talk.ts';
import { drawn } from '../support/drawn.ts';
import { anyAct, doAct, ifAnything, opened, START, TASKS } from '../support/acts.ts';
import { received, type TestWorkspace } from '../support/workspace.ts';

/**
 * What a preview says leaves at once is what leaves, message by message, by whatever rule; what it says rules do is what they do; and looking
 * changes nothing, on the spot and on a copy alike. Long form: RUNS=300.
 */

/** Every row that anything else goes by. */
function rowsOf({ container: { db } }: TestWorkspace) {
  const kept = [
    ...RECORDED_TABLES,
    'plan',
    'replan',
    'notice',
    'ring',
    'run',
    'message',
    'delivery',
    'chore',
    'question',
    'journal'
  ];
  return Object.fromEntries(kept.map((table) => [table, db.prepare(`SELECT * FROM ${table}`).all()]));
}

/** The same look, over a copy, as a thread has it. */
function onACopy(workspace: TestWorkspace, act: (copied: TestWorkspace) => unknown, ids: number[]) {
  const { container, people } = workspace;
  const { db, options, clock } = container;
  const copy = openCopy(db);
  try {
    const at = { workspaceMs: clock.now(), machineMs: clock.machine.now() };
    const aside = openAside(copy, plainOptions(options), at);
    const viewer = { zone: aside.source.facts.workspace.zone, personId: people.Ines! };
    return aside.effects.ofAct(ids, () => void act({ ...workspace, container: aside }), viewer);
  } finally {
    copy.close();
  }
}

it('the preview of any act is what then happens, and looking at it changes nothing', async () => {
  await fc.assert(
    fc.asyncProperty(
      anyAct,
      anyAct,
      fc.uniqueArray(fc.nat(TASKS - 1), { minLength: 1, maxLength: 5 }),
      fc.integer({ min: 0, max: 6 * 24 * 60 }),
      async (first, what, chosen, minutes) => {
        const { workspace, laid } = await opened();
        try {
          const { container, people } = workspace;
          await container.engine.moveClock(START + 60_000);
          // Something has been done before, so that runs and notices wait.
          ifAnything(() => doAct(workspace, laid, [0, 1, 2, 3], first));
          await container.engine.moveClock(START + (minutes + 1) * 60_000);
          const viewer = { zone: container.source.facts.workspace.zone, personId: people.Ines! };
          const ids = container.stores.tasks.facts().map(({ id }) => id);
          const act = () => void ifAnything(() => doAct(workspace, laid, chosen, what));
          const rows = rowsOf(workspace);
          const effect = container.effects.ofAct(ids, act, viewer);
          const said = effect.atOnce!;
          expect(rowsOf(workspace)).toEqual(rows);
          expect(
            onACopy(workspace, (copied) => ifAnything(() => doAct(copied, laid, chosen, what)), ids)
          ).toEqual(effect);

          const before = (await received(workspace)).length;
          const mark = container.stores.since.mark();
          act();
          await container.engine.tick();
          await container.outbox.drain();
          const left = (await received(workspace)).slice(before);
          const address = new Map(
            [...container.source.facts.people.values()].map(({ name, email }) => [name, email])
          );
          expect(
            said.listed
              .map(({ to, subject }) => `${to.map((name) => address.get(name)).join()} ${subject}`)
              .sort()
          ).toEqual(left.map(({ to, subject }) => `${to.join()} ${subject}`).sort());
          expect(said.messages).toBe(left.length);
          expect(said.actsListed).toEqual(container.stores.since.acts(mark));
        } finally {
          await workspace.close();
        }
      }
    ),
    drawn(15)
  );
}, 600_000);
