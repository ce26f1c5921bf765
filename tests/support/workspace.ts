import { createContainer, type Container } from '../../src/lib/server/container.ts';
import Database from 'better-sqlite3';
import { openDatabase, type Db } from '../../src/lib/server/db/open.ts';
import type { MachineClock } from '../../src/lib/server/engine/clock.ts';
import { blankDefinition, type RuleDefinition } from '../../src/lib/core/rule/model.ts';
import { blankTell, type Recipient, type Tell } from '../../src/lib/core/rule/step-model.ts';
import { offsetLead, type Lead, type OffsetLead } from '../../src/lib/core/rule/lead-model.ts';
import { startChatStandIn } from '../../standin/chat.ts';
import { startMailStandIn, type MailStandIn } from '../../standin/mail.ts';
import type { PostedStandIn } from '../../standin/posted.ts';
import { startTextStandIn } from '../../standin/text.ts';
import type { TaskInput } from '../../src/lib/server/task/schema.ts';
import type { TaskFilter } from '../../src/lib/server/store/task-list.ts';
import type { Sight, Task } from '../../src/lib/server/store/tasks.ts';
import type { Actor } from '../../src/lib/server/workspace/commit.ts';

/** A machine clock that moves only when told; timers never fire. */
export class StillClock implements MachineClock {
  at = Date.parse('2026-03-05T12:00:00Z');
  now(): number {
    return this.at;
  }
  steadyMs(): number {
    return this.at;
  }
  setTimeout(_work?: () => void): null {
    return null;
  }
  clearTimeout(): void {}
}

/** Who sees every task that is not private. */
export const SEES_ALL: Sight = { personId: 0, all: true, reports: [] };

export const SET_UP: Actor = { personId: null, source: 'set-up' };

export interface TestWorkspace {
  container: Container;
  machine: StillClock;
  /** Null when the workspace was opened without a stand-in. */
  standIn: MailStandIn;
  /** Only where they were asked for. */
  posted: PostedStandIn[];
  people: Record<string, number>;
  project: number;
  coordinator: Actor;
  close(): Promise<void>;
}

const DAYS = ['mon', 'tue', 'wed', 'thu', 'fri', 'sat', 'sun'] as const;
const week = (open: readonly string[], days: readonly string[]) =>
  JSON.stringify(Object.fromEntries(days.map((day) => [day, open])));

/** Five places with three working weeks. */
const PEOPLE = [
  ['Ines', 'Europe/Lisbon', 'west'],
  ['Nora', 'America/Halifax', 'west'],
  ['Salim', 'Asia/Muscat', 'gulf'],
  ['Meera', 'Asia/Kolkata', 'six'],
  ['Tess', 'Australia/Hobart', 'west']
] as const;

/** Five people in five zones with three calendars, in a fresh workspace. */
export function setUpWorkspace(container: Container): {
  people: Record<string, number>;
  project: number;
  coordinator: Actor;
} {
  const people: Record<string, number> = {};
  const { result } = container.committer.commit(SET_UP, 'set up', (writer) => {
    const calendars = {
      west: writer.insert('calendar', {
        name: 'Monday to Friday',
        week: week(['09:00-17:00'], DAYS.slice(0, 5))
      }),
      gulf: writer.insert('calendar', {
        name: 'Sunday to Thursday',
        week: week(['08:00-16:00'], ['sun', 'mon', 'tue', 'wed', 'thu'])
      }),
      six: writer.insert('calendar', { name: 'Six days', week: week(['09:00-18:00'], DAYS.slice(0, 6)) })
    };
    ['To do:waiting to start', 'Under way:under way', 'Finished:finished'].forEach((status, position) => {
      const [name, phase] = status.split(':') as [string, string];
      writer.insert('status', { name, phase, position });
    });
    container.stores.settings.saveWorkspace(writer, {
      name: 'Test',
      zone: 'Europe/Lisbon',
      calendarId: calendars.west,
      noticeTime: '09:00',
      endOfDay: 'midnight',
      mailFromName: 'Early Bell',
      mailFromAddress: 'bell@test.example'
    });
    for (const [name, zone, calendar] of PEOPLE) {
      people[name] = writer.insert('person', {
        name,
        email: `${name.toLowerCase()}@test.example`,
        zone,
        calendar_id: calendars[calendar],
        role: name === 'Ines' ? 'coordinator' : 'owner',
        manager_id: people.Ines ?? null
      });
    }
    return writer.insert('project', { name: 'Permits' });
  });
  return { people, project: result, coordinator: { personId: people.Ines!, source: 'person' } };
}

