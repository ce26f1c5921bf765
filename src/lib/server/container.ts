import { join } from 'node:path';
import pino from 'pino';
import { Auth } from './auth/auth.ts';
import { ChannelSetUp } from './channel/set-up.ts';
import { DATABASE } from './db/data-folder.ts';
import { openDatabase, type Db } from './db/open.ts';
import { MACHINE_CLOCK, WorkspaceClock } from './engine/clock.ts';
import { Engine } from './engine/engine.ts';
import { FactsSource } from './engine/facts-source.ts';
import { Outbox } from './outbox/outbox.ts';
import { Committer } from './workspace/commit.ts';
import { ForecastService } from './tower/forecasts.ts';
import { ImportService } from './in-out/imports.ts';
import type { LeaveSheet } from './person/leave-sheet.ts';
import type { ActLinks } from './message/act-links.ts';
import type { MailStops } from './message/mail-stops.ts';
import type { TextLinks } from './message/text-links.ts';
import type { AccountGuard } from './account/account-guard.ts';
import type { HandOverService } from './person/hand-over.ts';
import { AccountService } from './account/accounts.ts';
import { BulkService } from './task/bulk.ts';
import { CalendarService } from './calendar/calendars.ts';
import { ChannelSettingsService } from './settings/channel/channel-settings.ts';
import type { ChannelTest } from './settings/channel-test.ts';
import type { BeginService } from './settings/begin.ts';
import type { ChannelHealth } from './outbox/health.ts';
import { ChorePlan } from './task/chores.ts';
import { ContactService } from './person/contacts.ts';
import { DigestService } from './digest/digests.ts';
import { EffectService } from './effect/effects.ts';
import { ErasingService } from './person/erasing.ts';
import { HandRings } from './rule/hand-rings.ts';
import { FieldService } from './task/fields.ts';
import type { LiveUpdates } from './workspace/live.ts';
import { NextBell } from './tower/next-bell.ts';
import { StandingLeads } from './person/standing-leads.ts';
import { PeopleService } from './person/people.ts';
import type { DeskThings } from './desk/things.ts';
import type { DeskReader } from './desk/reading-as.ts';
import type { PlacingService } from './desk/placing.ts';
import { PeopleSheet } from './person/people-sheet.ts';
import { SettingsService } from './settings/settings.ts';
import type { PostRoom } from './message/post-room.ts';
import { Escalations } from './ladder/escalations.ts';
import { Promises } from './task/promises.ts';
import { ProjectService } from './project/projects.ts';
import { QuietService } from './rule/quiet.ts';
import { QuickAdd } from './task/quick-add/quick-add.ts';
import { Renewals } from './task/renewals.ts';
import { RuleActs } from './rule/rule-acts.ts';
import { RuleCopies } from './rule/rule-copies.ts';
import { RuleOutlooks } from './rule/rule-outlook.ts';
import { RuleTrials } from './rule/rule-trials.ts';
import { RuleService } from './rule/rules.ts';
import type { RuleWatchman } from './rule/rule-watchman.ts';
import { SavedListService } from './task/saved-lists.ts';
import { SharedParts } from './rule/shared-parts.ts';
import { SetupService } from './settings/set-up.ts';
import { SweepQuestions } from './sweep/sweep-questions.ts';
import { Sweeper } from './sweep/sweeper.ts';
import { SweepService } from './sweep/sweeps.ts';
import { TaskActs } from './task/task-acts.ts';
import { TaskListService } from './task/task-list.ts';
import { TaskService } from './task/tasks.ts';
import { TakenBack } from './record/taken-back.ts';
import { TowerService } from './tower/tower.ts';
import { UndoService } from './record/undo.ts';
import type { SampleService } from './settings/sample.ts';
import type { FileReading } from './threads/file-reading.ts';
import type { LaterViews } from './threads/later-views.ts';
import type { Threads } from './threads/threads.ts';
import type { LongActs } from './tryout/long-acts.ts';
import type { TryOuts } from './tryout/try-outs.ts';
import { keyBeside, Seal, type SealKeys } from './db/seal.ts';
import { UnitOfWork } from './db/unit-of-work.ts';
import { Meters } from './meters.ts';
import type { ContainerOptions } from './options.ts';
import { Requests } from './requests.ts';
import { openStores, type Stores } from './store/all.ts';
import { lifeOf, openLog, startOfDemoClock } from './wiring/life.ts';
import {
  channelsOf,
  healthOf,
  linkOfRule,
  messageLinks,
  openOutbox,
  watchOver,
  wordsFor,
  sendingServices
} from './wiring/messages.ts';
import { liveUpdates, openNextBell } from './wiring/pages.ts';
import {
  guardsOf,
  peopleServices,
  ruleServices,
  setUpServices,
  sweepServices,
  undoServices,
  workServices
} from './wiring/subjects.ts';
import { threadServices } from './wiring/threads.ts';

