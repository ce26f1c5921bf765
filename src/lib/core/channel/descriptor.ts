import type { TellingKind } from '../notice/kinds.ts';

/** What of a person says where channels reach them. */
export interface Addresses {
  id: number;
  email: string | null;
  /** As it was written. */
  phone: string | null;
  /** As the chat knows them. */
  chat: string | null;
}

/** A way by which messages go: all that rules, forecasts, letters, screens and the Post room know of it. What sends by it stands in `server/channel`. */
export interface ChannelDescriptor {
  /** In a list of channels. */
  words: string;
  /** In a sentence: somebody is told “by mail”. */
  by: string;
  /** What somebody needs to be reached by it: “no telephone number”. */
  needs: string;
  /** What stands at a choice of it that cannot be made before they have that; null where it can be made all the same. */
  asksFor: string | null;
  /** Where it reaches somebody; null where it does not. */
  addressOf(person: Addresses): string | null;
  /** An address as their page shows it. */
  shown(address: string): string;
  /** Why it cannot carry a kind; null where it can. */
  cannotCarry(kind: TellingKind): string | null;
  /** Whether others take the messages over, so that how fast is set, and a stand-in can take their place. */
  leaves: boolean;
  /** Whether those can send a message back after they have taken it. */
  bounces: boolean;
  /** An address as it is sent: by it a stand-in's list is read. */
  plainAddress(address: string): string;
  /** The Message-ID of what an outside message is named by. */
  messageIdOf(reference: string): string;
}

/** What holds unless a channel says otherwise. */
export const USUAL = {
  asksFor: null,
  shown: (address: string) => address,
  cannotCarry: () => null,
  leaves: true,
  bounces: true,
  plainAddress: (address: string) => address,
  messageIdOf: (reference: string) => reference
} as const satisfies Partial<ChannelDescriptor>;
