import { many } from './many.ts';

/**
 * Every error that can reach a person, in one table: its code, the sentence, and what to do about it.
 * `{name}` in a sentence is filled from the error's parameters; `{count|task has|tasks have}` is a count with the words that agree with it.
 */
const TABLE = {
  'bad-json': 'This is not JSON: {detail}.',
  'bad-field': '{detail}.',
  'date-format': '“{value}” is not a date. Write year-month-day, like 2026-03-05.',
  'date-not-read': '“{value}” is not a date. Write a day, like 5 mar, fri, in 5 working days or 2026-03-05.',
  'date-with-time': '“{value}” has a time of day in it. Write only the date here.',
  'days-too-far': 'Working days cannot be counted as far as {date}. Write the date itself.',
  'date-impossible': '{value} is not a date: {why}.',
  'date-out-of-range': '{value} is outside the dates handled here, 1900-01-01 to 2200-12-31.',
  'time-format': '“{value}” is not a time of day. Write 00:00 to 23:59, like 09:00.',
  'instant-format':
    '“{value}” is not a date and time. Write it like 2026-03-05T07:40Z, or with an offset and a zone in brackets.',
  'instant-zone-mismatch': 'In “{value}” the offset is not the one of the zone at that time.',
  'zone-unknown': 'There is no time zone “{value}”.{nearest}',
  'interval-format': '“{value}” is not a working interval. Write two times, like 09:00-17:30.',
  'interval-empty': 'The interval “{value}” starts and ends at the same time.',
  'weekday-unknown': '“{value}” is not a weekday. Use mon, tue, wed, thu, fri, sat, sun.',
  'no-working-time':
    'The calendar has no working day near {date}. Give its week at least one working interval.',
  'time-with-elapsed-unit':
    'An offset in {unit}s counts from the exact time, so it takes no time of day. Remove the time.',
  'offset-too-large': 'An offset of {n} {unit}s is too long. Use {most} at most.',
  'leave-order': 'Leave from {from} to {to} ends before it begins.',
  'leave-overlap': 'There is leave from {from} to {to} already. Remove it or choose other dates.',
  'leave-columns': 'The sheet needs the columns “person” and “from”. It has: {columns}.',
  'leave-date-two-ways':
    '{date} can be read day first or month first. Write year-month-day, like 2026-03-05.',
  'leave-nothing': 'No row of this file can be entered. See below.',
  'leave-gone': 'This leave was not found.',
  'own-stand-in': 'Choose somebody else as stand-in.',
  'field-needed': '“{field}” is needed to answer “{what}”.',
  'pause-order': 'The pause from {from} to {to} ends before it begins.',
  'rrule-too-dense': 'More than {most} dates come before “from”. Start later.',
  'rhythm-unit': 'A task repeats after days, weeks, months or working days, not after {unit}s.',
  'rhythm-step': 'A step of {n} is too small. Use 1 or more.',
  'rhythm-behind': 'More than {most} dates of the series were missed. Set a later due date.',
  'repeat-step': 'Repeat every 1 {unit} or more, not every {n}.',
  'repeat-endless': 'There are fewer than {count} repeats in {most} steps.',
  'anchor-only-after':
    'The {what} is not known beforehand, so nothing can be counted back from it. Count from the due date.',
  'schedule-too-often': 'A schedule rings at most every {least} minutes.',
  'rrule-format': 'In the recurrence rule {part} {detail}.',
  'rrule-barren': 'The recurrence rule has no dates.',
  'field-unknown': 'There is no merge field ‹{name}›.{nearest}',
  'field-unclosed': 'A merge field is opened with ‹ but not closed with ›, at “{near}”.',
  'rule-no-name': 'Give the rule a name.',
  'rule-no-lead': 'The rule never rings: add at least one ring time.',
  'rule-no-recipient': 'The rule tells nobody. Choose a recipient.',
  'rule-no-words': 'The message has no {part}.',
  'rule-gone': 'This rule was not found.',
  'rule-was-live': '“{name}” has been on and cannot be removed. Turn it off.',
  'project-gone': 'This project was not found.',
  'person-gone': 'This person was not found.',
  'rule-names-gone': 'It uses {what} that was removed. Choose another or remove it.',
  'rule-no-test-value': 'The test of {what} has nothing to compare with.',
  'rule-test-unfit': '{what} cannot be compared with “{op}”.',
  'rule-too-many-tests': 'The condition has {count} tests. Use {most} at most.',
  'rule-too-deep': 'The condition has groups {depth} deep. Use {most} at most.',
  'rule-empty-side': 'A branch has no condition. Add one.',
  'rule-too-many-steps': 'The rule has {count} steps. Use {most} at most.',
  'rule-no-steps': 'The rule does nothing. Add a step that tells or changes something.',
  'rule-no-acts': 'A step has no change. Add one or remove the step.',
  'rule-needs-actor': 'At a set time, nobody has made a change. Choose a person.',
  'starter-gone': 'This starter was not found.',
  'version-gone': 'This version of the rule was not found.',
  'rule-list-unfit': 'A rule cannot use that saved list: {why}. Choose another, or none.',
  'rule-outside-field': 'Outside contacts may see only name, date and project. Remove ‹{field}›.',
  'rule-outside-table': 'Outside contacts must not see the table. Send one message per task.',
  'rule-outside-together':
    'Outside contacts cannot share a message with the team. Send one message per person.',
  'rule-answers-gone': 'A step runs at a ring time that was removed. Choose another.',
  'rule-earlier-ring': 'It counts from an earlier ring time of this rule. Choose which.',
  'rule-own-date': 'It counts from a date field. Choose which.',
  'rule-repeat': 'A ring repeats at least once and at most {most} times.',
  'rule-rung-unit': 'Levels use working time, working days or days.',
  'rule-rung-repeat': 'Only the last level can repeat. Level {rung} is not the last.',
  'rule-rings-itself': 'The rule would start itself. Choose another rule or remove this change.',
  'rule-no-question': 'The step asks first, but has no question. Write one.',
  'hush-too-long': 'A hush lasts at most {most} days.',
  'hush-past': 'Choose a later day.',
  'hush-gone': 'This hush has ended.',
  'snooze-past': 'This time is past. Choose a later one.',
  'snooze-too-often': 'This notice was snoozed {most} times. No more is possible.',
  'preview-stale': 'Something has changed since this preview, and the effect would differ. Preview it again.',
  'preview-busy': 'The server is computing the plan. Try the preview again in a moment.',
  'preview-failed': 'The preview failed. The fault was recorded. Try again.',
  'thread-lost': 'The server could not compute this. The fault was recorded. Try again.',
  'act-lost': 'This was interrupted. The fault was recorded. Check whether it was done before you try again.',
  'import-under-way': 'This file is being imported already.',
  'import-overtaken':
    'Other people changed the same tasks three times during the import. Nothing was imported. Try again.',
  'preview-many': 'There are more than {most} tasks: too many for a preview.',
  'park-past': 'This day is not in the future. Choose a later one.',
  'snooze-gone': 'This snooze has ended already.',
  'snooze-not-yours': 'Only its recipient can snooze it.',
  'question-answered': 'This question was answered already.',
  'question-not-yours': 'This question is for somebody else.',
  'reader-list-gone': 'This reader list was not found.',
  'reader-list-no-name': 'Give the reader list a name.',
  'digest-gone': 'This digest was not found.',
  'digest-no-name': 'Give the digest a name.',
  'digest-no-readers': 'The digest goes to nobody. Choose a recipient.',
  'digest-no-sections': 'Choose at least one section.',
  'digest-own-together': 'One message for all must be about everybody’s work. Change this, or send one each.',
  'digest-no-list': 'Choose the saved list of “all tasks of a list”.',
  'digest-list-gone': 'The saved list of this digest was not found. Choose another, or none.',
  'digest-list-unfit': 'A digest cannot use that saved list: {why}. Choose another, or none.',
  'digest-reader': '{name} does not get this digest.',
  'sweep-gone': 'This sweep was not found.',
  'sweep-no-name': 'Give the sweep a name.',
  'sweep-run-gone': 'This run of a sweep was not found.',
  'sweep-not-ready': 'This is not possible while the run is {state}.',
  'sweep-share': 'This changes {count} of {all} tasks. Confirm the share, then run it.',
  'sweep-undo-late': 'This ran more than {days} days ago. It can no longer be undone.',
  'sweep-purge-asks': 'A purge always needs approval.',
  'sweep-answered': 'This was answered already, or the task was changed since.',
  'template-gone': 'This message template was not found.',
  'template-no-name': 'Give the message template a name.',
  'rush-answered': 'Somebody has already answered.',
  'run-gone': 'This run was not found.',
  'rule-not-by-hand': 'This rule cannot be rung by hand: it has no button for it.',
  'import-not-text':
    'This file is not a text table: it looks like {kind}. Save the sheet as CSV and try again.',
  'import-empty': 'The file is empty.',
  'import-header-only': 'The file has a header line and no rows.',
  'not-a-form': 'The form that was sent cannot be read.',
  'body-too-large': 'This is too large. Send {most} at most.',
  'import-too-large': 'The file is larger than {most}. Split it and import the parts one after the other.',
  'import-too-many-rows':
    'The file has more than {most} rows. Split it and import the parts one after the other.',
  'import-column-missing': 'No column holds the {column}. Choose one of the columns of the file.',
  'import-gone': 'This upload was not found. Upload the file again.',
  'import-dates-ambiguous':
    'Dates like {example} can be read day first or month first. Nothing in the column decides it. Choose one.',
  'import-nothing': 'No row can be imported. Correct the rows below in the sheet and upload it again.',
  'task-no-name': 'Give the task a name.',
  'private-not-yours': 'Only a task of your own can be private.',
  'task-not-yours':
    'This is somebody else’s task. You can read it; its owner or a coordinator can change it.',
  'parent-not-yours': 'The parent task is somebody else’s. Its owner or a coordinator can add a subtask.',
  'task-gone': 'This task was not found.',
  'task-binned': 'This task is in the bin. Return it to the list first. Your text is still here.',
  'task-under-itself': 'A task cannot be its own subtask.',
  'open-subtasks': '{count|subtask is|subtasks are} still open: {names}. Finish all of them, or cancel.',
  'rhythm-needs-due': 'A task that repeats on dates needs a due date.',
  'field-value': '{field}: {detail}',
  'field-gone': 'This field was not found.',
  'field-no-name': 'Give the field a name.',
  'field-name-taken': 'There is already a field “{name}”. Choose another name.',
  'field-no-choices': 'Give the field at least one choice.',
  'field-kind-kept': 'Tasks use this field, so its kind cannot change.',
  'comment-gone': 'This comment was not found or is not yours.',
  'time-gone': 'This time was not found.',
  'standing-lead-there': 'You have this reminder already.',
  'reminder-gone': 'This reminder was not found.',
  'reminder-past': 'This time is past. Choose a later one.',
  'reminder-no-date': 'The task has no {anchor} date. Set one first.',
  'link-gone': 'This connection was not found.',
  'link-to-itself': 'A task cannot be connected with itself. Choose another task.',
  'section-gone': 'This section was not found.',
  'section-no-name': 'Give the section a name.',
  'project-no-name': 'Give the project a name.',
  'project-twice': 'There is already an open project “{name}”. Choose another name.',
  'project-zone-needed': 'Choose the place for these dates.',
  'member-gone': 'This person is not a member of this project.',
  'list-gone': 'This saved list was not found.',
  'list-no-name': 'Give the list a name.',
  'bulk-nothing': 'No task is chosen.',
  'bulk-too-many': 'At most {most} tasks can be changed at once.',
  'quick-empty': 'Write the task’s name.',
  'quick-unclear': '{question} Choose an answer first.',
  'time-without-date': 'A time of day needs a date.',
  'person-no-name': 'Give the person a name.',
  'person-deactivated': '{name} is deactivated. Make them active again first.',
  'person-still-active': '{name} is still active. Deactivate them first.',
  'person-erased': 'This person was erased. It cannot be undone.',
  'last-administrator': 'This is the last administrator. Make somebody else administrator first.',
  'contact-gone': 'This contact was not found.',
  'project-not-open': 'You cannot add tasks to this project. Ask a coordinator to make you a member.',
  'address-inside':
    '{host} is an address inside your own network. The operator of Early Bell can allow it: docs/operations.md, “What it may talk to”.',
  'hand-over-nothing': 'Choose who takes over at least one of these.',
  'hand-over-self': '{name} is the person who hands over. Choose somebody else.',
  'account-guarded':
    'Only an administrator can change the address of {name} or sign them out. Who reads that mail can sign in as them.',
  'no-access': 'Your role does not allow this.',
  'calendar-gone': 'This calendar was not found.',
  'calendar-no-name': 'Give the calendar a name.',
  'calendar-never-open':
    'A week of “{name}” has no working time. Give each of its weeks at least one interval, like 09:00-17:00.',
  'calendar-in-use': 'This calendar is used by {names}. Choose another one for them first.',
  'ics-never-open':
    'A week of the calendar “{name}” in this file has no working time. Add working hours in the program that made the file, and export it again.',
  'ics-format': 'This is not a calendar file: {detail}.',
  'ics-too-long':
    'The file is too long, or a repeating event in it began too long ago. Keep only the years that you need, and try again.',
  'ics-no-dates': 'The file has no all-day events, so it closes no day.',
  'ics-too-many': 'The file has {count} events. Use {most} at most: export fewer years.',
  'region-unknown': 'No holidays are known for {region}.',
  'status-gone': 'This status was not found.',
  'status-no-name': 'Give the status a name.',
  'status-last-of-phase': 'A workspace needs a status in the phase “{phase}”. Add another one first.',
  'status-in-use': '{count|task has|tasks have} this status. Choose another status first.',
  'people-columns': 'The sheet needs a column “name”. It has: {columns}.',
  'people-nothing': 'No row can be imported. See below.',
  'person-own-manager': 'A person cannot be their own manager.',
  'person-too-many-above': 'They would have more than {most} managers, one above the other.',
  'person-manager-circle': 'The managers would form a circle: {names}. Choose another.',
  'email-taken': '{value} already belongs to {name}.',
  'sign-in-failed': 'Wrong address or password.',
  'sign-in-busy': 'Too many people are signing in. Wait a few seconds and try again.',
  'sign-in-slowed': 'Too many tries. Wait {seconds} seconds and try again.',
  'link-spent': 'This link was used or is too old. Ask for a new one.',
  'password-short': 'A password needs at least {least} characters.',
  'clock-not-movable': 'The clock can be moved only in the demo workspace.',
  'link-broken': 'This link is incomplete. Open it again from the message.',
  'task-finished': '“{name}” is finished. No promise is needed.',
  'link-task-over': '“{name}” is already {state}. Nothing is left to do.',
  'link-task-not-yours': '“{name}” is {owner} now, so this link no longer works.',
  'promise-past': 'That day is past. Choose today or later.',
  'promise-answered': 'This promise was answered or its day is past.',
  'promise-not-yours': 'Only the owner’s managers or a coordinator can answer.',
  'promise-twice': 'A promised date can change once. It already has.',
  'seen-twice': 'Acknowledged twice already. Give a date now.',
  'desk-span-over': 'No day of it is left. Choose another time.',
  'desk-not-there': '{name} is not on your Desk any more: somebody has changed it. Nothing was done.',
  'desk-not-yours': 'Only coordinators and their managers read the Desk of somebody else.',
  'asked-today': '{name} was asked about it today already. Ask again tomorrow.',
  'capture-empty': 'Write something first.',
  'capture-gone': 'This line is not there any more.',
  'group-gone': 'This group is not there any more.',
  'shelf-gone': 'This is not on the shelf any more.',
  'list-not-shared': '“{name}” is your own list. Share it with everybody before you count it for others.',
  'desk-needs-due': '“{name}” would be late. Give a new due date, or keep the old one.',
  'desk-day-past': '{day} is past. Choose today or later.',
  'moved-later': 'It was moved after the moment that is asked about: {movedAt}.',
  'link-of-a-copy': 'This is a button of a copy, which does nothing. It works in the message itself.',
  'link-old': 'This link is too old: it works for two weeks.',
  'link-used': 'This link was used ({when}). It works once.',
  'engine-stands': 'Rules are paused. Decide on the Bell tower about the missed notices.',
  'engine-rings': 'Somebody has already answered. Rules run again.',
  'backup-broken': 'The backup {file} is damaged: {detail}',
  'backup-in-use':
    'The workspace in {dir} is open. Stop the application first; a backup of it can be made while it runs.',
  'clock-busy': 'The clock is already moving. Please wait.',
  'clock-too-far': 'The clock can move {most} days at most at once.',
  'change-gone': 'This entry was not found, or you cannot see it.',
  'undo-gone': 'Nothing to undo.',
  'undo-not-yours': 'Only that person or a coordinator can undo this.',
  'undo-done': 'This was undone already.',
  'question-over': 'This question no longer applies: what it was about was undone or has ended.',
  'nobody-to-tell': 'Nobody got a message about it, or everybody was told already.',
  'undo-of-sweep': 'This is part of a sweep. Undo the whole run, on its page.',
  'undo-late': 'This was more than {days} days ago. It can no longer be undone.',
  'undo-held': '{what} is used by something added later. Remove that first.',
  'undo-not-theirs':
    'Undo would change {count} that you cannot change, for example “{name}”. Ask a coordinator.',
  'database-before':
    'The data in {folder} is from before the first release of Early Bell and cannot be used. If it is a demo, delete that folder and start again.',
  'data-not-folder':
    '{folder} is a file. Early Bell keeps its data in a folder. Name another one, or remove the file.',
  'data-unusable':
    'The data in {folder} cannot be read and written ({code}). Check its permissions, whether the disk is full, and whether it is mounted read-only.',
  'database-not-file':
    '{file} is not a file. Put a backup in its place, or remove it to start with an empty workspace.',
  'database-empty':
    '{file} is empty: its data is lost. Put a backup in its place, or remove it to start with an empty workspace.',
  'database-damaged':
    '{file} is not a database, or it is damaged. Put a backup in its place. Keep the damaged file until then.',
  'database-foreign': '{file} is a database of another program. Name another folder for the data.',
  'database-lacks':
    'Migration {name} is missing in the database, but later ones are there. Put a backup in its place.',
  'database-newer':
    'The database was written by a newer version of Early Bell (it has migration {name}). Start that version.',
  'database-changed':
    'Migration {name} is not the one this database was made with. Restore the original file.',
  'trial-changed': 'What it would say has changed. Read it again, then send it.',
  'no-way': 'You have no {what} yet. Add it on your own page.',
  'post-room-closed':
    'The Post room’s mail server does not answer at {address}. It is starting or was stopped.',
  'no-address': '{name} has no mail address.'
} as const;

