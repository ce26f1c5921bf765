/** Ids between two of a range that are read though nobody asked: reading them costs less than asking once more. */
const WIDEST_GAP = 4;

/**
 * Ranges of ids that cover some ids closely, so that what lies together is read at once.
 * @param ids ascending
 * @param longest the most ids from the first to the last of a range
 * @returns each with its first and last id, both included, and those that were asked for
 */
export function rangesOf(
  ids: readonly number[],
  longest: number
): { first: number; last: number; ids: number[] }[] {
  const ranges: { first: number; last: number; ids: number[] }[] = [];
  for (const id of ids) {
    const range = ranges.at(-1);
    if (range && id - range.last <= WIDEST_GAP && id - range.first < longest) {
      range.last = id;
      range.ids.push(id);
    } else ranges.push({ first: id, last: id, ids: [id] });
  }
  return ranges;
}
