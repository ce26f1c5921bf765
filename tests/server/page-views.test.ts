import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { parseDay } from '../../src/lib/core/time/day.ts';
import { zoneNamed } from '../../src/lib/core/time/zone.ts';
import { demoPeople, demoPerson } from '../../src/lib/server/account/demo-people.ts';
import { sightOf } from '../../src/lib/server/auth/sight.ts';
import { calendarList, calendarView } from '../../src/lib/server/calendar/calendar-views.ts';
import { digestView } from '../../src/lib/server/digest/digest-view.ts';
import { isReceiptAddress } from '../../src/lib/server/message/receipts.ts';
import { contactList, missingTask } from '../../src/lib/server/person/contact-views.ts';
import { settingsView } from '../../src/lib/server/settings/settings-views.ts';
import {
  activePeople,
  calendarChoices,
  groupsOfPeople,
  namesById,
  projectChoices
} from '../../src/lib/server/workspace/choices.ts';
import { moveClock } from '../../src/lib/server/workspace/move-clock.ts';
import { lead, openWorkspace, ruleOf, ruleOn, taskInput, type TestWorkspace } from '../support/workspace.ts';

/** What pages show and offer, as services and views answer it. Thursday 5 March 2026, 07:00Z. */
let workspace: TestWorkspace;
beforeEach(async () => {
  workspace = await openWorkspace('2026-03-05T07:00:00Z');
});
afterEach(() => workspace.close());

const app = () => workspace.container;
const LISBON = zoneNamed('Europe/Lisbon');
const add = (patch: Parameters<typeof taskInput>[0]) =>
  app().tasks.add(workspace.coordinator, taskInput(patch)).result;
const sightOfPerson = (name: string) =>
  sightOf(app().stores.people.byId(workspace.people[name]!)!, app().stores);

describe('what can be chosen', () => {
  it('is whoever is active; who left keeps their name where it stands already', () => {
    const { people, coordinator } = workspace;
    app().people.deactivate(coordinator, people.Tess!);
    expect(activePeople(app()).map(({ name }) => name)).not.toContain('Tess');
    expect(namesById(app(), 'people').get(people.Tess!)).toBe('Tess');
    expect(projectChoices(app())).toEqual([{ id: workspace.project, name: 'Permits' }]);
    expect(calendarChoices(app()).map(({ name }) => name)).toEqual([
      'Monday to Friday',
      'Six days',
      'Sunday to Thursday'
    ]);
    expect(groupsOfPeople(app())).toEqual([]);
  });

  it('of people who sign in by one press nobody who left', () => {
    const { people, coordinator } = workspace;
    expect(demoPerson(app(), people.Tess!)?.name).toBe('Tess');
    expect(demoPeople(app()).find(({ name }) => name === 'Ines')).toMatchObject({
      ...{ place: 'Lisbon', coordinates: true }
    });
    app().people.deactivate(coordinator, people.Tess!);
    expect(demoPerson(app(), people.Tess!)).toBeNull();
    expect(demoPerson(app(), 9_999)).toBeNull();
    expect(demoPeople(app()).map(({ name }) => name)).not.toContain('Tess');
  });
});

describe('a calendar', () => {
  it('says who goes by it, its next closed day and up to when it knows them', () => {
    const { container, coordinator } = workspace;
    const [first] = container.stores.calendars.all();
    container.calendars.save(coordinator, first!.id, {
      ...{ name: first!.name, week: first!.week, weeks: [] },
      days: [
        { date: '2026-03-02', intervals: [], name: 'Passed' },
        { date: '2026-04-03', intervals: [], name: 'Good Friday' }
      ]
    });
    const [row] = calendarList(container, LISBON);
    expect(row).toMatchObject({ isWorkspace: true, next: 'Fri 3 Apr, Good Friday', until: '2026' });
    expect(row!.people).toContain('Ines');
    expect(calendarView(container, first!.id, LISBON)).toMatchObject({ year: 2026 });
    expect(calendarView(container, 9_999, LISBON)).toBeNull();
  });
});

describe('an outside contact', () => {
  it('is shown with those of its tasks alone that the viewer sees', () => {
    const { container, coordinator, people } = workspace;
    const seen = add({ name: 'Seen', ownerId: people.Nora! });
    const other = add({ name: 'Of somebody else', ownerId: people.Tess! });
    container.contacts.save(coordinator, null, {
      ...{ name: 'Harbour office', email: 'office@harbour.example', phone: null, zone: 'Asia/Muscat' },
      ...{ note: '', projectIds: [workspace.project], taskIds: [seen, other] }
    });
    const tasksFor = (name: string) =>
      contactList(container, sightOfPerson(name))[0]!.tasks.map((task) => task.name);
    expect(tasksFor('Ines').sort()).toEqual(['Of somebody else', 'Seen']);
    expect(tasksFor('Nora')).toEqual(['Seen']);
    expect(contactList(container, sightOfPerson('Ines'))[0]).toMatchObject({
      ...{ place: 'Muscat', time: '11:00', phone: '', projectIds: [workspace.project] }
    });
    expect(missingTask(container, [seen, 9_999, other])).toBe(9_999);
    expect(missingTask(container, [seen])).toBeUndefined();
  });
});

