import { afterEach, beforeEach } from 'vitest';
import { blankDefinition, type RuleDefinition } from '../../src/lib/core/rule/model.ts';
import { blankTell, type Step } from '../../src/lib/core/rule/step-model.ts';
import type { Lead } from '../../src/lib/core/rule/lead-model.ts';
import type { TaskInput } from '../../src/lib/server/task/schema.ts';
import { openWorkspace, received, taskInput, type TestWorkspace } from './workspace.ts';

/** The workspace of the test under way. */
export let workspace: TestWorkspace;

/** Each test of a file has a workspace of its own with the real engine, on Thursday 5 March 2026 at 07:00 UTC. */
export function eachInAWorkspace(): void {
  beforeEach(async () => {
    workspace = await openWorkspace('2026-03-05T07:00:00Z');
  });
  afterEach(() => workspace.close());
}

/** In its place, one with the clock elsewhere. @param startAt ISO 8601 */
export async function anotherWorkspace(startAt: string): Promise<void> {
  await workspace.close();
  workspace = await openWorkspace(startAt);
}

export const at = (iso: string) => Date.parse(iso);

export const add = (patch: Partial<TaskInput> = {}) =>
  workspace.container.tasks.add(
    workspace.coordinator,
    taskInput({ ownerId: workspace.people.Ines!, ...patch })
  ).result;
export const edit = (id: number, patch: Partial<TaskInput>) =>
  workspace.container.tasks.edit(workspace.coordinator, id, patch);
export const moveTo = (iso: string) => workspace.container.engine.moveClock(at(iso));
export const tick = () => workspace.container.engine.tick();
export const mail = async () =>
  (await received(workspace)).map(
    ({ subject, date, to }) =>
      `${new Date(date).toISOString().slice(5, 16)} ${to[0]!.split('@')[0]} ${subject}`
  );
export const notices = (id: number) =>
  workspace.container.stores.notices
    .ofTask(id)
    .map(({ state, reason }) => (reason ? `${state}: ${reason}` : state));
export const revise = (ruleId: number, definition: RuleDefinition) =>
  workspace.container.rules.turnOn(workspace.coordinator, ruleId, {
    name: 'Rule',
    description: '',
    definition
  });
export const on = (
  event: 'assigned' | 'finished' | 'created' | 'field changed' | 'reopened' | 'commented',
  patch = {}
): Lead => ({
  ...{ kind: 'event', id: event, on: true, only: null, zone: { of: 'owner' }, event, wide: false },
  ...patch
});
export const step = (id: string) => ({ id, name: id, description: '', leads: null });
export const rule = (leads: Lead[], steps: Step[], patch: Partial<RuleDefinition> = {}): RuleDefinition => ({
  ...blankDefinition(),
  leads,
  steps,
  ...patch
});
export const tell = (id: string, patch = {}) => ({
  ...blankTell(id),
  name: id,
  to: [{ who: 'owner' as const }],
  gather: 'per task' as const,
  ...patch
});
export const FINISHED = 3;
