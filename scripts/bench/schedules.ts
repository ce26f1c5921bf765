import { blankDefinition, type RuleDefinition } from '../../src/lib/core/rule/model.ts';
import { blankTell } from '../../src/lib/core/rule/step-model.ts';
import type { ZoneChoice } from '../../src/lib/core/rule/lead-model.ts';
import { MS_PER_DAY } from '../../src/lib/core/time/day.ts';
import { fillWorkspace } from '../many-tasks.ts';
import { ratio, type Figure } from './measure.ts';
import { inWorkspace } from './workspace.ts';

const TASKS = 20_000;
const PEOPLE = 2_000;
const DAYS = 5;
const RUNS = 3;
const NOW = Date.parse('2026-03-02T00:00Z');
const ACTOR = { personId: 1, source: 'person' as const };
/** Thirty zones, no two of one clock on a day of March 2026 that is not a quarter of an hour's or a date's neighbour. */
const ZONES =
  `Pacific/Pago_Pago Pacific/Honolulu Pacific/Marquesas America/Anchorage America/Los_Angeles America/Denver America/Chicago
America/New_York America/Halifax America/St_Johns America/Sao_Paulo America/Noronha Atlantic/Azores Europe/Lisbon Europe/Paris
Africa/Cairo Asia/Riyadh Asia/Tehran Asia/Muscat Asia/Kabul Asia/Karachi Asia/Kolkata Asia/Kathmandu Asia/Dhaka Asia/Yangon Asia/Bangkok
Asia/Shanghai Asia/Tokyo Australia/Brisbane Pacific/Auckland`.split(/\s+/);

/** A look every day at 10:00 for what matters and is due soon, on one clock or on each owner's. */
function daily(zone: ZoneChoice): RuleDefinition {
  const blank = blankDefinition();
  return {
    ...blank,
    watch: {
      ...blank.watch,
      condition: {
        all: [
          { field: 'priority', op: 'is', value: 'pressing' },
          { field: 'due', op: 'within the next days', value: 2 }
        ]
      }
    },
    leads: [
      {
        ...{ kind: 'schedule', id: 'daily', on: true, only: null, zone, rrule: 'FREQ=DAILY' },
        ...{ start: '2026-01-05', time: '10:00', closedDay: 'as-is', oncePerDate: false }
      }
    ],
    steps: [{ ...blankTell(), to: [{ who: 'owner' }] }]
  };
}

/** A schedule over 2,000 people in thirty clocks beside the same in one: the engine's days, from midnight to midnight. */
export async function benchSchedules(): Promise<Figure[]> {
  const one: number[] = [];
  const many: number[] = [];
  for (let run = 0; run < RUNS; run++) {
    one.push(await daysMs({ of: 'workspace' }));
    many.push(await daysMs({ of: 'owner' }));
  }
  const [oneMs, manyMs] = [Math.min(...one), Math.min(...many)];
  return [
    {
      what: `${DAYS} days of a daily schedule, ${TASKS} tasks of ${PEOPLE} people in ${ZONES.length} zones, on each owner's clock`,
      ours: `${manyMs.toFixed(0)} ms`,
      peer: `the same on the workspace's clock: ${oneMs.toFixed(0)} ms`,
      ratio: ratio(manyMs, oneMs),
      note: 'bar: 1.5 ×'
    }
  ];
}

function daysMs(zone: ZoneChoice): Promise<number> {
  return inWorkspace(NOW, async (container) => {
    fillWorkspace(container, { tasks: TASKS, people: PEOPLE, projects: 40 });
    container.committer.commit(ACTOR, 'zones', (writer) => {
      for (let id = 1; id <= PEOPLE; id++) writer.update('person', id, { zone: ZONES[id % ZONES.length]! });
    });
    const definition = daily(zone);
    const { result: id } = container.rules.add(ACTOR, 'Daily', definition);
    container.rules.turnOn(ACTOR, id, { name: 'Daily', description: '', definition });
    await container.engine.tick();
    const began = performance.now();
    await container.engine.moveClock(NOW + DAYS * MS_PER_DAY);
    return performance.now() - began;
  });
}
