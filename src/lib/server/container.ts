import { join } from 'node:path';
import pino from 'pino';
import { Auth } from './auth/auth.ts';
import { mailChannel, type MailRoute } from './channel/mail.ts';
import { openDatabase, type Db } from './db/open.ts';
import { MACHINE_CLOCK, WorkspaceClock, type ClockState, type MachineClock } from './engine/clock.ts';
import { Engine } from './engine/engine.ts';
import { FactsSource } from './engine/facts-source.ts';
import { Words } from './engine/words.ts';
import { writeDates, writeTable } from './export/message-files.ts';
import { Outbox } from './outbox/outbox.ts';
import { Committer } from './service/commit.ts';
import { ForecastService } from './service/forecasts.ts';
import { ImportService } from './service/imports.ts';
import { AccountService } from './service/accounts.ts';
import { BulkService } from './service/bulk.ts';
import { CalendarService } from './service/calendars.ts';
import { ChorePlan, ChoreRunner } from './service/chores.ts';
import { ContactService } from './service/contacts.ts';
import { EffectService } from './service/effects.ts';
import { ErasingService } from './service/erasing.ts';
import { HandRings } from './service/hand-rings.ts';
import { FieldService } from './service/fields.ts';
import { LiveUpdates } from './service/live.ts';
import { PeopleService } from './service/people.ts';
import { PeopleSheet } from './service/people-sheet.ts';
import { SettingsService } from './service/settings.ts';
import { PostRoom } from './service/post-room.ts';
import { ProjectService } from './service/projects.ts';
import { QuietService } from './service/quiet.ts';
import { QuickAdd } from './service/quick-add/quick-add.ts';
import { Renewals } from './service/renewals.ts';
import { RuleActs } from './service/rule-acts.ts';
import { RuleCopies } from './service/rule-copies.ts';
import { RuleOutlooks } from './service/rule-outlook.ts';
import { RuleService } from './service/rules.ts';
import { RuleWatchman } from './service/rule-watchman.ts';
import { SavedListService } from './service/saved-lists.ts';
import { SharedParts } from './service/shared-parts.ts';
import { SetupService } from './service/set-up.ts';
import { TaskActs } from './service/task-acts.ts';
import { TaskListService } from './service/task-list.ts';
import { TaskService } from './service/tasks.ts';
import { TowerService } from './service/tower.ts';
import { openStores, type Stores } from './store/all.ts';

export interface ContainerOptions {
  /** Folder of the workspace, or `:memory:`. */
  dataDir: string;
  /** A demo's clock can be moved, and its people sign in by one press. */
  demo: boolean;
  /** Where the clock of a new demo starts, ms. */
  startAtMs?: number;
  mail: MailRoute;
  /** Address of the mail stand-in's list of messages; null without one. */
  postRoomUrl: string | null;
  /** Public address of the application, for links in messages. */
  origin: string;
  machine?: MachineClock;
  chance?: () => number;
  logLevel?: string;
}

export interface Container {
  options: ContainerOptions;
  db: Db;
  stores: Stores;
  clock: WorkspaceClock;
  source: FactsSource;
  engine: Engine;
  outbox: Outbox;
  auth: Auth;
  committer: Committer;
  tasks: TaskService;
  taskActs: TaskActs;
  renewals: Renewals;
  projects: ProjectService;
  fields: FieldService;
  savedLists: SavedListService;
  taskLists: TaskListService;
  bulk: BulkService;
  quickAdd: QuickAdd;
  live: LiveUpdates;
  rules: RuleService;
  ruleCopies: RuleCopies;
  watchman: RuleWatchman;
  shared: SharedParts;
  quiet: QuietService;
  handRings: HandRings;
  people: PeopleService;
  peopleSheet: PeopleSheet;
  contacts: ContactService;
  calendars: CalendarService;
  settings: SettingsService;
  effects: EffectService;
  accounts: AccountService;
  erasing: ErasingService;
  imports: ImportService;
  forecasts: ForecastService;
  outlooks: RuleOutlooks;
  tower: TowerService;
  postRoom: PostRoom;
  setup: SetupService;
  log: pino.Logger;
  start(): void;
  stop(): Promise<void>;
}

