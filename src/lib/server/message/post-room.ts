import { CHANNEL, LEAVING } from '../../core/channel/channels.ts';
import type { LeavingChannel } from '../../core/channel/settings.ts';
import { CodedError } from '../../core/errors.ts';

/** A message as a stand-in received it. */
export interface ReceivedMessage {
  id: number;
  /** Machine clock: when it was received. */
  receivedAt: number;
  /** Of mail alone. */
  from?: string;
  /** Addresses: of mail several, else one. */
  to: string[] | string;
  subject: string;
  /** The Date header of mail, ms. */
  date?: number | null;
  /** By what a repeat is known. */
  messageId: string;
  /** How often the same has been received. */
  copies: number;
  text?: string;
  /** Only in one message, not in a list. */
  html?: string;
  headers?: string;
  files?: { name: string; type: string; text: string }[];
  /** What was posted, where it came over HTTP. */
  body?: Record<string, unknown>;
}

export interface ReceivedPage {
  total: number;
  messages: ReceivedMessage[];
}

/** What stand-ins can be told to do wrong; what a channel cannot send back is none of it. */
export const FAULTS = ['none', 'refuse', 'sender', 'try-later', 'slow', 'drop', 'bounce'] as const;
/** Those that only what speaks the protocol of mail can do. */
const OF_MAIL: readonly StandInFault[] = ['sender', 'bounce'];
export type StandInFault = (typeof FAULTS)[number];

export function faultsOf(channel: LeavingChannel): StandInFault[] {
  return FAULTS.filter((fault) => !OF_MAIL.includes(fault) || CHANNEL[channel].bounces);
}

/** Where each stand-in lists what it has received. */
export type PostRoomAddresses = Partial<Record<LeavingChannel, string | null>>;

/** Reads what the stand-ins have received, over their own HTTP lists. */
export class PostRoom {
  readonly #addresses: PostRoomAddresses;

  constructor(addresses: PostRoomAddresses) {
    this.#addresses = addresses;
  }

  /** Whether there is a stand-in: only where the demo or a test started one. */
  get exists(): boolean {
    return this.channels.length > 0;
  }

  get channels(): LeavingChannel[] {
    return LEAVING.filter((channel) => this.#addresses[channel]);
  }

  /** Newest first. @param to one address; empty for everybody @throws CodedError `post-room-closed` */
  async list(
    search: string,
    offset: number,
    limit: number,
    channel: LeavingChannel = 'mail',
    to = ''
  ): Promise<ReceivedPage> {
    const query = new URLSearchParams({ search, to, offset: String(offset), limit: String(limit) });
    return (await this.#get(channel, `/messages?${query}`)) as ReceivedPage;
  }

  /** Null when the stand-in has no such message. */
  async message(id: number, channel: LeavingChannel = 'mail'): Promise<ReceivedMessage | null> {
    return (await this.#get(channel, `/messages/${id}`)) as ReceivedMessage | null;
  }

  async fault(channel: LeavingChannel = 'mail'): Promise<StandInFault> {
    return ((await this.#get(channel, '/fault')) as { fault: StandInFault }).fault;
  }

  async setFault(fault: StandInFault, channel: LeavingChannel = 'mail'): Promise<void> {
    await this.#get(channel, '/fault', { method: 'PUT', body: JSON.stringify({ fault }) });
  }

  async #get(channel: LeavingChannel, path: string, init?: RequestInit): Promise<unknown> {
    const address = this.#addresses[channel] ?? '';
    let response: Response;
    try {
      response = await fetch(`${address}${path}`, { ...init, signal: AbortSignal.timeout(5_000) });
    } catch {
      // Whatever the network's own words are, to a person it means that the stand-in is not there.
      throw new CodedError('post-room-closed', { address });
    }
    if (response.status === 404) return null;
    if (!response.ok) throw new CodedError('post-room-closed', { address });
    return response.json();
  }
}
