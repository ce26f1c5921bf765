import { groupBy } from '../../core/group-by.ts';
import { waysFor, type Way } from '../../core/channel/ways.ts';
import { KINDS, type TellingKind } from '../../core/notice/kinds.ts';
import type { PersonFacts, TaskFacts } from '../../core/forecast/facts/facts.ts';
import { isOutside } from '../../core/forecast/facts/facts.ts';
import { ownersOf } from '../../core/forecast/facts/recipients.ts';
import type { RuleFacts } from '../../core/forecast/facts/compile-rule.ts';
import {
  composeMessage,
  composeTable,
  type ComposedMessage,
  type MessageFacts
} from '../../core/message/compose.ts';
import { attachedFiles, type AttachedFile, type FileWriters } from '../../core/message/attached.ts';
import type { ActLink, LinkAct } from '../../core/message/acts.ts';
import { composeGathered, type GatheredItem } from '../../core/message/gathered.ts';
import { whyText } from '../../core/ring/why-text.ts';
import type { CompiledTell } from '../../core/rule/program.ts';
import type { Importance } from '../../core/rule/step-model.ts';
import { isOpen } from '../../core/task/model.ts';
import { longMoment } from '../../core/time/format.ts';
import type { Whose } from '../../core/message/whose.ts';
import type { Zone } from '../../core/time/zone.ts';
import { actToken } from './act-tokens.ts';
import { messageIdOf } from '../outbox/message-id.ts';
import type { Stores } from '../store/all.ts';
import type { NoticeRecord } from '../store/notices.ts';
import type { Addressee } from '../store/outbox.ts';
import { toMoment } from '../store/task-row.ts';
import type { FactsSource } from './facts-source.ts';

/** Where a message leads. */
export interface Links {
  task(taskId: number): string;
  list(): string;
  /** Where somebody sets when digests come to them. */
  digestTimes(personId: number): string;
  /** @param token null for a message that is only looked at: the link does nothing then */
  act(token: string | null): string;
}

/** A message as it is queued. */
export interface Composed extends ComposedMessage {
  /** Where it leads, for channels that carry one link. */
  link: string;
  importance: Importance;
  attachments: AttachedFile[];
}

/** A notice with what its words are made of. */
export interface Said {
  notice: Pick<
    NoticeRecord,
    'taskId' | 'recipientId' | 'readerId' | 'leavesAt' | 'copied' | 'kind' | 'why'
  > & {
    /** Absent in a forecast: there is no notice yet that something could be done about. */
    id?: number;
  };
  rule: RuleFacts;
  tell: CompiledTell;
  task: TaskFacts;
}

/** Computes the words of messages at the instant at which they leave, and queues them. */
export class Words {
  readonly #stores: Stores;
  readonly #source: FactsSource;
  readonly #links: Links;
  readonly #files: FileWriters;

  constructor(stores: Stores, source: FactsSource, links: Links, files: FileWriters) {
    this.#stores = stores;
    this.#source = source;
    this.#links = links;
    this.#files = files;
  }

