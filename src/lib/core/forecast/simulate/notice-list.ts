import { byInstantThenRank } from './in-order.ts';
import type { PlannedNotice, UnrungReason } from '../plan/planned-notice.ts';

const LEAST_ROOM = 1_024;
/** Room for more is made when it is needed. */
const MOST_ROOM_AT_FIRST = 2 ** 21;
/** Reasons by number; 0 stands for rung. */
const REASONS: readonly (UnrungReason | null)[] = [
  null,
  'already told',
  'same moment',
  'never reachable',
  'overtaken',
  'too late',
  'no longer true',
  'hushed',
  'limit reached',
  'acknowledged',
  'stuck on others',
  'faulty'
];

/**
 * Planned notices in columns: 67 bytes each and nothing for the garbage collector to follow, where a million objects cost more
 * to keep than to compute. A notice becomes an object again when it is asked for.
 */
export class NoticeList implements Iterable<PlannedNotice> {
  #length = 0;
  #ruleId: Int32Array;
  #taskId: Float64Array;
  #recipientId: Int32Array;
  #readerId: Int32Array;
  #noticeId: Float64Array;
  #ringAt: Float64Array;
  #leavesAt: Float64Array;
  #originDay: Int32Array;
  #leadOrder: Int16Array;
  /** Bit 0: late bell; bit 1: folded; above them the number of the reason. */
  #state: Uint8Array;
  #ordinal: Int32Array;
  #ifActs: Int32Array;
  #leadId: Int32Array;
  #stepId: Int32Array;
  /** Ids of leads and Tells by number: there are few, and a million texts would be a million things to follow. */
  readonly #ids: string[] = [];
  readonly #numberOf = new Map<string, number>();
  #order: Int32Array | null = null;

  /** @param expected for how many room is made at first */
  constructor(expected = 0) {
    const room = Math.min(MOST_ROOM_AT_FIRST, Math.max(LEAST_ROOM, expected));
    this.#ruleId = new Int32Array(room);
    this.#taskId = new Float64Array(room);
    this.#recipientId = new Int32Array(room);
    this.#readerId = new Int32Array(room);
    this.#noticeId = new Float64Array(room);
    this.#ringAt = new Float64Array(room);
    this.#leavesAt = new Float64Array(room);
    this.#originDay = new Int32Array(room);
    this.#leadOrder = new Int16Array(room);
    this.#state = new Uint8Array(room);
    this.#ordinal = new Int32Array(room);
    this.#ifActs = new Int32Array(room);
    this.#leadId = new Int32Array(room);
    this.#stepId = new Int32Array(room);
  }

  get length(): number {
    return this.#length;
  }

  push(notice: PlannedNotice): void {
    const i = this.#length++;
    if (i === this.#ruleId.length) this.#makeRoom();
    this.#ruleId[i] = notice.ruleId;
    this.#taskId[i] = notice.taskId;
    this.#recipientId[i] = notice.recipientId;
    this.#readerId[i] = notice.readerId;
    this.#noticeId[i] = notice.noticeId ?? 0;
    this.#ringAt[i] = notice.ringAt;
    this.#leavesAt[i] = notice.leavesAt;
    this.#originDay[i] = notice.originDay;
    this.#leadOrder[i] = notice.leadOrder;
    this.#ordinal[i] = notice.ordinal;
    this.#ifActs[i] = notice.ifActs ?? 0;
    this.#state[i] =
      (REASONS.indexOf(notice.unrung) << 2) | (notice.folded ? 2 : 0) | (notice.lateBell ? 1 : 0);
    this.#leadId[i] = this.#number(notice.leadId);
    this.#stepId[i] = this.#number(notice.stepId);
    this.#order = null;
  }

  #number(id: string): number {
    let number = this.#numberOf.get(id);
    if (number === undefined) {
      number = this.#ids.push(id) - 1;
      this.#numberOf.set(id, number);
    }
    return number;
  }

