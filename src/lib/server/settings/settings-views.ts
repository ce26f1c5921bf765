import type { RuleWatchman } from '../rule/rule-watchman.ts';
import type { Workspace } from '../workspace/workspace.ts';

type Services = Pick<Workspace, 'stores'> & { watchman: RuleWatchman };

/** The settings with statuses and own fields, each with what would be silenced if it were removed. */
export function settingsView({ stores, watchman }: Services) {
  const use = stores.projects.statusUse();
  const fields = stores.fields.all();
  const kinds = new Map(fields.map(({ id, kind }) => [id, kind]));
  const names = (rules: readonly { name: string }[]) => rules.map(({ name }) => `“${name}”`).join(', ');
  return {
    settings: stores.settings.workspace()!,
    statuses: stores.projects.statuses().map((status) => ({
      ...status,
      tasks: use.get(status.id) ?? 0,
      namedBy: names(watchman.namedBy({ status: (id) => id !== status.id }))
    })),
    fields: fields.map((field) => ({
      ...field,
      namedBy: names(watchman.namedBy({ field: (id) => (id === field.id ? null : (kinds.get(id) ?? null)) }))
    }))
  };
}
