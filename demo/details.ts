import { formatDay } from '../src/lib/core/time/day.ts';
import type { ReminderTiming } from '../src/lib/core/forecast/facts/reminders.ts';
import type { TaskInput } from '../src/lib/server/task/schema.ts';
import type { Container } from '../src/lib/server/container.ts';
import type { Actor } from '../src/lib/server/workspace/commit.ts';

/** Ids of what the demo has laid out, by the keys of the scenario. */
export interface DemoIds {
  people: ReadonlyMap<string, number>;
  projects: ReadonlyMap<string, number>;
  statuses: readonly number[];
}

const MEMBERS: readonly (readonly [project: string, person: string, role: string])[] = [
  ['gauges', 'meera', 'lead'],
  ['gauges', 'anil', ''],
  ['gauges', 'june', ''],
  ['buoys', 'nora', 'lead'],
  ['buoys', 'dale', 'boat'],
  ['buoys', 'june', 'boat'],
  ['permits', 'salim', 'lead'],
  ['permits', 'huda', ''],
  ['permits', 'clara', 'site plans'],
  ['samples', 'deepa', 'lead'],
  ['samples', 'rui', 'courier'],
  ['data', 'ines', 'lead'],
  ['data', 'tess', 'quality'],
  ['safety', 'tess', 'lead'],
  ['safety', 'owen', '']
];

const SECTIONS = { buoys: ['At sea', 'In the workshop'], permits: ['Diving', 'Mooring'] } as const;

const TALK: readonly (readonly [task: string, person: string, text: string])[] = [
  ['Renew the dive permit, Outer Reef', 'salim', 'The port authority wants the site plan first.'],
  ['Renew the dive permit, Outer Reef', 'huda', 'Sent it this morning. They answer within two working days.'],
  ['Replace mooring shackles, buoy 7', 'dale', 'Too much swell since Sunday. The first calm day it is.']
];

/** Days are counted from the demo's own day. */
const RECURRING: readonly (Partial<TaskInput> & {
  name: string;
  project: string;
  owner: string;
  dueOn: number;
})[] = [
  {
    name: 'Back up the gauge loggers',
    project: 'gauges',
    owner: 'june',
    dueOn: 1,
    rhythm: { n: 1, unit: 'week' },
    renewFrom: 'due',
    renewClosedDay: 'later',
    tags: ['loggers']
  },
  {
    name: 'Send the month’s readings to print',
    project: 'data',
    owner: 'rui',
    dueOn: 26,
    rhythm: { rrule: 'FREQ=MONTHLY;BYMONTHDAY=-1' },
    renewFrom: 'due',
    renewClosedDay: 'earlier-in-month'
  },
  {
    name: 'Check the eyewash bottles',
    project: 'safety',
    owner: 'tess',
    dueOn: 4,
    rhythm: { n: 20, unit: 'workday' },
    renewFrom: 'finish'
  }
];

const REMINDERS: readonly (readonly [
  task: string,
  person: string,
  whose: 'mine' | 'owner',
  timing: ReminderTiming
])[] = [
  ['Call the laboratory about the reef run', 'meera', 'mine', { anchor: 'due', n: -15, unit: 'minute' }],
  ['Publish the March tide tables', 'ines', 'owner', { anchor: 'due', n: -1, unit: 'workday' }]
];

/** Where the details are written, and by whom. */
interface Desk {
  container: Container;
  actor: Actor;
  /** The demo's own day. */
  today: number;
  ids: DemoIds;
  taskId: (name: string) => number;
}

const SHACKLES = 'Replace mooring shackles, buoy 7';
const REEF = 'Renew the dive permit, Outer Reef';

const PLAIN = {
  description: '',
  statusId: null,
  priority: 'ordinary',
  dueTime: null,
  startDate: null,
  startTime: null,
  private: false
} as const;

/** What hangs on the demo's tasks and projects: members, sections, subtasks, talk, time, reminders, fields, what is set aside. */
export function writeDetails(desk: Desk): void {
  writeProjects(desk);
  writeFields(desk);
  writeWork(desk);
  writeTalk(desk);
}

