import { describe, expect, it } from 'vitest';
import type { JournalRowView } from '$lib/view/record.ts';
import { foldRows } from './folded.ts';

const row = (id: number, patch: Partial<JournalRowView> = {}): JournalRowView => ({
  id,
  at: 'Thu 5 Mar, 07:40',
  by: 'Ines',
  way: 'by hand',
  ruleId: null,
  runId: null,
  undone: false,
  what: `${id}`,
  changeId: id,
  ...patch
});
const counts = (rows: JournalRowView[]) => foldRows(rows).map(({ more }) => more.length + 1);

describe('lines of the Journal that say the same', () => {
  it('are folded from four on, where they follow each other', () => {
    expect(counts([row(1), row(2), row(3)])).toEqual([1, 1, 1]);
    expect(counts([row(1), row(2), row(3), row(4)])).toEqual([4]);
    expect(counts([row(1), row(2), row(3), row(4), row(5, { by: 'Rui' }), row(6)])).toEqual([4, 1, 1]);
  });

  it('are not the same at another minute, in another way, by another rule, or undone', () => {
    for (const other of [{ at: 'Thu 5 Mar, 07:41' }, { way: 'by import' }, { ruleId: 3 }, { undone: true }])
      expect(counts([row(1), row(2), row(3), row(4, other)])).toEqual([1, 1, 1, 1]);
  });

  it('lose none and keep their order', () => {
    const rows = Array.from({ length: 40 }, (_, i) => row(i, { by: i % 9 < 6 ? 'Ines' : 'Rui' }));
    expect(foldRows(rows).flatMap(({ first, more }) => [first, ...more])).toEqual(rows);
    expect(foldRows([])).toEqual([]);
  });
});
