import type { ChannelName } from '../../core/channel/channels.ts';
import type { TellingKind } from '../../core/notice/kinds.ts';
import type { AttemptOutcome } from '../../core/delivery/retry.ts';
import type { AttachedFile } from '../../core/message/attached.ts';
import type { Importance } from '../../core/rule/step-model.ts';

/** One message for one reader at one address, as a channel gets it. */
export interface OutgoingMessage {
  /** Of its delivery. */
  id: number;
  readerId: number;
  readerName: string;
  address: string;
  /** Everybody to whom it goes, the reader too. */
  to: readonly { name: string; address: string }[];
  messageId: string;
  /** Workspace clock, ms: the Date of the message. */
  leavesAt: number;
  subject: string;
  text: string;
  html: string;
  /** Where it leads; empty where it leads nowhere. */
  link: string;
  importance: Importance;
  attachments: readonly AttachedFile[];
  /** How many notices it tells of; none where no rule wrote it. */
  notices: number;
  /** Of which kinds it is, where its reader can stop mail of them. */
  kinds: readonly TellingKind[];
}

/** A way to a reader. `send` resolves when the other side has taken the message over, or with `kept` where it stays here, and rejects otherwise: with `AttemptFailed` where it answered. */
export interface Channel {
  readonly name: ChannelName;
  send(message: OutgoingMessage, signal: AbortSignal): Promise<void | 'kept'>;
  close(): void;
}

/** The other side has answered that it does not take a message, for good or for now. */
export class AttemptFailed extends Error {
  readonly outcome: Exclude<AttemptOutcome, { kind: 'accepted' }>;

  constructor(outcome: Exclude<AttemptOutcome, { kind: 'accepted' }>) {
    super(outcome.detail);
    this.name = 'AttemptFailed';
    this.outcome = outcome;
  }
}