export interface Container {
  options: ContainerOptions;
  requests: Requests;
  db: Db;
  /** The one way in which anything is written. */
  work: UnitOfWork;
  stores: Stores;
  clock: WorkspaceClock;
  source: FactsSource;
  engine: Engine;
  outbox: Outbox;
  auth: Auth;
  committer: Committer;
  undo: UndoService;
  sample: SampleService;
  takenBack: TakenBack;
  tasks: TaskService;
  taskActs: TaskActs;
  renewals: Renewals;
  projects: ProjectService;
  fields: FieldService;
  savedLists: SavedListService;
  taskLists: TaskListService;
  bulk: BulkService;
  quickAdd: QuickAdd;
  placing: PlacingService;
  deskReader: DeskReader;
  deskThings: DeskThings;
  live: LiveUpdates;
  channels: ChannelSetUp;
  rules: RuleService;
  ruleCopies: RuleCopies;
  watchman: RuleWatchman;
  shared: SharedParts;
  quiet: QuietService;
  handRings: HandRings;
  promises: Promises;
  escalations: Escalations;
  actLinks: ActLinks;
  mailStops: MailStops;
  textLinks: TextLinks;
  people: PeopleService;
  standing: StandingLeads;
  peopleSheet: PeopleSheet;
  leaveSheet: LeaveSheet;
  digests: DigestService;
  sweeps: SweepService;
  sweepQuestions: SweepQuestions;
  sweeper: Sweeper;
  contacts: ContactService;
  calendars: CalendarService;
  settings: SettingsService;
  channelSettings: ChannelSettingsService;
  channelTest: ChannelTest;
  health: ChannelHealth;
  begin: BeginService;
  effects: EffectService;
  tryOuts: TryOuts;
  longActs: LongActs;
  threads: Threads;
  readers: Threads;
  writers: Threads;
  later: LaterViews;
  files: FileReading;
  accounts: AccountService;
  handOver: HandOverService;
  accountGuard: AccountGuard;
  erasing: ErasingService;
  imports: ImportService;
  forecasts: ForecastService;
  outlooks: RuleOutlooks;
  trials: RuleTrials;
  tower: TowerService;
  nextBell: NextBell;
  postRoom: PostRoom;
  setup: SetupService;
  meters: Meters;
  log: pino.Logger;
  /** Another application, over a copy of its workspace for one. */
  openAnother(options: ContainerOptions): Container;
  /** @returns the port on which reports about mail that came back are taken; null where none are */
  start(): Promise<number | null>;
  stop(): Promise<void>;
}

/** Wires everything once: for the server, the command line, the demo and the tests. */
export function createContainer(given: ContainerOptions): Container {
  // A copy of the workspace, to try something on, opens what this one has sealed.
  const sealKeys = given.sealKeys ?? { now: keyBeside(given.dataDir), before: null };
  return wire({ ...given, sealKeys });
}

function wire(options: ContainerOptions & { sealKeys: SealKeys }): Container {
  const log = openLog(options);
  const db =
    options.db ?? openDatabase(options.dataDir === ':memory:' ? ':memory:' : join(options.dataDir, DATABASE));
  const onFault = (error: unknown) => log.error({ err: error }, 'fault');
  const work = new UnitOfWork(db, onFault);
  const stores = openStores(db, new Seal(options.sealKeys));
  const machine = options.machine ?? MACHINE_CLOCK;
  const clock = new WorkspaceClock(
    machine,
    options.demo ? startOfDemoClock(stores, machine, options.startAtMs) : null
  );
  const channels = channelsOf(stores, options);
  const source = new FactsSource(stores, () => channels.open());
  const auth = new Auth(work, stores, machine, (refused) => log.warn(refused, 'sign-in refused'));
  const live = liveUpdates(stores, auth);
  const outbox = openOutbox(work, stores, clock, options, channels, live, onFault);
  const say = wordsFor(options, stores, source);
  const committer = new Committer(work, stores, source, clock);
  committer.listen((change) => live.tellChange(change));
  const acts = new RuleActs(stores, committer, clock);
  const engine = new Engine({ work, stores, source, clock, outbox }, say, linkOfRule(options), acts, onFault);
  const requests = engine.attachPace(new Requests(machine));
  const rules = new RuleService(stores, committer);
  const forecasts = new ForecastService(stores, source, clock, say.words);
  const tower = new TowerService(stores, source, clock, forecasts, engine);
  const effects = new EffectService({ work, stores, source, clock, engine });
  const tasksAnd = workServices(work, stores, committer, source, clock, tower, effects);
  const promises = new Promises(stores, committer, source, clock);
  acts.attach(tasksAnd.tasks, tasksAnd.taskActs);
  const guards = guardsOf(stores, outbox, engine);
  committer.attach(engine, new ChorePlan(stores, tasksAnd.renewals, source), guards);
  const health = healthOf(channels, options, clock, onFault);
  const { meters, returns } = watchOver(work, engine, outbox, stores, clock, forecasts, health, onFault);
  const of = { work, stores, source, clock, engine, outbox, effects, ...guards, ...tasksAnd };
  const swept = sweepServices(of, committer, { ...tasksAnd, promises }, effects, options);
  const byRules = ruleServices(of, committer, say, rules, effects);
  const takingBack = undoServices(of, committer, options);
  const ofPeople = peopleServices(of, committer, auth, options);
  const asideOf = threadServices(() => container, { db, options, log });
  const container: Container = {
    options,
    requests,
    db,
    work,
    stores,
    clock,
    source,
    engine,
    outbox,
    auth,
    committer,
    ...tasksAnd,
    live,
    channels,
    ...sendingServices(of, committer, health, options),
    ...byRules,
    ...swept,
    promises,
    escalations: new Escalations(stores, source, clock, promises),
    ...messageLinks(of, say.words, { ...tasksAnd, ...byRules, ...takingBack, ...ofPeople, promises }),
    rules,
    ...guards,
    ...ofPeople,
    ...setUpServices(stores, committer, channels, options),
    ...takingBack,
    effects,
    ...asideOf,
    imports: new ImportService(of, committer, asideOf.importThreads),
    forecasts,
    tower,
    nextBell: openNextBell(asideOf.later, clock, committer),
    setup: new SetupService(stores, committer, auth),
    meters,
    log,
    openAnother: createContainer,
    ...lifeOf({ ...of, ...swept, ...asideOf, db, outbox, health, returns, options, log })
  };
  return container;
}
