import { afterEach, beforeEach } from 'vitest';
import { blankDefinition, type RuleDefinition } from '../../src/lib/core/rule/model.ts';
import { blankTell, type Tell } from '../../src/lib/core/rule/step-model.ts';
import type { Lead } from '../../src/lib/core/rule/lead-model.ts';
import { lead, openWorkspace, received, taskInput, type TestWorkspace } from './workspace.ts';

/**
 * Late work, for tests of ladders in the engine. Meera, in Kochi, works Monday to Saturday 09:00 to 18:00 (03:30Z to 12:30Z); Ines, in Lisbon,
 * stands above her and looks after everybody's work. Due Thu 5 March 2026, which ends on Thu 18:30Z there. Rungs at 0, 4 and 8 working hours:
 * Fri 09:00, 13:00 and 17:00 in Kochi, so 03:30Z, 07:30Z and 11:30Z.
 */
export let workspace: TestWorkspace;
export let taskId: number;

export const rung = (n: number, patch: Partial<Lead> = {}): Lead =>
  ({ ...lead(n, 'workhour', { anchor: 'ladder' }), id: `rung-${n}`, ...patch }) as Lead;
export const tell = (id: string, patch: Partial<Tell>): Tell => ({
  ...{ ...blankTell(id), gather: 'per task', reach: 'any time' },
  ...patch
});

/** The owner at every rung, whoever stands above from the second on, those above them at the third, with a follow-up. */
export function ladder(patch: Partial<RuleDefinition> = {}): RuleDefinition {
  const blank = blankDefinition();
  return {
    ...blank,
    leads: [rung(0), rung(4), rung(8)],
    steps: [
      tell('owner', { to: [{ who: 'owner' }], subject: 'Yours: ‹task› is ‹how late›' }),
      tell('above', {
        to: [{ who: 'above', up: 1 }],
        leads: ['rung-4', 'rung-8'],
        subject: 'Your people’s: ‹task› is ‹how late›'
      }),
      {
        ...{ id: 'chase', kind: 'do', name: '', description: '', leads: ['rung-8'], ask: null },
        acts: [
          {
            ...{ act: 'follow-up', name: 'Talk about ‹task›', description: '', owner: { who: 'manager' } },
            ...{ due: { from: 'today', n: 1, unit: 'workday' }, time: null, priority: null }
          }
        ]
      }
    ],
    ...patch
  };
}

/** Each test of a file has such a task of its own; the fourth status waits for others. */
export function eachWithLateWork(): void {
  beforeEach(async () => {
    workspace = await openWorkspace('2026-03-05T08:00:00Z');
    workspace.container.digests.turn(workspace.coordinator, 1, 'off');
    workspace.container.committer.commit(workspace.coordinator, 'a fourth status', (writer) =>
      writer.insert('status', { name: 'Waits', phase: 'stuck on others', position: 3 })
    );
    taskId = workspace.container.tasks.add(
      workspace.coordinator,
      taskInput({ name: 'Renew it', ownerId: workspace.people.Meera!, dueDate: '2026-03-05' })
    ).result;
  });
  afterEach(() => workspace.close());
}

export const move = async (iso: string) => {
  await workspace.container.engine.moveClock(Date.parse(iso));
  await workspace.container.outbox.drain();
};
/** What was received so far: when, by whom, in which words. */
export const told = async () =>
  (await received(workspace))
    .map(
      ({ date, to, subject }) =>
        `${new Date(date).toISOString().slice(5, 16)} ${to[0]!.split('@')[0]}: ${subject}`
    )
    .sort();
export const edit = (patch: Parameters<TestWorkspace['container']['tasks']['edit']>[2]) =>
  workspace.container.tasks.edit(workspace.coordinator, taskId, patch);
export const promise = (promised: string | null, name = 'Meera') => {
  const { promises, stores, source } = workspace.container;
  const id = workspace.people[name]!;
  const actor = { personId: id, source: 'person' as const };
  return promises.acknowledge(actor, stores.tasks.byId(taskId)!, source.facts.people.get(id)!, promised);
};
