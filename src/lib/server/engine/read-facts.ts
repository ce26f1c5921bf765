import type { ChannelName } from '../../core/channel/channels.ts';
import { addressKey } from '../../core/forecast/facts/recipients.ts';
import type { FactsInput } from '../../core/forecast/facts/records.ts';
import { allSteps, type Recipient } from '../../core/rule/step-model.ts';
import type { Stores } from '../store/all.ts';
import { EVERYTHING } from '../store/mail-stops.ts';
import { listScopes } from './list-scopes.ts';

/**
 * Reads the records of the workspace that facts are compiled from.
 * @param channels those that messages can go by
 */
export function readFactsInput(stores: Stores, channels: readonly ChannelName[]): FactsInput {
  return {
    channels: [...channels],
    settings: stores.settings.workspace(),
    calendars: stores.calendars.all(),
    people: stores.people.all(),
    leave: stores.people.leave(),
    projects: stores.projects.all(),
    members: stores.projects.members(),
    statuses: stores.projects.statuses(),
    fields: stores.fields.all(),
    groups: stores.people.membersOfGroups(),
    contacts: stores.contacts.all(),
    contactLinks: stores.contacts.links(),
    readerLists: stores.readers.lists(),
    outsiders: outsidersOf(stores),
    standing: stores.standingLeads.all(),
    hushes: stores.hushes.all(),
    lists: [...listScopes(stores.savedLists.all())]
  };
}

/** Everybody outside, with whether they have stopped all mail. */
function outsidersOf(stores: Stores): FactsInput['outsiders'] {
  const stopped = stores.mailStops.stopped(EVERYTHING);
  return stores.readers
    .outsiders(outsideAddresses(stores))
    .map((one) => ({ ...one, stopped: stopped.has(-one.id) }));
}

/** Addresses outside the team that contacts have, or that a rule or a reader list names, with what is known of whom they belong to. */
function outsideAddresses(stores: Stores): Map<string, string> {
  const named = new Map<string, string>();
  const collect = (recipients: readonly Recipient[]) => {
    for (const recipient of recipients)
      if (recipient.who === 'address') named.set(addressKey(recipient.address), '');
  };
  for (const rule of stores.rules.made())
    for (const id of [rule.liveVersion, rule.draftVersion])
      for (const step of allSteps((id === null ? null : stores.rules.version(id))?.definition.steps ?? []))
        if (step.kind === 'tell') collect(step.to);
  for (const { recipients } of stores.readers.lists()) collect(recipients);
  for (const { email, name } of stores.contacts.all()) if (email) named.set(addressKey(email), name);
  for (const { email } of stores.people.all()) if (email) named.delete(addressKey(email));
  named.delete('');
  return named;
}
