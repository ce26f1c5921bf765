import { formatDay } from '../src/lib/core/time/day.ts';
import type { ReminderTiming } from '../src/lib/core/forecast/reminders.ts';
import type { TaskInput } from '../src/lib/server/schema/task.ts';
import type { Container } from '../src/lib/server/container.ts';
import type { Actor } from '../src/lib/server/service/commit.ts';

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

/** What hangs on the demo's tasks and projects: members, sections, subtasks, talk, time, reminders, fields, what is set aside. */
export function writeDetails(
  container: Container,
  actor: Actor,
  today: number,
  ids: DemoIds,
  taskId: (name: string) => number
): void {
  const person = (key: string) => ids.people.get(key)!;
  const by = (key: string): Actor => ({ personId: person(key), source: 'person' });
  const { projects, tasks, taskActs, fields, savedLists } = container;
  for (const [project, key, role] of MEMBERS)
    projects.saveMember(actor, ids.projects.get(project)!, { personId: person(key), role });
  for (const [project, names] of Object.entries(SECTIONS))
    for (const name of names) projects.saveSection(actor, ids.projects.get(project)!, null, name);
  const section = (name: string) => container.stores.projects.sections().find((one) => one.name === name)!.id;
  tasks.edit(actor, taskId('Replace mooring shackles, buoy 7'), {
    sectionId: section('At sea'),
    tags: ['weather'],
    otherOwnerIds: [person('june')],
    logTime: true
  });
  tasks.edit(actor, taskId('Paint the fairway buoy'), { sectionId: section('In the workshop'), percent: 30 });
  for (const name of ['Renew the dive permit, Outer Reef', 'Agree the dive plan for the Sado estuary'])
    tasks.edit(actor, taskId(name), { sectionId: section('Diving'), tags: ['reef'] });

  const { result: station } = fields.save(actor, {
    id: null,
    name: 'Landing place',
    kind: 'one choice',
    choices: ['the slipway', 'the quay', 'the beach'],
    metByStatusId: null
  });
  const { result: ends } = fields.save(actor, {
    id: null,
    name: 'Permit runs out',
    kind: 'date',
    choices: [],
    metByStatusId: ids.statuses[3]!
  });
  tasks.edit(actor, taskId('Renew the dive permit, Outer Reef'), {
    fields: { [station]: 'the slipway', [ends]: formatDay(today + 9) }
  });

  const plain = {
    description: '',
    statusId: null,
    priority: 'ordinary',
    dueTime: null,
    startDate: null,
    startTime: null,
    private: false
  } as const;
  const shackles = taskId('Replace mooring shackles, buoy 7');
  const parts: readonly (readonly [string, string, number, number])[] = [
    ['Fetch the shackles from the store', 'june', 1, 3],
    ['Book the workboat', 'dale', 1, 0]
  ];
  for (const [name, owner, dueOn, status] of parts)
    tasks.add(actor, {
      ...plain,
      name,
      projectId: ids.projects.get('buoys')!,
      ownerId: person(owner),
      statusId: ids.statuses[status]!,
      dueDate: formatDay(today + dueOn),
      parentId: shackles
    });
  for (const { project, owner, dueOn, ...rest } of RECURRING)
    tasks.add(actor, {
      ...plain,
      ...rest,
      projectId: ids.projects.get(project)!,
      ownerId: person(owner),
      dueDate: formatDay(today + dueOn)
    });

  for (const [name, key, text] of TALK) taskActs.comment(by(key), taskId(name), text);
  taskActs.logTime(by('dale'), shackles, { minutes: 90, note: 'out and back, too rough' });
  for (const [name, key, whose, timing] of REMINDERS)
    taskActs.remind(by(key), taskId(name), { whose, timing });
  taskActs.connect(actor, shackles, { taskId: taskId('Order shackles for buoy 7') });
  taskActs.connect(actor, taskId('Renew the dive permit, Outer Reef'), {
    projectId: ids.projects.get('samples')!
  });
  taskActs.park(actor, taskId('Find a new home for the old winch'), formatDay(today + 12));
  savedLists.save(actor, { name: 'By owner', query: 'group=owner', shared: true });
  savedLists.save(actor, {
    name: 'Permits this month',
    query: `project=${ids.projects.get('permits')}&due=30`,
    shared: false
  });
}