/** A database as the migrations leave it: made once, and copied for each workspace. */
let migrated: Buffer | null = null;
function freshDatabase(): Db {
  migrated ??= openDatabase(':memory:').serialize();
  const db = new Database(migrated);
  db.pragma('foreign_keys = ON');
  db.pragma('trusted_schema = OFF');
  return db;
}

/**
 * A workspace in memory with five people in five zones, the real engine, outbox and mail stand-in.
 * @param everyChannel with the text and the chat stand-in too
 * @param origin where receipts come back to
 * @param db one that is open already
 * @param threadFile what looks at acts on many tasks in a thread
 */
export async function openWorkspace(
  at: string,
  {
    machine = new StillClock(),
    everyChannel = false,
    origin = 'http://early-bell.test',
    db = freshDatabase(),
    threadFile
  }: { machine?: StillClock; everyChannel?: boolean; origin?: string; db?: Db; threadFile?: string } = {}
): Promise<TestWorkspace> {
  const standIn = await startMailStandIn({ smtpPort: 0, httpPort: 0 });
  const posted = everyChannel
    ? await Promise.all([
        startTextStandIn({ port: 0, token: 'a token' }),
        startChatStandIn({ port: 0, key: 'a-key' })
      ])
    : [];
  const [text, chat] = posted.map(({ port }) => `http://127.0.0.1:${port}`);
  const container = createContainer({
    dataDir: ':memory:',
    db,
    demo: true,
    startAtMs: Date.parse(at),
    mail: { host: '127.0.0.1', port: standIn.smtpPort },
    returnPort: 0,
    inside: ['127.0.0.1'],
    postRoom: { mail: `http://127.0.0.1:${standIn.httpPort}`, text, chat },
    text: text ? { url: `${text}/send`, token: 'a token', from: 'Bell' } : null,
    chat: chat ? `${chat}/hooks/a-key` : null,
    origin,
    machine,
    chance: () => 0.5,
    ...(threadFile === undefined ? {} : { threadFile }),
    logLevel: 'silent'
  });
  // Nothing passes by itself: a test moves the clock.
  container.clock.set(Date.parse(at), false);
  const { people, project, coordinator } = setUpWorkspace(container);
  return {
    container,
    machine,
    standIn,
    posted,
    people,
    ...{ project, coordinator },
    async close() {
      await container.stop();
      await Promise.all([standIn, ...posted].map((one) => one.close()));
    }
  };
}

export function lead(n: number, unit: OffsetLead['unit'], patch: Partial<OffsetLead> = {}): OffsetLead {
  return offsetLead(`${n}${unit}`, n, unit, patch);
}

/** A rule over everything open with one Tell, one message for each task unless it says otherwise. */
export function ruleOf(leads: Lead[], patch: Partial<Tell> = {}): RuleDefinition {
  const tell: Tell = { ...blankTell(), to: [{ who: 'owner' }], gather: 'per task', ...patch };
  return { ...blankDefinition(), leads, steps: [tell] };
}

/** The owner's manager, as a recipient. */
export const MANAGER: Recipient = { who: 'manager', up: 1 };

/** Makes a rule and turns it on. @returns its id */
export function ruleOn(
  { container, coordinator }: TestWorkspace,
  definition: RuleDefinition,
  name = 'Rule'
): number {
  const { result: id } = container.rules.add(coordinator, name, definition);
  container.rules.turnOn(coordinator, id, { name, description: '', definition });
  return id;
}

/** A task as a form gives it, with nothing chosen but its name. */
export function taskInput(patch: Partial<TaskInput> = {}): TaskInput {
  return {
    name: 'Task',
    description: '',
    projectId: null,
    ownerId: null,
    statusId: null,
    priority: 'ordinary',
    dueDate: null,
    dueTime: null,
    startDate: null,
    startTime: null,
    private: false,
    ...patch
  };
}

export interface Received {
  subject: string;
  to: string[];
  date: number;
  messageId: string;
  copies: number;
  id: number;
}

export async function received({ container }: TestWorkspace): Promise<Received[]> {
  const { messages } = await container.postRoom.list('', 0, 1_000);
  return (messages as Received[]).sort((a, b) => a.date - b.date || a.id - b.id);
}

/** The first tasks of the list by due date. */
export function tasksOf(
  { container }: TestWorkspace,
  limit: number,
  filter: Partial<TaskFilter> = {}
): Task[] {
  const order = { sort: 'due', down: false, group: null } as const;
  return container.stores.taskList.page({ aside: 'any', ...filter, sight: SEES_ALL }, order, null, limit)
    .tasks;
}
