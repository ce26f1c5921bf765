import type { WorkingDays } from '../calendar/working-days.ts';
import type { FieldValue } from '../task/model.ts';
import type { Day } from '../time/day.ts';
import type { Test, TestedName } from './condition.ts';

/** A task at an instant, as conditions ask about it. */
export interface TestSubject {
  text(name: TestedName): string;
  choices(name: TestedName): readonly (string | number)[];
  people(name: TestedName): readonly number[];
  /** The date of a field on the day of whoever the test names. */
  day(name: TestedName, zone: Test['zone']): Day | null;
  number(name: TestedName): number | null;
  truth(name: TestedName): boolean;
  /** The value of a field of the workspace's own; undefined when it has none. */
  own(fieldId: number): FieldValue | undefined;
  /** The day of a value of a date field of the workspace's own. */
  dayOfValue(value: FieldValue, end: 'from' | 'until', zone: Test['zone']): Day | null;
  /** The date at the instant of the test. */
  today(zone: Test['zone']): Day;
  /** By which working days are counted: the owner's calendar. */
  readonly workingDays: WorkingDays;
  inGroup(personId: number, groupId: number): boolean;
  /** Whether a person stands above another, however far. */
  reportsTo(personId: number, managerId: number): boolean;
}
