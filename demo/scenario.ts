import type { ChannelName } from '../src/lib/core/channel/channels.ts';
import type { ChannelChoice } from '../src/lib/core/channel/ways.ts';
import type { TellingKind } from '../src/lib/core/notice/kinds.ts';
import type { WeekSpec } from '../src/lib/core/calendar/spec.ts';
import { blankDefinition, openWatch, type RuleDefinition } from '../src/lib/core/rule/model.ts';
import { blankTell, type Tell } from '../src/lib/core/rule/step-model.ts';
import { offsetLead, type OffsetLead } from '../src/lib/core/rule/lead-model.ts';

/** Tidewatch, an invented coastal observation network: its places, people, projects and rules. */

const NINE_TO_FIVE = ['09:00-17:00'];

/** A place's working week and the region whose public holidays close it. */
export interface DemoCalendar {
  key: string;
  name: string;
  week: WeekSpec;
  region: string;
}

export const CALENDARS: readonly DemoCalendar[] = [
  { key: 'setubal', name: 'Setúbal, Monday to Friday', region: 'PT', week: weekdays(NINE_TO_FIVE) },
  { key: 'halifax', name: 'Halifax, Monday to Friday', region: 'CA-NS', week: weekdays(NINE_TO_FIVE) },
  {
    key: 'muscat',
    name: 'Muscat, Sunday to Thursday',
    region: 'OM',
    week: {
      sun: ['08:00-16:00'],
      mon: ['08:00-16:00'],
      tue: ['08:00-16:00'],
      wed: ['08:00-16:00'],
      thu: ['08:00-16:00']
    }
  },
  {
    key: 'kochi',
    name: 'Kochi, Monday to half Saturday',
    region: 'IN-KL',
    week: { ...weekdays(['09:00-17:30']), sat: ['09:00-13:00'] }
  },
  { key: 'hobart', name: 'Hobart, Monday to Friday', region: 'AU-TAS', week: weekdays(NINE_TO_FIVE) },
  {
    key: 'hobart-part',
    name: 'Hobart, Monday to Wednesday',
    region: 'AU-TAS',
    week: { mon: ['09:00-15:00'], tue: ['09:00-15:00'], wed: ['09:00-15:00'] }
  }
];

export interface DemoPerson {
  key: string;
  name: string;
  zone: string;
  calendar: string;
  role: 'owner' | 'manager' | 'coordinator' | 'administrator';
  manager: string | null;
  /** False for the one whose address nobody has written down. */
  reachable: boolean;
  group: string;
  /** Hours of their day in which they want no notice. */
  quiet: readonly string[];
  /** How they are reached besides by mail, and what they want to hear how. */
  phone: string | null;
  chat: string | null;
  channels: ChannelChoice;
}

const DATA_OFFICE: readonly string[] = ['ines', 'rui', 'clara', 'nora', 'anil', 'tess'];

/** Mail and, beside it, another channel. */
const beside = (channel: ChannelName, ...kinds: TellingKind[]): ChannelChoice =>
  Object.fromEntries(kinds.map((kind) => [kind, ['mail', channel]]));

/** Who is reached by more than mail. */
const REACHED: Readonly<Record<string, Partial<Pick<DemoPerson, 'phone' | 'chat' | 'channels'>>>> = {
  ines: {
    phone: '+351 265 555 010',
    channels: beside(
      'in-app',
      'assigned',
      'reminder',
      'due today',
      'overdue',
      'escalation',
      'question',
      'rule fault'
    )
  },
  nora: { chat: 'nora', channels: beside('in-app', 'due today', 'overdue', 'question') },
  salim: { phone: '+968 2455 5021', channels: beside('text', 'due today', 'overdue', 'escalation') },
  meera: { chat: 'meera', channels: beside('chat', 'reminder', 'due today', 'overdue') },
  dale: { chat: 'dale', channels: beside('chat', 'reminder', 'due today') }
};

const person = (
  key: string,
  name: string,
  zone: string,
  calendar: string,
  manager: string | null,
  role: DemoPerson['role'] = 'owner',
  reachable = true
): DemoPerson => ({
  key,
  name,
  zone,
  calendar,
  role,
  manager,
  reachable,
  group: DATA_OFFICE.includes(key) ? 'Data office' : 'Field crew',
  quiet: key === 'nora' ? ['21:00-07:30'] : [],
  phone: null,
  chat: null,
  channels: {},
  ...REACHED[key]
});

