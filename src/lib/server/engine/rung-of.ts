import { THE_RUN } from '../../core/forecast/plan/telling.ts';
import type { RingKey } from '../store/notices.ts';
import type { RungFor } from '../store/tellings.ts';
import type { Stores } from '../store/all.ts';

/**
 * What has rung for one task. Its rings are read at once and most keys that are asked for are not among them, so that planning a task
 * anew by twenty rules does not ask the database for each key.
 */
export class RungOf {
  readonly taskId: number;
  readonly #stores: Stores;
  readonly #rings = new Set<string>();
  readonly #leads = new Set<string>();
  /** What was asked for. */
  readonly #left = new Map<string, number>();

  constructor(stores: Stores, taskId: number) {
    this.#stores = stores;
    this.taskId = taskId;
    for (const key of stores.notices.ringsOf(taskId)) {
      this.#rings.add(textOf(key));
      this.#leads.add(leadText(key));
    }
  }

  /** Whether nothing has rung for it. */
  get isEmpty(): boolean {
    return this.#rings.size === 0;
  }

  /** Whether a notice of this key, or the run of the ring, has left or is on its way. */
  occupied(key: RingKey, stepId: string, recipientId: number): boolean {
    if (!this.#rings.has(textOf(key))) return false;
    const { notices } = this.#stores;
    return recipientId === THE_RUN ? notices.hasRun(key) : notices.occupied({ ...key, recipientId, stepId });
  }

  /** How many notices of a lead have left to a recipient for one anchor value; for the run how many of its runs have begun. */
  left(key: RingKey, recipientId: number): number {
    const lead = leadText(key);
    if (!this.#leads.has(lead)) return 0;
    const asked = `${recipientId}/${lead}`;
    const known = this.#left.get(asked);
    if (known !== undefined) return known;
    const { tellings } = this.#stores;
    const left = recipientId === THE_RUN ? tellings.ran(key) : tellings.left({ ...key, recipientId });
    this.#left.set(asked, left);
    return left;
  }

  /** Whom a ring has told by a Tell, or was to tell. */
  rung(key: RingKey & { stepId: string }): RungFor[] {
    return this.#rings.has(textOf(key)) ? this.#stores.tellings.rung(key) : [];
  }
}

function textOf(key: RingKey): string {
  return `${leadText(key)}/${key.ordinal}`;
}

function leadText({ ruleId, leadId, anchorValue, round }: RingKey): string {
  return `${ruleId}/${leadId}/${round}/${anchorValue}`;
}
