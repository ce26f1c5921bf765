import fc from 'fast-check';
import { expect, it } from 'vitest';
import { CompiledCalendar } from '../calendar/compiled.ts';
import { NO_LEAVE, leaveSpans, parseLeave, type LeaveSpec } from '../calendar/leave.ts';
import { parseCalendar, type CalendarSpec } from '../calendar/spec.ts';
import { CodedError } from '../errors.ts';
import { compileRule } from '../forecast/facts/compile-rule.ts';
import {
  ORDINARY,
  ORDINARY_FACTS,
  ORDINARY_TASK,
  type PersonFacts,
  type TaskFacts
} from '../forecast/facts/facts.ts';
import { forecast } from '../forecast/forecast.ts';
import { LATE_CHOICES } from '../ring/if-late.ts';
import { CLOSED_DAY_RULES, UNITS, isDayLevel } from '../ring/lead.ts';
import { AWAY_CHOICES } from '../ring/reader.ts';
import { blankDefinition } from '../rule/model.ts';
import { blankTell } from '../rule/step-model.ts';
import { offsetLead } from '../rule/lead-model.ts';
import { formatInstant, parseMoment } from '../time/instant.ts';
import { zoneNamed } from '../time/zone.ts';
import { answerCase } from './answer.ts';

/** One case of `bell ringtime` says what a workspace with that one task and rule foretells: the instant, who reads it, and whether it is late. */
const week = (...days: string[]): CalendarSpec => ({
  week: Object.fromEntries(days.map((day) => [day, ['09:00-17:00']]))
});
const CALENDARS = [week('mon', 'tue', 'wed', 'thu', 'fri'), week('sun', 'mon', 'tue', 'wed', 'thu')];
const NOW = Date.parse('2025-09-01T00:00:00Z');

const anyPerson = fc.record({
  zone: fc.constantFrom('Europe/Lisbon', 'America/Halifax', 'Asia/Kolkata'),
  calendar: fc.constantFrom(...CALENDARS),
  leave: fc.constantFrom<LeaveSpec[]>(
    [],
    [],
    [{ from: '2026-03-05', to: '2026-03-09' }],
    [{ from: '2026-03-06T12:00', to: '2026-03-10' }]
  )
});
const anyCase = fc.record({
  anchor: fc.constantFrom('2026-03-05', '2026-03-07', '2026-03-08', '2026-03-06T16:00', '2026-03-08T10:30'),
  as: fc.constantFrom('due' as const, 'start' as const),
  n: fc.integer({ min: -3, max: 2 }),
  unit: fc.constantFrom(...UNITS),
  closedDay: fc.constantFrom(...CLOSED_DAY_RULES),
  time: fc.constantFrom(undefined, '08:00', '12:00', '18:30'),
  ifLate: fc.constantFrom(...LATE_CHOICES),
  away: fc.constantFrom(...AWAY_CHOICES),
  owner: anyPerson,
  standIn: fc.option(anyPerson),
  manager: fc.option(anyPerson)
});

it('a case says what a workspace foretells', () => {
  fc.assert(
    fc.property(
      anyCase,
      ({ anchor, as, n, unit, closedDay, time, ifLate, away, owner, standIn, manager }) => {
        const dayLevel = isDayLevel(unit);
        const rule = dayLevel ? closedDay : 'as-is';
        const at = dayLevel ? time : undefined;
        const { zone, calendar, leave } = owner;
        const answer = answerCase({
          ...{ anchor, as, offset: { n, unit }, closedDay: rule, zone, calendar, leave, away, ifLate },
          ...(at ? { time: at } : {}),
          hold: { calendar },
          ...(standIn ? { standIn } : {}),
          ...(manager ? { manager } : {})
        });
        const person = (id: number, one: typeof owner): PersonFacts => {
          const own = zoneNamed(one.zone);
          const basis = {
            id,
            name: `Person ${id}`,
            email: `p${id}@test.example`,
            zone: own,
            managerId: null
          };
          return {
            ...{ ...basis, ...ORDINARY, calendar: new CompiledCalendar(parseCalendar(one.calendar), own) },
            leave: one.leave.length === 0 ? NO_LEAVE : parseLeave(one.leave, own)
          };
        };
        const first = { ...person(1, owner), managerId: manager ? 3 : null };
        first.standIns = standIn
          ? leaveSpans(leave, first.zone).map(([from, until]) => ({ from, until, personId: 2 }))
          : [];
        const people = [
          first,
          ...(standIn ? [person(2, standIn)] : []),
          ...(manager ? [person(3, manager)] : [])
        ];
        const facts = {
          ...ORDINARY_FACTS,
          workspace: {
            ...{ zone: first.zone, calendar: first.calendar, noticeMinute: 0 },
            endOfDay: 'midnight' as const
          },
          people: new Map(people.map((one) => [one.id, one])),
          projects: new Map()
        };
        const moment = parseMoment(anchor, first.zone);
        const task: TaskFacts = {
          ...{ ...ORDINARY_TASK, id: 1, name: 'Task', ownerId: 1, projectId: null, round: 0, private: false },
          ...{ phase: 'under way', priority: 'ordinary', due: null, start: null },
          [as]: moment
        };
        const definition = {
          ...blankDefinition(),
          leads: [offsetLead('a', n, unit, { anchor: as, closedDay: rule, time: at ?? null })],
          steps: [{ ...blankTell(), to: [{ who: 'owner' as const }], away }],
          ifLate
        };
        const window = { now: NOW, from: NOW, until: NOW + 700 * 86_400_000 };
        const [notice] = forecast(facts, [compileRule(1, 'Rule', 0, definition)], [task], window).notices;
        const leaves = notice && notice.unrung === null ? formatInstant(notice.leavesAt) : null;
        expect(leaves).toBe(answer.instant);
        if (leaves !== null) expect(notice!.lateBell).toBe(answer.lateBell ?? false);
      }
    ),
    { numRuns: 3_000 }
  );
});

it('what no case can be computed of is no notice of a workspace either', () => {
  expect(() =>
    answerCase({ anchor: '2026-03-05', offset: { n: -1, unit: 'workday' }, calendar: { week: {} } })
  ).toThrow(CodedError);
});
