/** The services of each subject. */

import { Auth } from '../auth/auth.ts';
import { OutgoingReach } from '../channel/reach.ts';
import { ChannelSetUp } from '../channel/set-up.ts';
import { WorkspaceClock } from '../engine/clock.ts';
import { DigestMaker } from '../engine/digest-maker.ts';
import { Engine } from '../engine/engine.ts';
import { FactsSource } from '../engine/facts-source.ts';
import { Words } from '../engine/words.ts';
import type { UnitOfWork } from '../db/unit-of-work.ts';
import { Outbox } from '../outbox/outbox.ts';
import { Committer } from '../workspace/commit.ts';
import { RuleWatchman } from '../rule/rule-watchman.ts';
import { PlacedMarks } from '../desk/placed-marks.ts';
import { beginning, DeskThings } from '../desk/things.ts';
import { DeskReader } from '../desk/reading-as.ts';
import { PlacingService } from '../desk/placing.ts';
import { HandOverService } from '../person/hand-over.ts';
import { AccountGuard } from '../account/account-guard.ts';
import { AccountService } from '../account/accounts.ts';
import { BulkService } from '../task/bulk.ts';
import { CalendarService } from '../calendar/calendars.ts';
import { ChannelSettingsService } from '../settings/channel/channel-settings.ts';
import { ChoreRunner } from '../task/chores.ts';
import { Parking } from '../task/parking.ts';
import { ContactService } from '../person/contacts.ts';
import { DigestService } from '../digest/digests.ts';
import { EffectService } from '../effect/effects.ts';
import { ErasingService } from '../person/erasing.ts';
import { HandRings } from '../rule/hand-rings.ts';
import { FieldService } from '../task/fields.ts';
import { StandingLeads } from '../person/standing-leads.ts';
import { PeopleService } from '../person/people.ts';
import { PeopleSheet } from '../person/people-sheet.ts';
import { SettingsService } from '../settings/settings.ts';
import { Promises } from '../task/promises.ts';
import { ProjectService } from '../project/projects.ts';
import { QuietService } from '../rule/quiet.ts';
import { QuickAdd } from '../task/quick-add/quick-add.ts';
import { Renewals } from '../task/renewals.ts';
import { RuleCopies } from '../rule/rule-copies.ts';
import { RuleOutlooks } from '../rule/rule-outlook.ts';
import { RuleTrials } from '../rule/rule-trials.ts';
import { RuleService } from '../rule/rules.ts';
import { SavedListService } from '../task/saved-lists.ts';
import { SharedParts } from '../rule/shared-parts.ts';
import { SweepActor } from '../sweep/sweep-actor.ts';
import { SweepLook } from '../sweep/sweep-look.ts';
import { SweepMail } from '../sweep/sweep-mail.ts';
import { measureLists } from '../sweep/sweep-measure.ts';
import { SweepQuestions } from '../sweep/sweep-questions.ts';
import { Sweeper } from '../sweep/sweeper.ts';
import { SweepService } from '../sweep/sweeps.ts';
import { TaskActs } from '../task/task-acts.ts';
import { TaskListService } from '../task/task-list.ts';
import { TaskService } from '../task/tasks.ts';
import { TakenBack } from '../record/taken-back.ts';
import { TowerService } from '../tower/tower.ts';
import { UndoService } from '../record/undo.ts';
import { LeaveSheet } from '../person/leave-sheet.ts';
import { type Stores } from '../store/all.ts';
import type { ContainerOptions } from '../options.ts';
import type { Workspace } from '../workspace/workspace.ts';
import { tablesMarked } from '../store/recorded-tables.ts';

/** Everything about tasks and projects. */
export function workServices(
  work: UnitOfWork,
  stores: Stores,
  committer: Committer,
  source: FactsSource,
  clock: WorkspaceClock,
  tower: TowerService,
  effects: EffectService
) {
  const renewals = new Renewals(stores, source);
  const tasks = new TaskService(stores, committer, source, renewals);
  const taskActs = new TaskActs(stores, committer, source, clock, renewals);
  const taskLists = new TaskListService(stores, source, clock, tower);
  return {
    renewals,
    tasks,
    taskActs,
    taskLists,
    bulk: new BulkService(stores, committer, tasks, taskActs, taskLists, source, clock, effects),
    quickAdd: new QuickAdd(stores, source, clock, tasks, (id) => beginning({ stores, source, clock }, id)),
    deskThings: new DeskThings({ stores, source, clock }, committer, { tasks, taskLists }),
    deskReader: new DeskReader({ work, stores, source, clock }),
    placing: new PlacingService({ work, stores, source, clock }, committer, { tasks, taskActs }),
    projects: new ProjectService(stores, committer),
    fields: new FieldService(stores, committer),
    savedLists: new SavedListService(stores, committer)
  };
}

