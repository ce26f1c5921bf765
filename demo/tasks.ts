import type { Priority } from '../src/lib/core/task/model.ts';
import { PEOPLE, PROJECTS } from './scenario.ts';

/** A task of the demo. Days are counted from the demo's own day: 0 is today, −1 yesterday. */
export interface DemoTask {
  name: string;
  project: string | null;
  owner: string | null;
  priority: Priority;
  createdOn: number;
  dueOn: number | null;
  dueTime: string | null;
  startOn: number | null;
  /** The day on which it is finished, at or before today; null while it is open. */
  finishedOn: number | null;
  /** The days on each of which its date was moved a week later. */
  movedOn: readonly number[];
}

/** Days of recorded past. */
export const PAST_DAYS = 28;

const FILLING = 206;

/** A small generator of chance (mulberry32): the same numbers from the same seed on any machine. */
export function chanceFrom(seed: number): () => number {
  let state = seed >>> 0;
  return () => {
    state = (state + 0x6d2b79f5) >>> 0;
    let mixed = Math.imul(state ^ (state >>> 15), 1 | state);
    mixed = (mixed + Math.imul(mixed ^ (mixed >>> 7), 61 | mixed)) ^ mixed;
    return ((mixed ^ (mixed >>> 14)) >>> 0) / 2 ** 32;
  };
}

const written = (
  name: string,
  project: string,
  owner: string | null,
  dueOn: number | null,
  rest: Partial<DemoTask> = {}
): DemoTask => ({
  name,
  project,
  owner,
  priority: 'ordinary',
  createdOn: -20,
  dueOn,
  dueTime: null,
  startOn: null,
  finishedOn: null,
  movedOn: [],
  ...rest
});

/**
 * Written by hand, so that the demo's day always has something to show: bells in every zone, held ones, a late bell, a
 * weekend with a clock change in Halifax, work that is overdue, undated, unowned.
 */
const WRITTEN: readonly DemoTask[] = [
  // Thursday's and Friday's mornings and afternoons.
  written('Publish the March tide tables', 'data', 'rui', 4),
  written('Agree the dive plan for the Sado estuary', 'permits', 'clara', 4),
  written('Order shackles for buoy 7', 'buoys', 'dale', 4, { priority: 'high' }),
  written('Log the drift of gauge 15', 'gauges', 'june', 4),
  written('Answer the port authority', 'permits', 'huda', 0, { priority: 'pressing' }),
  written('Renew the dive permit, Outer Reef', 'permits', 'salim', 0, { priority: 'high' }),
  written('Send the monsoon readings', 'data', 'anil', 4),
  written('Calibrate the backwater gauge', 'gauges', 'deepa', 4),
  written('Test the life raft, the workboat', 'safety', 'tess', 6, { priority: 'high' }),
  written('Check the quality flags, Derwent', 'data', 'tess', 6),
  written('Close the February ledger', 'data', 'clara', 0, { priority: 'high' }),
  written('Drill the radio call, the jetty', 'safety', 'june', 0, { priority: 'pressing' }),
  // An hour before is before anybody is at work: held to the opening.
  written('Courier at the quay, estuary run', 'samples', 'rui', 0, { dueTime: '09:30' }),
  written('Courier at the airport, cold box 4', 'samples', 'dale', 0, { dueTime: '09:45' }),
  written('Call the laboratory about the reef run', 'samples', 'meera', 1, { dueTime: '09:30' }),
  // Held past its own moment: a late bell.
  written('Dawn samples, Derwent mouth', 'samples', 'tess', 1, { dueTime: '08:30' }),
  // Over the weekend in which Halifax puts its clocks forward.
  written('Read the logger of the shoal buoy', 'buoys', 'dale', 6, { priority: 'high' }),
  written('Sunday call with the ferry office', 'buoys', 'june', 3, { dueTime: '15:00' }),
  // Overdue.
  written('Replace mooring shackles, buoy 7', 'buoys', 'dale', -4, { priority: 'high' }),
  written('Recalibrate gauge 12 after the storm', 'gauges', 'anil', -1, { priority: 'pressing' }),
  written('Renew the mooring permit, North Quay', 'permits', 'salim', -12, {
    priority: 'high',
    movedOn: [-14]
  }),
  // Moved later again and again.
  written('Archive the raw files, January', 'data', 'owen', -20, { movedOn: [-18, -12] }),
  written('Inspect the ladder, station C', 'safety', 'huda', -23, { movedOn: [-19, -14, -7] }),
  // Seen by nobody.
  written('Publish the February tide tables', 'data', null, -3),
  written('Find a new home for the old winch', 'safety', 'rui', null),
  written('Write up the radio procedure', 'safety', 'tess', null, { createdOn: -27 }),
  written('Sort the spare-parts shelf', 'buoys', null, null, { createdOn: -26 }),
  written('Translate the safety sheet', 'safety', 'yusuf', 5),
  written('Count the sample bottles', 'samples', 'yusuf', 2, { dueTime: '12:00' }),
  // Start dates, for rules that go by them.
  written('Spring survey of the estuary', 'gauges', 'clara', 26, { startOn: 12 }),
  written('Haul out the workboat', 'safety', 'owen', 19, { startOn: 11 }),
  written('Paint the fairway buoy', 'buoys', 'june', 21, { startOn: 14 }),
  written('Renew the radio licence, Halifax', 'permits', 'nora', 11),
  written('Plan the coordinators’ call', 'data', 'ines', 5)
];

/** Somebody's own: nobody else sees it. */
export const PRIVATE_TASK: DemoTask = written('Think about the survey course', 'data', 'rui', 8, {
  createdOn: 0
});

/** Every task of the demo, about 240 of them, in the order in which they came in. */
export function demoTasks(seed: number): DemoTask[] {
  const chance = chanceFrom(seed);
  const pick = <T>(items: readonly T[]): T => items[Math.floor(chance() * items.length)]!;
  const between = (from: number, to: number) => from + Math.floor(chance() * (to - from + 1));
  const names = new Set(WRITTEN.map(({ name }) => name));
  const tasks: DemoTask[] = [...WRITTEN];
  for (let tries = 0; tasks.length < WRITTEN.length + FILLING && tries < 5_000; tries++) {
    const project = pick(PROJECTS);
    const round = pick(['', '', ', second round', ', spring', ', after the storm', ', for the audit']);
    const name = `${pick(project.tasks).replace('{}', pick(project.things))}${round}`;
    if (names.has(name)) continue;
    names.add(name);
    const createdOn = between(-PAST_DAYS, 0);
    const dueOn = createdOn + between(3, 40);
    const late = chance() < 0.12 ? between(1, 4) : -between(0, 3);
    const finished = Math.max(createdOn + 1, dueOn + late);
    const done = finished <= 0 && chance() < 0.93;
    tasks.push({
      name,
      project: project.key,
      owner: chance() < 0.02 ? null : pick(PEOPLE).key,
      priority: pick(['low', 'ordinary', 'ordinary', 'ordinary', 'high', 'pressing']),
      createdOn,
      dueOn: chance() < 0.03 ? null : dueOn,
      // What is shipped leaves at an hour.
      dueTime:
        project.key === 'samples' || chance() < 0.06 ? pick(['10:00', '11:30', '14:00', '15:30']) : null,
      startOn: chance() < 0.2 ? createdOn + 2 : null,
      finishedOn: done ? finished : null,
      movedOn:
        !done && dueOn < 6 && dueOn - 2 > createdOn && dueOn - 2 <= 0 && chance() < 0.8 ? [dueOn - 2] : []
    });
  }
  return tasks.sort((a, b) => a.createdOn - b.createdOn);
}
