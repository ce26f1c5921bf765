import { PRIORITIES, type Priority, type StoredRhythm } from '../../../core/task/model.ts';
import { readTypedDate, type DateReading, type Typist } from '../../../core/typed/date.ts';
import { plain } from '../../../core/plain.ts';
import { CodedError } from '../../../core/errors.ts';
import { readTypedTime } from '../../../core/typed/time.ts';
import { readOtherDate } from './other-dates.ts';

/** Somebody or something that a line can name. */
export interface Named {
  id: number;
  name: string;
}

export interface LineNames {
  people: readonly Named[];
  projects: readonly Named[];
  /** Whoever types: “for me”. */
  selfId: number | null;
}

/** What a piece of a line is about. */
export type PieceAbout = 'due' | 'owner' | 'project' | 'priority' | 'tag' | 'rhythm';

/** Words of a line that say a date, an owner, … but name none. Whether they are part of the name is asked. */
export interface Unclear {
  said: string;
  /** Why they were not understood. */
  why: string;
  /** Whether they stand after the words before them without a comma. */
  within?: true;
}

/** One line of plain words, taken apart. What can mean several things keeps all of them. */
export interface QuickLine {
  /** What is left for the name, in the order in which it stands. */
  left: (string | Unclear)[];
  /** What was taken out of it, as it was written. */
  pieces: { about: PieceAbout; said: string }[];
  due: DateReading | null;
  owners: Named[];
  projects: Named[];
  priority: Priority | null;
  tags: string[];
  rhythm: StoredRhythm | null;
}

/**
 * Takes a line apart: the name first, then after commas, or at its end, when, for whom, how pressing, in which project, how often.
 * Words that mean nothing of this belong to the name; those that say a date, an owner or a project which there is not are kept apart.
 * @example readLine('send the gauge log, fri 3pm, for Ines, high', …)
 */
export function readLine(text: string, typist: Typist, names: LineNames): QuickLine {
  const line: QuickLine = {
    ...{ left: [], pieces: [], due: null, owners: [], projects: [], priority: null, tags: [], rhythm: null }
  };
  const [first = '', ...others] = text.split(',').map((part) => part.trim());
  readPart(first, line, typist, names, false);
  for (const part of others) if (part !== '') readPart(part, line, typist, names, true);
  return line;
}

/** The name that a line gives, with or without each of the words that were not understood. */
export function nameOfLine({ left }: Pick<QuickLine, 'left'>, keeps: (nth: number) => boolean): string {
  let nth = 0;
  let name = '';
  for (const part of left) {
    if (typeof part !== 'string' && !keeps(nth++)) continue;
    const between = typeof part !== 'string' && part.within ? ' ' : ', ';
    name += (name === '' ? '' : between) + (typeof part === 'string' ? part : part.said);
  }
  return name;
}

/** What was not understood, in the order in which it stands. */
export function unclearOf({ left }: Pick<QuickLine, 'left'>): Unclear[] {
  return left.filter((part) => typeof part !== 'string');
}

type PieceReader = (text: string, line: QuickLine, alone: boolean) => string | null;

/**
 * Takes what it knows off the end of a part, again and again; what is left is for the name.
 * @param alone the part may consist of it wholly; the first part keeps at least a word as the name
 */
function readPart(part: string, line: QuickLine, typist: Typist, names: LineNames, alone: boolean): void {
  const faults: Unclear[] = [];
  const unknown: Unclear[] = [];
  const readers: [PieceAbout, PieceReader][] = [
    ['priority', readPriority],
    ['owner', (text) => readOwner(text, line, names)],
    ['project', (text) => readProject(text, line, names)],
    ['tag', readTags],
    ['rhythm', readRhythm],
    ['due', (text) => readDue(text, line, typist, faults)]
  ];
  let text = part;
  while (text !== '') {
    const took = readPiece(text, line, readers, alone);
    if (!took) {
      const before = alone ? null : beforeUnknown(text, line, typist);
      if (!before) break;
      unknown.push(before.unknown);
      text = before.rest;
      continue;
    }
    if (faults.length === 0 || faults.at(-1)!.said !== took.said)
      line.pieces.push({ about: took.about, said: took.said });
    text = took.rest;
  }
  if (!alone) text = withoutImpossibleTime(text, faults);
  if (text !== '') line.left.push((alone ? notUnderstood(text, line) : null) ?? text);
  const unclear = [...faults, ...unknown];
  line.left.push(...(alone ? unclear : unclear.map((one) => ({ ...one, within: true as const }))));
}

/**
 * “For Zora” at the end of a name, whom nobody knows, where a date stands before it: the date ends the name, so what follows is no part of it, and is
 * asked about. Behind other words it may well belong to the name.
 */
function beforeUnknown(
  text: string,
  line: QuickLine,
  typist: Typist
): { rest: string; unknown: Unclear } | null {
  const [, rest, said] = /^(.*\S)\s+((?:for|owner|in|project)\s.+)$/i.exec(text) ?? [];
  if (rest === undefined || said === undefined) return null;
  const unknown = notUnderstood(said, line);
  if (!unknown || !endsWithDate(rest, line, typist)) return null;
  return { rest, unknown };
}

/** A time alone is no date: “move the call of 15:30 for good”. */
function endsWithDate(text: string, line: QuickLine, typist: Typist): boolean {
  if (withoutImpossibleTime(text, []) !== text) return true;
  const reading = line.due ? null : readTypedDate(text, typist, true, readOtherDate);
  return reading !== null && readTypedTime(without(text, reading.rest))?.rest !== '';
}

