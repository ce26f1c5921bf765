import type { ChannelName } from '../../core/delivery/channel-name.ts';
import { NO_RATE, type Rate } from '../../core/delivery/rate.ts';
import type { ChannelSecret, ChannelSettings } from '../../core/delivery/channel-settings.ts';
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

  /** Channels that messages can go by. */
  open(): ChannelName[] {
    return [
      'mail',
      ...(this.textGateway() ? (['text'] as const) : []),
      ...(this.chatHook() === null ? [] : (['chat'] as const)),
      'in-app'
    ];
  }

  rate(channel: ChannelName): Rate {
    return channel === 'in-app' ? NO_RATE : this.#kept.settings.channels().rates[channel];
  }

  /** What each channel talks to, in words that give no secret away. */
  inWords(): { mail: string[]; text: string | null; chat: string | null } {
    const hook = this.chatHook();
    return {
      mail: this.mailRoutes().map(({ host, port }) => `${host}, port ${port}`),
      text: this.textGateway()?.url ?? null,
      chat: hook === null ? null : new URL(hook.url).host
    };
  }
}
