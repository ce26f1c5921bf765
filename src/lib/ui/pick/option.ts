/** One thing that can be picked. */
export interface Option<T extends string | number = string | number> {
  value: T;
  label: string;
  /** Under which heading it stands in a long list. */
  group?: string;
  /** Why it cannot be picked now. */
  unfit?: string | null;
}

/** Options that are their own labels. */
export const plainOptions = <T extends string>(all: readonly T[]): Option<T>[] =>
  all.map((one) => ({ value: one, label: one }));

/** Options of things with an id and a name. */
export const namedOptions = (all: readonly { id: number; name: string }[]): Option<number>[] =>
  all.map(({ id, name }) => ({ value: id, label: name }));

/** Options of words by their code, in the order in which they are written down. */
export const wordOptions = <T extends string>(words: Readonly<Record<T, string>>): Option<T>[] =>
  (Object.entries(words) as [T, string][]).map(([value, label]) => ({ value, label }));

/** The options with those that are chosen and are not among them any more: what was chosen is shown, and can be taken back. */
export function withChosen<T extends string | number>(
  options: readonly Option<T>[],
  chosen: readonly T[]
): readonly Option<T>[] {
  const missing = chosen.filter((value) => value !== '' && !options.some((option) => option.value === value));
  if (missing.length === 0) return options;
  return [
    ...options,
    ...missing.map((value) => ({ value, label: typeof value === 'string' ? value : 'removed' }))
  ];
}

/** Saved lists to choose from; one that was chosen and is not to be seen says so. @param blank what stands for none */
export function listOptions(
  lists: readonly { id: number; name: string; unfit?: string | null }[],
  chosen: number | null,
  blank: string
): Option<number>[] {
  const isGone = chosen !== null && !lists.some(({ id }) => id === chosen);
  return [
    { value: 0, label: blank },
    ...lists.map(({ id, name, unfit = null }) => ({ value: id, label: name, unfit })),
    ...(isGone ? [{ value: chosen, label: 'a list you cannot see, or a removed list' }] : [])
  ];
}

const folded = (text: string) => text.normalize('NFD').replace(/\p{M}/gu, '').toLocaleLowerCase();

/**
 * The options that what is typed names, in their own order; those that begin with it come first. Accents and capitals make no difference.
 */
export function searchOptions<O extends Option>(options: readonly O[], typed: string): O[] {
  const words = folded(typed).split(/\s+/).filter(Boolean);
  if (words.length === 0) return [...options];
  const found = options.filter(({ label, group }) => {
    const text = folded(`${label} ${group ?? ''}`);
    return words.every((word) => text.includes(word));
  });
  const begins = (option: O) => folded(option.label).startsWith(words[0]!);
  return [...found.filter(begins), ...found.filter((option) => !begins(option))];
}
