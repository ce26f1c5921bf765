import { zoneNamed } from '../src/lib/core/time/zone.ts';
import { MS_PER_DAY, formatDay, partsOfDay } from '../src/lib/core/time/day.ts';
import type { Container } from '../src/lib/server/container.ts';
import type { Actor } from '../src/lib/server/workspace/commit.ts';
import { FIRST_STATUSES } from '../src/lib/server/settings/set-up.ts';
import type { TaskInput } from '../src/lib/server/task/schema.ts';
import { placeTasks } from './desks.ts';
import { writeDigests } from './digests.ts';
import { omanHolidays } from './holidays.ts';
import { CALENDARS, CONTACTS, LEAVE, MOVES, PEOPLE, PROJECTS, RULES, type DemoRule } from './scenario.ts';
import { lintRules } from './lint-rules.ts';
import { furtherRules } from './rules.ts';
import { writeSweeps } from './sweeps.ts';
import { writeDetails, type DemoIds } from './details.ts';
import { PAST_DAYS, PRIVATE_TASK, demoTasks, type DemoTask } from './tasks.ts';

/** The seed of everything that is left to chance. */
const SEED = 20_260_305;

const SET_UP: Actor = { personId: null, source: 'set-up' };
/** Days before the moment at which the further rules were turned on. */
const RULES_FOLLOW_DAYS = 7;
/** Drafts that show what the editor says of a rule. */
const LINT_GROUP = 'Examples of doubts';
const DOMAIN = 'tidewatch.example';
/** What stands in the application for longer than this has been looked at. */
const LOOKED_AT_AGO_MS = MS_PER_DAY / 2;

/**
 * Fills an empty workspace with the Tidewatch scenario around a moment, and lets four weeks pass in it: tasks come in,
 * are finished or moved, and the real engine rings and delivers all the while.
 * @param moment workspace clock of the demo, ms
 * @param onDay called as each day has passed, 0 to 1
 */
export async function seedDemo(
  container: Container,
  moment: number,
  onDay: (part: number) => void = () => {}
): Promise<void> {
  const today = zoneNamed('UTC').dayOf(moment);
  const start = (today - PAST_DAYS) * MS_PER_DAY + 5 * 3_600_000;
  container.clock.set(start, false);
  const ids = writeBasis(container, partsOfDay(today).year);
  const actor: Actor = { personId: ids.people.get('ines')!, source: 'person' };
  const tasks = demoTasks(SEED).map((task) => ({ task, id: 0 }));

  for (let day = -PAST_DAYS; day <= 0; day++) {
    // Work comes in before Lisbon's morning, is moved at noon and finished in the afternoon.
    const at = (hour: number) => Math.min(moment, (today + day) * MS_PER_DAY + hour * 3_600_000);
    await container.engine.moveClock(at(5));
    for (const entry of tasks)
      if (entry.task.createdOn === day) entry.id = addTask(container, actor, entry.task, today, ids);
    if (day === -PAST_DAYS) {
      writeAbsences(container, actor, today, ids);
      turnRulesOn(container, actor, ids, RULES);
      writeSweeps(container, actor, today);
    }
    if (day === -RULES_FOLLOW_DAYS) {
      turnRulesOn(container, actor, ids, furtherRules(ids.statuses, writeShared(container, actor)));
      writeDigests(container, actor, today, ids.people);
    }
    await container.engine.moveClock(at(12));
    for (const { task, id } of tasks) {
      const time = task.movedOn.indexOf(day);
      if (time >= 0) moveTask(container, actor, task, id, today + 7 * (time + 1), today, ids);
    }
    await container.engine.moveClock(at(16));
    for (const { task, id } of tasks)
      if (task.finishedOn === day) finishTask(container, actor, task, id, today, ids);
    if (day === -1) placeTasks(container, [...ids.people.values()]);
    onDay((day + PAST_DAYS) / PAST_DAYS);
  }
  const taskId = (name: string) => tasks.find(({ task }) => task.name === name)!.id;
  writeDetails({ container, actor, today, ids, taskId });
  const own = { ...inputOf(PRIVATE_TASK, today, ids, 0), private: true };
  container.tasks.add({ personId: ids.people.get('rui')!, source: 'person' }, own);
  for (const { shows, mended } of lintRules(ids.statuses))
    for (const { name, description, definition } of [shows, mended])
      container.rules.add(actor, name, definition, { description, group: LINT_GROUP });
  await container.engine.moveClock(moment);
  container.clock.set(moment, true);
  container.work.run(() => {
    const { inApp, people } = container.stores;
    for (const { id: personId } of people.all())
      for (const { id, leavesAt } of inApp.of(personId, 1_000))
        if (leavesAt < moment - LOOKED_AT_AGO_MS) inApp.see(personId, id, leavesAt);
    container.stores.engineState.write('clock', container.clock.state());
    container.stores.engineState.write('seeded', { moment });
  });
}

/** What several rules share. @returns the reader list of those who plan the week */
function writeShared({ shared }: Container, actor: Actor): number {
  shared.saveTemplate(
    actor,
    null,
    'A short nudge',
    '‹task›: ‹days left›',
    '‹first name›, ‹task› in ‹project, else no project› is ‹days left›.\n\n‹link›'
  );
  return shared.saveReaders(actor, null, 'The planners of the week', [{ who: 'coordinator' }]).result;
}

