import { CHANNEL, type ChannelName } from '../../core/channel/channels.ts';
import { DIGEST_PARTS } from '../../core/digest/model.ts';
import { digestWays, whyNoDigest } from '../../core/digest/reach.ts';
import { digestReaders } from '../../core/digest/readers.ts';
import { digestSchedule, nextOwnDigest, nextScheduled, type OwnDigest } from '../../core/digest/when.ts';
import { CodedError } from '../../core/errors.ts';
import type { PersonFacts } from '../../core/forecast/facts/facts.ts';
import type { PlannedNotice } from '../../core/forecast/plan/planned-notice.ts';
import { groupBy } from '../../core/group-by.ts';
import { ifComputable } from '../../core/if-computable.ts';
import { MS_PER_DAY, formatDay } from '../../core/time/day.ts';
import { clockTime, shortDay } from '../../core/time/format.ts';
import type { InstantMs } from '../../core/time/zone.ts';
import type { ToldChange, ToldEffect, ToldLine, ToldWeek } from '../../view/told.ts';
import type { Digest } from '../store/digests.ts';
import type { NoticeRecord } from '../store/notices.ts';
import { nameFor } from '../../view/bell-view.ts';
import type { Mark } from '../store/since.ts';
import type { ForecastService } from '../tower/forecasts.ts';
import type { SignedIn } from '../workspace/signed-in.ts';
import type { Workspace } from '../workspace/workspace.ts';
import { doToldAct, type ToldAct, type ToldServices } from './told-acts.ts';

/** What is asked for these views. */
export type ToldViewServices = Workspace & { forecasts: ForecastService };

/** How far ahead is looked. */
const DAYS = 7;
/** So many are listed; the rest are counted. */
const LISTED = 40;

/** What comes to somebody in the next seven days, as things stand. */
export function toldWeek(app: ToldViewServices, who: SignedIn): ToldWeek {
  const lines = linesOf(app, who);
  return { lines: lines.slice(0, LISTED), count: lines.length };
}

/**
 * What a change of what somebody is told would do to those days: it is made as it will be, looked at, and taken back.
 * @throws CodedError whatever keeps it from being made
 */
export function toldEffect(app: ToldViewServices & ToldServices, who: SignedIn, act: ToldAct): ToldEffect {
  const { stores, work, engine } = app;
  const actor = { ...who.actor, personId: who.person.id };
  return work.tryOut(() => {
    // What is due anyway is not because of it.
    engine.settle();
    const before = linesOf(app, who);
    const mark = stores.since.mark();
    doToldAct(app, actor, who.zone, act);
    const isMine = ({ readerId, recipientId }: NoticeRecord) =>
      [readerId, recipientId].includes(who.person.id);
    const waiting = stores.notices.waiting().filter(isMine);
    const mine = stores.heldBy.tasks(who.person.id).map(({ id }) => id);
    const besides = stores.heldBy.ownedBesides(who.person.id).map(({ of }) => of);
    // What concerns everybody’s tasks is looked at for those that are theirs, or of which they are told.
    const told = [...before, ...waiting].flatMap(({ taskId }) => taskId ?? []);
    stores.plan.onlyOf([...new Set([...mine, ...besides, ...told])]);
    engine.settle();
    return compared(before, linesOf(app, who), leftSince(app, who, mark));
  });
}

/** Tasks of which they are told at once, because of a change that was tried, by id, with their names. */
function leftSince(
  { stores }: ToldViewServices,
  { person, viewer, sight }: SignedIn,
  mark: Mark
): Map<number, string> {
  const queued = stores.since.queued(mark).filter(({ readerIds }) => readerIds.includes(person.id));
  const seen = stores.tasks.seen([...new Set(queued.flatMap(({ taskIds }) => taskIds))], sight);
  const tasks = stores.tasks.byIds([...seen]);
  return new Map([...tasks.values()].map((task) => [task.id, nameFor(task, viewer)]));
}

function linesOf(app: ToldViewServices, { person, viewer, sight }: SignedIn): ToldLine[] {
  const facts = app.source.facts.people.get(person.id);
  if (!facts) throw new CodedError('person-gone');
  const now = app.clock.now();
  const until = now + DAYS * MS_PER_DAY;
  const told = app.forecasts.toldTo(person.id, now, until, viewer);
  const seen = app.stores.tasks.seen([...new Set(told.map(({ notice }) => notice.taskId))], sight);
  const notices = told
    .filter(({ notice }) => seen.has(notice.taskId))
    .map(({ notice, bell, ways, isSetOff }): ToldLine => ({
      key: noticeKey(notice, isSetOff),
      ...timeOf(notice.leavesAt, facts, now),
      kind: bell.kind,
      what: bell.taskName,
      taskId: bell.taskId,
      rule: bell.ruleName,
      by: notice.folded ? 'with your digest' : waysWords(ways),
      why: bell.why
    }));
  const digests = app.source
    .digests()
    .filter((digest) => isReader(app, digest, person.id))
    .flatMap((digest) => digestLines(app, digest, facts, now, until));
  return [...notices, ...digests].sort((a, b) => a.atMs - b.atMs);
}

