import { describe, expect, it } from 'vitest';
import { blankSweep } from '../../src/lib/core/sweep/model.ts';
import { FINISHED } from '../support/tasks.ts';
import { received } from '../support/workspace.ts';
import {
  workspace,
  eachWithSweeps,
  WEDNESDAYS,
  sweep,
  run,
  newest,
  rows,
  runNow,
  undo,
  slips,
  openSpans,
  finish,
  owned,
  edit,
  task,
  moveTo,
  tick,
  viewer
} from '../support/sweeps.ts';

eachWithSweeps();

describe('a planned sweep', () => {
  it('sends its list a working day ahead, takes what is at its cut-off, and not a minute later', async () => {
    sweep('close', { when: WEDNESDAYS }, true);
    const [onTime, late] = [owned('On time'), owned('A minute late')];
    await moveTo('2026-03-10T12:00:00Z');
    finish(onTime);
    await moveTo('2026-03-10T12:01:00Z');
    finish(late);
    // Tuesday noon is when its list went out: what was finished after that is left for the next time.
    expect((await received(workspace)).map(({ subject }) => subject)).toEqual([]);
    await moveTo('2026-03-11T12:00:00Z');
    expect([task(onTime).phase, task(late).phase]).toEqual(['finished', 'finished']);
    await moveTo('2026-03-17T12:00:00Z');
    expect((await received(workspace)).map(({ subject }) => subject)).toEqual([
      'close: 2 on Wed 18 Mar, 12:00'
    ]);
    await moveTo('2026-03-18T11:59:00Z');
    expect(task(late).phase).toBe('finished');
    await moveTo('2026-03-18T12:00:00Z');
    expect([task(onTime).phase, task(late).phase]).toEqual(['closed', 'closed']);
    expect(newest()).toMatchObject({ state: 'done', planned: true, looked: 2 });
  });

  it('leaves what was unticked, reopened or changed since its list was made, and says so', async () => {
    sweep('close', { when: WEDNESDAYS }, true);
    const ids = ['Unticked', 'Reopened', 'Renamed', 'Swept'].map((name) => owned(name));
    ids.forEach(finish);
    await moveTo('2026-03-10T12:00:00Z');
    workspace.container.sweeps.tick(newest().id, [ids[0]!], false);
    edit(ids[1]!, { statusId: 1 });
    edit(ids[2]!, { name: 'Renamed since' });
    await moveTo('2026-03-11T12:00:00Z');
    expect(ids.map((id) => task(id).phase)).toEqual(['finished', 'waiting to start', 'finished', 'closed']);
    expect(rows(newest().id, 'left')).toEqual([
      'changed since its list was made: Task “Reopened” changed',
      'changed since its list was made: Task “Renamed since” changed'
    ]);
    expect(rows(newest().id, 'unticked')).toEqual(['Unticked']);
  });

  it('does not run when it was stopped, turned off, or changed meanwhile', async () => {
    const { container, coordinator } = workspace;
    const id = sweep('close', { when: WEDNESDAYS }, true);
    const one = owned('Stays');
    finish(one);
    await moveTo('2026-03-10T12:00:00Z');
    container.sweeps.stop(coordinator, newest().id);
    await moveTo('2026-03-11T12:00:00Z');
    expect(newest()).toMatchObject({ state: 'stopped', reason: 'stopped by Ines' });
    await moveTo('2026-03-17T12:00:00Z');
    const second = newest().id;
    const definition = { ...blankSweep('close'), when: WEDNESDAYS, wait: { n: 90, unit: 'day' as const } };
    container.sweeps.save(coordinator, id, { name: 'close', description: '', definition });
    await moveTo('2026-03-18T12:00:00Z');
    expect(run(second)).toMatchObject({ state: 'stopped', reason: 'the sweep was changed' });
    expect(task(one).phase).toBe('finished');
  });

  it('that takes nearly everything waits for a yes, twice', async () => {
    sweep('close', { when: WEDNESDAYS }, true);
    for (let i = 0; i < 20; i++) finish(owned(`Task ${i}`));
    await moveTo('2026-03-11T12:00:00Z');
    const waits = newest();
    expect(waits).toMatchObject({ state: 'ready', reason: 'it would change 20 of 20 tasks' });
    const { sweeps } = workspace.container;
    expect(() => sweeps.run(workspace.coordinator, waits.id, false)).toThrow(
      'This changes 20 of 20 tasks. Confirm the share, then run it.'
    );
    sweeps.run(workspace.coordinator, waits.id, true);
    await tick();
    expect(rows(waits.id, 'done')).toHaveLength(20);
  });

  it('that nobody said yes to passes when the next one comes', async () => {
    sweep('close', { when: WEDNESDAYS, goes: 'after a yes' }, true);
    finish(owned('Waits'));
    await moveTo('2026-03-10T12:00:00Z');
    const first = newest().id;
    await moveTo('2026-03-18T12:00:00Z');
    expect(run(first)).toMatchObject({ state: 'passed' });
  });
});