function writeBasis(container: Container, year: number): DemoIds {
  const people = new Map<string, number>();
  const projects = new Map<string, number>();
  const { result: statuses } = container.committer.commit(
    SET_UP,
    'The Tidewatch workspace was set up',
    (writer) => {
      const calendars = new Map<string, number>();
      for (const { key, name, week, region } of CALENDARS) {
        const id = writer.insert('calendar', { name, week: JSON.stringify(week) });
        calendars.set(key, id);
        const holidays =
          region === 'OM'
            ? omanHolidays(year - 1, year + 1)
            : container.calendars.publicHolidays(region, year - 1, year + 1);
        for (const holiday of holidays) writer.insert('calendar_day', { calendar_id: id, ...holiday });
      }
      const made = FIRST_STATUSES.map((status, position) => writer.insert('status', { ...status, position }));
      container.stores.settings.saveWorkspace(writer, {
        name: 'Tidewatch',
        zone: 'Europe/Lisbon',
        calendarId: calendars.get('setubal')!,
        noticeTime: '09:00',
        endOfDay: 'midnight',
        mailFromName: 'Tidewatch bells',
        mailFromAddress: `bells@${DOMAIN}`
      });
      const groups = new Map<string, number>();
      for (const one of PEOPLE) {
        const { key, name, zone, calendar, role, manager, reachable, group, quiet } = one;
        const row = {
          name,
          email: reachable ? addressOf(name) : null,
          zone,
          calendar_id: calendars.get(calendar)!,
          role,
          quiet: JSON.stringify(quiet),
          phone: one.phone,
          chat: one.chat,
          channels: JSON.stringify(one.channels)
        };
        people.set(
          key,
          writer.insert('person', { ...row, manager_id: manager === null ? null : people.get(manager)! })
        );
        if (!groups.has(group)) groups.set(group, writer.insert('team_group', { name: group }));
        writer.insert('group_member', { group_id: groups.get(group)!, person_id: people.get(key)! });
      }
      for (const { key, name, pinnedTo } of PROJECTS) {
        const calendar_id = pinnedTo ? calendars.get('halifax')! : null;
        projects.set(
          key,
          writer.insert('project', { name, zone: pinnedTo, calendar_id, pinned: pinnedTo ? 1 : 0 })
        );
      }
      return made;
    }
  );
  return { people, projects, statuses };
}

/** Who is away, who moves, and who outside is heard of. */
function writeAbsences(container: Container, actor: Actor, today: number, ids: DemoIds): void {
  const id = (key: string) => ids.people.get(key)!;
  for (const { person, from, fromTime, until, standIn, note } of LEAVE)
    container.people.addLeave(actor, id(person), {
      fromDate: formatDay(today + from),
      fromTime,
      untilDate: formatDay(today + until),
      untilTime: null,
      standInId: standIn === null ? null : id(standIn),
      note
    });
  for (const { person, from, zone } of MOVES)
    container.people.move(actor, id(person), { from: formatDay(today + from), zone });
  for (const { projects, ...contact } of CONTACTS)
    container.contacts.save(actor, null, {
      ...contact,
      projectIds: projects.map((key) => ids.projects.get(key)!),
      taskIds: []
    });
}

function turnRulesOn(container: Container, actor: Actor, ids: DemoIds, rules: readonly DemoRule[]): void {
  for (const { name, description, projects, group = '', definition: written } of rules) {
    const watched = projects?.map((key) => ids.projects.get(key)!) ?? null;
    const definition = { ...written, watch: { ...written.watch, projects: watched } };
    const { result: id } = container.rules.add(actor, name, definition, { description, group });
    container.rules.turnOn(actor, id, { name, description, definition });
  }
}

function addTask(container: Container, actor: Actor, task: DemoTask, today: number, ids: DemoIds): number {
  return container.tasks.add(actor, inputOf(task, today, ids, 0)).result;
}

/** The due date goes a week on, and so the task has slipped. @param from the day that its due date counts from by then */
function moveTask(
  container: Container,
  actor: Actor,
  task: DemoTask,
  id: number,
  from: number,
  today: number,
  ids: DemoIds
): void {
  const input = inputOf(task, today, ids, 1);
  container.tasks.edit(actor, id, { ...input, dueDate: formatDay(from + task.dueOn!) });
}

function finishTask(
  container: Container,
  actor: Actor,
  task: DemoTask,
  id: number,
  today: number,
  ids: DemoIds
): void {
  container.tasks.edit(actor, id, inputOf(task, today, ids, 3));
}

/** @param status which of the workspace's statuses, in their order */
function inputOf(task: DemoTask, today: number, ids: DemoIds, status: number): TaskInput {
  const date = (day: number | null) => (day === null ? null : formatDay(today + day));
  return {
    name: task.name,
    description: '',
    projectId: task.project === null ? null : ids.projects.get(task.project)!,
    ownerId: task.owner === null ? null : ids.people.get(task.owner)!,
    statusId: ids.statuses[status]!,
    priority: task.priority,
    dueDate: date(task.dueOn),
    dueTime: task.dueOn === null ? null : task.dueTime,
    startDate: date(task.startOn),
    startTime: null,
    private: false
  };
}

/** `ines.moura@tidewatch.example` */
function addressOf(name: string): string {
  const plain = name.normalize('NFKD').replace(/[^A-Za-z ]/g, '');
  return `${plain.toLowerCase().replaceAll(' ', '.')}@${DOMAIN}`;
}
