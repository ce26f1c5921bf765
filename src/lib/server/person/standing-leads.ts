import { CodedError } from '../../core/errors.ts';
import { REMINDER_OFFSETS, reminderWords } from '../../core/forecast/facts/reminders.ts';
import type { Unit } from '../../core/ring/lead.ts';
import type { Stores } from '../store/all.ts';
import type { Actor, Committed, Committer } from '../workspace/commit.ts';

/** What can be wanted, by how its form sends it: “-15 minute”. */
export const STANDING_OFFSETS: ReadonlyMap<string, { n: number; unit: Unit }> = new Map(
  REMINDER_OFFSETS.map(([back, unit]) => {
    const n = back === 0 ? 0 : -back;
    return [`${n} ${unit}`, { n, unit }];
  })
);

/** What people want to be reminded of for everything of theirs: so long before each due date. */
export class StandingLeads {
  readonly #stores: Stores;
  readonly #committer: Committer;

  constructor(stores: Stores, committer: Committer) {
    this.#stores = stores;
    this.#committer = committer;
  }

  /**
   * From now on they are reminded so of everything that they own, alone or with others; of what has passed by now they are not.
   * @throws CodedError `standing-lead-there`
   */
  add(actor: Actor, personId: number, { n, unit }: { n: number; unit: Unit }): Committed<number> {
    const known = this.#stores.standingLeads.of(personId);
    if (known.some((lead) => lead.n === n && lead.unit === unit))
      throw new CodedError('standing-lead-there', {}, 'offset');
    return this.#committer.commit(
      actor,
      `Reminder ${standingWords({ n, unit })}, for everything of theirs`,
      (writer) => writer.insert('standing_lead', { person_id: personId, n, unit })
    );
  }

  /** @throws CodedError `reminder-gone` */
  drop(actor: Actor, personId: number, id: number): Committed<void> {
    const lead = this.#stores.standingLeads.of(personId).find((one) => one.id === id);
    if (!lead) throw new CodedError('reminder-gone');
    return this.#committer.commit(
      actor,
      `Reminder ${standingWords(lead)} removed`,
      (writer) => void writer.remove('standing_lead', id)
    );
  }
}

/** “15 minutes before the due moment”. */
export function standingWords({ n, unit }: { n: number; unit: Unit }): string {
  return reminderWords({ anchor: 'due', n, unit }, 0, false);
}
