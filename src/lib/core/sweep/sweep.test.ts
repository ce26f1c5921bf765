import { describe, expect, it } from 'vitest';
import { CompiledCalendar } from '../calendar/compiled.ts';
import { parseCalendar } from '../calendar/spec.ts';
import {
  ORDINARY,
  ORDINARY_FACTS,
  ORDINARY_TASK,
  type PersonFacts,
  type TaskFacts
} from '../forecast/facts/facts.ts';
import { Planner } from '../forecast/plan/planner.ts';
import { NO_DETAILS, type TaskDetails } from '../task/details.ts';
import { parseDay } from '../time/day.ts';
import { zoneNamed } from '../time/zone.ts';
import { compileSweep, judge, type Verdict } from './judge.ts';
import { SWEEP_ACTS, blankSweep, type SweepAct, type SweepDefinition } from './model.ts';
import { readyAt } from './wait.ts';
import { aWorkingDayBefore, nextSweep, type PlannedSweep } from './when.ts';
import { sweepWords } from './words.ts';

const utc = (text: string) => Date.parse(`${text}:00Z`);
const iso = (at: number) => new Date(at).toISOString().slice(0, 16) + 'Z';

const LISBON = zoneNamed('Europe/Lisbon');
const UTC = zoneNamed('UTC');
const HALIFAX = zoneNamed('America/Halifax');
const MON_FRI = Object.fromEntries(['mon', 'tue', 'wed', 'thu', 'fri'].map((day) => [day, ['09:00-17:00']]));
// 10 June is Portugal’s national day (from memory).
const lisbon = new CompiledCalendar(parseCalendar({ week: MON_FRI, closed: ['2026-06-10'] }), LISBON);
const always = new CompiledCalendar(parseCalendar({ week: MON_FRI }), UTC);

const owner: PersonFacts = {
  ...{ id: 1, name: 'Person 1', email: 'p1@test.example', managerId: null },
  ...{ zone: LISBON, calendar: lisbon, ...ORDINARY }
};
const planner = new Planner({
  ...ORDINARY_FACTS,
  workspace: { zone: UTC, calendar: always, noticeMinute: 540, endOfDay: 'midnight' },
  people: new Map([[1, owner]]),
  projects: new Map()
});
const task = (patch: Partial<TaskFacts> = {}): TaskFacts => ({
  ...ORDINARY_TASK,
  ...{
    id: 1,
    name: 'Oil the winch',
    projectId: null,
    ownerId: 1,
    due: null,
    start: null,
    phase: 'under way'
  },
  ...{ priority: 'ordinary', round: 0, private: false },
  ...patch
});
const day = (text: string) => ({ day: parseDay(text), minute: null, zone: null });

function verdict(
  act: SweepAct['act'],
  at: string,
  of: Partial<TaskFacts>,
  details: Partial<TaskDetails>,
  patch: Partial<SweepDefinition> = {}
): Verdict {
  const compiled = compileSweep({ ...blankSweep(act), ...patch }, null, planner.facts, UTC);
  return judge(compiled, planner, task(of), { ...NO_DETAILS, ...details }, utc(at));
}

const finished = (at: string) => [{ phase: 'finished' as const }, { finishedAt: utc(at) }] as const;

