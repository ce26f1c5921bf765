import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { parseDay } from '../../src/lib/core/time/day.ts';
import { daysView } from '../../src/lib/server/calendar/day-views.ts';
import type { DaysOf } from '../../src/lib/view/days.ts';
import { openWorkspace, type TestWorkspace } from '../support/workspace.ts';

let workspace: TestWorkspace;
beforeEach(async () => {
  workspace = await openWorkspace('2026-03-05T08:00Z');
});
afterEach(() => workspace.close());

const view = (of: DaysOf = {}) => daysView(workspace.container, workspace.people.Ines!, of);
const working = ({ from, working: days }: ReturnType<typeof view>, date: string) =>
  days[parseDay(date) - parseDay(from)] === '1';

describe('the days of a date field', () => {
  it('are those of one’s own calendar, some years back and ahead', () => {
    const days = view();
    expect(days.of).toBe('your calendar');
    expect(working(days, '2026-03-06')).toBe(true);
    expect(working(days, '2026-03-07')).toBe(false);
    expect(days.working).toHaveLength(400 + 3 * 366 + 1);
  });

  it('are the owner’s, else the project’s, else the workspace’s for the dates of a task', () => {
    const { Meera } = workspace.people;
    expect(view({ task: { owner: Meera!, project: null } }).of).toBe('the owner’s calendar');
    expect(view({ task: { owner: workspace.people.Ines!, project: null } }).of).toBe('your calendar');
    expect(view({ task: { owner: null, project: null } }).of).toBe('the workspace’s calendar');
    expect(view({ task: { owner: 99_999, project: 99_999 } }).of).toBe('the workspace’s calendar');
    expect(view({ person: Meera! }).of).toBe('this person’s calendar');
  });

  it('say what closes a day that has a name', () => {
    const { calendars } = workspace.container.stores;
    const { calendarId } = workspace.container.stores.settings.workspace()!;
    const { name, week, weeks } = calendars.byId(calendarId)!;
    workspace.container.calendars.save(workspace.coordinator, calendarId, {
      ...{ name, week, weeks },
      days: [{ date: '2026-03-10', name: 'Harbour day', intervals: [] }]
    });
    const days = view({ task: { owner: null, project: null } });
    expect(days.names).toEqual({ '2026-03-10': 'Harbour day' });
    expect(working(days, '2026-03-10')).toBe(false);
  });
});
