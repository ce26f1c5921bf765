import { dirname } from 'node:path';
// What the container is put together from, a group of services at a time.
import pino from 'pino';
import { Auth } from './auth/auth.ts';
import { ReturnedMail } from './channel/returned-mail.ts';
import { openChannels } from './channel/all.ts';
import { OutgoingReach } from './channel/reach.ts';
import { ChannelSetUp } from './channel/set-up.ts';
import { WorkspaceClock, type ClockState, type MachineClock } from './engine/clock.ts';
import { isMachineFault } from './db/machine-fault.ts';
import { DigestMaker } from './engine/digest-maker.ts';
import { Engine } from './engine/engine.ts';
import { FactsSource } from './engine/facts-source.ts';
import { Words } from './engine/words.ts';
import { writeDates, writeTable } from './in-out/write/message-files.ts';
import { Outbox } from './outbox/outbox.ts';
import { Pace } from './outbox/pace.ts';
import { FileReading } from './threads/file-reading.ts';
import { importThreads } from './threads/import-threads.ts';
import { LaterViews } from './threads/later-views.ts';
import { Threads } from './threads/threads.ts';
import type { LookServices } from './tryout/looks.ts';
import type { LaterServices } from './workspace/later.ts';
import { LongActs } from './tryout/long-acts.ts';
import { TryOuts } from './tryout/try-outs.ts';
import { dropLeftCopies } from './in-out/import-aside.ts';
import { Committer } from './workspace/commit.ts';
import { ForecastService } from './tower/forecasts.ts';
import { RuleWatchman } from './rule/rule-watchman.ts';
import { HandOverService } from './person/hand-over.ts';
import { AccountGuard } from './account/account-guard.ts';
import { AccountService } from './account/accounts.ts';
import { BulkService } from './task/bulk.ts';
import { CalendarService } from './calendar/calendars.ts';
import { ChannelSettingsService } from './settings/channel/channel-settings.ts';
import { ChoreRunner } from './task/chores.ts';
import { Parking } from './task/parking.ts';
import { ContactService } from './person/contacts.ts';
import { DigestService } from './digest/digests.ts';
import { EffectService } from './effect/effects.ts';
import { ErasingService } from './person/erasing.ts';
import { HandRings } from './rule/hand-rings.ts';
import { FieldService } from './task/fields.ts';
import { sightOf } from './auth/sight.ts';
import { LiveUpdates } from './workspace/live.ts';
import { NextBell } from './tower/next-bell.ts';
import { PeopleService } from './person/people.ts';
import { PeopleSheet } from './person/people-sheet.ts';
import { SettingsService } from './settings/settings.ts';
import { Promises } from './task/promises.ts';
import { ProjectService } from './project/projects.ts';
import { QuietService } from './rule/quiet.ts';
import { QuickAdd } from './task/quick-add/quick-add.ts';
import { Renewals } from './task/renewals.ts';
import { RuleCopies } from './rule/rule-copies.ts';
import { RuleOutlooks } from './rule/rule-outlook.ts';
import { RuleTrials } from './rule/rule-trials.ts';
import { RuleService } from './rule/rules.ts';
import { SavedListService } from './task/saved-lists.ts';
import { SharedParts } from './rule/shared-parts.ts';
import { SweepActor } from './sweep/sweep-actor.ts';
import { SweepLook } from './sweep/sweep-look.ts';
import { SweepMail } from './sweep/sweep-mail.ts';
import { measureLists } from './sweep/sweep-measure.ts';
import { SweepQuestions } from './sweep/sweep-questions.ts';
import { Sweeper } from './sweep/sweeper.ts';
import { SweepService } from './sweep/sweeps.ts';
import { TaskActs } from './task/task-acts.ts';
import { TaskListService } from './task/task-list.ts';
import { TaskService } from './task/tasks.ts';
import { TakenBack } from './record/taken-back.ts';
import { TowerService } from './tower/tower.ts';
import { UndoService } from './record/undo.ts';
import type { Db } from './db/open.ts';
import { UnitOfWork } from './db/unit-of-work.ts';
import { LeaveSheet } from './person/leave-sheet.ts';
import { ActLinks } from './message/act-links.ts';
import { MailStops } from './message/mail-stops.ts';
import { TextLinks } from './message/text-links.ts';
import { textToken } from './engine/text-tokens.ts';
import { stopToken } from './engine/stop-tokens.ts';
import type { DeadEndRecord } from './store/dead-ends.ts';
import { Meters } from './meters.ts';
import { type Stores } from './store/all.ts';
import type { ContainerOptions } from './options.ts';
import type { Workspace } from './workspace/workspace.ts';
import { tablesMarked } from './store/recorded-tables.ts';

/** Words of errors are logged, and what they say of themselves; nothing by which somebody could come in or send. */
const NEVER_LOGGED = ['password', 'pass', 'token', 'secret', 'authorization', 'auth', 'cookie', 'url', 'raw'];

