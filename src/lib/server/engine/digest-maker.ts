import { shortDay } from '../../core/time/format.ts';
import { Planner } from '../../core/forecast/plan/planner.ts';
import { isOutside, type PersonFacts } from '../../core/forecast/facts/facts.ts';
import { composeDigest } from '../../core/digest/compose.ts';
import { shownRows, type WrittenRow, type WrittenSection } from '../../core/digest/written.ts';
import {
  DigestTasks,
  digestContents,
  digestListed,
  digestWatch,
  isEmpty,
  type DigestContents,
  type DigestDetails,
  type SectionRows
} from '../../core/digest/contents.ts';
import type { DigestRow } from '../../core/digest/row.ts';
import type { DigestDefinition, DigestPart } from '../../core/digest/model.ts';
import { numbersOf, type RollUpBefore } from '../../core/digest/roll-up.ts';
import { attachedFiles, type AttachedFile, type FileWriters } from '../../core/message/attached.ts';
import type { ActLink } from '../../core/message/acts.ts';
import type { GatheredItem } from '../../core/message/gathered.ts';
import type { MessageFacts } from '../../core/message/compose.ts';
import { ownersOf } from '../../core/forecast/facts/recipients.ts';
import { digestWhenWords } from '../../core/digest/when.ts';
import { isOpen } from '../../core/task/model.ts';
import { NO_DETAILS } from '../../core/task/details.ts';
import { MS_PER_DAY } from '../../core/time/day.ts';
import type { Stores } from '../store/all.ts';
import type { Digest, DigestStages } from '../store/digests.ts';
import type { NoticeRecord } from '../store/notices.ts';
import { digestTokens, type DigestAct } from './act-tokens.ts';
import type { FactsSource } from './facts-source.ts';
import type { Composed, Links, Words } from './words.ts';

/** Before the first has left, what is new counts from so long ago at most. */
const FIRST_REACH_MS = 7 * MS_PER_DAY;

/** Which digest, for whom, at which instant. */
export interface DigestAsk {
  digest: Digest;
  /** Null where it is to all of its readers together. */
  reader: PersonFacts | null;
  parts: readonly DigestPart[];
  at: number;
  /** Notices of the reader that were kept to come with it. */
  kept: readonly NoticeRecord[];
  /** What its links belong to; null where it is only looked at. */
  runId: number | null;
  /** Who looks at it beforehand, and reads no other person’s private task; null where it is sent. */
  viewerId: number | null;
}

/** A digest as it would leave. */
export interface MadeDigest {
  contents: DigestContents;
  message: Composed;
  stages: Omit<DigestStages, 'readers'>;
  numbers: RollUpBefore | null;
  isEmpty: boolean;
}

/** What all rows of a digest are written with. */
interface Writing {
  /** Null where it is to all together. */
  readerId: number | null;
  /** Whose private tasks are named in it. */
  seenBy: number | null;
  as: MessageFacts['reader'];
  at: number;
  /** Of the links of a task; null where it is only looked at. */
  tokensOf: ReturnType<typeof digestTokens> | null;
}

/** What was read for the digests of an instant. */
interface ReadTasks {
  /** By what it is known to be of the present. */
  changes: number;
  of: Planner;
  whole: boolean;
  tasks: DigestTasks;
  planner: Planner;
  detailsOf: (taskId: number) => DigestDetails;
  /** Names of statuses. */
  statuses: ReadonlyMap<number, string>;
}

/** Computes what a digest says and writes its words, for the engine as for whoever looks at it beforehand. */
export class DigestMaker {
  readonly #stores: Stores;
  readonly #source: FactsSource;
  readonly #words: Words;
  readonly #links: Links;
  readonly #files: FileWriters;
  #known: ReadTasks | null = null;

  constructor(stores: Stores, source: FactsSource, words: Words, links: Links, files: FileWriters) {
    this.#stores = stores;
    this.#source = source;
    this.#words = words;
    this.#links = links;
    this.#files = files;
  }

