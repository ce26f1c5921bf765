import fc from 'fast-check';
import { expect, it } from 'vitest';
import { RECORDED_TABLES } from '../../src/lib/server/store/changes.ts';
import { anyAct, doAct, ifAnything, opened, START, TASKS } from '../support/acts.ts';
import { received, type TestWorkspace } from '../support/workspace.ts';

/**
 * What a preview says leaves at once is what leaves, message by message, by whatever rule; what it says rules do is what they do; and looking
 * changes nothing. Long form: PREVIEW_RUNS=300.
 */
const RUNS = Number(process.env.PREVIEW_RUNS ?? 15);

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
          const said = container.effects.ofAct(ids, act, viewer).atOnce!;
          expect(rowsOf(workspace)).toEqual(rows);

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
    { numRuns: RUNS }
  );
}, 600_000);