/** Wires everything once: for the server, the command line, the demo and the tests. */
export function createContainer(options: ContainerOptions): Container {
  const log = pino({ level: options.logLevel ?? 'info', base: null });
  const db = openDatabase(
    options.dataDir === ':memory:' ? ':memory:' : join(options.dataDir, 'early-bell.sqlite')
  );
  const stores = openStores(db);
  const machine = options.machine ?? MACHINE_CLOCK;
  const clock = new WorkspaceClock(
    machine,
    options.demo ? startOfDemoClock(stores, machine, options.startAtMs) : null
  );
  const source = new FactsSource(stores);
  const onFault = (error: unknown) => log.error({ err: error }, 'fault');
  const outbox = openOutbox(db, stores, clock, options, onFault);
  const words = new Words(
    stores,
    source,
    {
      task: (id) => `${options.origin}/tasks/${id}`,
      list: () => `${options.origin}/tasks`
    },
    { table: writeTable, dates: writeDates }
  );
  const committer = new Committer(db, stores, source, clock);
  const acts = new RuleActs(stores, committer, clock);
  const ruleLink = (id: number) => `${options.origin}/rules/${id}`;
  const engine = new Engine(db, stores, source, clock, outbox, words, ruleLink, acts, onFault);
  const auth = new Auth(db, stores, machine);
  const rules = new RuleService(stores, committer);
  const people = new PeopleService(stores, committer);
  const forecasts = new ForecastService(stores, source, clock, words);
  const tower = new TowerService(stores, source, clock, forecasts);
  const effects = new EffectService(stores, source, clock);
  const work = workServices(stores, committer, source, clock, tower, effects);
  const watchman = new RuleWatchman(stores, engine.keeper);
  acts.attach(work.tasks, work.taskActs);
  committer.attach(engine, new ChorePlan(stores, work.renewals), watchman);
  engine.rush.attach((until) => forecasts.countByRule(until));
  engine.attach(new ChoreRunner(stores, work.taskActs));
  return {
    options,
    db,
    stores,
    clock,
    source,
    engine,
    outbox,
    auth,
    committer,
    ...work,
    live: new LiveUpdates(committer),
    ...ruleServices(db, stores, committer, source, clock, engine, words, rules),
    rules,
    watchman,
    people,
    peopleSheet: new PeopleSheet(stores, committer, people),
    contacts: new ContactService(stores, committer),
    calendars: new CalendarService(stores, committer),
    settings: new SettingsService(stores, committer),
    effects,
    accounts: new AccountService(db, stores, auth, outbox, clock, options.origin),
    erasing: new ErasingService(db, stores, source, engine, clock),
    imports: new ImportService(db, stores, committer, work.tasks, machine),
    forecasts,
    tower,
    postRoom: new PostRoom(options.postRoomUrl),
    setup: new SetupService(stores, committer, auth),
    log,
    start() {
      engine.start();
      outbox.start();
    },
    async stop() {
      await engine.stop();
      await outbox.stop();
      if (clock.movable) db.transaction(() => stores.engineState.write('clock', clock.state())).immediate();
      db.close();
    }
  };
}

/** What people do with rules besides writing them. */
function ruleServices(
  db: Db,
  stores: Stores,
  committer: Committer,
  source: FactsSource,
  clock: WorkspaceClock,
  engine: Engine,
  words: Words,
  rules: RuleService
) {
  return {
    ruleCopies: new RuleCopies(stores, committer, rules),
    outlooks: new RuleOutlooks(stores, source, clock, words),
    shared: new SharedParts(stores, committer),
    quiet: new QuietService(db, stores, committer, source, clock, engine),
    handRings: new HandRings(db, stores, source, clock, engine, committer)
  };
}

function openOutbox(
  db: Db,
  stores: Stores,
  clock: WorkspaceClock,
  { mail, chance }: ContainerOptions,
  onFault: (error: unknown) => void
): Outbox {
  const sender = () => {
    const settings = stores.settings.workspace();
    return {
      name: settings?.mailFromName ?? 'Early Bell',
      address: settings?.mailFromAddress ?? 'bell@early-bell.invalid'
    };
  };
  return new Outbox(db, stores, clock, [mailChannel(mail, sender)], chance ?? Math.random, onFault);
}

/** Everything about tasks and projects. */
function workServices(
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
    bulk: new BulkService(stores, committer, tasks, taskActs, taskLists, source, effects),
    quickAdd: new QuickAdd(stores, source, clock, tasks),
    projects: new ProjectService(stores, committer),
    fields: new FieldService(stores, committer),
    savedLists: new SavedListService(stores, committer)
  };
}

/** A demo goes on where its clock was left; a new one starts where it is told. While it was shut its clock stood still. */
function startOfDemoClock(stores: Stores, machine: MachineClock, startAtMs: number | undefined): ClockState {
  const kept = stores.engineState.read<ClockState>('clock');
  if (kept) return { ...kept, machineMs: machine.now() };
  return { workspaceMs: startAtMs ?? machine.now(), machineMs: machine.now(), running: true };
}
