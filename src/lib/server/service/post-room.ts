import { CodedError } from '../../core/errors.ts';

/** A message as the mail stand-in received it. */
export interface ReceivedMail {
  id: number;
  /** Machine clock: when it was received. */
  receivedAt: number;
  from: string;
  to: string[];
  subject: string;
  /** The Date header, ms. */
  date: number | null;
  messageId: string;
  /** How often the same Message-ID has been received. */
  copies: number;
  /** Only in one message, not in a list. */
  text?: string;
  html?: string;
  headers?: string;
  files?: { name: string; type: string; text: string }[];
}

export interface ReceivedPage {
  total: number;
  messages: ReceivedMail[];
}

/** The stand-in's faults that can be switched on. */
export type MailFault = 'none' | 'refuse' | 'try-later';

/** Reads what the mail stand-in has received, over its own HTTP list. */
export class PostRoom {
  readonly #url: string | null;

  constructor(url: string | null) {
    this.#url = url;
  }

  /** Whether there is a stand-in: only where the demo or a test started one. */
  get exists(): boolean {
    return this.#url !== null;
  }

  /** Newest by Date first. @throws CodedError `post-room-closed` */
  async list(search: string, offset: number, limit: number): Promise<ReceivedPage> {
    const query = new URLSearchParams({ search, offset: String(offset), limit: String(limit) });
    return (await this.#get(`/messages?${query}`)) as ReceivedPage;
  }

  /** Null when the stand-in has no such message. */
  async message(id: number): Promise<ReceivedMail | null> {
    return (await this.#get(`/messages/${id}`)) as ReceivedMail | null;
  }

  async fault(): Promise<MailFault> {
    return ((await this.#get('/fault')) as { fault: MailFault }).fault;
  }

  async setFault(fault: MailFault): Promise<void> {
    await this.#get('/fault', { method: 'PUT', body: JSON.stringify({ fault }) });
  }

  async #get(path: string, init?: RequestInit): Promise<unknown> {
    let response: Response;
    try {
      response = await fetch(`${this.#url}${path}`, { ...init, signal: AbortSignal.timeout(5_000) });
    } catch {
      // Whatever the network's own words are, to a person it means that the stand-in is not there.
      throw new CodedError('post-room-closed', { address: this.#url ?? '' });
    }
    if (response.status === 404) return null;
    if (!response.ok) throw new CodedError('post-room-closed', { address: this.#url ?? '' });
    return response.json();
  }
}
