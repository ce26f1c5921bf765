import type { AttachedFile } from '../../core/message/attached.ts';
import type { Importance } from '../../core/rule/model.ts';

/** One message for one reader at one address, as a channel gets it. */
export interface OutgoingMessage {
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
  importance: Importance;
  attachments: readonly AttachedFile[];
}

/** A way to a reader. `send` resolves when the other side has taken the message over, and rejects otherwise. */
export interface Channel {
  readonly name: string;
  send(message: OutgoingMessage, signal: AbortSignal): Promise<void>;
  close(): void;
}