  /** The notices of one message: one task in the words of its Tell, several as a table, with what other rules say of the same. */
  send(notices: readonly NoticeRecord[], reader: PersonFacts): void {
    const said = notices.map((notice) => this.#said(notice));
    const key = notices.length === 1 ? 'mail' : 'mail, several';
    this.#queue(notices, reader, this.compose(said, { name: reader.name, zone: reader.zone }), key);
  }

  /** Several messages of one reader as one. */
  sendGathered(notices: readonly NoticeRecord[], reader: PersonFacts, why: string): void {
    if (notices.length === 1) return this.send(notices, reader);
    const said = notices.map((notice) => this.#said(notice));
    this.#queue(notices, reader, this.composeGathered(said, reader, why), 'mail, gathered');
  }

  /** Notices as they stand among others, each by its subject. */
  items(notices: readonly NoticeRecord[], reader: PersonFacts): GatheredItem[] {
    return notices.map((notice) => this.#item(this.#said(notice), reader));
  }

  #item(said: Said, reader: PersonFacts): GatheredItem {
    const { notice } = said;
    const { subject } = this.compose([said], { name: reader.name, zone: reader.zone });
    const instead = this.#inPlaceOf(notice, reader, notice.leavesAt!);
    const reason = `${instead === null ? '' : `Stand-in for ${instead}. `}${this.#reason(said, reader)}`;
    const acts = this.#acts(said, reader);
    const whose = whoseFor(said.task, reader);
    const last = notice.why.at(-1);
    const decided = last && !isOutside(reader) ? whyText(last) : reason;
    const { name: ruleName } = said.rule;
    return { subject, link: this.#linkFor(said, reader), ruleName, reason, decided, whose, acts };
  }

  /** Several messages as one, each by its subject. */
  composeGathered(all: readonly Said[], reader: PersonFacts, why: string): Composed {
    const items = all.map((said) => this.#item(said, reader));
    return {
      ...composeGathered(reader.name, items, why),
      link: this.#links.list(),
      importance: importanceOf(all),
      attachments: []
    };
  }

  /** One message to all recipients together, in the workspace's zone. */
  sendToAll(notices: readonly NoticeRecord[]): void {
    const { people, workspace } = this.#source.facts;
    const readers = [...new Set(notices.map(({ readerId }) => readerId))].flatMap(
      (id) => people.get(id) ?? []
    );
    const tasks = new Map(notices.map((notice) => [notice.taskId, this.#said(notice)]));
    // It is to nobody in particular, so nothing in it can be done for somebody.
    const words = this.compose([...tasks.values()], { name: 'all', zone: workspace.zone }, false);
    this.#queueFor(notices, readers, words, 'mail, together');
  }

  /**
   * What a message about some tasks says to a reader. Notices about the same task stand in one row, with both reasons.
   * @param withActs whether its reader can do something about a task by a link in it
   */
  compose(said: readonly Said[], reader: { name: string; zone: Zone }, withActs = true): Composed {
    const first = said[0]!;
    const byTask = groupBy(said, ({ task }) => task.id);
    const facts = [...byTask.values()].map((group) => this.#messageFacts(group, reader, withActs));
    const names = [...new Set(said.map(({ rule }) => rule.name))].join('” and “');
    const { step } = first.tell;
    const words =
      facts.length === 1
        ? composeMessage(step.subject, step.body, names, facts[0]!)
        : composeTable(step.several, step.columns, names, facts, this.#links.list());
    const link = facts.length === 1 ? facts[0]!.link : this.#links.list();
    const attachments = attachedFiles(step, facts, this.#files, facts[0]!.leavesAt);
    return { ...words, link, importance: importanceOf(said), attachments };
  }

  /** What the words about one task are made of; several notices of it by several rules give their reasons together. */
  #messageFacts(
    said: readonly Said[],
    reader: { name: string; zone: Zone },
    withActs: boolean
  ): MessageFacts {
    const { notice, task } = said[0]!;
    const person = this.#source.facts.people.get(notice.readerId)!;
    return {
      ...taskOfMessage(this.#stores, this.#source, task),
      reader,
      // What is to several at once is nobody’s own, and says whose it is.
      whose: withActs || isOutside(person) ? whoseFor(task, person) : 'other',
      leavesAt: notice.leavesAt!,
      workdaysLate: this.#source.planner.dates.workingDaysOverdue(task, notice.leavesAt!),
      inPlaceOf: this.#inPlaceOf(notice, person, notice.leavesAt!),
      link: this.#linkFor(said[0]!, person),
      acts: withActs ? this.#acts(said[0]!, person) : [],
      reason: said.map((one) => this.#reason(one, person)).join(' ')
    };
  }

  /** Outside people have no way in, so nothing leads them there, and why it came is nobody else's matter. */
  #linkFor({ task }: Said, reader: PersonFacts): string {
    return isOutside(reader) ? '' : this.#links.task(task.id);
  }

  /** What its reader can do by a link, without signing in: answer what is asked; for one's own task, that it is done or has another date. */
  #acts({ notice, rule, tell, task }: Said, reader: PersonFacts): ActLink[] {
    if (isOutside(reader) || notice.copied !== 'to') return [];
    const owns = whoseFor(task, reader) === 'own';
    const acts: LinkAct[] = asks(rule, tell)
      ? ['yes', 'no', 'change']
      : [
          ...(owns && !task.register && isOpen(task.phase) ? (['done'] as const) : []),
          ...(owns && KINDS[notice.kind].canBeAcknowledged && isOpen(task.phase)
            ? (['promise'] as const)
            : []),
          ...(owns ? (['date'] as const) : []),
          ...(notice.recipientId === reader.id ? (['later'] as const) : [])
        ];
    return acts.map((act) => ({ act, link: this.#links.act(this.#token(notice, act)) }));
  }

  #token({ id, leavesAt }: Said['notice'], act: LinkAct): string | null {
    return id === undefined ? null : actToken(this.#stores.actLinks.key(), id, act, leavesAt!);
  }

  #reason({ notice }: Said, reader: PersonFacts): string {
    if (isOutside(reader)) return '';
    const copy = notice.copied === 'to' ? '' : 'This is a copy. ';
    return copy + notice.why.map(whyText).join(' ');
  }

  #said(notice: NoticeRecord): Said {
    const run = this.#stores.runs.ofRing(notice.ringId);
    const live = this.#source.live(notice.ruleId)!.facts;
    const rule =
      (run && !live.ofTask ? this.#source.ruleOfVersion(notice.ruleId, run.versionId) : null) ?? live;
    const tell = rule.program.tells.get(notice.stepId)!;
    return { notice, rule, tell, task: this.#stores.tasks.factsOf(notice.taskId)! };
  }

  #queue(notices: readonly NoticeRecord[], reader: PersonFacts, words: Composed, key: string): void {
    this.#queueFor(notices, [reader], words, key);
  }

  #queueFor(
    notices: readonly NoticeRecord[],
    readers: readonly PersonFacts[],
    words: Composed,
    key: string
  ): void {
    const [first] = notices;
    const messageId = messageIdOf(first!, key, this.#stores.settings.workspace()?.mailFromAddress ?? '');
    this.#stores.outbox.queue(
      {
        readerId: readers[0]!.id,
        messageId,
        leavesAt: first!.leavesAt!,
        kinds: this.#kindsOf(notices),
        ...words
      },
      notices.map(({ id }) => id),
      readers.flatMap((reader) => this.#waysOf(notices, reader))
    );
    for (const notice of notices) this.#stores.notices.end(notice, 'sending', null, null);
  }

  /** Of which kinds a message is; of what a rule insists on sending by mail nobody can stop it. */
  #kindsOf(notices: readonly NoticeRecord[]): TellingKind[] {
    const left = notices.filter((notice) => this.#said(notice).tell.step.channels === null);
    return [...new Set(left.map(({ kind }) => kind))];
  }

  /** Every way that one of its notices goes by. */
  #waysOf(notices: readonly NoticeRecord[], reader: PersonFacts): Addressee[] {
    const ways = new Map<string, Way>();
    for (const notice of notices) {
      if (notice.readerId !== reader.id) continue;
      const { step } = this.#said(notice).tell;
      for (const way of waysFor(reader, notice.kind, step.channels)) ways.set(way.channel, way);
    }
    return [...ways.values()].map((way) => ({ readerId: reader.id, ...way }));
  }

  /** Whom a message was meant for, where somebody else reads it, and when they are back. */
  #inPlaceOf(notice: Said['notice'], reader: PersonFacts, leavesAt: number): string | null {
    const intended = this.#source.facts.people.get(notice.recipientId);
    if (!intended || intended.id === reader.id) return null;
    const back = intended.leave.endOf(leavesAt);
    return Number.isNaN(back)
      ? intended.name
      : `${intended.name}, who is on leave until ${longMoment(back, intended.zone)} there`;
  }
}

/** What a message says of a task, whoever reads it. */
function taskOfMessage(
  stores: Stores,
  { planner, facts }: FactsSource,
  task: TaskFacts
): Pick<MessageFacts, 'task' | 'projectName' | 'ownerName' | 'dueAt' | 'pinnedTo' | 'startAt'> {
  const { name, due, start, priority, status, description } = stores.tasks.byId(task.id)!;
  return {
    task: {
      ...{ id: task.id, name, priority, status, description },
      due: due && toMoment(due),
      start: start && toMoment(start)
    },
    projectName: task.projectId === null ? null : (facts.projects.get(task.projectId)?.name ?? null),
    ownerName: task.ownerId === null ? null : (facts.people.get(task.ownerId)?.name ?? null),
    dueAt: planner.dates.momentOf('due', task),
    pinnedTo: planner.dates.pinnedTo(task),
    startAt: planner.dates.momentOf('start', task)
  };
}

/** Whose work a task is, as a reader sees it. */
export function whoseFor(task: TaskFacts, reader: PersonFacts): Whose {
  if (isOutside(reader)) return 'unsaid';
  return ownersOf(task).includes(reader.id) ? 'own' : 'other';
}

/** A message that holds one of high importance is of high importance. */
function importanceOf(said: readonly Said[]): Importance {
  return said.some(({ tell }) => tell.step.importance === 'high') ? 'high' : 'ordinary';
}

/** Whether a Tell is the question that stands before a change, not one of the rule's own. */
function asks({ program }: RuleFacts, { step }: CompiledTell): boolean {
  return program.instructions.some((one) => one.do === 'act' && one.step.id === step.id);
}