describe('the settings', () => {
  it('name the rules that would lose a status, and how many tasks have it', () => {
    const { container, people } = workspace;
    add({ ownerId: people.Nora! });
    const before = settingsView(container);
    const status = before.statuses[0]!;
    expect(status).toMatchObject({ name: 'To do', tasks: 1, namedBy: '' });
    ruleOn(workspace, {
      ...ruleOf([lead(0, 'day')]),
      watch: {
        ...ruleOf([]).watch,
        condition: { all: [{ field: 'status', op: 'is', value: status.id }] }
      }
    });
    expect(settingsView(container).statuses[0]!.namedBy).toMatch(/^“.+”$/);
    expect(settingsView(container).statuses[1]!.namedBy).toBe('');
    expect(before.settings.zone).toBe('Europe/Lisbon');
  });
});

describe('a digest as it is edited', () => {
  it('has its recipients of now and what it can name; one that is gone has nothing', () => {
    const { container } = workspace;
    const sight = sightOfPerson('Ines');
    const [first] = container.stores.digests.all();
    const view = digestView(container, first!.id, { zone: LISBON, sight })!;
    expect(view.readers.map(({ name }) => name)).toContain('Nora');
    expect(view.choices.projects).toEqual([{ id: workspace.project, name: 'Permits' }]);
    expect(digestView(container, 9_999, { zone: LISBON, sight })).toBeNull();
  });
});

describe('acts that a page asks for by name', () => {
  it('a subtask stands where its parent does and is whose that is; without a name or a parent it is none', () => {
    const { container, coordinator, people, project } = workspace;
    const parent = add({ ownerId: people.Nora!, projectId: project, priority: 'high' });
    const { result } = container.tasks.addSubtask(coordinator, parent, 'Ask the office', '2026-03-09');
    expect(container.stores.tasks.byId(result)).toMatchObject({
      ...{ name: 'Ask the office', ownerId: people.Nora, projectId: project, priority: 'high' },
      ...{ parentId: parent, due: { date: '2026-03-09' } }
    });
    expect(() => container.tasks.addSubtask(coordinator, parent, '', null)).toThrow('name');
    expect(() => container.tasks.addSubtask(coordinator, 9_999, 'Nowhere', null)).toThrow('not found');
  });

  it('a hush ends on the page of its own task alone', () => {
    const { container, coordinator, people } = workspace;
    const [one, two] = [add({ ownerId: people.Nora! }), add({ ownerId: people.Nora! })];
    const { result: hush } = container.quiet.hush(coordinator, { of: 'task', id: one }, '2026-03-09', LISBON);
    expect(() => container.quiet.unhushTask(coordinator, hush, two)).toThrow('hush');
    container.quiet.unhushTask(coordinator, hush, one);
    expect(() => container.quiet.unhushTask(coordinator, hush, one)).toThrow('hush');
  });

  it('a rule is rung by hand for a task on whose page it has a button, and for no other', async () => {
    const { container, coordinator, people } = workspace;
    const seen = add({ ownerId: people.Nora!, priority: 'high' });
    const unseen = add({ ownerId: people.Nora!, priority: 'low' });
    const id = ruleOn(workspace, {
      ...ruleOf([{ kind: 'by hand', id: 'h', on: true, only: null, zone: { of: 'owner' }, caption: 'Ask' }]),
      watch: { ...ruleOf([]).watch, priorities: ['high'] }
    });
    await container.engine.tick();
    expect(() => container.handRings.ringOn(coordinator, id, unseen)).toThrow('by hand');
    expect(() => container.handRings.ringOn(coordinator, id, 9_999)).toThrow('by hand');
    expect(container.handRings.ringOn(coordinator, id, seen).result.found).toBe(1);
  });

  it('a move of the clock says how many messages arrived meanwhile', async () => {
    const { container, people } = workspace;
    ruleOn(workspace, ruleOf([lead(0, 'day', { time: '09:00' })]));
    add({ ownerId: people.Ines!, dueDate: '2026-03-05' });
    add({ ownerId: people.Ines!, dueDate: '2026-03-06' });
    expect(await moveClock(container, Date.parse('2026-03-05T12:00:00Z'))).toBe(1);
    expect(await moveClock(container, Date.parse('2026-03-05T12:30:00Z'))).toBe(0);
    expect(container.clock.now()).toBeGreaterThanOrEqual(parseDay('2026-03-05') * 86_400_000);
  });
});

describe('the address for receipts', () => {
  it('is one of its own in each workspace, and no other is taken', () => {
    const key = app().stores.secrets.made('receipts');
    expect(isReceiptAddress(app(), key)).toBe(true);
    for (const wrong of ['', `${key}x`, key.slice(1), key.toUpperCase() === key ? 'a' : key.toUpperCase()])
      expect(isReceiptAddress(app(), wrong)).toBe(false);
  });
});
