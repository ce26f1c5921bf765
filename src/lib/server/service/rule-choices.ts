import { formatDay } from '../../core/time/day.ts';
import { zoneNames } from '../../core/time/zone-names.ts';
import type { RuleChoices } from '../../view/rules.ts';
import type { Container } from '../container.ts';
import type { Viewer } from './viewer.ts';

/** Everything that the rule with an id can name. */
export function ruleChoices(
  { stores, clock, source }: Container,
  ruleId: number,
  { zone, personId }: Viewer
): RuleChoices {
  const unfit = (id: number) => {
    const scope = source.facts.lists.get(id);
    return typeof scope === 'string' ? scope : null;
  };
  const named = ({ id, name }: { id: number; name: string }) => ({ id, name });
  return {
    projects: stores.projects.all().map(named),
    people: stores.people
      .all()
      .filter(({ active, erased }) => active && !erased)
      .map(named),
    groups: stores.people.groups().map(named),
    statuses: stores.projects.statuses().map(named),
    sections: stores.projects.sections().map(({ id, name, projectId }) => ({ id, name, projectId })),
    fields: stores.fields.all().map(({ id, name, kind, choices }) => ({ id, name, kind, choices })),
    tags: stores.taskParts.allTags(),
    lists: stores.savedLists.of(personId ?? 0).map(({ id, name }) => ({ id, name, unfit: unfit(id) })),
    readers: stores.readers.lists().map(named),
    templates: stores.readers.templates(),
    rules: stores.rules
      .made()
      .filter(({ id }) => id !== ruleId)
      .map(named),
    zones: zoneNames(),
    noticeTime: stores.settings.workspace()?.noticeTime ?? '09:00',
    today: formatDay(zone.dayOf(clock.now()))
  };
}
