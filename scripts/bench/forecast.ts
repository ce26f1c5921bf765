import { Temporal } from 'temporal-polyfill';
import { CompiledCalendar } from '../../src/lib/core/calendar/compiled.ts';
import { parseCalendar, type WeekSpec } from '../../src/lib/core/calendar/spec.ts';
import {
  ORDINARY,
  ORDINARY_TASK,
  ORDINARY_FACTS,
  type Facts,
  type PersonFacts,
  type TaskFacts
} from '../../src/lib/core/forecast/facts/facts.ts';
import { compileRule, type RuleFacts } from '../../src/lib/core/forecast/facts/compile-rule.ts';
import { forecast } from '../../src/lib/core/forecast/forecast.ts';
import { planRule } from '../../src/lib/core/forecast/decide/plan-rule.ts';
import { Planner } from '../../src/lib/core/forecast/plan/planner.ts';
import type { Unit } from '../../src/lib/core/ring/lead.ts';
import { blankDefinition } from '../../src/lib/core/rule/model.ts';
import { blankTell } from '../../src/lib/core/rule/step-model.ts';
import { offsetLead } from '../../src/lib/core/rule/lead-model.ts';
import { OPEN_PHASES, PRIORITIES } from '../../src/lib/core/task/model.ts';
import { MS_PER_DAY, formatDay, parseDay } from '../../src/lib/core/time/day.ts';
import { zoneNamed } from '../../src/lib/core/time/zone.ts';
import { bestMs, bestMsInTurn, chanceFrom, ratio, type Figure } from './measure.ts';

const DAYS = 30;
const NOW = parseDay('2026-03-05') * MS_PER_DAY + 7 * 3_600_000;
const PLACES: readonly (readonly [string, WeekSpec])[] = [
  ['Europe/Lisbon', week(['mon', 'tue', 'wed', 'thu', 'fri'], '09:00-17:00')],
  ['America/Halifax', week(['mon', 'tue', 'wed', 'thu', 'fri'], '09:00-17:00')],
  ['Asia/Muscat', week(['sun', 'mon', 'tue', 'wed', 'thu'], '08:00-16:00')],
  ['Asia/Kolkata', week(['mon', 'tue', 'wed', 'thu', 'fri', 'sat'], '09:00-17:30')],
  ['Australia/Hobart', week(['mon', 'tue', 'wed', 'thu', 'fri'], '09:00-17:00')]
];

/** Offsets of the large forecast's 20 rules: what teams use, from three weeks before to ten days after. */
const TWENTY: readonly (readonly [number, Unit])[] = [
  ...[-21, -14, -10, -7, -5, -3, -2, -1, 0, 1, 2, 5, 10].map((n) => [n, 'day'] as const),
  ...[-10, -5, -2, 1].map((n) => [n, 'workday'] as const),
  ...[-24, -2, -1].map((n) => [n, 'hour'] as const)
];

const WINDOW = { now: NOW, from: NOW, until: NOW + DAYS * MS_PER_DAY };

/** Forecasts of 30 days: 10,000 tasks × 4 rules, and ten times the tasks. */
export function benchForecast(): Figure[] {
  const facts = factsOf(200);
  const offsets = [
    [-5, 'workday'],
    [-1, 'day'],
    [-2, 'hour'],
    [1, 'workday']
  ] as const;
  const rules = offsets.map(([n, unit], i) => ruleOf(i + 1, n, unit));
  const few = tasksOf(10_000);
  const many = tasksOf(100_000);
  let bells = 0;
  const fewMs = bestMs(15, () => (bells = forecast(facts, rules, few, WINDOW).notices.length));
  const manyMs = bestMs(9, () => forecast(facts, rules, many, WINDOW));
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
    },
    skippedForEver(facts)
  ];
}

/** A ring time that is skipped for ever, week after week: the plan finds that out once for each task, and does not walk to the end of the dates. */
function skippedForEver(facts: Facts): Figure {
  const repeat = { n: 1, unit: 'week' as const, most: 5 };
  const lead = offsetLead('skipped', 0, 'day', { closedDay: 'skip', repeat });
  const tell = { ...blankTell(), to: [{ who: 'owner' as const }] };
  const rule = compileRule(1, 'Rule', 1, { ...blankDefinition(), leads: [lead], steps: [tell] });
  // The first person works from Monday to Friday.
  const saturday = parseDay('2026-03-07');
  const tasks = tasksOf(500).map((task): TaskFacts => {
    return { ...task, ownerId: 1, due: { day: saturday, minute: null, zone: null } };
  });
  const planner = new Planner(facts);
  const asked = {
    now: NOW,
    actorId: null,
    owes: () => null,
    due: () => null,
    occupied: () => false,
    left: () => 0
  };
  const ms = bestMs(9, () => tasks.forEach((task) => planRule(planner, rule, task, asked))) / tasks.length;
  return {
    what: 'a task planned by a ring time that is skipped for ever',
    ours: `${(ms * 1000).toFixed(0)} µs`,
    peer: 'bar: under 1 ms',
    ratio: ratio(1, ms)
  };
}