export function openLog({ logLevel, logTo }: ContainerOptions): pino.Logger {
  const paths = NEVER_LOGGED.flatMap((name) => [name, `*.${name}`, `*.*.${name}`]);
  const options = { level: logLevel ?? 'info', base: null, redact: { paths, remove: true } };
  return logTo ? pino(options, logTo) : pino(options);
}

export function openNextBell(later: LaterViews, clock: WorkspaceClock, committer: Committer): NextBell {
  const next = new NextBell(
    (personId, from, until) => later.view('first bells', personId, { from, until }),
    clock
  );
  committer.listen(() => next.changed());
  return next;
}

/** How it begins and ends. */
export function lifeOf({
  db,
  work,
  stores,
  clock,
  engine,
  outbox,
  sweeper,
  threads,
  readers,
  writers,
  later,
  returns,
  options,
  log
}: Workspace & {
  db: Db;
  outbox: Outbox;
  sweeper: Sweeper;
  threads: Threads;
  readers: Threads;
  writers: Threads;
  later: LaterViews;
  options: ContainerOptions;
  log: pino.Logger;
  returns: ReturnedMail;
}) {
  return {
    /** @returns the port on which reports about mail that came back are taken; null where none are */
    async start(): Promise<number | null> {
      const closed = sealSecrets(db, work, stores);
      if (closed.length > 0) log.warn({ closed }, 'secrets cannot be opened with the key that is here');
      if (!db.memory) dropLeftCopies(dirname(db.name));
      later.ready();
      sweeper.recover();
      engine.start();
      // What a backup had still to deliver may have left: nothing goes before somebody has answered.
      if (engine.started) outbox.start();
      return options.returnPort === undefined ? null : returns.listen(options.returnPort);
    },
    async stop(): Promise<void> {
      // Side by side: a move of the clock waits for the outbox, which waits for the other side.
      await Promise.all([
        engine.stop(),
        outbox.stop(),
        returns.close(),
        threads.close(),
        readers.close(),
        writers.close()
      ]);
      if (clock.movable) work.run(() => stores.engineState.write('clock', clock.state()));
      db.close();
    }
  };
}

/** Looks at acts, imports and files that are worked on side by side. */
const LONG_AT_ONCE = 2;

/** What is asked of everything that is done in threads. */
type Services = LookServices & LaterServices & { outbox: Outbox };

/** What takes long is done in threads. */
export function threadServices(
  app: () => Services,
  of: { db: Db; options: ContainerOptions; log: pino.Logger }
) {
  const file = of.options.threadFile ?? null;
  const threads = new Threads(of, file, LONG_AT_ONCE);
  // What is read for pages waits for nothing that takes long.
  const readers = new Threads(of, file, 1);
  // The database is lent to one at a time.
  const writers = new Threads(of, file, 1);
  const tryOuts = new TryOuts(app, threads);
  return {
    threads,
    readers,
    writers,
    later: new LaterViews(app, readers),
    tryOuts,
    longActs: new LongActs(app, writers, tryOuts),
    files: new FileReading(threads),
    importThreads: () => importThreads(threads, writers, of.db.name)
  };
}

/** What channels talk to: as it is set, else as the server was started with. */
export function channelsOf(stores: Stores, { mail, text, chat }: ContainerOptions): ChannelSetUp {
  return new ChannelSetUp(stores, { mail, text: text ?? null, chat: chat ?? null });
}

export const linkOfRule =
  ({ origin }: ContainerOptions) =>
  (id: number) =>
    `${origin}/rules/${id}`;

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

/** The words of messages and digests, whose links lead here. */
export function wordsFor({ origin }: ContainerOptions, stores: Stores, source: FactsSource) {
  const links = {
    task: (id: number) => `${origin}/tasks/${id}`,
    list: () => `${origin}/tasks`,
    digestTimes: (id: number) => `${origin}/people/${id}#digest-times`,
    act: (token: string | null) => `${origin}/act/${token ?? '…'}`
  };
  const files = { table: writeTable, dates: writeDates };
  const words = new Words(stores, source, links, files);
  return { words, digests: new DigestMaker(stores, source, words, links, files) };
}

/** What counts, and what hears of messages that reached nobody. */
export function watchOver(
  work: UnitOfWork,
  engine: Engine,
  outbox: Outbox,
  stores: Stores,
  clock: WorkspaceClock,
  forecasts: ForecastService,
  onFault: (error: unknown) => void
) {
  engine.rush.attach((until) => forecasts.countByRule(until));
  const meters = new Meters(stores, clock, () => engine.nextInstant());
  engine.attachMeter((kind, ms) => meters.slice(kind, ms));
  outbox.attachMeter((channel, end) => meters.attempt(channel, end));
  outbox.attach((about) => {
    try {
      work.run(() => tellDeadEnd(engine, stores, about, clock.now()));
    } catch (failure) {
      if (isMachineFault(failure)) throw failure;
      // How a delivery ended stands, whether or not somebody could be told of it.
      onFault(failure);
    }
  });
  const returns = new ReturnedMail(
    ({ messageId, address, reason }) => outbox.returned(messageId, address, reason),
    (answered) => outbox.answered(answered),
    onFault
  );
  return { meters, returns };
}