export type ErrorCode = keyof typeof TABLE;

export type ErrorParams = Record<string, string | number>;

/** The sentence for a person, with its parameters filled in. Parameters that are absent leave no trace. */
export function errorSentence(code: ErrorCode, params: ErrorParams = {}): string {
  return TABLE[code].replace(
    /\{(\w+)(?:\|([^|}]+)\|([^|}]+))?\}/g,
    (_, name: string, one?: string, more?: string) =>
      one === undefined ? String(params[name] ?? '') : many(Number(params[name]), one, more)
  );
}

/** An error with a code that programs test, a sentence that people read, and the field it belongs to. */
export class CodedError extends Error {
  override readonly name = 'CodedError';
  readonly code: ErrorCode;
  readonly params: ErrorParams;
  readonly field: string | undefined;

  constructor(code: ErrorCode, params: ErrorParams = {}, field?: string) {
    super(errorSentence(code, params));
    this.code = code;
    this.params = params;
    this.field = field;
  }

  /** The same error, said of another field: used where a part is checked on behalf of a whole. */
  at(field: string): CodedError {
    return new CodedError(this.code, this.params, field);
  }
}

/** Runs `work`; a coded error that leaves it without a field is given `field`. */
export function withField<T>(field: string, work: () => T): T {
  try {
    return work();
  } catch (error) {
    if (error instanceof CodedError) throw error.at(error.field ? `${field}.${error.field}` : field);
    throw error;
  }
}