/** What is asked of every change before it stands: who comes in by it, which rules fail by it, and who has placed a task by it. */
export function guardsOf(stores: Stores, outbox: Outbox, engine: Engine) {
  return {
    accountGuard: new AccountGuard(stores, outbox),
    watchman: new RuleWatchman(stores, engine.keeper),
    placedMarks: new PlacedMarks(stores)
  };
}

/** What takes back, and who is told of it. */
export function undoServices(
  of: Workspace & { outbox: Outbox; accountGuard: AccountGuard },
  committer: Committer,
  { origin }: ContainerOptions
) {
  return {
    undo: new UndoService(of.stores, committer, of.clock, of.accountGuard),
    takenBack: new TakenBack(of, origin)
  };
}

/** Everything about people, and how they come in. */
export function peopleServices(
  {
    work,
    stores,
    source,
    clock,
    engine,
    outbox,
    accountGuard,
    tasks,
    effects
  }: Workspace & { outbox: Outbox; accountGuard: AccountGuard; tasks: TaskService; effects: EffectService },
  committer: Committer,
  auth: Auth,
  { origin }: ContainerOptions
) {
  const people = new PeopleService(stores, committer, accountGuard);
  return {
    people,
    standing: new StandingLeads(stores, committer),
    peopleSheet: new PeopleSheet(stores, committer, people, accountGuard),
    leaveSheet: new LeaveSheet(stores, committer, people),
    handOver: new HandOverService(stores, committer, clock, tasks, people, effects),
    accounts: new AccountService(work, stores, auth, outbox, clock, origin),
    erasing: new ErasingService(work, stores, source, engine, clock)
  };
}

/** What is set up once and looked after. */
export function setUpServices(
  stores: Stores,
  committer: Committer,
  channels: ChannelSetUp,
  { inside }: ContainerOptions
) {
  return {
    contacts: new ContactService(stores, committer),
    calendars: new CalendarService(stores, committer),
    settings: new SettingsService(stores, committer),
    channelSettings: new ChannelSettingsService(
      stores,
      committer,
      () => channels.inWords(),
      new OutgoingReach(inside ?? [])
    )
  };
}

/** What people do with rules besides writing them. */
export function ruleServices(
  of: Workspace,
  committer: Committer,
  say: { words: Words; digests: DigestMaker },
  rules: RuleService,
  effects: EffectService
) {
  const { work, stores, source, clock, engine } = of;
  const outlooks = new RuleOutlooks(stores, source, clock);
  return {
    ruleCopies: new RuleCopies(stores, committer, rules),
    outlooks,
    trials: new RuleTrials(stores, source, clock, say.words, outlooks),
    shared: new SharedParts(stores, committer),
    digests: new DigestService(of, committer, say.digests),
    quiet: new QuietService(work, stores, committer, source, clock, engine),
    handRings: new HandRings(work, stores, source, clock, engine, committer, effects)
  };
}

/** What sweeps depend on: who is there, when they work, and sweeps themselves. */
const PLANS_SWEEPS = tablesMarked('sweeps go by it');

/** Clean-ups, and who carries them out. */
export function sweepServices(
  of: Workspace,
  committer: Committer,
  { tasks, taskActs, taskLists, promises }: ReturnType<typeof workServices> & { promises: Promises },
  effects: EffectService,
  { origin }: ContainerOptions
) {
  const { work, stores, source, clock, engine } = of;
  const look = new SweepLook(stores, source);
  const parking = new Parking(stores, source, committer, taskActs, origin);
  const actor = new SweepActor(stores, source, tasks, parking);
  const questions = new SweepQuestions(of, committer, actor, taskActs);
  const sweeper = new Sweeper(of, committer, {
    ...{ look, actor, questions },
    mail: new SweepMail(stores, source, parking, origin),
    measure: () => measureLists(stores, taskLists, source.facts.workspace.zone, clock.machine)
  });
  committer.listen(({ tables }) => {
    if ([...tables].some((table) => PLANS_SWEEPS.has(table))) work.run(() => sweeper.sync(clock.now()));
  });
  engine.attach(new ChoreRunner(stores, taskActs, promises, parking, sweeper));
  const wake = () => engine.wake();
  const sweeps = new SweepService(of, committer, { look, sweeper, effects, wake });
  return { sweeps, sweepQuestions: questions, sweeper };
}
