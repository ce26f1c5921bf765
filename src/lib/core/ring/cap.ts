import type { InstantMs, Zone } from '../time/zone.ts';

/** A notice of one person as it comes to step 8. */
export interface Outgoing {
  id: number;
  /** The leaving instant after step 7. */
  at: InstantMs;
  /** It was put off by a hold. */
  held: boolean;
  /** Its Tell says *in the next digest*. */
  fold: boolean;
  /** Never capped or folded: urgent, must, a rung above the first, a question. */
  exempt: boolean;
  /** It is about what is over: it waits for the digest of overdue. */
  overdue: boolean;
  /** Higher comes first. */
  urgency: number;
  dueAt: InstantMs;
  rulePosition: number;
  taskId: number;
}

/** What a person's day allows. */
export interface DayLimits {
  /** The person's zone: a cap counts over their local date. */
  zone: Zone;
  /** Most messages on a date; null when there is no cap. */
  cap: number | null;
  /** Messages that have left already, by local date. */
  sentOn?: ReadonlyMap<number, number>;
  /** Gathered messages that wait already: when each leaves. What is put off to the same moment joins it. */
  waitingAt?: readonly InstantMs[];
  /** When the person's next digest for a notice leaves, after an instant; null without one. */
  nextDigest: (after: InstantMs, notice: Outgoing) => InstantMs | null;
  /** The person's next opening after an instant; NaN when there is none: then nothing is put off. */
  nextOpening: (after: InstantMs) => InstantMs;
}

/** One message: notices that leave together. */
export interface Gathered {
  at: InstantMs;
  how: 'alone' | 'gathered' | 'digest';
  /** In their order. */
  ids: number[];
}

/** Held notices of one person that open together leave as one message from this number on. */
const HELD_TOGETHER = 3;

/**
 * Step 8: the messages that one person gets. What folds waits for the next digest; three held notices or more that open together
 * are one message; what lies above the cap of its date waits for the next digest, without one for a single gathered message at the
 * next opening. Of one minute's messages the order is: urgency, due moment, rule order, task id.
 */
export function capAndFold(notices: readonly Outgoing[], limits: DayLimits): Gathered[] {
  const waiting = new Map<InstantMs, Gathered>(
    (limits.waitingAt ?? []).map((at) => [at, { at, how: 'gathered', ids: [] }])
  );
  const counted = new Set<Gathered>();
  const messages: Gathered[] = [];
  const sent = new Map(limits.sentOn);
  const leave = (at: InstantMs, how: Gathered['how'], ids: number[]) => {
    const day = limits.zone.dayOf(at);
    sent.set(day, (sent.get(day) ?? 0) + 1);
    messages.push({ at, how, ids });
  };
  const putOff = (notice: Outgoing) => {
    const digest = limits.nextDigest(notice.at, notice);
    const at = digest ?? limits.nextOpening(notice.at);
    if (Number.isNaN(at)) return leave(notice.at, 'alone', [notice.id]);
    const known = waiting.get(at);
    if (known) known.ids.push(notice.id);
    else waiting.set(at, { at, how: digest === null ? 'gathered' : 'digest', ids: [notice.id] });
  };
  const isFull = (at: InstantMs) =>
    limits.cap !== null && (sent.get(limits.zone.dayOf(at)) ?? 0) >= limits.cap;
  /** A gathered message is one of its day's messages from the moment at which it leaves. */
  const countWaiting = (until: InstantMs) => {
    for (const message of waiting.values()) {
      if (message.at > until || counted.has(message)) continue;
      counted.add(message);
      const day = limits.zone.dayOf(message.at);
      sent.set(day, (sent.get(day) ?? 0) + 1);
    }
  };
  for (const minute of minutesOf(notices)) {
    countWaiting(minute[0]!.at);
    const folding = minute.filter(({ fold, exempt }) => fold && !exempt);
    const staying = minute.filter((notice) => !folding.includes(notice));
    const opened = staying.filter(({ held, exempt }) => held && !exempt);
    const together = opened.length >= HELD_TOGETHER ? opened : [];
    folding.forEach(putOff);
    for (const notice of staying) {
      if (together.includes(notice)) {
        // The first of them stands for all in the order of the minute.
        if (notice !== together[0]) continue;
        if (isFull(notice.at)) together.forEach(putOff);
        else
          leave(
            notice.at,
            'gathered',
            together.map(({ id }) => id)
          );
      } else if (!notice.exempt && isFull(notice.at)) putOff(notice);
      else leave(notice.at, 'alone', [notice.id]);
    }
  }
  return [...waiting.values(), ...messages].filter(({ ids }) => ids.length > 0).sort((a, b) => a.at - b.at);
}

/** The notices of each instant in their order, instants ascending. */
function minutesOf(notices: readonly Outgoing[]): Outgoing[][] {
  const ordered = [...notices].sort(
    (a, b) =>
      a.at - b.at ||
      b.urgency - a.urgency ||
      (a.dueAt === b.dueAt ? 0 : a.dueAt < b.dueAt ? -1 : 1) ||
      a.rulePosition - b.rulePosition ||
      a.taskId - b.taskId
  );
  const minutes: Outgoing[][] = [];
  for (const notice of ordered) {
    const last = minutes[minutes.length - 1];
    if (last && last[0]!.at === notice.at) last.push(notice);
    else minutes.push([notice]);
  }
  return minutes;
}
