import type { Workspace } from '../workspace/workspace.ts';

/** Saved lists that somebody can choose for a rule, a digest or a sweep; those that none can look at say why. */
export function listChoices(
  { stores, source }: Pick<Workspace, 'stores' | 'source'>,
  personId: number | null
): { id: number; name: string; unfit: string | null }[] {
  return stores.savedLists.of(personId ?? 0).map(({ id, name }) => {
    const scope = source.facts.lists.get(id);
    return { id, name, unfit: typeof scope === 'string' ? scope : null };
  });
}
