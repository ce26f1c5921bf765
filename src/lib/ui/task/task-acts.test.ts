import { describe, expect, it } from 'vitest';
import type { Phase } from '$lib/core/task/model.ts';
import type { TaskDetailView } from '$lib/view/task-detail.ts';
import { actAsked, actsOfRow, actsOn, keyOfAct, statusFor } from './task-acts.ts';

const task = (
  phase: Phase,
  patch: { editable?: boolean; offered?: boolean; snoozable?: number; setAside?: string } = {}
) => {
  const { editable = true, offered = false, snoozable = 0, setAside = null } = patch;
  return {
    editable,
    row: { phase, setAside },
    quiet: { snoozable: Array.from({ length: snoozable }, (_, id) => ({ id })) },
    said: { offered }
  } as unknown as TaskDetailView;
};
const names = (of: TaskDetailView) => actsOn(of).map(({ name }) => name);

describe('what can be done with a task by one press', () => {
  it('is what would not be refused', () => {
    expect(names(task('waiting to start'))).toEqual(['finish', 'change date', 'stuck', 'hush', 'comment']);
    expect(names(task('stuck on others', { offered: true, snoozable: 2 }))).toEqual([
      ...['finish', 'change date', 'acknowledge', 'snooze', 'hush', 'comment']
    ]);
    expect(names(task('finished'))).toEqual(['open again', 'comment']);
  });

  it('is nothing for somebody who may not change it, or once it is set aside', () => {
    expect(names(task('under way', { editable: false }))).toEqual([]);
    expect(names(task('under way', { setAside: 'archived' }))).toEqual([]);
  });

  it('has a key of its own wherever two stand beside each other', () => {
    for (const phase of ['waiting to start', 'finished'] as const) {
      const keys = names(task(phase, { offered: true, snoozable: 1 })).map(keyOfAct);
      expect(new Set(keys).size).toBe(keys.length);
    }
  });

  it('leads to the first status of its phase', () => {
    const statuses = [
      { id: 1, phase: 'waiting to start' },
      { id: 2, phase: 'stuck on others' },
      { id: 3, phase: 'finished' },
      { id: 4, phase: 'finished' }
    ] as const;
    expect(statusFor('finish', statuses)).toBe(3);
    expect(statusFor('stuck', statuses)).toBe(2);
    expect(statusFor('open again', [])).toBeNull();
  });
});

describe('the acts of a row', () => {
  const names = (patch: Partial<Parameters<typeof actsOfRow>[0]> = {}) =>
    actsOfRow({ editable: true, phase: 'under way', setAside: null, ...patch }).map(({ name }) => name);

  it('are those of the task, the one that is wanted most first', () => {
    expect(names()).toEqual(['finish', 'change date', 'comment', 'stuck', 'acknowledge', 'snooze', 'hush']);
    expect(names({ phase: 'stuck on others' })).not.toContain('stuck');
    expect(names({ phase: 'closed' })).toEqual(['open again', 'comment']);
    expect(names({ editable: false })).toEqual([]);
    expect(names({ setAside: 'archived' })).toEqual([]);
  });

  it('can be asked for by an address, whatever a browser makes of its spaces', () => {
    expect(actAsked('#do-hush')).toBe('hush');
    expect(actAsked('#do-change date')).toBe('change date');
    expect(actAsked('#do-change%20date')).toBe('change date');
    expect(actAsked('#do-%')).toBeNull();
    expect(actAsked('#do-toString')).toBeNull();
    expect(actAsked('')).toBeNull();
  });
});
