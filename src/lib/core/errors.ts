/**
 * Every error that can reach a person, in one table: its code, the sentence, and what to do about it.
 * `{name}` in a sentence is filled from the error's parameters.
 */
const TABLE = {
  'bad-json': 'This is not JSON: {detail}.',
  'bad-field': '{detail}.',
  'date-format': '“{value}” is not a date. Write year-month-day, like 2026-03-05.',
  'date-impossible': 'There is no {value} in the calendar.',
  'date-out-of-range': '{value} is outside the dates handled here, 1900-01-01 to 2200-12-31.',
  'time-format': '“{value}” is not a time of day. Write hours and minutes, like 09:00.',
  'instant-format':
    '“{value}” is not a moment. Write it like 2026-03-05T07:40Z, or with an offset and a zone in brackets.',
  'instant-zone-mismatch': 'In “{value}” the offset does not belong to the zone at that moment.',
  'zone-unknown': 'There is no time zone “{value}”.{nearest}',
  'interval-format': '“{value}” is not a working interval. Write two times, like 09:00-17:30.',
  'interval-empty': 'The interval “{value}” starts and ends at the same time.',
  'weekday-unknown': '“{value}” is not a weekday. Use mon, tue, wed, thu, fri, sat, sun.',
  'no-working-time':
    'The calendar has no working day within reach of {date}. Give its week at least one working interval.',
  'time-with-elapsed-unit':
    'A time of day cannot go with an offset in {unit}s, which counts from the moment itself. Leave the time out.',
  'offset-too-large': 'An offset of {n} {unit}s is more than this can count. The most is {most}.',
  'leave-order': 'Leave from {from} to {to} ends before it begins.',
  'leave-overlap': 'There is leave from {from} to {to} already. Take it out first, or choose other dates.',
  'leave-columns': 'The sheet needs the columns “person” and “from”. It has: {columns}.',
  'leave-date-two-ways':
    '{date} can be read day first or month first. Write year-month-day, like 2026-03-05.',
  'leave-nothing': 'Nothing in this file can be entered.',
  'leave-gone': 'This leave is no longer there.',
  'own-stand-in': 'Nobody stands in for themselves.',
  'field-needed': '“{field}” is needed to answer “{what}”.',
  'pause-order': 'The pause from {from} to {to} ends before it begins.',
  'rrule-too-dense': 'More than {most} occurrences lie before “from”. Start the rule later.',
  'rhythm-unit': 'A task comes back after days, weeks, months or working days, not after {unit}s.',
  'rhythm-step': 'A step of {n} does not go on. Give 1 or more.',
  'rhythm-behind': 'More than {most} dates of the rhythm lie between the due date and the finish.',
  'repeat-step': 'A repeat every {n} {unit}s does not go on. Give 1 or more.',
  'repeat-endless': 'Fewer than {count} repeats leave within {most} steps.',
  'anchor-only-after':
    'Nothing can be counted back from the {what}: it is not known before. Count from the due date.',
  'schedule-too-often': 'A schedule rings at most every {least} minutes.',
  'rrule-format': 'In the recurrence rule {part} {detail}.',
  'rrule-barren': 'The recurrence rule produces no occurrence within a million of its steps.',
  'field-unknown': 'There is no merge field ‹{name}›.{nearest}',
  'field-unclosed': 'A merge field is opened with ‹ but not closed with ›, at “{near}”.',
  'rule-no-name': 'Give the rule a name.',
  'rule-no-lead': 'The rule never rings: add at least one ring time.',
  'rule-no-recipient': 'The rule tells nobody: choose who hears.',
  'rule-no-words': 'The message has no {part}.',
  'rule-gone': 'This rule is no longer there.',
  'rule-was-live': '“{name}” has been on, so its record stays. Turn it off instead.',
  'project-gone': 'This project is no longer there.',
  'person-gone': 'This person is no longer there.',
  'rule-names-gone': 'It names {what} that is no longer there. Choose another, or take it out.',
  'rule-no-test-value': 'The test of {what} has nothing to compare with.',
  'rule-test-unfit': '{what} cannot be compared by “{op}”.',
  'rule-too-many-tests': 'The condition has {count} tests. At most {most} are taken.',
  'rule-too-deep': 'The condition goes {depth} groups deep. At most {most} are taken.',
  'rule-empty-side': 'A side of a branch has no condition, so it would always be taken. Give it one.',
  'rule-too-many-steps': 'The rule has {count} steps. At most {most} are taken.',
  'rule-no-steps': 'The rule does nothing: add a step that tells or changes something.',
  'rule-no-acts': 'A step changes nothing: add an act, or take the step out.',
  'rule-needs-actor': 'Nobody acts when it rings at a time of its own: choose whom it goes to.',
  'starter-gone': 'There is no such starter.',
  'version-gone': 'That version of the rule is no longer there.',
  'rule-list-unfit': 'A rule cannot look at that saved list: {why}. Choose another, or none.',
  'rule-outside-field':
    'Outside people are told, who see the task’s name, date and project only: take ‹{field}› out.',
  'rule-outside-table':
    'Outside people are told, who see no table of others’ work: send one message for each task, without the table.',
  'rule-outside-together':
    'Outside people never share a message with people of the team: send it to each alone.',
  'rule-answers-gone': 'A step answers a ring time that is no longer there.',
  'rule-earlier-ring': 'It counts from an earlier ring time of this rule: choose which.',
  'rule-own-date': 'It counts from a date field: choose which.',
  'rule-repeat': 'A ring repeats at least once and at most {most} times.',
  'rule-rung-unit': 'Rungs of a ladder are counted in working time, working days or days.',
  'rule-rung-repeat': 'Only the last rung of a ladder is repeated: rung {rung} is followed by another.',
  'rule-rings-itself': 'The rule would ring itself. Choose another, or take the act out.',
  'rule-no-question': 'Somebody is asked, but there is no question.',
  'hush-too-long': 'A hush lasts at most {most} days.',
  'hush-past': 'A hush ends on a day to come.',
  'hush-gone': 'This hush is over already.',
  'snooze-past': 'That moment has passed. Choose a later one.',
  'snooze-too-often': 'This notice has been put off {most} times, which is the most.',
  'preview-stale': 'Something has changed since you looked, and it would do something else now. Look again.',
  'preview-busy': 'Everything is being planned anew just now. Look again in a moment.',
  'preview-failed': 'What this would do could not be worked out. It has been recorded; look again.',
  'thread-lost': 'This could not be worked out. It has been recorded; try again.',
  'act-lost': 'This was cut off. It has been recorded. See whether it was done before you try again.',
  'import-under-way': 'This file is being imported already.',
  'import-overtaken':
    'Others changed what this file is about three times while it was being written. Nothing was imported; try again.',
  'preview-many': 'There are more than {most} tasks, which are too many to try out beforehand.',
  'park-past': 'That day has begun already. Choose a later one.',
  'snooze-gone': 'It has come again already, or was taken back.',
  'snooze-not-yours': 'Only whoever got the notice puts it off.',
  'question-answered': 'This question has been answered already.',
  'question-not-yours': 'Somebody else is asked.',
  'reader-list-gone': 'This reader list is no longer there.',
  'reader-list-no-name': 'Give the reader list a name.',
  'digest-gone': 'This digest is no longer there.',
  'digest-no-name': 'Give the digest a name.',
  'digest-no-readers': 'Say who reads it.',
  'digest-no-sections': 'Choose at least one section.',
  'digest-own-together':
    'What is about each reader’s own work, or that of their own people, cannot be one message to all. Send one each, or make it about everybody’s work.',
  'digest-reader': '{name} does not read this digest.',
  'sweep-gone': 'This sweep is no longer there.',
  'sweep-no-name': 'Give the sweep a name.',
  'sweep-run-gone': 'This run of a sweep is no longer there.',
  'sweep-not-ready': 'This run is {state}: that cannot be done with it now.',
  'sweep-share': 'It takes {count} of all {all} tasks that stand there. Say that this is meant, then run it.',
  'sweep-undo-late': 'This ran more than {days} days ago, and cannot be taken back any more.',
  'sweep-purge-asks': 'What purges the archive always waits for a yes.',
  'sweep-answered': 'This has been answered, or somebody has worked on the task since.',
  'template-gone': 'This message template is no longer there.',
  'template-no-name': 'Give the message template a name.',
  'rules-name-it':
    '{names} would no longer ring: {which} by name. Take it out there first, or remove it all the same.',
  'rush-answered': 'That has been answered already.',
  'run-gone': 'This run is no longer there.',
  'rule-not-by-hand': 'This rule has no button to ring it by hand.',
  'rule-field-value': 'The value does not go with the field “{field}”: {detail}',
  'import-not-text':
    'This file is not a table of text: it looks like {kind}. Save the sheet as CSV and try again.',
  'import-empty': 'The file is empty.',
  'import-header-only': 'The file has a header line and no rows.',
  'not-a-form': 'What was sent here is no form that can be read.',
  'body-too-large': 'This is more than is taken here: at most {most}.',
  'import-too-large': 'The file is larger than {most}. Split it and import the parts one after the other.',
  'import-too-many-rows':
    'The file has more than {most} rows. Split it and import the parts one after the other.',
  'import-column-missing': 'No column holds the {column}. Choose one of the columns of the file.',
  'import-gone': 'This upload is no longer here. Upload the file again.',
  'import-dates-ambiguous':
    'Dates like {example} can be read day first or month first, and nothing in the column decides it. Choose one.',
  'import-nothing':
    'No row can be imported as it stands. Correct the rows below in the sheet and upload it again.',
  'task-no-name': 'Give the task a name.',
  'private-not-yours': 'Only a task of your own can be private.',
  'task-not-yours':
    'This task is somebody else’s: you can read it, and its owner or a coordinator can change it.',
  'parent-not-yours':
    'The task above is somebody else’s: its owner or a coordinator can hang another one under it.',
  'task-gone': 'This task is no longer there.',
  'task-binned': 'This task is in the bin. Bring it back first; what you typed is still here.',
  'task-under-itself': 'A task cannot stand under itself or one of its own subtasks.',
  'open-subtasks': '{count} open below it: {names}. Finish them first, or with it.',
  'rhythm-needs-due': 'A task that comes back on dates needs a due date to count from.',
  'field-value': '{field}: {detail}',
  'field-gone': 'This field is no longer there.',
  'field-no-name': 'Give the field a name.',
  'field-name-taken': 'There is a field “{name}” already.',
  'field-no-choices': 'Give the field at least one choice.',
  'field-kind-kept': 'The kind of a field that tasks have values of stays as it is.',
  'comment-gone': 'This comment is no longer there, or it is somebody else’s.',
  'time-gone': 'This time is no longer there.',
  'reminder-gone': 'This reminder is no longer there.',
  'reminder-past': 'That moment has passed. Choose a later one.',
  'reminder-no-date': 'The task has no {anchor} date to count from.',
  'link-gone': 'This connection is no longer there.',
  'link-to-itself': 'A task is not connected with itself.',
  'section-gone': 'This section is no longer there.',
  'section-no-name': 'Give the section a name.',
  'project-no-name': 'Give the project a name.',
  'project-twice':
    'There is an open project “{name}” already, and two of one name cannot be told apart. Give this one another.',
  'project-zone-needed': 'Dates are pinned to a place: choose it.',
  'member-gone': 'They are not a member of this project.',
  'list-gone': 'This saved list is no longer there.',
  'list-no-name': 'Give the list a name.',
  'bulk-nothing': 'No task is chosen.',
  'bulk-too-many': 'At most {most} tasks are changed at once.',
  'quick-empty': 'Write what is to be done.',
  'quick-unclear': '{question} The line can be read in more than one way.',
  'time-without-date': 'A time of day needs a date.',
  'person-no-name': 'Give the person a name.',
  'person-deactivated': '{name} is deactivated. Make them active again first.',
  'person-still-active': '{name} is still active. Deactivate them first.',
  'person-erased': 'What was this person’s has been erased; it cannot be brought back.',
  'last-administrator': 'Somebody must look after access: make somebody else an administrator first.',
  'contact-gone': 'This contact is no longer there.',
  'project-not-open':
    'This project is not yours to put tasks into: ask a coordinator to make you a member of it.',
  'address-inside':
    '{host} is an address inside your own network. Whoever runs Early Bell can allow it: docs/operations.md, “What it may talk to”.',
  'hand-over-nothing': 'Say who takes over at least one of these.',
  'hand-over-self': '{name} is the one who leaves. Choose somebody else.',
  'account-guarded':
    'Only an administrator changes the address of {name}, or ends their sessions: whoever reads mail at that address can come in as them.',
  'no-access': 'Your role does not open this.',
  'calendar-gone': 'This calendar is no longer there.',
  'calendar-no-name': 'Give the calendar a name.',
  'calendar-never-open':
    'A week of “{name}” has no working time, so nothing can be counted on it. Give each of its weeks at least one working interval, like 09:00-17:00.',
  'calendar-in-use': '{names} go by this calendar. Give them another first.',
  'calendar-day-twice': 'The date {date} stands twice.',
  'week-twice': 'Two weeks begin on {date}.',
  'ics-never-open':
    'A week of the calendar “{name}” in this file has no working time. Give it working intervals where the file was made, and export it again.',
  'ics-format': 'This is not a calendar file: {detail}.',
  'ics-too-long':
    'The file is too long to be read here, or what repeats in it began too long ago. Keep the years that you need, and try again.',
  'ics-no-dates': 'The file has no all-day events, so it closes no day.',
  'ics-too-many': 'The file has {count} events; at most {most} are taken. Export a shorter span of years.',
  'region-unknown': 'The bundled set has no holidays for {region}.',
  'status-gone': 'This status is no longer there.',
  'status-no-name': 'Give the status a name.',
  'status-last-of-phase': 'A workspace needs a status in the phase “{phase}”. Add another one first.',
  'status-in-use': '{count} tasks have this status. Choose another for them.',
  'people-columns': 'The sheet needs a column “name”. It has: {columns}.',
  'people-nothing': 'No row can be taken in as it stands.',
  'person-own-manager': 'A person cannot be their own manager.',
  'person-too-many-above': 'More than {most} managers would stand above them, one over the other.',
  'person-manager-circle': 'That would make a circle: {names}.',
  'email-taken': '{value} already belongs to {name}.',
  'sign-in-failed': 'The address and the password do not belong together.',
  'sign-in-busy': 'Too many try to come in just now. Wait a few seconds and try again.',
  'sign-in-slowed': 'Too many tries. Wait {seconds} seconds and try again.',
  'link-spent': 'This link has been used, or its time has passed. Ask for a new one.',
  'password-short': 'A password needs at least {least} characters.',
  'clock-not-movable': 'The clock can be moved only in the demo workspace.',
  'link-broken': 'This link is not whole, or was not made here. Open the message and press it again.',
  'task-finished': '“{name}” is finished: there is nothing left to promise.',
  'link-task-over': '“{name}” is {state} already: there is nothing left to do for it here.',
  'link-task-not-yours': '“{name}” is {owner} now, so this link does nothing any more.',
  'promise-past': 'That day has gone by. Choose today or a later one.',
  'promise-answered': 'That promise has been answered, or its day has gone by.',
  'promise-not-yours': 'Only somebody above the owner, or a coordinator, answers that.',
  'promise-twice': 'A promised date can be put off once, and that has been done.',
  'seen-twice': 'It has been seen twice for this due date: say by when it will be done.',
  'link-old': 'This link has become too old: it works for two weeks.',
  'link-used': 'This link has been used ({when}): it works once.',
  'engine-stands':
    'The engine stands still until somebody has said on the Bell tower what is done about what should have rung.',
  'engine-rings': 'The engine rings already: somebody has answered before you.',
  'backup-broken': 'The backup {file} is no sound workspace: {detail}',
  'backup-in-use':
    'The workspace in {dir} is open. Stop the application first; a backup of it can be made while it runs.',
  'clock-busy': 'The clock is being moved already. Wait until it has arrived.',
  'clock-too-far': 'The clock moves at most {most} days at once.',
  'change-gone': 'There is no such entry, or it is not yours to see.',
  'undo-gone': 'There is nothing to undo there any more.',
  'undo-not-yours': 'Somebody else did that. They, or a coordinator, can take it back.',
  'undo-done': 'That has been undone already.',
  'question-over': 'Nobody asks that any more: what it was about was taken back, or has ended.',
  'nobody-to-tell': 'Nobody has read of it, or those who had have been told already.',
  'undo-of-sweep': 'A sweep did that, with others. It is taken back as a whole, on the page of its run.',
  'undo-late': 'That is longer ago than {days} days, and can no longer be taken back.',
  'undo-held': '{what} is used by what was made since. Take that away first, or leave it as it is.',
  'undo-not-theirs':
    'Taking that back would change {count} you may not change, “{name}” for one. Ask whoever looks after it, or a coordinator.',
  'database-before':
    'The data in {folder} was made before the first release of Early Bell, and nothing brings it on. If it is a demo, delete that folder and start again: it is laid out anew.',
  'data-not-folder':
    '{folder} is a file. Early Bell keeps its data in a folder: name another one, or take the file away.',
  'data-unusable':
    'The data in {folder} cannot be read and written ({code}). See who may, whether the disk is full, and whether it was mounted to be read alone.',
  'database-not-file': '{file} is no file. Put a backup in its place, or take it away to begin anew.',
  'database-empty':
    '{file} is empty: whatever was in it is lost. Put a backup in its place, or take it away to begin anew.',
  'database-damaged':
    '{file} is no database, or it is damaged. Put a backup in its place; keep the damaged file until you have.',
  'database-foreign': '{file} is a database of something else. Name another folder for the data.',
  'database-lacks':
    'The database lacks migration {name}, though later ones are there: it was not made by a start of Early Bell. Put a backup in its place.',
  'database-newer':
    'The database was written by a newer version of Early Bell (it has migration {name}). Start that version.',
  'database-changed':
    'Migration {name} is not the one this database was made with. Restore the original file.',
  'no-way': 'There is no {what} of yours yet: give it on your own page.',
  'post-room-closed':
    'The mail stand-in does not answer at {address}. It may still be starting, or it was stopped.',
  'no-address': '{name} has no mail address.'
} as const;

export type ErrorCode = keyof typeof TABLE;

export type ErrorParams = Record<string, string | number>;

/** The sentence for a person, with its parameters filled in. Parameters that are absent leave no trace. */
export function errorSentence(code: ErrorCode, params: ErrorParams = {}): string {
  return TABLE[code].replace(/\{(\w+)\}/g, (_, name: string) => String(params[name] ?? ''));
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