function writeProjects({ container, actor, ids, taskId }: Desk): void {
  const { projects, tasks } = container;
  for (const [project, key, role] of MEMBERS)
    projects.saveMember(actor, ids.projects.get(project)!, { personId: ids.people.get(key)!, role });
  for (const [project, names] of Object.entries(SECTIONS))
    for (const name of names) projects.saveSection(actor, ids.projects.get(project)!, null, name);
  const section = (name: string) => container.stores.projects.sections().find((one) => one.name === name)!.id;
  tasks.edit(actor, taskId(SHACKLES), {
    sectionId: section('At sea'),
    tags: ['weather'],
    otherOwnerIds: [ids.people.get('june')!],
    logTime: true
  });
  tasks.edit(actor, taskId('Paint the fairway buoy'), { sectionId: section('In the workshop'), percent: 30 });
  for (const name of [REEF, 'Agree the dive plan for the Sado estuary'])
    tasks.edit(actor, taskId(name), { sectionId: section('Diving'), tags: ['reef'] });
}

function writeFields({ container: { fields, tasks }, actor, today, ids, taskId }: Desk): void {
  const place = {
    kind: 'one choice',
    choices: ['the slipway', 'the quay', 'the beach'],
    metByStatusId: null
  } as const;
  const { result: landing } = fields.save(actor, {
    id: null,
    name: 'Landing place',
    ...place,
    choices: [...place.choices]
  });
  const end = { kind: 'date', choices: [], metByStatusId: ids.statuses[3]! } as const;
  const { result: ends } = fields.save(actor, { id: null, name: 'Permit runs out', ...end, choices: [] });
  tasks.edit(actor, taskId(REEF), { fields: { [landing]: 'the slipway', [ends]: formatDay(today + 9) } });
}

function writeWork({ container: { tasks, taskActs }, actor, today, ids, taskId }: Desk): void {
  const parts: readonly (readonly [name: string, owner: string, status: number])[] = [
    ['Fetch the shackles from the store', 'june', 3],
    ['Book the workboat', 'dale', 0]
  ];
  for (const [name, owner, status] of parts)
    tasks.add(actor, {
      ...PLAIN,
      name,
      projectId: ids.projects.get('buoys')!,
      ownerId: ids.people.get(owner)!,
      statusId: ids.statuses[status]!,
      dueDate: formatDay(today + 1),
      parentId: taskId(SHACKLES)
    });
  for (const { project, owner, dueOn, ...rest } of RECURRING)
    tasks.add(actor, {
      ...PLAIN,
      ...rest,
      projectId: ids.projects.get(project)!,
      ownerId: ids.people.get(owner)!,
      dueDate: formatDay(today + dueOn)
    });
  taskActs.connect(actor, taskId(SHACKLES), { taskId: taskId('Order shackles for buoy 7') });
  taskActs.connect(actor, taskId(REEF), { projectId: ids.projects.get('samples')! });
  tasks.edit(actor, taskId('Order shackles for buoy 7'), { statusId: ids.statuses[2]! });
  tasks.edit(actor, taskId('Agree the dive plan for the Sado estuary'), {
    statusId: ids.statuses[2]!,
    priority: 'high'
  });
  tasks.edit(actor, taskId('Find a new home for the old winch'), { dueDate: formatDay(today + 20) });
  taskActs.park(actor, taskId('Find a new home for the old winch'), formatDay(today + 12));
}

function writeTalk({ container: { taskActs, savedLists }, actor, ids, taskId }: Desk): void {
  const by = (key: string): Actor => ({ personId: ids.people.get(key)!, source: 'person' });
  for (const [name, key, text] of TALK) taskActs.comment(by(key), taskId(name), text);
  taskActs.logTime(by('dale'), taskId(SHACKLES), { minutes: 90, note: 'out and back, too rough' });
  for (const [name, key, whose, timing] of REMINDERS)
    taskActs.remind(by(key), taskId(name), { whose, timing });
  const permits = `project=${ids.projects.get('permits')}&due=30`;
  savedLists.save(actor, { name: 'By owner', query: 'group=owner', shared: true, counted: false });
  savedLists.save(actor, { name: 'Permits this month', query: permits, shared: false, counted: true });
}
