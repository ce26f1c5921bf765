import { CHANNELS } from '../../core/channel/channels.ts';
import { allSteps } from '../../core/rule/step-model.ts';
import { formatDay } from '../../core/time/day.ts';
import type { RuleChoices } from '../../view/rules.ts';
import type { Workspace } from '../workspace/workspace.ts';
import type { ChannelSetUp } from '../channel/set-up.ts';
import { listChoices } from './list-choices.ts';
import { activePeople, groupChoices, projectChoices, readerListChoices } from '../workspace/choices.ts';
import type { Viewer } from '../workspace/viewer.ts';

/** What these views ask. */
type Services = Workspace & { channels: ChannelSetUp };

/** How many versions are looked through for words, and how many texts are offered. */
const VERSIONS_READ = 12;
const MOST_LAST_WORDS = 4;

/** Everything that the rule with an id can name. */
export function ruleChoices(
  { stores, clock, source, channels }: Services,
  ruleId: number,
  { zone, personId }: Viewer
): RuleChoices {
  const named = ({ id, name }: { id: number; name: string }) => ({ id, name });
  return {
    projects: projectChoices({ stores }),
    people: activePeople({ stores }),
    groups: groupChoices({ stores }),
    statuses: stores.projects.statuses().map(named),
    sections: stores.projects.sections().map(({ id, name, projectId }) => ({ id, name, projectId })),
    fields: stores.fields.all().map(({ id, name, kind, choices }) => ({ id, name, kind, choices })),
    tags: stores.taskParts.allTags({ personId: personId ?? 0, all: true, reports: [] }),
    lists: listChoices({ stores, source }, personId),
    readers: readerListChoices({ stores }),
    templates: stores.readers.templates(),
    lastWords: lastWords(stores, ruleId),
    rules: stores.rules
      .made()
      .filter(({ id }) => id !== ruleId)
      .map(named),
    channels: CHANNELS.map((channel) => ({
      channel,
      unfit: channels.open().includes(channel) ? null : 'not set up: see Settings'
    })),
    zone: source.facts.workspace.zone.name,
    noticeTime: stores.settings.workspace()?.noticeTime ?? '09:00',
    today: formatDay(zone.dayOf(clock.now()))
  };
}

/** Words that were written last for other rules, newest first, each text once. */
function lastWords(stores: Services['stores'], ruleId: number): RuleChoices['lastWords'] {
  const found = new Map<string, RuleChoices['lastWords'][number]>();
  for (const version of stores.rules.newestVersions(VERSIONS_READ)) {
    const rule = version.ruleId === ruleId ? null : stores.rules.byId(version.ruleId);
    if (!rule) continue;
    for (const step of allSteps(version.definition.steps)) {
      if (step.kind !== 'tell') continue;
      const { subject, body } = step;
      const key = `${subject}\n${body}`;
      if (!found.has(key)) found.set(key, { rule: rule.name, subject, body });
    }
  }
  return [...found.values()].slice(0, MOST_LAST_WORDS);
}
