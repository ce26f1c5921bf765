import { CodedError } from '../../core/errors.ts';
import { ACT_WORDS, LINK_LASTS_MS } from '../../core/message/acts.ts';
import type { PersonFacts } from '../../core/forecast/facts/facts.ts';
import type { TextLinkView } from '../../view/text-link.ts';
import { tokenHash } from '../engine/act-tokens.ts';
import type { WorkspaceClock } from '../engine/clock.ts';
import type { FactsSource } from '../engine/facts-source.ts';
import { readTextToken } from '../engine/text-tokens.ts';
import { mayRead } from './act-links.ts';
import type { Words } from '../engine/words.ts';
import type { Stores } from '../store/all.ts';
import type { NoticeRecord } from '../store/notices.ts';

/**
 * Where the short link of a text message leads: what can be done about its notices, without signing in, as by the links of a mail. Opening it
 * changes nothing.
 */
export class TextLinks {
  readonly #stores: Stores;
  readonly #source: FactsSource;
  readonly #clock: WorkspaceClock;
  readonly #words: Words;

  constructor(
    { stores, source, clock }: { stores: Stores; source: FactsSource; clock: WorkspaceClock },
    words: Words
  ) {
    this.#stores = stores;
    this.#source = source;
    this.#clock = clock;
    this.#words = words;
  }

  /** @throws CodedError `link-broken`, `link-old` or `task-gone` */
  view(token: string): TextLinkView {
    const deliveryId = readTextToken(this.#stores.actLinks.key(), token);
    if (deliveryId === null) throw new CodedError('link-broken');
    const notices = this.#stores.outbox
      .noticesOf(deliveryId)
      .flatMap((id) => this.#stores.notices.byId(id) ?? []);
    const [first] = notices;
    const reader = first && this.#source.facts.people.get(first.readerId);
    if (!first || !reader || !this.#stores.people.byId(reader.id)?.active)
      throw new CodedError('link-broken');
    if (this.#clock.now() >= first.leavesAt! + LINK_LASTS_MS) throw new CodedError('link-old');
    const standing = notices.filter(({ taskId }) => {
      const task = this.#stores.tasks.byId(taskId);
      return task !== null && task.setAside !== 'binned' && mayRead(task, reader.id);
    });
    if (standing.length === 0) throw new CodedError('task-gone');
    return { reader: reader.name, items: this.#items(standing, reader) };
  }

  #items(notices: readonly NoticeRecord[], reader: PersonFacts): TextLinkView['items'] {
    return this.#words.items(notices, reader).map(({ subject, acts }, i) => ({
      subject,
      taskId: notices[i]!.taskId,
      acts: acts.flatMap(({ act, link }) => {
        const token = link.slice(link.lastIndexOf('/') + 1);
        const used = this.#stores.actLinks.used(tokenHash(token)) !== null;
        return used ? [] : [{ words: ACT_WORDS[act], path: `/act/${token}` }];
      })
    }));
  }
}