describe('a planned sweep of which nobody could know', () => {
  it('waits for a yes while its keeper cannot be told', async () => {
    const { container, people } = workspace;
    sweep('close', { when: WEDNESDAYS }, true);
    finish(owned('One'));
    container.db.prepare('UPDATE person SET email = NULL WHERE id = ?').run(people.Ines);
    container.source.invalidate();
    await moveTo('2026-03-11T12:00:00Z');
    expect(newest()).toMatchObject({
      state: 'ready',
      reason: 'nobody can get its list'
    });
  });

  it('after a time in which nothing ran, waits for a yes, and those in between are passed over', async () => {
    const { container } = workspace;
    sweep('close', { when: WEDNESDAYS }, true);
    finish(owned('One'));
    // The server was down for three weeks: the clock goes on without an instant being met.
    container.clock.set(Date.parse('2026-03-27T09:00:00Z'), false);
    await tick();
    const runs = container.stores.sweepRuns.newest(null, 9);
    expect(runs).toHaveLength(1);
    expect(runs[0]).toMatchObject({
      state: 'ready',
      reason: 'its list could not be sent one working day before'
    });
    expect(container.stores.sweeps.plan()).toMatchObject([
      { looksAt: Date.parse('2026-03-31T11:00:00Z'), at: Date.parse('2026-04-01T11:00:00Z') }
    ]);
  });
});

describe('what finished work goes through', () => {
  it('finished, closed, archived, in the bin, gone; a reopened task stays', async () => {
    sweep('close', { when: WEDNESDAYS }, true);
    sweep('archive', { when: WEDNESDAYS }, true);
    const purge = sweep('purge', { wait: { n: 7, unit: 'day' } });
    const [goes, stays] = [owned('Goes'), owned('Stays')];
    finish(goes);
    finish(stays);
    await moveTo('2026-03-12T12:00:00Z');
    expect(task(goes).phase).toBe('closed');
    edit(stays, { statusId: 1 });
    await moveTo('2026-03-19T12:00:00Z');
    expect([task(goes).setAside, task(stays).setAside]).toEqual(['archived', null]);
    // Not before a year, or a week, has passed, and not without a yes.
    await runNow(purge);
    expect(task(goes).setAside).toBe('archived');
    await moveTo('2026-03-26T12:00:00Z');
    await runNow(purge);
    expect(task(goes).setAside).toBe('binned');
    await moveTo('2026-04-24T12:00:00Z');
    expect(task(goes)).not.toBeNull();
    await moveTo('2026-04-26T12:00:00Z');
    expect(workspace.container.stores.tasks.byId(goes)).toBeNull();
    expect(task(stays).phase).toBe('waiting to start');
  });

  it('what purges never goes by itself', () => {
    expect(() => sweep('purge', { goes: 'unless stopped' })).toThrow('A purge always needs approval.');
  });
});

