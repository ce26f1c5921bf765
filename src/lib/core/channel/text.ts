import type { TellingKind } from '../notice/kinds.ts';
import { USUAL, type ChannelDescriptor } from './descriptor.ts';
import { plainNumber, readTextReference } from './text-address.ts';

const TOO_LONG: readonly TellingKind[] = ['digest of due', 'digest of overdue', 'rule fault'];

/** Text messages to a telephone, by a gateway. */
export const text: ChannelDescriptor = {
  ...USUAL,
  words: 'text message',
  by: 'by text message',
  needs: 'telephone number',
  asksFor: 'needs a number',
  addressOf: ({ phone }) => phone,
  cannotCarry: (kind) => (TOO_LONG.includes(kind) ? 'too long for a text message' : null),
  plainAddress: plainNumber,
  messageIdOf: (reference) => readTextReference(reference).messageId
};
