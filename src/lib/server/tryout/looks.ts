import { CodedError } from '../../core/errors.ts';
import { readListQuery } from '../store/list-query.ts';
import { signedInAs, undoerAs } from '../workspace/signed-in.ts';
import { seesChange, undoPreview } from '../record/change-views.ts';
import type { ProjectService } from '../project/projects.ts';
import type { RuleOutlooks } from '../rule/rule-outlook.ts';
import type { RuleService } from '../rule/rules.ts';
import type { SweepService } from '../sweep/sweeps.ts';
import type { TaskListService } from '../task/task-list.ts';
import type { ActServices } from './acts.ts';
import type { ToldServices } from '../person/told-acts.ts';
import { toldEffect } from '../person/told-week.ts';
import type { ForecastService } from '../tower/forecasts.ts';
import type { Asked } from './asked.ts';

/** What is asked to look at them. */
export type LookServices = ActServices &
  ToldServices & {
    forecasts: ForecastService;
    outlooks: RuleOutlooks;
    projects: ProjectService;
    rules: RuleService;
    sweeps: SweepService;
    taskLists: TaskListService;
  };

/**
 * What an act would do, for whoever asks.
 * @throws CodedError whatever keeps it from being done, `person-gone`
 */
export function lookAt(app: LookServices, personId: number, asked: Asked): unknown {
  const person = app.stores.people.byId(personId);
  if (!person) throw new CodedError('person-gone');
  const who = signedInAs(person, app.stores);
  const { actor, viewer, sight } = who;
  switch (asked.act) {
    case 'many tasks':
      return app.bulk.preview(actor, asked.input, viewer, sight);
    case 'by hand':
      return app.handRings.previewOver(actor, asked.ruleId, asked.taskIds, viewer);
    case 'sweep':
      return app.sweeps.effect(actor, asked.runId, viewer);
    case 'undo':
      if (!seesChange(app, asked.changeId, undoerAs(who))) throw new CodedError('change-gone');
      return undoPreview(app, asked.changeId, viewer, undoerAs(who));
    case 'project': {
      const { projectId, input } = asked;
      const taskIds = app.stores.tasks.openOfProject(projectId).map(({ id }) => id);
      return app.effects.ofAct(taskIds, () => void app.projects.edit(actor, projectId, input), viewer);
    }
    case 'hand over':
      return app.handOver.preview(actor, asked.personId, asked.input, viewer);
    case 'rule off': {
      const taskIds = app.outlooks.tasksOf(asked.ruleId);
      return app.effects.ofAct(taskIds, () => void app.rules.turnOff(actor, asked.ruleId), viewer);
    }
    case 'told':
      return toldEffect(app, who, asked.told);
  }
}

/** Whether it concerns so many tasks, with so many rules, that looking at it takes long. */
export function isLong(app: LookServices, personId: number, asked: Asked): boolean {
  return sizeOf(app, personId, asked) * (1 + app.source.liveRules().length) >= LONG;
}

/** How many tasks it concerns, or rows of a change; more of a list than take long are not counted. */
export function sizeOf({ stores, source, taskLists }: LookServices, personId: number, asked: Asked): number {
  switch (asked.act) {
    case 'many tasks': {
      const { ids, query } = asked.input;
      const person = stores.people.byId(personId);
      if (ids || !person) return ids?.length ?? 0;
      const { viewer, sight } = signedInAs(person, stores);
      return taskLists.ids(readListQuery(new URLSearchParams(query)), viewer, sight, MOST_COUNTED).length;
    }
    case 'by hand':
      return asked.taskIds.length;
    case 'sweep':
      return stores.sweepRuns.count(asked.runId, 'taken');
    case 'undo':
      return stores.touched.count(stores.changes.withCaused(asked.changeId));
    case 'project':
      return stores.tasks.openOfProject(asked.projectId).length;
    case 'hand over':
      return stores.heldBy.tasks(asked.personId).length;
    case 'rule off':
      // A schedule finds whatever is in the scope of its rule.
      return source.live(asked.ruleId)?.facts.leads.some(({ schedule }) => schedule !== null)
        ? stores.tasks.count()
        : stores.plan.tasksOfRule(asked.ruleId).length;
    case 'told':
      // Whom everybody’s tasks tell is looked through.
      return stores.tasks.count();
  }
}

/** Rings of so many pairs of task and rule are looked at sooner than a copy is made. */
const LONG = 600;
const MOST_COUNTED = 1_000;