  /** Pushes the notices of `[from, until)` once more, for another task. */
  copy(from: number, until: number, taskId: number): void {
    while (this.#length + until - from > this.#ruleId.length) this.#makeRoom();
    // Value by value: for the dozen notices of a task a call for each column costs more.
    for (let i = from, to = this.#length; i < until; i++, to++) {
      this.#ruleId[to] = this.#ruleId[i]!;
      this.#taskId[to] = taskId;
      this.#recipientId[to] = this.#recipientId[i]!;
      this.#readerId[to] = this.#readerId[i]!;
      this.#noticeId[to] = this.#noticeId[i]!;
      this.#ringAt[to] = this.#ringAt[i]!;
      this.#leavesAt[to] = this.#leavesAt[i]!;
      this.#originDay[to] = this.#originDay[i]!;
      this.#leadOrder[to] = this.#leadOrder[i]!;
      this.#ordinal[to] = this.#ordinal[i]!;
      this.#ifActs[to] = this.#ifActs[i]!;
      this.#state[to] = this.#state[i]!;
      this.#leadId[to] = this.#leadId[i]!;
      this.#stepId[to] = this.#stepId[i]!;
    }
    this.#length += until - from;
    this.#order = null;
  }

  /** The notice that stands at a place of the order. */
  at(place: number): PlannedNotice {
    const i = this.#order ? this.#order[place]! : place;
    const state = this.#state[i]!;
    return {
      ruleId: this.#ruleId[i]!,
      leadId: this.#ids[this.#leadId[i]!]!,
      leadOrder: this.#leadOrder[i]!,
      ordinal: this.#ordinal[i]!,
      stepId: this.#ids[this.#stepId[i]!]!,
      taskId: this.#taskId[i]!,
      recipientId: this.#recipientId[i]!,
      readerId: this.#readerId[i]!,
      ringAt: this.#ringAt[i]!,
      leavesAt: this.#leavesAt[i]!,
      originDay: this.#originDay[i]!,
      lateBell: (state & 1) === 1,
      folded: (state & 2) === 2,
      unrung: REASONS[state >> 2]!,
      noticeId: this.#noticeId[i]! || null,
      ifActs: this.#ifActs[i]! || null
    };
  }

  *[Symbol.iterator](): Generator<PlannedNotice> {
    for (let place = 0; place < this.#length; place++) yield this.at(place);
  }

  /** Forgets everything from a length on, as long as nothing has been put in order. */
  truncate(length: number): void {
    this.#length = length;
  }

  /** What tells notices that might say the same: for those pushed since a length, before they are put in order. */
  toldAt(i: number): { leavesAt: number; readerId: number; ruleId: number; unrung: boolean } {
    return {
      leavesAt: this.#leavesAt[i]!,
      readerId: this.#readerId[i]!,
      ruleId: this.#ruleId[i]!,
      unrung: this.#state[i]! > 3
    };
  }

  /** Whether two notices pushed may tell the same person by different rules, one after the other within a span. */
  meet(i: number, j: number, withinMs: number): boolean {
    const apart = Math.abs(this.#leavesAt[i]! - this.#leavesAt[j]!);
    return (
      apart > 0 &&
      apart <= withinMs &&
      this.#readerId[i] === this.#readerId[j] &&
      this.#ruleId[i] !== this.#ruleId[j]
    );
  }

  /** Where the i-th that was pushed stands in time. */
  standsAt(i: number): number {
    return this.#state[i]! > 3 ? this.#ringAt[i]! : this.#leavesAt[i]!;
  }

  /** Marks a notice as unrung. */
  unring(i: number, reason: UnrungReason): void {
    this.#state[i] = (REASONS.indexOf(reason) << 2) | (this.#state[i]! & 3);
  }

  /** The first so many, as objects. */
  first(count: number): PlannedNotice[] {
    return Array.from({ length: Math.min(count, this.#length) }, (_, place) => this.at(place));
  }

  /** Puts them in the order of the instant at which each stands; those of one instant by the rank of their rule, then as they were added. */
  sort(rankOfRule: ReadonlyMap<number, number>): void {
    const at = new Float64Array(this.#length);
    const rank = new Int32Array(this.#length);
    for (let i = 0, last = NaN, lastRank = 0; i < this.#length; i++) {
      at[i] = this.#state[i]! > 3 ? this.#ringAt[i]! : this.#leavesAt[i]!;
      const ruleId = this.#ruleId[i]!;
      if (ruleId !== last) [last, lastRank] = [ruleId, rankOfRule.get(ruleId) ?? rankOfRule.size];
      rank[i] = lastRank;
    }
    this.#order = byInstantThenRank(at, rank, rankOfRule.size + 1);
  }

  #makeRoom(): void {
    const room = 2 * this.#ruleId.length;
    this.#ruleId = grown(this.#ruleId, new Int32Array(room));
    this.#taskId = grown(this.#taskId, new Float64Array(room));
    this.#recipientId = grown(this.#recipientId, new Int32Array(room));
    this.#readerId = grown(this.#readerId, new Int32Array(room));
    this.#noticeId = grown(this.#noticeId, new Float64Array(room));
    this.#ringAt = grown(this.#ringAt, new Float64Array(room));
    this.#leavesAt = grown(this.#leavesAt, new Float64Array(room));
    this.#leadId = grown(this.#leadId, new Int32Array(room));
    this.#stepId = grown(this.#stepId, new Int32Array(room));
    this.#originDay = grown(this.#originDay, new Int32Array(room));
    this.#leadOrder = grown(this.#leadOrder, new Int16Array(room));
    this.#ordinal = grown(this.#ordinal, new Int32Array(room));
    this.#ifActs = grown(this.#ifActs, new Int32Array(room));
    this.#state = grown(this.#state, new Uint8Array(room));
  }
}

function grown<T extends Float64Array | Int32Array | Int16Array | Uint8Array>(from: T, to: T): T {
  to.set(from);
  return to;
}
