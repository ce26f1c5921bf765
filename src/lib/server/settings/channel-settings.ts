import type { ChannelSettings } from '../../core/delivery/channel-settings.ts';
import { CodedError } from '../../core/errors.ts';
import type { ChannelSettingsInput } from './channel-schema.ts';
import type { Stores } from '../store/all.ts';
import type { Actor, Committed, Committer } from '../workspace/commit.ts';

/** What channels talk to now, set or not, in words. */
export interface ChannelsNow {
  mail: string[];
  text: string | null;
  chat: string | null;
}

/** What channels may be set to. */
export interface SettableReach {
  /** @throws CodedError `address-inside` */
  check(host: string): Promise<void>;
}

/** What channels talk to. Passwords go where no change record, journal or screen shows them; undo does not bring them back. */
export class ChannelSettingsService {
  readonly #stores: Stores;
  readonly #committer: Committer;
  readonly #now: () => ChannelsNow;
  readonly #reach: SettableReach;

  /**
   * @param now what channels talk to now, set or not
   * @param reach what they may be set to
   */
  constructor(stores: Stores, committer: Committer, now: () => ChannelsNow, reach: SettableReach) {
    this.#stores = stores;
    this.#committer = committer;
    this.#now = now;
    this.#reach = reach;
  }

  /**
   * Whether channels may be set to this.
   * @throws CodedError `address-inside`, at the field where it was given
   */
  async check({ mail, text, chat }: ChannelSettingsInput): Promise<void> {
    const hosts: [host: string, field: string][] = mail.map(({ host }, i) => [host, `mail.${i}.host`]);
    if (text) hosts.push([new URL(text.url).hostname, 'text.url']);
    if (chat.does === 'set') hosts.push([new URL(chat.url).hostname, 'chat.url']);
    for (const [host, field] of hosts)
      await this.#reach.check(host).catch((failure: unknown) => {
        throw failure instanceof CodedError ? failure.at(field) : failure;
      });
  }

  /**
   * Sets what channels talk to, once `check` has let it.
   * @throws CodedError `bad-field` where a mail server's name was given without a password and none is kept
   */
  save(actor: Actor, { mail, text, chat, rates }: ChannelSettingsInput): Committed<void> {
    const { settings, secrets } = this.#stores;
    const before = settings.channels();
    mail.forEach(({ host, user, password }, i) => {
      const kept = secretOf(i);
      // A password is for the server that it was given for: a new one must not be handed it.
      const isSame = before.mail[i]?.host === host && before.mail[i]?.user === user;
      if (user && password === null && (!isSame || secrets.read(kept) === null))
        throw new CodedError(
          'bad-field',
          { detail: 'Give the password that goes with this name' },
          `mail.${i}.password`
        );
    });
    const kept: ChannelSettings = {
      mail: mail.map(({ password: _, ...route }) => route),
      text: text && { url: text.url, from: text.from },
      chat: chat.does === 'keep' ? before.chat : chat.does === 'set',
      rates
    };
    return this.#committer.commit(actor, 'Channels set', (writer) => {
      settings.saveChannels(writer, kept);
      for (const i of [0, 1]) {
        const route = mail[i];
        if (!route?.user) secrets.keep(secretOf(i), null);
        else if (route.password !== null) secrets.keep(secretOf(i), route.password);
      }
      const isSameGateway = text !== null && before.text?.url === text.url;
      if (text?.token) secrets.keep('text', text.token);
      else if (!isSameGateway) secrets.keep('text', null);
      if (chat.does === 'none') secrets.keep('chat', null);
      if (chat.does === 'set') secrets.keep('chat', chat.url);
    });
  }

  /** What is set, as a screen may show it. */
  view() {
    const { mail, text, chat, rates } = this.#stores.settings.channels();
    const { secrets } = this.#stores;
    return {
      mail: mail.map((route, i) => ({ ...route, hasPassword: secrets.read(secretOf(i)) !== null })),
      text: text && { ...text, hasToken: secrets.read('text') !== null },
      chat,
      rates,
      now: this.#now()
    };
  }
}

function secretOf(route: number): 'mail 1' | 'mail 2' {
  return route === 0 ? 'mail 1' : 'mail 2';
}
