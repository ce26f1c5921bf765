import { MS_PER_MINUTE } from '../time/day.ts';
import type { PlannedNotice, UnrungReason } from './planner.ts';

const FIRST_ROOM = 1_024;
/** Minutes × rules up to which notices are put in order by counting: 64 MB for a moment. What spans more is sorted. */
const MOST_KEYS = 2 ** 24;
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
  'enough notices'
];

/**
 * Planned notices in columns: 77 bytes each and nothing for the garbage collector to follow, where a million objects cost more
 * to keep than to compute. A notice becomes an object again when it is asked for.
 */
export class NoticeList implements Iterable<PlannedNotice> {
  #length = 0;
  #ruleId = new Float64Array(FIRST_ROOM);
  #taskId = new Float64Array(FIRST_ROOM);
  #recipientId = new Float64Array(FIRST_ROOM);
  #readerId = new Float64Array(FIRST_ROOM);
  #noticeId = new Float64Array(FIRST_ROOM);
  #ringAt = new Float64Array(FIRST_ROOM);
  #leavesAt = new Float64Array(FIRST_ROOM);
  #originDay = new Int32Array(FIRST_ROOM);
  #leadOrder = new Int32Array(FIRST_ROOM);
  /** Bit 0: late bell; bit 1: folded; above them the number of the reason. */
  #state = new Uint8Array(FIRST_ROOM);
  #ordinal = new Int32Array(FIRST_ROOM);
  #ifActs = new Float64Array(FIRST_ROOM);
  readonly #leadId: string[] = [];
  readonly #stepId: string[] = [];
  #order: Int32Array | null = null;

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
    this.#leadId.push(notice.leadId);
    this.#stepId.push(notice.stepId);
    this.#order = null;
  }

  /** The notice that stands at a place of the order. */
  at(place: number): PlannedNotice {
    const i = this.#order ? this.#order[place]! : place;
    const state = this.#state[i]!;
    return {
      ruleId: this.#ruleId[i]!,
      leadId: this.#leadId[i]!,
      leadOrder: this.#leadOrder[i]!,
      ordinal: this.#ordinal[i]!,
      stepId: this.#stepId[i]!,
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
    this.#leadId.length = length;
    this.#stepId.length = length;
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
    this.#ruleId = grown(this.#ruleId, new Float64Array(room));
    this.#taskId = grown(this.#taskId, new Float64Array(room));
    this.#recipientId = grown(this.#recipientId, new Float64Array(room));
    this.#readerId = grown(this.#readerId, new Float64Array(room));
    this.#noticeId = grown(this.#noticeId, new Float64Array(room));
    this.#ringAt = grown(this.#ringAt, new Float64Array(room));
    this.#leavesAt = grown(this.#leavesAt, new Float64Array(room));
    this.#originDay = grown(this.#originDay, new Int32Array(room));
    this.#leadOrder = grown(this.#leadOrder, new Int32Array(room));
    this.#ordinal = grown(this.#ordinal, new Int32Array(room));
    this.#ifActs = grown(this.#ifActs, new Float64Array(room));
    this.#state = grown(this.#state, new Uint8Array(room));
  }
}

function grown<T extends Float64Array | Int32Array | Uint8Array>(from: T, to: T): T {
  to.set(from);
  return to;
}

/** Indexes by instant, then rank, then index: counted where all are whole minutes of a span that is not too long. */
function byInstantThenRank(at: Float64Array, rank: Int32Array, ranks: number): Int32Array {
  let [first, last, whole] = [Infinity, -Infinity, true];
  for (let i = 0; i < at.length; i++) {
    const instant = at[i]!;
    if (instant < first) first = instant;
    if (instant > last) last = instant;
    // Planned instants are whole minutes, but one that rang at once is not.
    if (instant % MS_PER_MINUTE !== 0) whole = false;
  }
  if (at.length === 0) return new Int32Array(0);
  const keys = ((last - first) / MS_PER_MINUTE + 1) * ranks;
  if (!whole || !(keys <= MOST_KEYS)) {
    const indexes = Int32Array.from({ length: at.length }, (_, i) => i);
    return indexes.sort((a, b) => at[a]! - at[b]! || rank[a]! - rank[b]! || a - b);
  }
  const keyOf = new Int32Array(at.length);
  const next = new Int32Array(keys + 1);
  for (let i = 0; i < at.length; i++) {
    keyOf[i] = ((at[i]! - first) / MS_PER_MINUTE) * ranks + rank[i]!;
    next[keyOf[i]! + 1]!++;
  }
  for (let key = 0; key < keys; key++) next[key + 1]! += next[key]!;
  const ordered = new Int32Array(at.length);
  for (let i = 0; i < at.length; i++) ordered[next[keyOf[i]!]!++] = i;
  return ordered;
}