/** A name that ends with a time of day that there is not, “call the office 25:00”, without it: what it means is asked. */
function withoutImpossibleTime(text: string, faults: Unclear[]): string {
  const [, name, time] = /^(.*\S)\s+(\d{1,2}[:h]\d{2})$/.exec(text) ?? [];
  if (name === undefined || time === undefined || readTypedTime(time)) return text;
  faults.push({ said: time, why: noTime(time) });
  return name;
}

function noTime(value: string): string {
  return new CodedError('time-format', { value }).message;
}

/** The first of the readers that takes something off the end; null when none does. */
function readPiece(
  text: string,
  line: QuickLine,
  readers: readonly [PieceAbout, PieceReader][],
  alone: boolean
): { about: PieceAbout; said: string; rest: string } | null {
  for (const [about, read] of readers) {
    const rest = read(text, line, alone);
    if (rest !== null && (rest !== '' || alone)) return { about, said: without(text, rest), rest };
  }
  return null;
}

/** What was taken out of a text, of which the rest is its beginning or its end. */
function without(text: string, rest: string): string {
  const taken = text.startsWith(rest) ? text.slice(rest.length) : text.slice(0, text.length - rest.length);
  return taken.replace(/^[\s,]+/, '').trim();
}

/** Whether words after a comma say what there is not, and why. */
function notUnderstood(text: string, line: QuickLine): Unclear | null {
  const [word = '', ...others] = text.split(/\s+/);
  const named = others.join(' ');
  if (named !== '' && /^(?:for|owner)$/i.test(word) && line.owners.length === 0)
    return { said: text, why: `Nobody here is called “${named}”.` };
  if (named !== '' && /^(?:in|project)$/i.test(word) && line.projects.length === 0)
    return { said: text, why: `You have no project “${named}”.` };
  const last = others.at(-1) ?? word;
  if (!line.due && /^\d{1,2}[:.h]\d{2}$/.test(last) && !readTypedTime(text))
    return { said: text, why: noTime(last) };
  return null;
}

function readDue(text: string, line: QuickLine, typist: Typist, faults: Unclear[]): string | null {
  if (line.due || faults.length > 0) return null;
  const reading = readTypedDate(text, typist, true, readOtherDate);
  if (!reading) return null;
  if (reading.fault === undefined) line.due = reading;
  else faults.push({ said: without(text, reading.rest), why: reading.fault });
  return reading.rest;
}

/** A priority stands alone between commas, or says that it is one: “high” in a name is a word like any other. */
function readPriority(text: string, line: QuickLine, alone: boolean): string | null {
  const match = new RegExp(`^(.*?)\\s*\\b(${PRIORITIES.join('|')})( priority)?$`, 'i').exec(text);
  if (!match || line.priority) return null;
  if (!match[3] && !(alone && match[1] === '') && !(alone && /^(for|in)\b/i.test(text))) return null;
  line.priority = match[2]!.toLowerCase() as Priority;
  return match[1]!;
}

function readOwner(text: string, line: QuickLine, { people, selfId }: LineNames): string | null {
  if (line.owners.length > 0) return null;
  const match = /^(.*?)(?:^|\s)(?:for|owner)\s+([^,\s][^,]*)$/i.exec(text);
  if (!match) return null;
  const asked = plain(match[2]!);
  if (asked === 'me') {
    const self = people.find(({ id }) => id === selfId);
    if (!self) return null;
    line.owners = [self];
    return match[1]!.trim();
  }
  const found = named(asked, people);
  if (found.length === 0) return null;
  line.owners = found;
  return match[1]!.trim();
}

function readProject(text: string, line: QuickLine, { projects }: LineNames): string | null {
  if (line.projects.length > 0) return null;
  const match = /^(.*?)(?:^|\s)(?:in|project)\s+([^,\s][^,]*)$/i.exec(text);
  if (!match) return null;
  const found = named(plain(match[2]!), projects);
  if (found.length === 0) return null;
  line.projects = found;
  return match[1]!.trim();
}

function readTags(text: string, line: QuickLine): string | null {
  const match = /^(.*?)(?:^|\s)tag(?:ged)?\s+([\p{L}\p{N}][\p{L}\p{N}_ -]{0,59})$/iu.exec(text);
  if (!match) return null;
  line.tags.push(match[2]!.trim());
  return match[1]!.trim();
}

function readRhythm(text: string, line: QuickLine): string | null {
  if (line.rhythm) return null;
  const match = /^(.*?)(?:^|\s)every\s+(?:(\d{1,3}|second|other)\s+)?(day|working day|week|month)s?$/i.exec(
    text
  );
  if (!match) return null;
  const n = match[2] === undefined ? 1 : /\d/.test(match[2]) ? Number(match[2]) : 2;
  if (n < 1) return null;
  const unit = match[3]!.toLowerCase() === 'working day' ? 'workday' : (match[3]!.toLowerCase() as 'day');
  line.rhythm = { n, unit };
  return match[1]!.trim();
}

/** Those of the whole name; else those of whose name it is one of the words or the beginning. */
function named(asked: string, of: readonly Named[]): Named[] {
  const whole = of.filter(({ name }) => plain(name) === asked);
  if (whole.length > 0) return whole;
  const words = of.filter(({ name }) => plain(name).split(' ').includes(asked));
  return words.length > 0
    ? words
    : of.filter(({ name }) => asked.length >= 3 && plain(name).startsWith(asked));
}
