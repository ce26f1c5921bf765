/** Words of our own, each with what it means: shown where somebody points at one, or comes to it by keyboard. */
export const TERMS = {
  'ring time': 'When a rule rings: so long before or after a date, on a schedule, on an event, or by hand.',
  notice: 'One message of a rule: about one task, for one person, at one time.',
  bell: 'The mark of a notice on a line of time.',
  held: 'A notice that waits until its reader works again, or may be told.',
  'not sent': 'A notice that was computed and does not leave, with the reason.',
  'out of earshot':
    'Open tasks for which no rule rings: no date, no owner, nobody with an address, or outside every rule.',
  ladder:
    'The levels on which overdue work is told to more people, one after the other, as working time passes.',
  level: 'One place on a ladder, like “level 2 of 3”.',
  digest: 'One message for each person that gathers what concerns them.',
  sweep: 'A clean-up of finished, old or undated tasks, from a list that you check first.',
  forecast: 'Every notice of a rule in the next weeks, if nothing changes.',
  'planned day': 'The day on which one person means to do a task: theirs alone, never the due date.',
  'closed day': 'A day without working time in the calendar that counts.',
  'notice time': 'The time at which a rule rings if it names none.',
  'stand-in': 'The person who is asked while somebody is on leave.',
  run: 'Everything that one ring of a rule did, for all its tasks.'
} as const;

export type Term = keyof typeof TERMS;