/** Managers stand before those they look after. */
export const PEOPLE: readonly DemoPerson[] = [
  person('ines', 'Inês Moura', 'Europe/Lisbon', 'setubal', null, 'administrator'),
  person('nora', 'Nora Fielding', 'America/Halifax', 'halifax', 'ines', 'coordinator'),
  person('salim', 'Salim Harthy', 'Asia/Muscat', 'muscat', 'ines', 'manager'),
  person('meera', 'Meera Nair', 'Asia/Kolkata', 'kochi', 'ines', 'manager'),
  person('tess', 'Tess Whitlam', 'Australia/Hobart', 'hobart', 'ines', 'coordinator'),
  person('rui', 'Rui Tavares', 'Europe/Lisbon', 'setubal', 'ines'),
  person('clara', 'Clara Pinho', 'Europe/Lisbon', 'setubal', 'ines'),
  person('dale', 'Dale Comeau', 'America/Halifax', 'halifax', 'nora'),
  person('june', 'June Boudreau', 'America/Halifax', 'halifax', 'nora'),
  person('huda', 'Huda Balushi', 'Asia/Muscat', 'muscat', 'salim'),
  person('yusuf', 'Yusuf Kindi', 'Asia/Muscat', 'muscat', 'salim', 'owner', false),
  person('anil', 'Anil Varghese', 'Asia/Kolkata', 'kochi', 'meera'),
  person('deepa', 'Deepa Kurian', 'Asia/Kolkata', 'kochi', 'meera'),
  person('owen', 'Owen Marr', 'Australia/Hobart', 'hobart-part', 'tess')
];

/** Leave, in days from the demo's own day; both days are included. */
export const LEAVE = [
  { person: 'owen', from: 0, fromTime: null, until: 1, standIn: 'tess', note: '' },
  { person: 'anil', from: 11, fromTime: null, until: 15, standIn: 'deepa', note: 'family visit' },
  { person: 'clara', from: 5, fromTime: '13:00', until: 5, standIn: 'rui', note: '' },
  { person: 'huda', from: 14, fromTime: null, until: 21, standIn: null, note: '' }
] as const;

/** Moves to another zone, in days from the demo's own day. */
export const MOVES = [
  { person: 'yusuf', from: 18, zone: 'Europe/Lisbon' },
  { person: 'yusuf', from: 32, zone: 'Asia/Muscat' }
] as const;

export const CONTACTS = [
  {
    name: 'Quay office, Halifax',
    email: 'desk@quay-office.example',
    phone: '+1 902 555 0143',
    zone: 'America/Halifax',
    note: 'berths and lifting times',
    projects: ['buoys']
  },
  {
    name: 'Cold-chain courier',
    email: 'bookings@cold-chain.example',
    phone: null,
    zone: 'Europe/Lisbon',
    note: '',
    projects: ['samples']
  }
] as const;

export interface DemoProject {
  key: string;
  name: string;
  /** The place its dates are pinned to, where they are. */
  pinnedTo: string | null;
  /** What its tasks are called; {} is filled with one of the things. */
  tasks: readonly string[];
  things: readonly string[];
}

export const PROJECTS: readonly DemoProject[] = [
  {
    key: 'gauges',
    name: 'Gauge calibration',
    pinnedTo: null,
    tasks: [
      'Calibrate {}',
      'Check the zero of {}',
      'Clean the stilling well of {}',
      'Compare {} with the staff',
      'Log the drift of {}'
    ],
    things: [
      'gauge 3',
      'gauge 7',
      'gauge 12',
      'gauge 15',
      'the harbour gauge',
      'the pier gauge',
      'the river gauge'
    ]
  },
  {
    key: 'buoys',
    name: 'Winter buoy service',
    pinnedTo: 'America/Halifax',
    tasks: [
      'Replace the shackles of {}',
      'Change the battery of {}',
      'Scrape and paint {}',
      'Test the light of {}',
      'Read the logger of {}'
    ],
    things: ['buoy 2', 'buoy 4', 'buoy 7', 'buoy 9', 'the shoal buoy', 'the fairway buoy']
  },
  {
    key: 'permits',
    name: 'Permit renewals',
    pinnedTo: null,
    tasks: [
      'Renew the dive permit, {}',
      'Renew the mooring permit, {}',
      'Pay the berth fee, {}',
      'Send the site plan, {}'
    ],
    things: ['Outer Reef', 'North Quay', 'Sado estuary', 'East Passage', 'Derwent mouth', 'Vembanad lake']
  },
  {
    key: 'samples',
    name: 'Sample shipments',
    pinnedTo: null,
    tasks: [
      'Ship the water samples, {}',
      'Book the courier, {}',
      'Print the customs form, {}',
      'Confirm the cold box, {}'
    ],
    things: ['station A', 'station B', 'station C', 'the estuary run', 'the reef run', 'the monsoon series']
  },
  {
    key: 'data',
    name: 'Data publication',
    pinnedTo: null,
    tasks: [
      'Publish the tide tables, {}',
      'Check the quality flags, {}',
      'Archive the raw files, {}',
      'Answer the data request, {}'
    ],
    things: ['February', 'March', 'the spring tides', 'the harbour set', 'the river set', 'the northern set']
  },
  {
    key: 'safety',
    name: 'Station safety',
    pinnedTo: null,
    tasks: [
      'Inspect the ladder, {}',
      'Test the life raft, {}',
      'Refill the first-aid box, {}',
      'Drill the radio call, {}'
    ],
    things: ['station A', 'station B', 'station C', 'the workboat', 'the jetty', 'the boat shed']
  }
];

