import { parseCalendar } from '../../src/lib/core/calendar/spec.ts';
import { placementAt, type DeskTask } from '../../src/lib/core/desk/placement.ts';
import { planForSpan } from '../../src/lib/core/desk/plan.ts';
import { Wall } from '../../src/lib/core/desk/wall.ts';
import { parseDay } from '../../src/lib/core/time/day.ts';
import { zoneNamed } from '../../src/lib/core/time/zone.ts';
import { bestMs, chanceFrom, ratio, type Figure } from './measure.ts';

const TASKS = 2_000;
/** Of the design of the Desk. */
const MOST_MS = 5;

/** The places of a person's 2,000 tasks, with the instant at which each changes next. */
export function benchDesk(): Figure[] {
  const chance = chanceFrom(1);
  const open = ['09:00-17:00'];
  const calendar = parseCalendar({ week: { mon: open, tue: open, wed: open, thu: open, fri: open } });
  const today = parseDay('2026-03-05');
  const at = Date.parse('2026-03-05T12:00Z');
  const first = new Wall(zoneNamed('Europe/Lisbon'), calendar);
  const days = () => (chance() < 0.3 ? null : today - 20 + Math.floor(chance() * 120));
  const plan = () =>
    chance() < 0.3 ? planForSpan(chance() < 0.5 ? 'after' : 'further', today, first) : null;
  const tasks = Array.from({ length: TASKS }, (): DeskTask => ({
    ...{ state: 'open', reviewOn: null, placed: chance() < 0.9 },
    ...{ start: days(), due: days(), plan: plan() }
  }));
  const ms = bestMs(30, () => {
    // As a page begins: it knows no day yet.
    const wall = new Wall(zoneNamed('Europe/Lisbon'), calendar);
    let changing = 0;
    for (const task of tasks) if (placementAt(task, at, wall).changesAt !== null) changing++;
    return changing;
  });
  return [
    {
      what: `places of ${TASKS.toLocaleString('en')} tasks on a Desk, with their next changes`,
      ours: `${ms.toFixed(2)} ms`,
      peer: `the bar of the design: ${MOST_MS} ms`,
      ratio: ratio(MOST_MS, ms)
    }
  ];
}
