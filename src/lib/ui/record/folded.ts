import type { JournalRowView } from '$lib/view/record.ts';

/** One line of the Journal, or several of the same that follow each other: the first is shown, the others are behind a press. */
export interface FoldedRows {
  first: JournalRowView;
  more: JournalRowView[];
}

/** Fewer than this stand one below the other. */
const FEWEST = 4;

/** Folds rows that follow each other, by the same, in the same way and in the same minute; nothing else is the same of a mass change. */
export function foldRows(rows: readonly JournalRowView[]): FoldedRows[] {
  const runs: JournalRowView[][] = [];
  for (const row of rows) {
    const last = runs.at(-1);
    if (last && isSame(last[0]!, row)) last.push(row);
    else runs.push([row]);
  }
  return runs.flatMap((run) =>
    run.length < FEWEST ? run.map((first) => ({ first, more: [] })) : [{ first: run[0]!, more: run.slice(1) }]
  );
}

function isSame(a: JournalRowView, b: JournalRowView): boolean {
  return a.at === b.at && a.by === b.by && a.way === b.way && a.ruleId === b.ruleId && a.undone === b.undone;
}