/** The forecast of 100,000 tasks × 20 rules × 30 days, beside a plain loop that does the same on a sample. */
export function benchLargeForecast(): Figure[] {
  const facts = factsOf(200);
  const rules = TWENTY.map(([n, unit], i) => ruleOf(i + 1, n, unit));
  const many = tasksOf(100_000);
  let bells = forecast(facts, rules, many, WINDOW).notices.length;
  // The peak of the process until one forecast has been made: what repeats leave behind is no part of it.
  const memory = Math.round(process.resourceUsage().maxRSS / 2 ** 10);
  const sample = many.slice(0, SAMPLE);
  // Turn about, so that a slow phase of the machine falls on both.
  const [ms = 0, plainMs = 0] = bestMsInTurn(9, [
    () => (bells = forecast(facts, rules, many, WINDOW).notices.length),
    () => plainForecast(facts, sample, WINDOW.now, WINDOW.until)
  ]);
  return [
    {
      what: `forecast, 100,000 tasks × 20 rules × ${DAYS} days`,
      ours: `${(ms / 1000).toFixed(2)} s for ${bells.toLocaleString('en')} bells, at most ${memory} MB in all`,
      peer: `a plain Temporal loop, ${SAMPLE} tasks × 20 rules, ${plainMs.toFixed(0)} ms`,
      ratio: ratio(plainMs / SAMPLE, ms / many.length),
      note: 'bar: under 1.5 s, under 600 MB, 100 × the loop'
    }
  ];
}

/** Tasks that the plain loop does: it is slower by orders of magnitude. */
const SAMPLE = 500;

/**
 * The same notices as one would write them down without tables: Temporal for every date and wall time, a walk for working days; with
 * the hold, the mark of a late bell, and in the order in which they leave.
 */
function plainForecast(facts: Facts, tasks: readonly TaskFacts[], now: number, until: number): number {
  const found: { taskId: number; rule: number; ringAt: number; leavesAt: number; lateBell: boolean }[] = [];
  for (const task of tasks) {
    const owner = facts.people.get(task.ownerId!)!;
    const { zone, calendar } = owner;
    const due = Temporal.PlainDate.from(formatDay(task.due!.day));
    const works = (date: Temporal.PlainDate) =>
      calendar.calendar.weeks[0]!.week[date.dayOfWeek - 1]!.length > 0;
    for (const [rule, [n, unit]] of TWENTY.entries()) {
      let at: Temporal.ZonedDateTime;
      if (unit === 'hour') at = due.add({ days: 1 }).toZonedDateTime(zone.name).add({ hours: n });
      else {
        let date = unit === 'day' ? due.add({ days: n }) : due;
        for (let left = unit === 'workday' ? Math.abs(n) : 0; left > 0;) {
          date = date.add({ days: Math.sign(n) });
          if (works(date)) left--;
        }
        while (!works(date)) date = date.add({ days: n > 0 ? 1 : -1 });
        at = date.toZonedDateTime({ timeZone: zone.name, plainTime: '09:00' });
      }
      const ringAt = at.epochMilliseconds;
      // Held to working hours: the next working day's opening where it is outside.
      while (!works(at.toPlainDate()) || at.hour >= 17) at = at.add({ days: 1 }).with({ hour: 9, minute: 0 });
      const leavesAt = at.epochMilliseconds;
      if (!(ringAt > now && leavesAt <= until)) continue;
      const lateBell =
        n <= 0 && leavesAt >= due.add({ days: 1 }).toZonedDateTime(zone.name).epochMilliseconds;
      found.push({ taskId: task.id, rule, ringAt, leavesAt, lateBell });
    }
  }
  return found.sort((a, b) => a.leavesAt - b.leavesAt || a.rule - b.rule || a.taskId - b.taskId).length;
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
      ...ORDINARY,
      ...place
    };
  });
  return {
    ...ORDINARY_FACTS,
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
    round: 0,
    private: false,
    ...ORDINARY_TASK
  }));
}

function ruleOf(id: number, n: number, unit: Unit): RuleFacts {
  const lead = offsetLead(`lead-${id}`, n, unit);
  const tell = { ...blankTell(), to: [{ who: 'owner' as const }] };
  return compileRule(id, `Rule ${id}`, id, { ...blankDefinition(), leads: [lead], steps: [tell] });
}

function week(days: readonly (keyof WeekSpec)[], hours: string): WeekSpec {
  return Object.fromEntries(days.map((day) => [day, [hours]]));
}
