import { MS_PER_MINUTE } from '../../time/day.ts';

/** Minutes × ranks up to which it is put in order by counting: 64 MB for a moment. What spans more is sorted. */
const MOST_KEYS = 2 ** 24;
/** Going through so many keys costs what it costs to sort one more. */
const KEYS_FOR_ONE = 100;

/**
 * Indexes by instant, then rank, then index: counted where all are whole minutes of a span that is not too long for how many they are, else sorted.
 * @param ranks how many ranks there are
 */
export function byInstantThenRank(at: Float64Array, rank: Int32Array, ranks: number): Int32Array {
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
  if (!whole || !(keys <= Math.min(MOST_KEYS, KEYS_FOR_ONE * at.length))) {
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
