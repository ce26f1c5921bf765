import type { Priority } from '../../core/task/model.ts';
import { formatDay } from '../../core/time/day.ts';
import type { SampleView } from '../../view/begin.ts';
import type { ProjectService } from '../project/projects.ts';
import type { TaskActs } from '../task/task-acts.ts';
import type { TaskService } from '../task/tasks.ts';
import type { Actor, Committed, Committer } from '../workspace/commit.ts';
import type { Workspace } from '../workspace/workspace.ts';

/** A sample task: due so many working days from today, by the calendar of whoever lays it in; null has no date. */
interface Sample {
  name: string;
  due: number | null;
  time?: string;
  priority?: Priority;
  nobodys?: boolean;
}

/** What a coordinator wants to see rules ring for: late, due today, soon, far, urgent, nobody’s and without a date. */
const SAMPLES: readonly Sample[] = [
  { name: 'Recalibrate gauge 12 after the storm', due: -6, priority: 'high' },
  { name: 'Send the tide tables to the harbour office', due: -2 },
  { name: 'Replace the shackles of buoy 7', due: -1 },
  { name: 'Check the eyewash bottles', due: 0 },
  { name: 'Call the boatyard about the winch', due: 0, time: '15:00', priority: 'pressing' },
  { name: 'Log the drift of gauge 3', due: 1 },
  { name: 'Renew the dive permit', due: 2, priority: 'high' },
  { name: 'Book the workboat for the spring survey', due: 3, nobodys: true },
  { name: 'Clean the stilling well of gauge 15', due: 5 },
  { name: 'Print the customs forms', due: 8 },
  { name: 'Drill the radio call of station B', due: 12, priority: 'low' },
  { name: 'Write up the findings of the audit', due: null }
];

/** Where it is kept which change laid them in. */
const LAID_IN = 'sample';

/** Sample tasks for a workspace that has none yet: laid in and removed by one press each. */
export class SampleService {
  readonly #of: Workspace;
  readonly #committer: Committer;
  readonly #tasks: TaskService;
  readonly #projects: ProjectService;
  readonly #acts: TaskActs;

  constructor(
    of: Workspace,
    committer: Committer,
    { tasks, taskActs, projects }: { tasks: TaskService; taskActs: TaskActs; projects: ProjectService }
  ) {
    this.#of = of;
    this.#committer = committer;
    this.#tasks = tasks;
    this.#projects = projects;
    this.#acts = taskActs;
  }

  /** `laid in`, or whether they can be: only where there is no task yet. */
  view(): SampleView {
    const { stores } = this.#of;
    if (this.#laidIn() !== null) return 'laid in';
    return stores.tasks.count() === 0 ? 'possible' : 'none';
  }

  /** Lays them in, whoever does it owning most of them; null where there are tasks already: pressed twice it is done once. */
  layIn(actor: Actor): Committed<void> | null {
    if (this.view() !== 'possible') return null;
    const { stores, source, clock } = this.#of;
    const { zone, calendar } = source.facts.people.get(actor.personId ?? 0) ?? source.facts.workspace;
    const today = zone.dayOf(clock.now());
    const { days } = calendar;
    const dueOn = (due: number) => formatDay(due === 0 ? days.roll(today, 1) : days.offset(today, due));
    return this.#committer.commit(actor, 'Sample tasks laid in', (writer) => {
      const projectId = this.#projects.insert(writer, {
        ...{ name: 'Sample: the gauges', description: 'Sample tasks to try rules on.', zone: null },
        ...{ calendarId: null, pinned: false, state: 'open', register: false }
      });
      for (const { name, due, time, priority = 'ordinary', nobodys } of SAMPLES)
        this.#tasks.insert(writer, {
          ...{ name, description: '', projectId, statusId: null, priority, private: false },
          ...{ ownerId: nobodys ? null : actor.personId, startDate: null, startTime: null },
          ...{ dueDate: due === null ? null : dueOn(due), dueTime: time ?? null }
        });
      stores.engineState.write(LAID_IN, writer.id);
    });
  }

  /**
   * Takes them away again, whatever was done to them since; what somebody else has put into their project keeps it.
   * @returns null where none are laid in
   */
  remove(actor: Actor): Committed<void> | null {
    const laid = this.#laidIn();
    if (!laid) return null;
    const { projects } = this.#of.stores;
    return this.#committer.commit(actor, 'Sample tasks removed', (writer) => {
      for (const id of laid.taskIds) this.#acts.remove(writer, id);
      const { projectId } = laid;
      if (!projects.byId(projectId) || projects.isUsed(projectId)) return;
      for (const { id } of projects.membersOf(projectId)) writer.remove('project_member', id);
      writer.remove('project', projectId);
    });
  }

  /** What was laid in and is there still; null where nothing is. */
  #laidIn(): { taskIds: number[]; projectId: number } | null {
    const { engineState, changes, tasks } = this.#of.stores;
    const rows = changes.rowsOf(engineState.read<number>(LAID_IN) ?? 0);
    const idsOf = (table: 'task' | 'project') =>
      rows.filter((row) => row.table === table && row.before === null).map(({ rowId }) => rowId);
    const taskIds = [...tasks.byIds(idsOf('task')).keys()];
    return taskIds.length > 0 ? { taskIds, projectId: idsOf('project')[0] ?? 0 } : null;
  }
}