describe('a sweep is taken back', () => {
  it('each field that still holds what it wrote; what was edited later stays, and is listed', async () => {
    const archive = sweep('archive', {
      act: { act: 'archive', after: 'finished' },
      wait: { n: 0, unit: 'day' }
    });
    const [plain, renamed, moved] = [owned('Plain'), owned('To be renamed'), owned('To be brought back')];
    [plain, renamed, moved].forEach(finish);
    const runId = await runNow(archive);
    expect(rows(runId, 'done')).toHaveLength(3);
    edit(renamed, { name: 'Renamed' });
    workspace.container.taskActs.park(workspace.coordinator, moved, '2026-05-01');
    await undo(runId);
    expect(run(runId).state).toBe('undone');
    expect(task(plain)).toMatchObject({ setAside: null, setAsideAt: null, phase: 'finished' });
    expect(task(renamed)).toMatchObject({ setAside: null, name: 'Renamed' });
    expect(task(moved).setAside).toBe('parked');
    expect(rows(runId, 'kept')).toEqual(['“To be brought back” parked']);
  });

  it('a date that somebody gave a time stays whole', async () => {
    const id = owned('Oil it', { dueDate: '2026-02-20' });
    const runId = await runNow(
      sweep('re-date', { wait: { n: 0, unit: 'day' }, act: { act: 're-date', to: 'next working day' } })
    );
    expect(task(id).due).toMatchObject({ date: '2026-03-06' });
    edit(id, { dueTime: '11:00' });
    await undo(runId);
    expect(task(id).due).toMatchObject({ date: '2026-03-06', time: '11:00' });
    expect(rows(runId, 'kept')).toEqual(['Task “Oil it” changed']);
    expect(slips(id)).toBe(1);
  });

  it('what was reopened and closed by hand stays closed, in one status', async () => {
    const id = owned('Close it');
    finish(id);
    const runId = await runNow(sweep('close', { wait: { n: 0, unit: 'day' } }));
    const { statusId } = task(id);
    for (const to of [1, statusId]) edit(id, { statusId: to });
    await undo(runId);
    expect(task(id).phase).toBe('closed');
    expect(openSpans(id)).toEqual([{ statusId }]);
    expect(rows(runId, 'kept')).toEqual(['Task “Close it” changed']);
  });

  it('what came back and was given to another stays with them', async () => {
    const id = owned('Bring it back');
    workspace.container.taskActs.park(workspace.coordinator, id, '2026-03-05');
    const runId = await runNow(sweep('bring back', { wait: { n: 0, unit: 'day' } }));
    expect(task(id)).toMatchObject({ ownerId: workspace.people.Ines, setAside: null });
    edit(id, { ownerId: workspace.people.Salim! });
    await undo(runId);
    expect(task(id)).toMatchObject({ ownerId: workspace.people.Salim, setAside: null, reviewDate: null });
    expect(rows(runId, 'kept')).toHaveLength(1);
  });

  it('an edit that was taken back itself keeps nothing', async () => {
    const id = owned('Oil it', { dueDate: '2026-02-20' });
    const runId = await runNow(sweep('re-date', { wait: { n: 0, unit: 'day' } }));
    const { changeId } = workspace.container.tasks.edit(workspace.coordinator, id, { dueTime: '11:00' });
    workspace.container.committer.undo(changeId, workspace.people.Ines!);
    await undo(runId);
    expect(task(id).due).toMatchObject({ date: '2026-02-20', time: null });
    expect([rows(runId, 'kept'), slips(id)]).toEqual([[], 0]);
  });

  it('not after 30 days', async () => {
    const close = sweep('close', { wait: { n: 0, unit: 'day' } });
    finish(owned('One'));
    const runId = await runNow(close);
    await moveTo('2026-04-05T08:00:00Z');
    await expect(undo(runId)).rejects.toThrow('more than 30 days ago');
  });

  it('half-way: halted, it goes on or is undone', async () => {
    const { container, coordinator } = workspace;
    const close = sweep('close', { wait: { n: 0, unit: 'day' } });
    const ids = Array.from({ length: 900 }, (_, i) => owned(`Task ${i}`, { statusId: FINISHED }));
    await tick();
    const runId = container.sweeps.look(close);
    await tick();
    container.sweeps.run(coordinator, runId, true);
    container.sweeper.runOne(container.clock.now());
    container.sweeps.halt(coordinator, runId);
    const swept = () => ids.filter((id) => task(id).phase === 'closed').length;
    const half = swept();
    expect(half).toBeGreaterThan(0);
    expect(half).toBeLessThan(900);
    await tick();
    expect(swept()).toBe(half);
    container.sweeps.resume(coordinator, runId);
    await tick();
    expect(swept()).toBe(900);
    await undo(runId);
    expect(swept()).toBe(0);
  });

  it.each(['go on', 'undo'] as const)('cut off by a crash: it %ss at the next start', async (cutOff) => {
    const { container, coordinator } = workspace;
    const close = sweep('close', { wait: { n: 0, unit: 'day' }, cutOff });
    const ids = Array.from({ length: 900 }, (_, i) => owned(`Task ${i}`, { statusId: FINISHED }));
    await tick();
    const runId = container.sweeps.look(close);
    await tick();
    container.sweeps.run(coordinator, runId, true);
    container.sweeper.runOne(container.clock.now());
    // Nothing is held but in the database: a new start finds it as a killed process left it.
    container.sweeper.recover();
    await tick();
    expect(ids.filter((id) => task(id).phase === 'closed')).toHaveLength(cutOff === 'go on' ? 900 : 0);
    expect(run(runId).state).toBe(cutOff === 'go on' ? 'done' : 'undone');
  });
});

