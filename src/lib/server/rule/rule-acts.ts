import type { Act } from '../../core/rule/acts.ts';
import { ONCE_ONLY } from '../../core/rule/acts.ts';
import type { Effect } from '../../core/rule/resolve-act.ts';
import type { NewTask, TaskPatch } from '../../core/task/patch.ts';
import { formatDay } from '../../core/time/day.ts';
import type { Moment } from '../../core/time/instant.ts';
import { formatTimeOfDay } from '../../core/time/time-of-day.ts';
import type { ActFor, ActPerformer } from '../engine/runs.ts';
import type { WorkspaceClock } from '../engine/clock.ts';
import type { TaskInput } from '../task/schema.ts';
import type { ChangeWriter } from '../store/change-writer.ts';
import type { Stores } from '../store/all.ts';
import type { Task } from '../store/tasks.ts';
import type { Committer } from '../workspace/commit.ts';
import type { TaskActs } from '../task/task-acts.ts';
import type { TaskService } from '../task/tasks.ts';

/** Does to tasks what rules say, by the same way that people go: one change for each act, marked as the rule's, with its inverse. */
export class RuleActs implements ActPerformer {
  readonly #stores: Stores;
  readonly #committer: Committer;
  readonly #clock: WorkspaceClock;
  #tasks!: TaskService;
  #acts!: TaskActs;

  constructor(stores: Stores, committer: Committer, clock: WorkspaceClock) {
    this.#stores = stores;
    this.#committer = committer;
    this.#clock = clock;
  }

  attach(tasks: TaskService, acts: TaskActs): void {
    this.#tasks = tasks;
    this.#acts = acts;
  }

  perform(effect: Exclude<Effect, { kind: 'ring' }>, act: Act, of: ActFor): { madeTaskId: number | null } {
    const head = {
      at: this.#clock.now(),
      actorId: null,
      source: 'rule' as const,
      title: of.title,
      ruleId: of.ruleId,
      runId: of.runId
    };
    const { result: madeTaskId } = this.#committer.change(head, (writer) => {
      const made = this.#effect(writer, effect, of);
      if (ONCE_ONLY.includes(act.act))
        writer.insert('rule_once', {
          rule_id: of.ruleId,
          step_id: `${of.stepId}/${act.act}`,
          task_id: of.taskId,
          round: of.round,
          value: of.value,
          made_task_id: made
        });
      return made;
    });
    return { madeTaskId };
  }

  /** @returns the task that was made */
  #effect(writer: ChangeWriter, effect: Exclude<Effect, { kind: 'ring' }>, of: ActFor): number | null {
    const task = this.#stores.tasks.byId(of.taskId);
    if (!task) return null;
    switch (effect.kind) {
      case 'patch':
        this.#patch(writer, task, effect.patch);
        return null;
      case 'comment':
        writer.insert('comment', {
          task_id: task.id,
          person_id: null,
          at: writer.head.at,
          text: effect.text
        });
        return null;
      case 'new task':
        return this.#make(writer, task, effect.task);
      case 'section':
        this.#section(writer, task, effect.name);
        return null;
      case 'open tasks':
        for (const other of this.#stores.tasks.openOfProject(task.projectId))
          this.#patch(writer, other, { statusId: effect.statusId });
        return null;
    }
  }

  #patch(writer: ChangeWriter, task: Task, patch: TaskPatch): void {
    const { addTag, removeTag, own, setAside, reviewDay, due, start, ...same } = patch;
    const input: Partial<TaskInput> = { ...same };
    if (due !== undefined) Object.assign(input, momentInput('due', due));
    if (start !== undefined) Object.assign(input, momentInput('start', start));
    if (addTag !== undefined || removeTag !== undefined)
      input.tags = this.#tagsAfter(task.id, addTag, removeTag);
    if (own) input.fields = { [own.fieldId]: own.value };
    // A parent that a rule finishes is finished with what is open below it: nobody is there to be asked.
    if (Object.keys(input).length > 0) this.#tasks.update(writer, task, input, true);
    if (setAside)
      this.#acts.setAside(writer, task, setAside, reviewDay === undefined ? null : formatDay(reviewDay));
  }

  #tagsAfter(taskId: number, add: string | undefined, remove: string | undefined): string[] {
    const names = this.#stores.taskParts.tags(taskId).map(({ name }) => name);
    const kept = names.filter((name) => name.toLowerCase() !== remove?.trim().toLowerCase());
    return add === undefined ? kept : [...kept, add];
  }

  /** Made and marked in the same transaction: it is connected with the task that it came from. */
  #make(writer: ChangeWriter, source: Task, task: NewTask): number {
    const id = this.#tasks.insert(writer, {
      name: task.name,
      description: task.description,
      projectId: task.projectId,
      sectionId: task.sectionId,
      ownerId: task.ownerId,
      statusId: null,
      priority: task.priority,
      private: false,
      dueDate: null,
      dueTime: null,
      startDate: null,
      startTime: null,
      ...momentInput('due', task.due),
      ...momentInput('start', task.start)
    });
    writer.insert('task_link', { task_id: id, to_task_id: source.id });
    return id;
  }

  #section(writer: ChangeWriter, task: Task, name: string): void {
    if (task.projectId === null) return;
    const known = this.#stores.projects.sectionsOf(task.projectId);
    const same = known.find((section) => section.name.toLowerCase() === name.trim().toLowerCase());
    const sectionId =
      same?.id ??
      writer.insert('section', { project_id: task.projectId, name: name.trim(), position: known.length });
    writer.update('task', task.id, { section_id: sectionId });
  }
}

function momentInput(name: 'due' | 'start', moment: Moment | null): Partial<TaskInput> {
  const date = moment && formatDay(moment.day);
  const time = moment?.minute == null ? null : formatTimeOfDay(moment.minute);
  const zone = moment?.zone?.name;
  return name === 'due'
    ? { dueDate: date, dueTime: time, ...(zone ? { dueZone: zone } : {}) }
    : { startDate: date, startTime: time };
}