const lead = (
  id: string,
  n: number,
  unit: OffsetLead['unit'],
  time: string | null,
  closedDay: OffsetLead['closedDay']
): OffsetLead => offsetLead(id, n, unit, { time, closedDay });

/** A step that mails one person, one message for each task. */
const mail = (patch: Partial<Tell> & Pick<Tell, 'to' | 'subject' | 'body'>): Tell => ({
  ...blankTell(),
  gather: 'per task',
  ...patch
});

const openTasks = openWatch();

export interface DemoRule {
  /** Under which name it stands in the list. */
  group?: string;
  name: string;
  /** Keys of the projects that it watches; absent: everything. */
  projects?: readonly string[];
  description: string;
  definition: RuleDefinition;
}

export const RULES: readonly DemoRule[] = [
  {
    name: 'Ahead of the date',
    group: 'Dates',
    description: 'A week and two days ahead, in working days: time enough to ask for help.',
    definition: {
      ...blankDefinition(),
      watch: openTasks,
      leads: [
        lead('ahead-5', -5, 'workday', '09:00', 'earlier'),
        lead('ahead-2', -2, 'workday', '09:00', 'earlier')
      ],
      steps: [
        mail({
          to: [{ who: 'owner' }],
          subject: '‹task› is ‹days left›',
          body: 'Hello ‹first name›,\n\n‹task›‹in project› is ‹days left›: ‹due›. If something is in the way, say so today.\n\n‹link›'
        })
      ]
    }
  },
  {
    name: 'Due today and important',
    group: 'Dates',
    description: 'In the afternoon of the due date, pressing and high tasks.',
    definition: {
      ...blankDefinition(),
      watch: { ...openTasks, priorities: ['high', 'pressing'] },
      leads: [lead('today', 0, 'day', '14:30', 'earlier')],
      steps: [
        mail({
          to: [{ who: 'owner' }],
          subject: '‹days left›: ‹task›',
          body: '‹first name›, ‹task› (‹priority› priority) is ‹days left›. Status: ‹status›.\n\n‹link›'
        })
      ]
    }
  },
  {
    name: 'An hour before',
    group: 'Dates',
    description: 'For tasks with a time of day: couriers, tides, calls.',
    projects: ['samples'],
    definition: {
      ...blankDefinition(),
      watch: openTasks,
      leads: [lead('hour', -1, 'hour', null, 'as-is')],
      steps: [
        mail({
          to: [{ who: 'owner' }],
          subject: '‹task›: ‹due›',
          body: '‹first name›, ‹task› is ‹days left›, on ‹due›.\n\n‹link›'
        })
      ]
    }
  },
  {
    name: 'Overdue by a working day',
    group: 'Dates',
    description: 'Tells the manager while there is still time.',
    definition: {
      ...blankDefinition(),
      watch: openTasks,
      leads: [lead('late-1', 1, 'workday', '10:00', 'later')],
      steps: [
        mail({
          to: [{ who: 'manager', up: 1 }],
          subject: '‹task› of ‹owner› is ‹days left›',
          body: '‹first name›,\n\n‹task›‹in project› was due on ‹due› and is not finished. Owner: ‹owner›. Status: ‹status›.\n\n‹link›'
        })
      ]
    }
  }
];

function weekdays(intervals: readonly string[]): WeekSpec {
  return { mon: intervals, tue: intervals, wed: intervals, thu: intervals, fri: intervals };
}
