/** Whose work something is, as the reader of a message sees it; `unsaid` where it is not for them to know. */
export type Whose = 'own' | 'other' | 'unsaid';

/** What stands together in a message, under a heading where there is more than one such part. */
export interface WhosePart<T> {
  whose: Whose;
  heading: string | null;
  items: T[];
}

const HEADINGS: Record<Whose, string> = { own: 'Yours', other: 'Of others', unsaid: '' };

/** The reader’s own work, then that of others, each in the order given; a heading only where there are both. */
export function partsByWhose<T extends { whose: Whose }>(items: readonly T[]): WhosePart<T>[] {
  const parts = (['own', 'other', 'unsaid'] as const)
    .map((whose) => ({ whose, items: items.filter((item) => item.whose === whose) }))
    .filter((part) => part.items.length > 0);
  return parts.map((part) => ({
    ...part,
    heading: parts.length > 1 ? `${HEADINGS[part.whose]} (${part.items.length})` : null
  }));
}