describe('what a sweep waits for (common practice, no source)', () => {
  it('a Wednesday sweep with a cut-off a day before takes what is exactly at it, and not a minute later', () => {
    expect(verdict('close', '2026-06-03T12:00', ...finished('2026-06-02T12:00')).is).toBe('taken');
    const later = verdict('close', '2026-06-03T12:00', ...finished('2026-06-02T12:01'));
    expect(later).toEqual({ is: 'waits', until: utc('2026-06-03T12:01') });
    // It waits for the next Wednesday: almost eight days in all.
    expect(verdict('close', '2026-06-10T12:00', ...finished('2026-06-02T12:01')).is).toBe('taken');
  });

  it('archives by when something was finished, never by when it was due', () => {
    const archive = { act: { act: 'archive', after: 'finished' } as const };
    const of = { ...finished('2026-06-10T15:00')[0], due: day('2026-06-20') };
    const details = { finishedAt: utc('2026-06-10T15:00') };
    expect(verdict('archive', '2026-06-17T14:59', of, details, archive).is).toBe('waits');
    expect(verdict('archive', '2026-06-17T15:00', of, details, archive).is).toBe('taken');
  });

  it('takes nothing that was reopened meanwhile', () => {
    const archive = { act: { act: 'archive', after: 'finished' } as const };
    const reopened = [{ phase: 'under way' as const }, { finishedAt: null }] as const;
    expect(verdict('archive', '2026-06-30T12:00', ...reopened, archive).is).toBe('not looked at');
  });

  it('counts working days on the owner’s calendar, at the same time of day', () => {
    // Friday 5 June + 3: Monday, Tuesday, and Thursday since Wednesday is closed.
    const ready = readyAt(utc('2026-06-05T14:30'), { n: 3, unit: 'workday' }, LISBON, lisbon);
    expect(iso(ready)).toBe('2026-06-11T14:30Z');
  });

  it('a day over a clock change ends at the same time of day, 24 hours are 24 hours', () => {
    // The clocks of Halifax go forward on 8 March 2026 (tz database; from memory).
    const since = utc('2026-03-07T16:00');
    expect(iso(readyAt(since, { n: 1, unit: 'day' }, HALIFAX, always))).toBe('2026-03-08T15:00Z');
    expect(iso(readyAt(since, { n: 24, unit: 'hour' }, HALIFAX, always))).toBe('2026-03-08T16:00Z');
  });
});

describe('what a sweep never takes', () => {
  const [of, details] = finished('2026-05-01T12:00');
  const why = (act: SweepAct['act'], patch: Partial<TaskDetails>, other: Partial<TaskFacts> = of) => {
    const found = verdict(act, '2027-12-01T12:00', other, { ...details, ...patch });
    return found.is === 'protected' ? found.why : found.is;
  };

  it('a keep mark, whatever the sweep does', () => {
    expect(why('close', { keep: true })).toBe('marked “keep”');
    expect(why('still needed', { keep: true }, { phase: 'under way' })).toBe('marked “keep”');
  });

  it('what has no completion time, open subtasks, or time not yet logged where it must be', () => {
    expect(why('close', {})).toBe('taken');
    expect(why('close', { finishedAt: null })).toBe('has no completion time');
    expect(why('close', { openSubtasks: 2 })).toBe('has open subtasks');
    expect(why('close', { logTime: true })).toBe('time not logged');
    expect(why('close', { logTime: true, minutesLogged: 5 })).toBe('taken');
    expect(why('purge', { finishedAt: null, asideAt: 0 }, { aside: 'archived' })).toBe(
      'has no completion time'
    );
  });

  it('another person’s private task', () => {
    expect(why('close', {}, { ...of, private: true })).toBe('not looked at');
  });

  it('what stands elsewhere, and things that are no work', () => {
    expect(why('close', {}, { ...of, aside: 'binned' })).toBe('not looked at');
    expect(why('close', {}, { ...of, aside: 'called off' })).toBe('taken');
    for (const act of ['close', 'still needed', 'ask a date'] as const)
      expect(why(act, {}, { ...of, due: null, register: true })).toBe('not looked at');
    expect(why('re-date', {}, { due: day('2026-05-01'), register: true })).toBe('not looked at');
    expect(why('bring back', { reviewDate: day('2026-05-01') }, {})).toBe('not looked at');
  });
});