/** The keeper of a rule hears that a message of it reached nobody. */
function tellDeadEnd(engine: Engine, stores: Stores, about: DeadEndRecord, now: number): void {
  const rule = stores.rules.byId(about.ruleId);
  if (!rule) return;
  const { readerName, address, subject, answer } = about;
  const words = [
    `“${subject}” did not reach ${readerName} at ${address}: ${answer}`,
    'It will not be tried again. More failures of this rule in the next hour are only counted on the Bell tower.'
  ];
  engine.keeper.tell(rule, `${rule.name}: a message did not arrive`, words, null, now);
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

export function openOutbox(
  work: UnitOfWork,
  stores: Stores,
  clock: WorkspaceClock,
  { chance, channels, origin, inside }: ContainerOptions,
  setUp: ChannelSetUp,
  live: LiveUpdates,
  onFault: (error: unknown) => void
): Outbox {
  const sender = () => {
    const settings = stores.settings.workspace();
    return {
      name: settings?.mailFromName ?? 'Early Bell',
      address: settings?.mailFromAddress ?? 'bell@early-bell.invalid'
    };
  };
  const key = () => stores.actLinks.key();
  const ways =
    channels ??
    openChannels({
      ...{ setUp, sender, reach: new OutgoingReach(inside ?? []) },
      stopLink: (readerId, kinds) => `${origin}/mail/${stopToken(key(), { readerId, kinds: [...kinds] })}`,
      receipts: () => `${origin}/receipts/text/${stores.secrets.made('receipts')}`,
      shortLink: ({ id, notices, readerId, link }) =>
        notices > 0 && readerId > 0 ? `${origin}/t/${textToken(key(), id)}` : link,
      tellPages: (readerId) => live.tellNotice(readerId)
    });
  const pace = new Pace((channel) => setUp.rate(channel));
  return new Outbox(work, stores, clock, ways, pace, chance ?? Math.random, onFault);
}

/** What can be done by the links in messages, without signing in. */
export function messageLinks(
  of: Workspace,
  words: Words,
  {
    tasks,
    quiet,
    handRings,
    promises,
    undo,
    people
  }: {
    tasks: TaskService;
    quiet: QuietService;
    handRings: HandRings;
    promises: Promises;
    undo: UndoService;
    people: PeopleService;
  }
) {
  return {
    actLinks: new ActLinks(of, tasks, quiet, handRings, promises, undo),
    textLinks: new TextLinks(of, words),
    mailStops: new MailStops(of, people)
  };
}

/** Everything about tasks and projects. */
export function workServices(
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
    quickAdd: new QuickAdd(stores, source, clock, tasks),
    projects: new ProjectService(stores, committer),
    fields: new FieldService(stores, committer),
    savedLists: new SavedListService(stores, committer)
  };
}

/** A demo goes on where its clock was left; a new one starts where it is told. While it was shut its clock stood still. */
export function startOfDemoClock(
  stores: Stores,
  machine: MachineClock,
  startAtMs: number | undefined
): ClockState {
  const kept = stores.engineState.read<ClockState>('clock');
  if (kept) return { ...kept, machineMs: machine.now() };
  return { workspaceMs: startAtMs ?? machine.now(), machineMs: machine.now(), running: true };
}

/** Open pages hear of what their people see, while their session lasts. */
export function liveUpdates(stores: Stores, auth: Auth): LiveUpdates {
  const live = new LiveUpdates({
    isOpen: (session) => auth.personOf(session) !== null,
    sees: (personId, taskIds) => {
      const person = stores.people.byId(personId);
      return person !== null && stores.tasks.seen([...taskIds], sightOf(person, stores)).size > 0;
    }
  });
  auth.onEnded(() => live.review());
  return live;
}

/** What is asked of every change before it stands: who comes in by it, and which rules fail by it. */
export function guardsOf(stores: Stores, outbox: Outbox, engine: Engine) {
  return {
    accountGuard: new AccountGuard(stores, outbox),
    watchman: new RuleWatchman(stores, engine.keeper)
  };
}

/** Seals what is not yet; what stood open is overwritten in the file. @returns what no key here opens: it has to be given again */
function sealSecrets(db: Db, work: UnitOfWork, stores: Stores): string[] {
  db.pragma('secure_delete = ON');
  const closed = work.run(() => stores.secrets.sealAll());
  db.pragma('secure_delete = OFF');
  return closed;
}
