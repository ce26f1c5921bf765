import { nearest } from '../../../core/nearest.ts';
import { PRIORITIES, type Priority } from '../../../core/task/model.ts';
import type { Person } from '../../store/people.ts';
import type { Project, Status } from '../../store/projects.ts';

/** Columns that hold a name of something that is here. */
export const NAMED_COLUMNS = ['owner', 'project', 'status', 'priority'] as const;
export type NamedColumn = (typeof NAMED_COLUMNS)[number];

/** What a name of the file was matched with by hand: the id, or the priority; `none` leaves the cell out. */
export type Matches = Partial<Record<NamedColumn, Record<string, string>>>;
export const NONE = 'none';

/** Something that a name can be matched with. */
export interface Match {
  value: string;
  label: string;
}

export interface NameContext {
  people: readonly Person[];
  projects: readonly Project[];
  statuses: readonly Status[];
}

/** How others say our priorities; common practice, no source. */
const PRIORITY_WORDS: Readonly<Record<string, Priority>> = {
  urgent: 'pressing',
  critical: 'pressing',
  highest: 'pressing',
  asap: 'pressing',
  immediate: 'pressing',
  important: 'high',
  major: 'high',
  normal: 'ordinary',
  medium: 'ordinary',
  med: 'ordinary',
  average: 'ordinary',
  standard: 'ordinary',
  moderate: 'ordinary',
  minor: 'low',
  lowest: 'low',
  trivial: 'low',
  none: 'ordinary'
};

/** The names of a file: what each means here, by itself or by hand, and what is near where it means nothing. */
export class Names {
  /** What can be chosen for each column. */
  readonly choices: Readonly<Record<NamedColumn, readonly Match[]>>;
  readonly #known: Readonly<Record<NamedColumn, ReadonlyMap<string, string>>>;
  readonly #matches: Matches;

  constructor({ people, projects, statuses }: NameContext, matches: Matches) {
    this.#matches = matches;
    this.choices = {
      owner: people.map(({ id, name }) => ({ value: String(id), label: name })),
      project: projects.map(({ id, name }) => ({ value: String(id), label: name })),
      status: statuses.map(({ id, name }) => ({ value: String(id), label: name })),
      priority: PRIORITIES.map((value) => ({ value, label: value }))
    };
    this.#known = {
      owner: knownPeople(people),
      project: new Map(projects.map(({ id, name }) => [fold(name), String(id)])),
      status: new Map([
        ...statuses.toReversed().map(({ id, phase }): [string, string] => [fold(phase), String(id)]),
        ...statuses.map(({ id, name }): [string, string] => [fold(name), String(id)])
      ]),
      priority: new Map<string, string>([
        ...Object.entries(PRIORITY_WORDS),
        ...PRIORITIES.map((value): [string, string] => [value, value])
      ])
    };
  }

  /** What a name means: an id or a priority, `NONE`, or undefined where it means nothing here. */
  meaning(column: NamedColumn, text: string): string | undefined {
    const folded = fold(text);
    const byHand = this.#matches[column]?.[folded];
    const isThere = () => this.choices[column].some(({ value }) => value === byHand);
    if (byHand === NONE || (byHand !== undefined && isThere())) return byHand;
    return this.#known[column].get(folded);
  }

  /** What is spelled most like a name, the best first. */
  near(column: NamedColumn, text: string): Match[] {
    const all = this.choices[column];
    const labels = nearest(
      text,
      all.map(({ label }) => label),
      (label) => [label, firstName(label)]
    );
    return labels.map((label) => all.find((one) => one.label === label)!);
  }
}

/** By full name and address; by the first name where one person alone has it. */
function knownPeople(people: readonly Person[]): ReadonlyMap<string, string> {
  const known = new Map<string, string>();
  const first = new Map<string, string[]>();
  for (const { id, name } of people)
    first.set(fold(firstName(name)), [...(first.get(fold(firstName(name))) ?? []), String(id)]);
  for (const [name, ids] of first) if (ids.length === 1) known.set(name, ids[0]!);
  for (const { id, name, email } of people) {
    known.set(fold(name), String(id));
    if (email) known.set(fold(email), String(id));
  }
  return known;
}

function firstName(name: string): string {
  return name.trim().split(/\s+/, 1)[0]!;
}

/** Without regard to case, accents and spaces around. */
export function fold(text: string): string {
  return text
    .normalize('NFKD')
    .replace(/\p{Mn}/gu, '')
    .trim()
    .toLowerCase();
}