describe('each act', () => {
  it.each([
    [
      'archive',
      { phase: 'closed' },
      { finishedAt: utc('2026-05-01T12:00'), closedAt: utc('2026-05-20T12:00') },
      '2026-05-27T12:00'
    ],
    [
      'purge',
      { aside: 'archived', phase: 'closed' },
      { finishedAt: 1, asideAt: utc('2025-06-01T12:00') },
      '2026-06-01T12:00'
    ],
    ['still needed', {}, { touchedAt: utc('2026-05-04T12:00') }, '2026-06-01T12:00'],
    ['ask a date', {}, { createdAt: utc('2026-06-05T08:00') }, '2026-06-09T08:00'],
    ['re-date', { due: day('2026-06-02') }, {}, '2026-06-02T23:00'],
    ['report slips', {}, { slips: 3, createdAt: utc('2026-06-02T12:00') }, '2026-06-02T12:00'],
    ['bring back', { aside: 'parked' }, { reviewDate: day('2026-06-02') }, '2026-06-02T00:00']
  ] as const)('%s takes from its minute on', (act, of, details, at) => {
    const minute = utc(at);
    const asked = (when: number) =>
      judge(
        compileSweep(blankSweep(act), null, planner.facts, UTC),
        planner,
        task(of),
        { ...NO_DETAILS, ...details },
        when
      );
    expect(asked(minute)).toMatchObject({ is: 'taken', readyAt: minute });
    expect(asked(minute - 1)).toEqual({ is: 'waits', until: minute });
  });

  it('says in one sentence what it does', () => {
    const names = { project: (id: number) => `Project ${id}`, list: () => 'Mine' };
    for (const act of SWEEP_ACTS) expect(sweepWords(blankSweep(act), names)).toMatch(/^[A-Z].*, by hand\.$/);
    const planned: SweepDefinition = {
      ...blankSweep('archive'),
      when: {
        ...{ by: 'schedule', rrule: 'FREQ=WEEKLY;BYDAY=WE', start: '2026-06-03', time: '12:00' },
        ...{ zone: 'Europe/Lisbon', closedDay: 'skip' }
      }
    };
    expect(sweepWords(planned, names)).toBe(
      'Archives tasks that were closed 7 days ago or longer, every week on Wednesday at 12:00 in Lisbon. One working day before, the keeper gets its list. Then it runs unless somebody cancels it.'
    );
  });
});

describe('when a planned sweep runs', () => {
  const when = {
    ...{ by: 'schedule' as const, rrule: 'FREQ=WEEKLY;BYDAY=MO', start: '2026-06-01', time: '10:00' },
    ...{ zone: 'Europe/Lisbon', closedDay: 'as-is' as const }
  };
  const next = (from: string, last: string | null = null) =>
    nextSweep(utc(from), last === null ? null : utc(last), { when }, { zone: UTC, calendar: always }, lisbon);

  it('its list goes out one working day of the keeper ahead, over the weekend', () => {
    const found = next('2026-06-02T00:00')!;
    expect([iso(found.looksAt), iso(found.at)]).toEqual(['2026-06-05T09:00Z', '2026-06-08T09:00Z']);
  });

  it('turned on too late for that, the next one is the first', () => {
    expect(iso(next('2026-06-05T09:01')!.at)).toBe('2026-06-15T09:00Z');
    expect(iso(next('2026-06-05T09:00')!.at)).toBe('2026-06-08T09:00Z');
  });

  it('is planned as soon as the list of the one before was sent, so that none of a daily one is missed', () => {
    const daily = { when: { ...when, rrule: 'FREQ=DAILY' } };
    const runs: string[] = [];
    let [from, last]: [number, number | null] = [utc('2026-06-04T09:00'), null];
    for (let i = 0; i < 5; i++) {
      const found: PlannedSweep = nextSweep(from, last, daily, { zone: UTC, calendar: always }, lisbon)!;
      runs.push(`${iso(found.looksAt)} ${iso(found.at)}`);
      [from, last] = [found.looksAt, found.at];
    }
    // Saturday’s, Sunday’s and Monday’s lists all go out on Friday.
    expect(runs).toEqual([
      '2026-06-04T09:00Z 2026-06-05T09:00Z',
      '2026-06-05T09:00Z 2026-06-06T09:00Z',
      '2026-06-05T09:00Z 2026-06-07T09:00Z',
      '2026-06-05T09:00Z 2026-06-08T09:00Z',
      '2026-06-08T09:00Z 2026-06-09T09:00Z'
    ]);
  });

  it('a working day ahead is the keeper’s, on the keeper’s clock', () => {
    // Monday 8 June 2026, 00:30 in Lisbon is still Sunday evening in Halifax: the working day before is Friday.
    const halifax = new CompiledCalendar(parseCalendar({ week: MON_FRI }), HALIFAX);
    expect(iso(aWorkingDayBefore(utc('2026-06-07T23:30'), halifax))).toBe('2026-06-05T23:30Z');
    expect(iso(aWorkingDayBefore(utc('2026-06-08T09:00'), halifax))).toBe('2026-06-05T09:00Z');
  });

  it('a working day ahead of a day after a holiday is the day before it', () => {
    expect(iso(aWorkingDayBefore(utc('2026-06-11T09:00'), lisbon))).toBe('2026-06-09T09:00Z');
  });
});
