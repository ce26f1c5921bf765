import type { ImportChoices } from './interpret.ts';
import { NAMED_COLUMNS, fold, type NamedColumn, type Names } from './names.ts';

/** A name of a file that means nothing here by itself, or that was matched by hand. */
export interface SeenName {
  column: NamedColumn;
  text: string;
  rows: number;
  /** What it was matched with; empty where it was not. */
  chosen: string;
  /** What is spelled most like it. */
  near: string | null;
}

/** Collects the names that stand in the columns of a file, each once. */
export class NamesSeen {
  readonly #choices: ImportChoices;
  readonly #seen = new Map<NamedColumn, Map<string, { text: string; rows: number }>>();

  constructor(choices: ImportChoices) {
    this.#choices = choices;
  }

  see(cells: readonly string[]): void {
    for (const column of NAMED_COLUMNS) {
      const text = (cells[this.#choices.mapping[column] ?? -1] ?? '').trim();
      if (text === '') continue;
      let of = this.#seen.get(column);
      if (!of) this.#seen.set(column, (of = new Map()));
      const known = of.get(fold(text));
      if (known) known.rows++;
      else of.set(fold(text), { text, rows: 1 });
    }
  }

  /** Those that somebody may want to match, the most frequent first. What is spelled alike is looked for those alone that are shown. */
  shown(names: Names, most: number): SeenName[] {
    return NAMED_COLUMNS.flatMap((column) =>
      [...(this.#seen.get(column) ?? [])].flatMap(([folded, { text, rows }]): SeenName[] => {
        const chosen = this.#choices.matches[column]?.[folded] ?? '';
        if (chosen === '' && names.meaning(column, text) !== undefined) return [];
        return [{ column, text, rows, chosen, near: null }];
      })
    )
      .sort((a, b) => b.rows - a.rows)
      .slice(0, most)
      .map((one) => ({ ...one, near: names.near(one.column, one.text)[0]?.value ?? null }));
  }
}
