import type { TellingKind } from '../notice/kinds.ts';
import { CHANNEL, type ChannelName } from './channels.ts';

/** A channel with where somebody is reached by it. */
export interface Way {
  channel: ChannelName;
  address: string;
}

/** Which channels somebody wants for a kind; mail where nothing is said. */
export type ChannelChoice = Partial<Record<TellingKind, readonly ChannelName[]>>;

/**
 * By default one hears by mail alone: what stands in the application counts as told, and would hide that mail does not arrive.
 */
export const DEFAULT_CHANNELS: readonly ChannelName[] = ['mail'];

/** What of a person says how they are reached. */
export interface Reached {
  email: string | null;
  /** Ways besides mail that the workspace has set up and the person has an address for. */
  otherWays: readonly Way[];
  channels: ChannelChoice;
}

/** Every way to somebody, mail first. */
export function waysTo({ email, otherWays }: Pick<Reached, 'email' | 'otherWays'>): Way[] {
  return email === null ? [...otherWays] : [{ channel: 'mail', address: email.trim() }, ...otherWays];
}

/**
 * The ways by which a notice goes to somebody: those that the rule insists on, else those that they chose for the kind. Where none of them
 * is open the first other one is taken: nobody is left untold for want of an address.
 * @param insisted null leaves it to the person
 */
export function waysFor(
  person: Reached,
  kind: TellingKind,
  insisted: readonly ChannelName[] | null
): readonly Way[] {
  // Nearly everybody has nothing but mail, and this is asked for every message.
  const open = waysTo(person).filter(({ channel }) => CHANNEL[channel].cannotCarry(kind) === null);
  const wanted = insisted ?? person.channels[kind] ?? DEFAULT_CHANNELS;
  const chosen = open.filter(({ channel }) => wanted.includes(channel));
  return chosen.length > 0 ? chosen : open.slice(0, 1);
}