describe('two sweeps that would take the same task', () => {
  it('the second leaves it out, and says why', async () => {
    const { container, coordinator } = workspace;
    const wait = { n: 0, unit: 'day' as const };
    const close = sweep('close', { wait });
    const archive = sweep('archive', { wait, act: { act: 'archive', after: 'finished' } });
    finish(owned('Wanted'));
    const [first, second] = [container.sweeps.look(close), container.sweeps.look(archive)];
    await tick();
    container.sweeps.run(coordinator, first, true);
    container.sweeps.run(coordinator, second, true);
    await tick();
    expect(rows(first, 'done')).toEqual(['Wanted']);
    expect(rows(second, 'left')).toEqual(['changed since its list was made: close: closed']);
  });

  it('changed while it runs, it goes on as it was', async () => {
    const { container, coordinator } = workspace;
    const close = sweep('close', { wait: { n: 0, unit: 'day' } });
    finish(owned('One'));
    const runId = container.sweeps.look(close);
    await tick();
    container.sweeps.save(coordinator, close, {
      ...{
        name: 'Other',
        description: '',
        definition: { ...blankSweep('close'), wait: { n: 99, unit: 'day' } }
      }
    });
    container.sweeps.run(coordinator, runId, true);
    await tick();
    expect(rows(runId, 'done')).toEqual(['One']);
    expect(run(runId).name).toBe('close');
  });
});

it('while it goes on, the Bell tower shows how things stood, and afterwards how they stand', async () => {
  const { container, coordinator } = workspace;
  const overdue = () => container.tower.day(viewer()).overdue.count;
  for (let i = 0; i < 30; i++) owned(`Late ${i}`, { dueDate: '2026-03-02' });
  await tick();
  expect(overdue()).toBe(30);
  const runId = container.sweeps.look(sweep('re-date'));
  await tick();
  container.sweeps.run(coordinator, runId, true);
  while (run(runId).state !== 'done') {
    container.sweeper.runOne(container.clock.now());
    expect(overdue()).toBe(30);
  }
  expect(task(1).due?.date).toBe('2026-03-06');
  // What was changed is read again before it is shown.
  while (container.sweeper.isUnderWay()) container.sweeper.runOne(container.clock.now());
  expect(overdue()).toBe(0);
});

it('a condition that cannot be read any more stops its run and nobody else’s', async () => {
  const { container, coordinator } = workspace;
  const close = sweep('close', { wait: { n: 0, unit: 'day' } });
  finish(owned('One'));
  const runId = container.sweeps.look(close);
  container.db
    .prepare(
      `UPDATE sweep_run SET definition = json_set(definition, '$.watch.condition', json('{"field":"due","op":"on","value":"no date"}')) WHERE id = ?`
    )
    .run(runId);
  await tick();
  expect(run(runId).state).toBe('stopped');
  const other = await runNow(close);
  expect(rows(other, 'done')).toEqual(['One']);
  expect(() => container.sweeps.run(coordinator, runId, true)).toThrow(
    'This is not possible while the run is stopped.'
  );
});
