/** What messages say, how they leave, and who hears of those that do not arrive. */

import { TOKEN_OF_A_COPY } from '../engine/act-tokens.ts';
import { ReturnedMail } from '../channel/returned-mail.ts';
import { openChannels } from '../channel/all.ts';
import { ChannelHealth } from '../outbox/health.ts';
import { whyNoMail } from '../channel/mail.ts';
import { OutgoingReach } from '../channel/reach.ts';
import { ChannelSetUp } from '../channel/set-up.ts';
import { WorkspaceClock } from '../engine/clock.ts';
import { isMachineFault } from '../db/machine-fault.ts';
import { DigestMaker } from '../engine/digest-maker.ts';
import { Engine } from '../engine/engine.ts';
import { FactsSource } from '../engine/facts-source.ts';
import { Words } from '../engine/words.ts';
import { writeDates, writeTable } from '../in-out/write/message-files.ts';
import { Outbox } from '../outbox/outbox.ts';
import { Pace } from '../outbox/pace.ts';
import { ForecastService } from '../tower/forecasts.ts';
import { HandRings } from '../rule/hand-rings.ts';
import { LiveUpdates } from '../workspace/live.ts';
import { PeopleService } from '../person/people.ts';
import { Promises } from '../task/promises.ts';
import { QuietService } from '../rule/quiet.ts';
import type { ProjectService } from '../project/projects.ts';
import type { TaskActs } from '../task/task-acts.ts';
import { TaskService } from '../task/tasks.ts';
import { UndoService } from '../record/undo.ts';
import { UnitOfWork } from '../db/unit-of-work.ts';
import { ActLinks } from '../message/act-links.ts';
import { MailStops } from '../message/mail-stops.ts';
import { TextLinks } from '../message/text-links.ts';
import { textToken } from '../engine/text-tokens.ts';
import { stopToken } from '../engine/stop-tokens.ts';
import type { DeadEndRecord } from '../store/dead-ends.ts';
import { Meters } from '../meters.ts';
import { type Stores } from '../store/all.ts';
import type { ContainerOptions } from '../options.ts';
import { PostRoom } from '../message/post-room.ts';
import { BeginService } from '../settings/begin.ts';
import { SampleService } from '../settings/sample.ts';
import { ChannelTest } from '../settings/channel-test.ts';
import type { Committer } from '../workspace/commit.ts';
import type { Workspace } from '../workspace/workspace.ts';

/** What channels talk to: as it is set, else as the server was started with. */
export function channelsOf(stores: Stores, { mail, text, chat }: ContainerOptions): ChannelSetUp {
  return new ChannelSetUp(stores, { mail, text: text ?? null, chat: chat ?? null });
}

/** Whether messages can leave: it hears of every attempt, and tries for itself. */
export function healthOf(
  setUp: ChannelSetUp,
  { inside, channels }: ContainerOptions,
  { machine }: WorkspaceClock,
  onFault: (error: unknown) => void
): ChannelHealth {
  const reach = new OutgoingReach(inside ?? []);
  // Where other channels were handed in, as for what is only looked at, there is no server to be tried.
  const why = (signal: AbortSignal) =>
    channels ? Promise.resolve(null) : whyNoMail(setUp.mailRoutes(), reach, signal);
  return new ChannelHealth(setUp, machine, why, onFault);
}

export const linkOfRule =
  ({ origin }: ContainerOptions) =>
  (id: number) =>
    `${origin}/rules/${id}`;

/** The words of messages and digests, whose links lead here. */
export function wordsFor({ origin }: ContainerOptions, stores: Stores, source: FactsSource) {
  const links = {
    task: (id: number) => `${origin}/tasks/${id}`,
    list: () => `${origin}/tasks`,
    digestTimes: (id: number) => `${origin}/people/${id}#digest-times`,
    act: (token: string | null) => `${origin}/act/${token ?? TOKEN_OF_A_COPY}`
  };
  const files = { table: writeTable, dates: writeDates };
  const words = new Words(stores, source, links, files);
  return { words, digests: new DigestMaker(stores, source, words, links, files) };
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

/** What tries whether messages leave and reads those that stay here, and what a workspace begins with. */
export function sendingServices(
  of: Workspace & { outbox: Outbox; tasks: TaskService; taskActs: TaskActs; projects: ProjectService },
  committer: Committer,
  health: ChannelHealth,
  options: ContainerOptions
) {
  return {
    health,
    channelTest: new ChannelTest({ ...of, health }),
    begin: new BeginService(of, committer, health),
    sample: new SampleService(of, committer, of),
    postRoom: new PostRoom(options.postRoom ?? {})
  };
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

/** What counts, and what hears of messages that reached nobody. */
export function watchOver(
  work: UnitOfWork,
  engine: Engine,
  outbox: Outbox,
  stores: Stores,
  clock: WorkspaceClock,
  forecasts: ForecastService,
  health: ChannelHealth,
  onFault: (error: unknown) => void
) {
  engine.rush.attach((until) => forecasts.countByRule(until));
  const meters = new Meters(stores, clock, () => engine.nextInstant());
  engine.attachMeter((kind, ms) => meters.slice(kind, ms));
  outbox.attachMeter((channel, outcome) => {
    meters.attempt(channel, outcome?.kind ?? 'cut off');
    health.note(channel, outcome);
  });
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
