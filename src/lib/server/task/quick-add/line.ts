import { PRIORITIES, type Priority, type StoredRhythm } from '../../../core/task/model.ts';
import { readTypedDate, type DateReading, type Typist } from './typed-date.ts';

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

/** One line of plain words, taken apart. What can mean several things keeps all of them. */
export interface QuickLine {
  name: string;
  due: DateReading | null;
  owners: Named[];
  projects: Named[];
  priority: Priority | null;
  tags: string[];
  rhythm: StoredRhythm | null;
}

/**
 * Takes a line apart: the name first, then after commas, or at its end, when, for whom, how pressing, in which project, how often.
 * Words that mean nothing of this belong to the name.
 * @example readLine('send the gauge log, fri 3pm, for Ines, high', …)
 */
export function readLine(text: string, typist: Typist, names: LineNames): QuickLine {
  const line: QuickLine = {
    name: '',
    due: null,
    owners: [],
    projects: [],
    priority: null,
    tags: [],
    rhythm: null
  };
  const [first = '', ...others] = text.split(',').map((part) => part.trim());
  const unread: string[] = [];
  for (const part of others) {
    if (part === '') continue;
    const left = readParts(part, line, typist, names, true);
    if (left !== '') unread.push(left);
  }
  const head = readParts(first, line, typist, names, false);
  line.name = [head, ...unread].filter(Boolean).join(', ');
  return line;
}

/**
 * Takes what it knows off the end of a part, again and again.
 * @param alone the part may consist of it wholly; the first part keeps at least a word as the name
 */
function readParts(part: string, line: QuickLine, typist: Typist, names: LineNames, alone: boolean): string {
  let text = part;
  for (;;) {
    const left =
      readPriority(text, line, alone) ??
      readOwner(text, line, names) ??
      readProject(text, line, names) ??
      readTags(text, line) ??
      readRhythm(text, line) ??
      readDue(text, line, typist);
    if (left === null || (left === '' && !alone)) return text;
    text = left;
    if (text === '') return '';
  }
}

function readDue(text: string, line: QuickLine, typist: Typist): string | null {
  if (line.due) return null;
  const reading = readTypedDate(text, typist, true);
  if (!reading) return null;
  line.due = reading;
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

/** In small letters without accents. */
function plain(text: string): string {
  return text.normalize('NFKD').replace(/\p{M}/gu, '').toLowerCase().replace(/\s+/g, ' ').trim();
}
