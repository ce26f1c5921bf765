import type { BellKind } from '$lib/view/models.ts';

/** How a place works, in at most 150 words. Words in braces are defined in `terms.ts`. */
export interface Guide {
  title: string;
  text: readonly string[];
  /** Marks that the place shows, with their words. */
  marks?: readonly BellKind[];
}

/** By the first part of an address; the Bell tower by the empty one. */
export const GUIDES: Readonly<Record<string, Guide>> = {
  '': {
    title: 'Bell tower',
    text: [
      'What needs you stands at the top. The numbers open the tasks that they count.',
      'The strip shows the next 24 hours: one row for each person, light where they work, with a {bell} for each {notice}. Press one to read why it rings then.',
      'Tasks that are {out of earshot} are named with what is missing. Nobody will be told about them until that is mended.'
    ],
    marks: ['reminder', 'overdue', 'rung', 'held', 'late bell', 'unrung']
  },
  desk: {
    title: 'Desk',
    text: [
      'Your own days, from the top: what waits for your word, what came in and has no place yet, today, and the days ahead with their bells.',
      'The placing round goes through what came in, one decision after another. A {planned day} is yours alone: the due date and its notices stay as they are.',
      'A task comes to Today by itself on its date. What is left in the evening is moved in the evening round. Lines that you keep have no duty and no reminder.'
    ],
    marks: ['reminder', 'overdue', 'held']
  },
  tasks: {
    title: 'Tasks',
    text: [
      'Press n to add a task in one line, like “send the log, fri 3pm, for Dale”. It is read back before it is added.',
      'Open a task to see its bells: what was sent, what is to come, and why. Every rule says whether it rings for it.',
      'Select several tasks to change them together. What that does, and which messages leave, is shown first. Everything can be undone.'
    ],
    marks: ['reminder', 'overdue', 'rung', 'held']
  },
  projects: {
    title: 'Projects',
    text: [
      'A project groups tasks. It can have its own calendar and time zone, by which dates of tasks without an owner count.',
      'Each rule says whether it covers the project, and why. Calling a project off ends its tasks; its bells fall silent, and all of it can be undone.'
    ]
  },
  rules: {
    title: 'Rules',
    text: [
      'A rule says which tasks it watches, its {ring time}, whom it tells, what it changes, and what stops it. Begin with a starter, and change it.',
      'Beside the editor stands the {forecast}: who is told when, what is {held}, what is {not sent}. “Why?” explains each time, step by step.',
      'A rule does nothing until you turn it on. Before that you see how many messages leave at once. A {run} lists what each ring did.'
    ],
    marks: ['reminder', 'overdue', 'rung', 'held', 'unrung']
  },
  digests: {
    title: 'Digests',
    text: [
      'A {digest} is one message for each reader, at their own time or on a schedule. Rules can leave their notices to it instead of sending each alone.',
      'The preview shows what a reader would get at any moment. An empty digest is not sent, unless you choose so.'
    ]
  },
  sweeps: {
    title: 'Sweeps',
    text: [
      'A {sweep} finds finished, old, undated or often postponed tasks, and archives, closes, parks or asks about them.',
      'You see its list before it runs. Tasks marked “keep” are never changed. Each run can be undone for 30 days.'
    ]
  },
  escalations: {
    title: 'Escalations',
    text: [
      'Overdue work climbs a {ladder}, one {level} after the other, as working time passes. At each level more people are told.',
      'The ladder is paused while the task is acknowledged, promised, stuck on others or hushed. The row says who is told next, and when.'
    ],
    marks: ['rung']
  },
  outbox: {
    title: 'Outbox',
    text: [
      'Every {notice} whose ring time has passed stands here with its result: sent, waiting, failed, or {not sent} with the reason.',
      'A message that could not be delivered is tried again, with longer waits. Test messages are listed at the top.'
    ]
  },
  journal: {
    title: 'Journal',
    text: [
      'Everything that happened: every change, by whom or by which rule. Open a line to see each change, and to undo it for 30 days.'
    ]
  },
  'post-room': {
    title: 'Post room',
    text: [
      'Messages exactly as they were received, by mail, text message, chat and in the app. Use it to try everything without telling anybody.'
    ]
  },
  people: {
    title: 'People',
    text: [
      'Where somebody is, and when they work, decides when they are told. Leave has a {stand-in}; quiet hours and a daily limit hold messages back.',
      'Each person’s page shows what they will be told next, and warns when nothing can reach them.'
    ]
  },
  calendars: {
    title: 'Calendars',
    text: [
      'A calendar has the working week and every {closed day}. Working days of due dates are counted on it.',
      'Add the holidays of a country or of a file. Before you save you see which bells, due times and days overdue that moves.'
    ]
  },
  settings: {
    title: 'Settings',
    text: [
      'The time zone, the {notice time} and when a day ends count for the whole workspace. Each change shows what it moves before you save it.',
      'Channels are how messages leave. Send yourself a test message there.'
    ]
  }
};

/** The guide of the place that an address belongs to; null where there is none. */
export function guideOf(path: string): Guide | null {
  return GUIDES[path.split('/')[1] ?? ''] ?? null;
}

/** A text with its words of our own apart: every second part is one. */
export function partsOf(text: string): string[] {
  return text.split(/[{}]/);
}
