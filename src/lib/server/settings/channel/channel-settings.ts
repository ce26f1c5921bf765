import { forEachLeaving, LEAVING } from '../../../core/channel/channels.ts';
import type { ChannelsSet, LeavingChannel } from '../../../core/channel/settings.ts';
import { CodedError } from '../../../core/errors.ts';
import type { Stores } from '../../store/all.ts';
import type { Actor, Committed, Committer } from '../../workspace/commit.ts';
import type { ChannelSettingsView } from '../../../view/channels.ts';
import { settingOf, type ChannelsShown } from './all.ts';
import type { ChannelSettingsInput } from './form.ts';

/** What each channel talks to now, set or not, in words: none where it is not set up. */
export type ChannelsNow = Record<LeavingChannel, readonly string[]>;

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
  async check(input: ChannelSettingsInput): Promise<void> {
    const hostsOf = <C extends LeavingChannel>(channel: C) => settingOf(channel).hosts(input[channel]);
    for (const { host, path } of LEAVING.flatMap(hostsOf))
      await this.#reach.check(host).catch((failure: unknown) => {
        throw failure instanceof CodedError ? failure.at(path) : failure;
      });
  }

  /**
   * Sets what channels talk to, once `check` has let it.
   * @throws CodedError `bad-field` where a mail server's name was given without a password and none is kept
   */
  save(actor: Actor, input: ChannelSettingsInput): Committed<void> {
    const { settings, secrets } = this.#stores;
    return this.#committer.commit(actor, 'Channels saved', (writer) => {
      const before = settings.channels();
      const keep = <C extends LeavingChannel>(channel: C): ChannelsSet[C] =>
        settingOf(channel).keep(input[channel], before[channel], secrets);
      const kept = forEachLeaving<unknown>(keep) as unknown as ChannelsSet;
      settings.saveChannels(writer, { ...kept, rates: input.rates, keepsMail: input.keepsMail });
    });
  }

  /** Whether mail is kept in the Post room here instead of sent. */
  keepMail(actor: Actor, keeps: boolean): Committed<void> {
    const { settings } = this.#stores;
    const words = keeps ? 'Mail is kept in the Post room' : 'Mail is sent';
    return this.#committer.commit(actor, words, (writer) =>
      settings.saveChannels(writer, { ...settings.channels(), keepsMail: keeps })
    );
  }

  /** What is set, as a screen may show it. */
  view(): ChannelSettingsView {
    const { secrets, settings } = this.#stores;
    const kept = settings.channels();
    const shown = <C extends LeavingChannel>(channel: C) => settingOf(channel).shown(kept[channel], secrets);
    return {
      ...(forEachLeaving<unknown>(shown) as unknown as ChannelsShown),
      rates: kept.rates,
      keepsMail: kept.keepsMail,
      now: this.#now()
    };
  }
}