  make(ask: DigestAsk): MadeDigest {
    const { digest, reader, parts, at, kept } = ask;
    const { definition } = digest;
    const watch = digestWatch(definition, this.#source.facts);
    const listed = digestListed(definition, this.#source.facts);
    const { tasks, planner, detailsOf, statuses } = this.#read(watch.asks || (listed?.list.asks ?? false));
    const writing = this.#writing(ask);
    const last = (part: DigestPart) => this.#stores.digests.lastSent(digest.id, reader?.id ?? 0, part, at);
    const known = parts.map(last).filter((one) => one !== null);
    const contents = digestContents(planner, tasks, {
      definition,
      ...{ watch, listed, detailsOf, statuses },
      seenBy: writing.seenBy,
      ...{ reader, parts, at },
      since: last('due')?.at ?? Math.max(digest.onAt ?? 0, at - FIRST_REACH_MS),
      before: known.reduce<RollUpBefore | null>((newest, { numbers }) => newest ?? numbers, null)
    });
    const shown = shownRows(contents.sections.map(({ rows }) => rows.length));
    const written = contents.sections.map(({ section, rows, groups }, i): WrittenSection => ({
      ...{ section, groups },
      rows: rows.slice(0, shown[i]).map((row) => this.#written(row, writing)),
      count: rows.length
    }));
    const items = reader ? this.#keptItems(kept, reader, writing) : [];
    const words = composeDigest({
      ...{ name: digest.name, readerName: reader?.name ?? null },
      ...{ subject: definition.subject, opening: definition.opening },
      nextUntil: contents.nextUntil === null ? null : shortDay(contents.nextUntil, writing.as.zone.dayOf(at)),
      ...{ sections: written, counts: contents.counts, rollUp: contents.rollUp, kept: items },
      listName: this.#listName(definition),
      ...{ nextWorkingDays: definition.nextWorkingDays, columns: definition.columns },
      listLink: this.#links.list(),
      reason: this.#reason(digest),
      timesLink:
        reader && !isOutside(reader) && definition.when.by === 'own hours'
          ? this.#links.digestTimes(reader.id)
          : null
    });
    return {
      contents,
      message: {
        ...words,
        link: this.#links.list(),
        importance: definition.importance,
        attachments: this.#attached(definition, contents.sections, writing)
      },
      stages: {
        looked: contents.looked,
        found: contents.counts.all,
        // A task that stands in a table beside its section is one.
        shown: new Set(
          contents.sections.flatMap(({ rows }, i) => rows.slice(0, shown[i]).map(({ task }) => task.id))
        ).size,
        kept: kept.length
      },
      numbers: contents.rollUp && numbersOf(contents.rollUp),
      isEmpty: isEmpty(contents, kept.length)
    };
  }

  /**
   * Every task with what digests ask of it, read once until something has changed: many digests leave at one instant.
   * @param whole whether the digest’s Watch asks more
   */
  #read(whole: boolean): ReadTasks {
    const { planner, changes } = this.#source;
    const known = this.#known;
    if (known?.changes === changes && known.of === planner && (known.whole || !whole)) return known;
    const details = whole ? this.#source.whole.details() : null;
    const read = details ? null : this.#stores.taskDetails.forDigests();
    return (this.#known = {
      ...{ changes, of: planner, whole },
      tasks: new DigestTasks(this.#source.whole.tasks()),
      planner: whole ? this.#withDetails(planner) : planner,
      detailsOf: read ?? ((id) => details?.get(id) ?? NO_DETAILS),
      statuses: new Map(this.#stores.projects.statuses().map(({ id, name }) => [id, name]))
    });
  }

  /** A planner that asks conditions of what was read at once. */
  #withDetails(planner: Planner): Planner {
    const details = this.#source.whole.details();
    const facts = { ...planner.facts, detailsOf: (id: number) => details.get(id) ?? NO_DETAILS };
    return new Planner(facts, this.#source.history);
  }

  /** Nothing is kept that was read: digests of an instant have left. */
  forget(): void {
    this.#known = null;
  }

  #writing({ reader, at, runId, viewerId }: DigestAsk): Writing {
    const zone = reader?.zone ?? this.#source.facts.workspace.zone;
    const tokensOf = runId === null ? null : digestTokens(this.#stores.actLinks.key(), runId, at);
    const readerId = reader?.id ?? null;
    const as = { name: reader?.name ?? 'all', zone };
    return { readerId, seenBy: viewerId ?? readerId, as, at, tokensOf };
  }

  #written({ task, workdays, dueAt }: DigestRow, writing: Writing): WrittenRow {
    const { readerId, at } = writing;
    const owns = readerId !== null && ownersOf(task).includes(readerId);
    const { planner, detailsOf, statuses } = this.#known!;
    const details = detailsOf(task.id);
    const { id, name, due, start, priority, projectId, ownerId } = task;
    const facts: MessageFacts = {
      // Written out: a hundred thousand of these are made at once.
      task: {
        id,
        name,
        due,
        start,
        priority,
        status: statuses.get(details.statusId) ?? '',
        // No column of a digest shows it.
        description: ''
      },
      projectName: projectId === null ? null : (planner.facts.projects.get(projectId)?.name ?? null),
      ownerName: ownerId === null ? null : (planner.facts.people.get(ownerId)?.name ?? null),
      dueAt,
      pinnedTo: planner.dates.pinnedTo(task),
      startAt: planner.dates.momentOf('start', task),
      reader: writing.as,
      whose: owns ? 'own' : 'other',
      leavesAt: at,
      inPlaceOf: null,
      link: this.#links.task(id),
      acts: owns ? this.#acts(task, writing) : [],
      reason: ''
    };
    // What is seen by its owner alone counts, and has no name for others.
    if (task.private && ownerId !== writing.seenBy) {
      facts.task = { ...facts.task, name: 'a private task' };
      facts.projectName = null;
      facts.link = '';
      facts.acts = [];
    }
    const finishedAt = isOpen(task.phase) ? null : details.finishedAt;
    return { facts, workdays, finishedAt };
  }

  /** Notices that were kept to come with it, those of private tasks without a name for whoever else looks. */
  #keptItems(
    kept: readonly NoticeRecord[],
    reader: PersonFacts,
    { seenBy }: Writing
  ): readonly GatheredItem[] {
    const tasks = this.#stores.tasks.byIds(kept.map(({ taskId }) => taskId));
    return this.#words.items(kept, reader).map((item, i) => {
      const task = tasks.get(kept[i]!.taskId);
      return task?.private && task.ownerId !== seenBy
        ? { ...item, subject: 'A private task', link: '', acts: [] }
        : item;
    });
  }

  /** What the owner of a task can do about it by a press. */
  #acts({ id, phase, register }: DigestRow['task'], { tokensOf }: Writing): ActLink[] {
    if (!isOpen(phase)) return [];
    const acts: DigestAct[] = register ? ['date'] : ['done', 'date'];
    const tokens = tokensOf?.(id);
    return acts.map((act) => ({ act, link: this.#links.act(tokens?.[act] ?? null) }));
  }

  /** All rows, not those alone that stand in the message. */
  #attached(
    definition: DigestDefinition,
    sections: readonly SectionRows[],
    writing: Writing
  ): AttachedFile[] {
    if (definition.attach.length === 0) return [];
    // A task stands in a table beside its section, and once in a file.
    const rows = new Map(sections.flatMap((section) => section.rows.map((row) => [row.task.id, row])));
    const facts = [...rows.values()].map((row) => this.#written(row, writing).facts);
    return attachedFiles(definition, facts, this.#files, writing.at);
  }

  /** A list that somebody keeps to themselves has no name for others. */
  #listName({ table: { list } }: DigestDefinition): string | null {
    const known = list === null ? null : this.#stores.savedLists.byId(list);
    return known?.shared ? known.name : null;
  }

  #reason({ name, definition: { when } }: Digest): string {
    if (when.by === 'own hours')
      return `Digest “${name}”. You set its times on your page. It comes on your working days.`;
    return `Digest “${name}”, ${digestWhenWords(when)}.`;
  }
}
