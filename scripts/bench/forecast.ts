import { CompiledCalendar } from '../../src/lib/core/calendar/compiled.ts';
import { parseCalendar, type WeekSpec } from '../../src/lib/core/calendar/spec.ts';
import {
  compileRule,
  type Facts,
  type PersonFacts,
  type RuleFacts,
  type TaskFacts
} from '../../src/lib/core/forecast/facts.ts';
import { forecast } from '../../src/lib/core/forecast/forecast.ts';
import { defaultClosedDay, type Unit } from '../../src/lib/core/ring/lead.ts';
import { OPEN_PHASES, PRIORITIES, blankDefinition, type Lead } from '../../src/lib/core/rule/model.ts';
import { MS_PER_DAY, parseDay } from '../../src/lib/core/time/day.ts';
import { zoneNamed } from '../../src/lib/core/time/zone.ts';
import { bestMs, chanceFrom, ratio, type Figure } from './measure.ts';

const DAYS = 30;
const NOW = parseDay('2026-03-05') * MS_PER_DAY + 7 * 3_600_000;
const PLACES: readonly (readonly [string, WeekSpec])[] = [
  ['Europe/Lisbon', week(['mon', 'tue', 'wed', 'thu', 'fri'], '09:00-17:00')],
  ['America/Halifax', week(['mon', 'tue', 'wed', 'thu', 'fri'], '09:00-17:00')],
  ['Asia/Muscat', week(['sun', 'mon', 'tue', 'wed', 'thu'], '08:00-16:00')],
  ['Asia/Kolkata', week(['mon', 'tue', 'wed', 'thu', 'fri', 'sat'], '09:00-17:30')],
  ['Australia/Hobart', week(['mon', 'tue', 'wed', 'thu', 'fri'], '09:00-17:00')]
];

/** The forecast of 10,000 tasks × 4 rules × 30 days, and how its cost grows with ten times the tasks. */
export function benchForecast(): Figure[] {
  const facts = factsOf(200);
  const rules = [
    ruleOf(1, -5, 'workday'),
    ruleOf(2, -1, 'day'),
    ruleOf(3, -2, 'hour'),
    ruleOf(4, 1, 'workday')
  ];
  const window = { now: NOW, from: NOW, until: NOW + DAYS * MS_PER_DAY };
  const few = tasksOf(10_000);
  const many = tasksOf(100_000);
  let bells = 0;
  const fewMs = bestMs(9, () => (bells = forecast(facts, rules, few, window).notices.length));
  const manyMs = bestMs(3, () => forecast(facts, rules, many, window));
  return [
    {
      what: `forecast, 10,000 tasks × 4 rules × ${DAYS} days`,
      ours: `${fewMs.toFixed(0)} ms for ${bells.toLocaleString('en')} bells`,
      peer: 'bar: under 150 ms',
      ratio: ratio(150, fewMs)
    },
    {
      what: 'the same with ten times the tasks',
      ours: `${manyMs.toFixed(0)} ms`,
      peer: 'bar: 10 to 12 × the time',
      ratio: ratio(manyMs, fewMs)
    }
  ];
}

function factsOf(people: number): Facts {
  const places = PLACES.map(([zone, spec]) => {
    const compiled = zoneNamed(zone);
    return { zone: compiled, calendar: new CompiledCalendar(parseCalendar({ week: spec }), compiled) };
  });
  const persons = Array.from({ length: people }, (_, i): PersonFacts => {
    const place = places[i % places.length]!;
    return {
      id: i + 1,
      name: `Person ${i}`,
      email: `p${i}@bench.example`,
      managerId: i > 0 ? 1 : null,
      ...place
    };
  });
  return {
    workspace: { ...places[0]!, noticeMinute: 540, endOfDay: 'midnight' },
    people: new Map(persons.map((person) => [person.id, person])),
    projects: new Map()
  };
}

function tasksOf(count: number): TaskFacts[] {
  const chance = chanceFrom(3);
  const today = Math.floor(NOW / MS_PER_DAY);
  return Array.from({ length: count }, (_, i) => ({
    id: i + 1,
    name: `Task ${i}`,
    projectId: null,
    ownerId: 1 + Math.floor(chance() * 200),
    due: {
      day: today + Math.floor(chance() * 45) - 5,
      minute: chance() < 0.2 ? 600 : null,
      zone: null
    },
    start: null,
    phase: OPEN_PHASES[Math.floor(chance() * 3)]!,
    priority: PRIORITIES[Math.floor(chance() * 4)]!,
    round: 0
  }));
}

function ruleOf(id: number, n: number, unit: Unit): RuleFacts {
  const blank = blankDefinition();
  const lead: Lead = {
    id: `lead-${id}`,
    anchor: 'due',
    n,
    unit,
    closedDay: defaultClosedDay(n, unit),
    time: unit === 'hour' ? null : '09:00',
    zone: { of: 'recipient' },
    on: true
  };
  return compileRule(id, `Rule ${id}`, id, { ...blank, leads: [lead], tell: { ...blank.tell, to: 'owner' } });
}

function week(days: readonly (keyof WeekSpec)[], hours: string): WeekSpec {
  return Object.fromEntries(days.map((day) => [day, [hours]]));
}
