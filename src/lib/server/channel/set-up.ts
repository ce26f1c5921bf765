import { CHANNELS, isLeaving, type ChannelName } from '../../core/channel/channels.ts';
import { NO_RATE, type Rate } from '../../core/delivery/rate.ts';
import type { ChannelSecret, ChannelSettings, LeavingChannel } from '../../core/channel/settings.ts';
import type { ChatHook } from './chat.ts';
import type { MailRoute } from './mail-route.ts';
import type { TextGateway } from './text.ts';

/** What the server was started with. */
export interface StartedWith {
  mail: MailRoute;
  text: TextGateway | null;
  /** The address of an incoming webhook; null without a chat. */
  chat: string | null;
}

/** Reads what was set. */
interface Kept {
  settings: { channels(): ChannelSettings };
  secrets: { read(name: ChannelSecret): string | null };
}

/** What each channel talks to now: as it was set, else as the server was started with. */
export class ChannelSetUp {
  readonly #kept: Kept;
  readonly #started: StartedWith;

  constructor(kept: Kept, started: StartedWith) {
    this.#kept = kept;
    this.#started = started;
  }

  /** One or two. */
  mailRoutes(): MailRoute[] {
    const set = this.#kept.settings.channels().mail;
    if (set.length === 0) return [this.#started.mail];
    return set.map(({ host, port, tls, user, ca }, i) => ({
      ...{ host, port, tls, isSet: true },
      ...(ca ? { ca } : {}),
      ...(user ? { user, password: this.#kept.secrets.read(i === 0 ? 'mail 1' : 'mail 2') ?? '' } : {})
    }));
  }

  textGateway(): TextGateway | null {
    const set = this.#kept.settings.channels().text;
    return set ? { ...set, token: this.#kept.secrets.read('text'), isSet: true } : this.#started.text;
  }

  chatHook(): ChatHook | null {
    const isSet = this.#kept.settings.channels().chat;
    const url = isSet ? this.#kept.secrets.read('chat') : this.#started.chat;
    return url === null ? null : { url, isSet };
  }

  /** Mail is kept in the Post room here and not sent. */
  keepsMail(): boolean {
    return this.#kept.settings.channels().keepsMail;
  }

  /** Channels that messages can go by. */
  open(): ChannelName[] {
    const now = this.inWords();
    return CHANNELS.filter((channel) => !isLeaving(channel) || now[channel].length > 0);
  }

  rate(channel: ChannelName): Rate {
    return isLeaving(channel) ? this.#kept.settings.channels().rates[channel] : NO_RATE;
  }

  /** What each channel talks to, in words that give no secret away; none where it is not set up. */
  inWords(): Record<LeavingChannel, string[]> {
    const gateway = this.textGateway();
    const hook = this.chatHook();
    return {
      mail: this.keepsMail()
        ? ['the Post room here']
        : this.mailRoutes().map(({ host, port }) => `${host}, port ${port}`),
      text: gateway ? [gateway.url] : [],
      chat: hook ? [new URL(hook.url).host] : []
    };
  }
}
