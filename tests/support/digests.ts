import { afterEach, beforeEach } from 'vitest';
import { blankDigest, type DigestDefinition } from '../../src/lib/core/digest/model.ts';
import type { TaskInput } from '../../src/lib/server/task/schema.ts';
import { openWorkspace, received, taskInput, type Received, type TestWorkspace } from './workspace.ts';

/** The workspace of the test under way. */
export let workspace: TestWorkspace;

/** Each test of a file has a workspace of its own, on Monday 2 March 2026 at 06:00 UTC. */
export function eachOnAMonday(): void {
  beforeEach(async () => {
    workspace = await openWorkspace('2026-03-02T06:00:00Z');
  });
  afterEach(() => workspace.close());
}

export const move = (to: string) => workspace.container.engine.moveClock(Date.parse(to));

/** Sets the digest times of somebody. */
export function hours(
  name: string,
  digestDue: string | null,
  digestOverdue = digestDue,
  dailyCap: number | null = null
) {
  const { container, coordinator, people } = workspace;
  const quiet = { quiet: [], dailyCap, digestDue, digestOverdue };
  container.people.setQuiet(coordinator, people[name]!, quiet);
}

export function add(name: string, owner: string | null, patch: Partial<TaskInput> = {}): number {
  const { container, coordinator, people } = workspace;
  const ownerId = owner === null ? null : people[owner]!;
  return container.tasks.add(coordinator, taskInput({ name, ownerId, ...patch })).result;
}

/** A digest over everybody’s work to the coordinator, weekdays at 19:00 in Lisbon, unless it says otherwise. */
export function digestOn(patch: Partial<DigestDefinition> = {}, name = 'Overseers'): number {
  const { container, coordinator, people } = workspace;
  const definition: DigestDefinition = {
    ...blankDigest(),
    when: {
      by: 'schedule',
      rrule: 'FREQ=WEEKLY;BYDAY=MO,TU,WE,TH,FR',
      start: '2026-03-02',
      time: '19:00',
      zone: 'Europe/Lisbon',
      closedDay: 'as-is'
    },
    to: [{ who: 'person', id: people.Ines! }],
    about: 'everybody',
    ...patch
  };
  const { result: id } = container.digests.add(coordinator, { name, description: '', definition });
  container.digests.turn(coordinator, id, 'on');
  return id;
}

export const digestsTo = async (name: string): Promise<Received[]> =>
  (await received(workspace)).filter(({ to }) => to.includes(`${name.toLowerCase()}@test.example`));

/** A message as the stand-in has it. */
export async function partsOf({ id }: Received) {
  const answer = await fetch(`http://127.0.0.1:${workspace.standIn.httpPort}/messages/${id}`);
  return (await answer.json()) as { text: string; html: string; files: { text: string }[] };
}
export const textOf = async (mail: Received) => (await partsOf(mail)).text;

export const at = ({ date }: Received) => new Date(date).toISOString();
export const finish = (id: number) =>
  workspace.container.tasks.edit(workspace.coordinator, id, { statusId: finishedStatus() });
export const finishedStatus = () =>
  workspace.container.stores.projects.statuses().find(({ phase }) => phase === 'finished')!.id;
