import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import type { ClockState } from '../../src/lib/server/engine/clock.ts';
import { lead, openWorkspace, ruleOf, ruleOn, taskInput, type TestWorkspace } from '../support/workspace.ts';

let workspace: TestWorkspace;
beforeEach(async () => {
  workspace = await openWorkspace('2026-03-05T07:40:00Z');
});
afterEach(() => workspace.close());

describe('a clock that is moved', () => {
  it('is kept where it stands before anything rings there: a kill leaves nothing that has left ahead of it', async () => {
    const { container, coordinator } = workspace;
    const { clock, engine, stores, tasks } = container;
    for (const dueDate of ['2026-03-09', '2026-03-11'])
      tasks.add(coordinator, taskInput({ name: 'Moor', ownerId: workspace.people.Ines!, dueDate }));
    ruleOn(workspace, ruleOf([lead(-1, 'day')]));
    const behind: number[] = [];
    engine.attachMeter((kind) => {
      const kept = stores.engineState.read<ClockState>('clock');
      if (kind === 'ring' && !(kept && kept.workspaceMs >= clock.now())) behind.push(clock.now());
    });
    const met: number[] = [];
    await engine.moveClock(Date.parse('2026-03-12T12:00Z'), (instant) => met.push(instant));
    expect(met.length).toBeGreaterThan(1);
    expect(behind).toEqual([]);
  });
});