function digestLines(
  app: ToldViewServices,
  digest: Digest,
  person: PersonFacts,
  now: InstantMs,
  until: InstantMs
): ToldLine[] {
  const coming = digestTimes(app, digest, person, now, until);
  return [...groupBy(coming, ({ at }) => person.zone.dayOf(at)).values()].flatMap((ofDay) =>
    ofDay.map(({ at, parts }, nth): ToldLine => {
      const time = timeOf(at, person, now);
      return {
        // The first of a day stays the first, whenever it comes.
        key: `digest ${digest.id} ${time.date} ${nth}`,
        ...time,
        ...{ kind: 'digest', what: digest.name, taskId: null, rule: null },
        by: waysWords(digestWays(person, parts).map(({ channel }) => channel)),
        why: ['It leaves if there is something to say.']
      };
    })
  );
}

/** The same before and after a change: a repeat by its number, what happens by the instant at which it does. */
function noticeKey(notice: PlannedNotice, isSetOff: boolean): string {
  const { ruleId, leadId, ordinal, stepId, taskId, recipientId, ringAt } = notice;
  return [ruleId, leadId, isSetOff ? `at ${ringAt}` : ordinal, stepId, taskId, recipientId].join('/');
}

function timeOf(
  at: InstantMs,
  { zone }: PersonFacts,
  now: InstantMs
): Pick<ToldLine, 'atMs' | 'date' | 'day' | 'time'> {
  const day = zone.dayOf(at);
  return {
    atMs: at,
    date: formatDay(day),
    day: shortDay(day, zone.dayOf(now)),
    time: clockTime(at, zone)
  };
}

function waysWords(ways: readonly ChannelName[]): string {
  return ways.map((channel) => CHANNEL[channel].words).join(', ') || 'no channel reaches you';
}

/** Whether somebody reads a digest. */
export function isReader({ source }: ToldViewServices, digest: Digest, personId: number): boolean {
  return digestReaders(digest.definition, source.facts, digest.keeperId).some(({ id }) => id === personId);
}

/** When a digest leaves for somebody in `(from, until]`, while they are sent any; none where that cannot be computed. */
export function digestTimes(
  { source }: ToldViewServices,
  { definition: { when } }: Digest,
  person: PersonFacts,
  from: InstantMs,
  until: InstantMs
): OwnDigest[] {
  const { workspace } = source.facts;
  const nextAfter = (after: InstantMs): OwnDigest | null => {
    if (when.by === 'own hours') return nextOwnDigest(after, person);
    const at = ifComputable(
      () => nextScheduled(after, digestSchedule(when, workspace.zone), workspace.calendar),
      null
    );
    return at === null ? null : { at, parts: DIGEST_PARTS };
  };
  const coming: OwnDigest[] = [];
  for (let next = nextAfter(from); next !== null && next.at <= until; next = nextAfter(next.at))
    if (whyNoDigest(person, next.at, source.facts) === null) coming.push(next);
  return coming;
}

function compared(
  before: readonly ToldLine[],
  after: readonly ToldLine[],
  leftNow: ReadonlyMap<number, string>
): ToldEffect {
  const said = new Set<number | null>();
  const effect: ToldEffect = {
    ...{ moved: [], added: [], gone: [], otherWay: [] },
    counts: { moved: 0, added: 0, gone: 0, otherWay: 0, same: 0 }
  };
  const add = (kind: 'moved' | 'added' | 'gone' | 'otherWay', change: ToldChange) => {
    effect.counts[kind]++;
    if (effect[kind].length < LISTED) effect[kind].push(change);
  };
  const changeOf = (line: ToldLine, was: string | null, is: string | null): ToldChange => {
    const { key, kind, what, rule } = line;
    return { key, kind, what, rule, before: was, after: is };
  };
  const when = ({ day, time }: ToldLine) => `${day}, ${time}`;
  const is = new Map(after.map((line) => [line.key, line]));
  for (const line of before) {
    const then = is.get(line.key);
    is.delete(line.key);
    if (!then) {
      const isNow = line.taskId !== null && leftNow.has(line.taskId);
      if (isNow) said.add(line.taskId);
      add(isNow ? 'moved' : 'gone', changeOf(line, when(line), isNow ? 'now' : null));
    } else if (then.atMs !== line.atMs) add('moved', changeOf(line, when(line), when(then)));
    else if (then.by !== line.by) add('otherWay', changeOf(line, line.by, then.by));
    else effect.counts.same++;
  }
  // What had waited for longer than these days.
  for (const [id, what] of leftNow)
    if (!said.has(id))
      add('added', { key: `now ${id}`, kind: 'held', what, rule: null, before: null, after: 'now' });
  for (const line of is.values()) add('added', changeOf(line, null, when(line)));
  return effect;
}
