/**
 * The candidates spelled most like `word`, best first, at most three; none when nothing is near. Used to offer a mend
 * for a name that does not exist.
 * @param keys the spellings a candidate may be known by; without it the candidate itself
 */
export function nearest(
  word: string,
  candidates: readonly string[],
  keys: (candidate: string) => string[] = (candidate) => [candidate]
): string[] {
  const wanted = fold(word);
  return candidates
    .map((candidate) => {
      const distances = keys(candidate).map(
        (key) => editDistance(wanted, fold(key)) / Math.max(wanted.length, key.length, 1)
      );
      return { candidate, distance: Math.min(...distances) };
    })
    .filter(({ distance }) => distance <= 0.4)
    .sort((a, b) => a.distance - b.distance || (a.candidate < b.candidate ? -1 : 1))
    .slice(0, 3)
    .map(({ candidate }) => candidate);
}

/** Lower case without accents or separators, so that “new york” is near `New_York`. */
function fold(text: string): string {
  return text
    .normalize('NFKD')
    .replace(/[\u0300-\u036f\s_-]/g, '')
    .toLowerCase()
    .slice(0, 60);
}

/** Edits that turn one word into the other: insert, leave out, replace, swap two neighbours (optimal string alignment). */
function editDistance(a: string, b: string): number {
  let beforeLast: number[] = [];
  let last = Array.from({ length: b.length + 1 }, (_, i) => i);
  for (let i = 1; i <= a.length; i++) {
    const row = [i];
    for (let j = 1; j <= b.length; j++) {
      const replaced = last[j - 1]! + (a[i - 1] === b[j - 1] ? 0 : 1);
      let least = Math.min(replaced, last[j]! + 1, row[j - 1]! + 1);
      const swapped = i > 1 && j > 1 && a[i - 1] === b[j - 2] && a[i - 2] === b[j - 1];
      if (swapped) least = Math.min(least, beforeLast[j - 2]! + 1);
      row.push(least);
    }
    beforeLast = last;
    last = row;
  }
  return last[b.length]!;
}
