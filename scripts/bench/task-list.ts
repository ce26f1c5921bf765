import type { Container } from '../../src/lib/server/container.ts';
import { fillWorkspace } from '../many-tasks.ts';
import type { Figure } from './measure.ts';
import { inWorkspace } from './workspace.ts';

const TASKS = 100_000;
const PEOPLE = 200;
const PROJECTS = 40;
const RUNS = 12;
const NOW = Date.parse('2026-03-05T08:00Z');

/** Every filter, order and grouping that the screen offers, each with the pages and counts that the screen asks for. */
const ADDRESSES: readonly string[] = [
  '',
  'show=all',
  'show=done',
  'show=archived',
  'show=binned',
  'text=gauge',
  'text=renew+lagoon',
  'text=nothing+like+this',
  'owner=17',
  'owner=none',
  'project=9',
  'project=9&owner=17&priority=pressing',
  'priority=pressing',
  'status=2',
  'tag=urgent',
  'due=today',
  'due=past',
  'due=none',
  'from=2026-03-10&until=2026-03-12',
  'recurring=yes',
  'sort=name',
  'sort=owner&order=down',
  'sort=project',
  'sort=status',
  'sort=priority',
  'sort=created&order=down',
  'sort=touched&order=down',
  'sort=slips&order=down',
  'group=owner',
  'group=project&sort=name',
  'group=status&sort=due&order=down',
  'group=priority&text=permit'
];

/** The list at a hundred thousand tasks: what the server needs for any of its pages. */
export function benchTaskList(): Promise<Figure[]> {
  return inWorkspace(NOW, (container) => {
    fillWorkspace(container, { tasks: TASKS, people: PEOPLE, projects: PROJECTS });
    const coordinator = measure(container, { personId: 1, all: true, reports: [] });
    const owner = measure(container, { personId: 17, all: false, reports: [] });
    return [
      figure('a coordinator', coordinator),
      figure('an owner, who sees a part', owner),
      sightFigure(container)
    ];
  });
}

/** What asking for an owner's sight adds to the list as it opens; the coordinator's sight is one comparison. In turns, so that both meet the same machine. */
function sightFigure({ taskLists, source }: Container): Figure {
  const query = taskLists.read(new URLSearchParams());
  const { zone } = source.facts.workspace;
  const timed = (personId: number, all: boolean) => {
    const started = performance.now();
    taskLists.page(query, null, { zone, personId }, { personId, all, reports: [] });
    return performance.now() - started;
  };
  const added = Array.from({ length: 10 * RUNS }, () => timed(17, false) - timed(1, true));
  const median = added.sort((a, b) => a - b)[Math.floor(added.length / 2)]!;
  return {
    what: `task list, ${TASKS.toLocaleString('en')} tasks: what an owner's sight adds to its first page`,
    ours: `median ${median.toFixed(1)} ms (bar: 5 ms)`,
    peer: null,
    ratio: null
  };
}

interface Timed {
  address: string;
  ms: number[];
}

function measure(
  { taskLists, source }: Container,
  sight: { personId: number; all: boolean; reports: number[] }
): Timed[] {
  const viewer = { zone: source.facts.workspace.zone, personId: sight.personId };
  const ask = (address: string) => {
    const query = taskLists.read(new URLSearchParams(address));
    const first = taskLists.page(query, null, viewer, sight);
    taskLists.totals(query, viewer, sight);
    return first.next;
  };
  return ADDRESSES.map((address) => {
    ask(address);
    const ms = Array.from({ length: RUNS }, () => {
      const started = performance.now();
      ask(address);
      return performance.now() - started;
    });
    return { address, ms };
  });
}

function figure(who: string, timed: readonly Timed[]): Figure {
  const all = timed.flatMap(({ ms }) => ms).sort((a, b) => a - b);
  const p95 = all[Math.floor(all.length * 0.95)]!;
  const median = all[Math.floor(all.length / 2)]!;
  const slowest = timed
    .map(({ address, ms }) => ({
      address: address || 'nothing asked',
      p95: [...ms].sort((a, b) => a - b)[Math.floor(RUNS * 0.95)]!
    }))
    .sort((a, b) => b.p95 - a.p95);
  return {
    what: `task list, ${TASKS.toLocaleString('en')} tasks, ${ADDRESSES.length} filters, orders and groupings: page, count and groups for ${who}`,
    ours: `p95 ${p95.toFixed(0)} ms, median ${median.toFixed(0)} ms (bar: p95 150 ms)`,
    peer: null,
    ratio: null,
    note: `slowest: ${slowest
      .slice(0, 4)
      .map((one) => `${one.address} ${one.p95.toFixed(0)} ms`)
      .join(', ')}`
  };
}
