import { createHash, randomUUID } from 'node:crypto';
import { CodedError } from '../../core/errors.ts';
import { ruleFaults } from '../../core/rule/check.ts';
import type { RuleFault } from '../../core/rule/rule-fault.ts';
import { withLeadIds } from '../../core/rule/lead-ids.ts';
import { blankDefinition, type RuleDefinition } from '../../core/rule/model.ts';
import type { ChangeWriter } from '../store/change-writer.ts';
import type { Rule, RuleVersion } from '../store/rules.ts';
import type { Stores } from '../store/all.ts';
import type { Actor, Committed, Committer } from '../workspace/commit.ts';
import { knownTo } from './known-to.ts';

export interface RuleInput {
  name: string;
  description: string;
  /** Under which name it stands in the list; absent: as before. */
  group?: string;
  definition: RuleDefinition;
}

/** Thrown when somebody else has saved the rule since it was opened: nothing is overwritten. */
export class RuleConflict extends Error {
  /** Who saved it; null when nobody did by hand. */
  readonly who: string | null;
  /** Workspace clock. */
  readonly at: number;

  constructor(who: string | null, at: number) {
    super(`${who ?? 'Somebody'} saved this rule while you were editing.`);
    this.name = 'RuleConflict';
    this.who = who;
    this.at = at;
  }
}

/** Thrown when a rule that is not whole is to be turned on. */
export class RuleIncomplete extends Error {
  readonly faults: RuleFault[];

  constructor(faults: RuleFault[]) {
    super(faults[0]?.message ?? 'The rule is not complete.');
    this.name = 'RuleIncomplete';
    this.faults = faults;
  }
}

/** Making, editing and switching rules. A version that has been live is never rewritten: an edit of a rule that is on is a draft beside it. */
export class RuleService {
  readonly #stores: Stores;
  readonly #committer: Committer;

  constructor(stores: Stores, committer: Committer) {
    this.#stores = stores;
    this.#committer = committer;
  }

  /** A rule with the version that is edited (the draft, else the live one) and the live one. */
  open(id: number): { rule: Rule; edited: RuleVersion; live: RuleVersion | null } | null {
    const rule = this.#stores.rules.byId(id);
    if (rule?.kind !== 'rule') return null;
    const live = rule.liveVersion === null ? null : this.#stores.rules.version(rule.liveVersion);
    const edited = rule.draftVersion === null ? live : this.#stores.rules.version(rule.draftVersion);
    return edited ? { rule, edited, live } : null;
  }

  /** Starts a rule from nothing, as a draft. */
  add(
    actor: Actor,
    name = '',
    definition: RuleDefinition = blankDefinition(),
    { description = '', group = '' }: { description?: string; group?: string } = {}
  ): Committed<number> {
    return this.#committer.commit(actor, name ? `Rule “${name}” added` : 'Draft rule added', (writer) => {
      const position = Math.max(0, ...this.#stores.rules.all().map((rule) => rule.position)) + 1;
      const id = writer.insert('rule', {
        name,
        description,
        group_name: group,
        keeper_id: actor.personId,
        state: 'draft',
        position
      });
      // Whoever writes a whole rule down names its leads too: the demo's are the same at every start.
      const withIds = withLeadIds(definition, definition.leads, newLeadId);
      writer.update('rule', id, { draft_version: this.#addVersion(writer, id, withIds) });
      return id;
    });
  }

  /** Who looks after a rule; null where nobody does. */
  keeperName({ keeperId }: { keeperId: number | null }): string | null {
    return keeperId === null ? null : (this.#stores.people.byId(keeperId)?.name ?? null);
  }

  /** The groups under which rules stand in the list. */
  groups(): string[] {
    return [...new Set(this.#stores.rules.made().map(({ group }) => group))].filter(Boolean);
  }

  /** By what an editor knows that nobody has saved the rule since: its words and its edited version. */
  stamp(id: number): string {
    const opened = this.open(id);
    if (!opened) return '';
    const { name, description, group } = opened.rule;
    const text = JSON.stringify([name, description, group, opened.edited.definition]);
    return createHash('sha256').update(text).digest('base64url').slice(0, 22);
  }

  /**
   * Saves the draft. What is on goes on as it was.
   * @param stamp as it was when the editor read the rule; null overwrites whatever is there
   * @throws RuleConflict when somebody else has saved it since
   */
  save(actor: Actor, id: number, input: RuleInput, stamp: string | null = null): Committed<void> {
    this.#unchanged(id, stamp);
    return this.#committer.commit(actor, `Rule “${input.name}” saved`, (writer) => {
      this.#saveDraft(writer, this.#need(id), input);
    });
  }

  /**
   * Saves and turns on: the draft becomes the live version. Rings that lie in the past are not made up.
   * @throws RuleIncomplete with every fault at its part
   * @throws RuleConflict as `save`
   */
  turnOn(actor: Actor, id: number, input: RuleInput, stamp: string | null = null): Committed<void> {
    this.#unchanged(id, stamp);
    const faults = this.faults(input, id);
    if (faults.length > 0) throw new RuleIncomplete(faults);
    return this.#committer.commit(actor, `Rule “${input.name}” turned on`, (writer) => {
      const rule = this.#need(id);
      this.#saveDraft(writer, rule, input);
      const { draftVersion, liveVersion, state } = this.#need(id);
      const onChange = state === 'on' ? rule.onChange : writer.id;
      writer.update('rule', id, {
        state: 'on',
        live_version: draftVersion ?? liveVersion,
        draft_version: null,
        on_change: onChange,
        live_at: writer.head.at,
        fault: null
      });
    });
  }

  /** Turns off: what waited is withdrawn and not made up. */
  turnOff(actor: Actor, id: number): Committed<void> {
    const rule = this.#need(id);
    return this.#committer.commit(actor, `Rule “${rule.name}” turned off`, (writer) => {
      writer.update('rule', id, { state: 'off', on_change: null });
    });
  }

  /** Moves a rule before or behind its neighbour: at one instant rules ring in their order. */
  move(actor: Actor, id: number, by: -1 | 1): Committed<void> {
    const rule = this.#need(id);
    const made = this.#stores.rules.made().filter(({ group }) => group === rule.group);
    const other = made[made.findIndex((one) => one.id === id) + by];
    return this.#committer.commit(actor, `Rule “${rule.name}” moved in the list`, (writer) => {
      if (!other) return;
      writer.update('rule', id, { position: other.position });
      writer.update('rule', other.id, { position: rule.position });
    });
  }

  /** Deletes a rule that has never been on. One that has rung stays in the record and can only be turned off. */
  discard(actor: Actor, id: number): Committed<void> {
    const rule = this.#need(id);
    if (rule.liveVersion !== null) throw new CodedError('rule-was-live', { name: rule.name });
    return this.#committer.commit(
      actor,
      rule.name ? `Rule “${rule.name}” discarded` : 'Draft rule discarded',
      (writer) => {
        for (const version of this.#stores.rules.versions(id)) writer.remove('rule_version', version.id);
        writer.remove('rule', id);
      }
    );
  }

  /** Throws away a draft that has no name; null where the rule has one, has been on, or is gone. */
  discardNameless(actor: Actor, id: number): Committed<void> | null {
    const rule = this.#stores.rules.byId(id);
    const isNameless = rule?.kind === 'rule' && rule.name === '' && rule.liveVersion === null;
    return isNameless ? this.discard(actor, id) : null;
  }

  /** Everything that keeps a rule from being turned on. */
  faults(input: RuleInput, ruleId = 0): RuleFault[] {
    return ruleFaults(input.name, input.definition, knownTo(this.#stores), ruleId);
  }

  #unchanged(id: number, stamp: string | null): void {
    if (stamp === null || stamp === this.stamp(id)) return;
    const rule = this.#need(id);
    const { changes, people } = this.#stores;
    const latest = [
      changes.latestOf('rule', id),
      rule.draftVersion === null ? null : changes.latestOf('rule_version', rule.draftVersion)
    ].reduce((a, b) => (b && (!a || b.at > a.at) ? b : a));
    const who = latest?.actorId == null ? null : (people.byId(latest.actorId)?.name ?? null);
    throw new RuleConflict(who, latest?.at ?? 0);
  }

  #saveDraft(writer: ChangeWriter, rule: Rule, { name, description, group, definition }: RuleInput): void {
    const opened = this.open(rule.id)!;
    // Ids of the live version count first: a lead that was changed and changed back is the same lead.
    const before = [...(opened.live?.definition.leads ?? []), ...opened.edited.definition.leads];
    const withIds = withLeadIds(definition, before, newLeadId);
    writer.update('rule', rule.id, {
      name,
      description,
      ...(group === undefined ? {} : { group_name: group })
    });
    if (JSON.stringify(opened.edited.definition) === JSON.stringify(withIds)) return;
    if (rule.draftVersion !== null)
      writer.update('rule_version', rule.draftVersion, { definition: JSON.stringify(withIds) });
    else writer.update('rule', rule.id, { draft_version: this.#addVersion(writer, rule.id, withIds) });
  }

  #addVersion(writer: ChangeWriter, ruleId: number, definition: RuleDefinition): number {
    return writer.insert('rule_version', {
      rule_id: ruleId,
      number: this.#stores.rules.newestNumber(ruleId) + 1,
      definition: JSON.stringify(definition),
      created_at: writer.head.at,
      created_by: writer.head.actorId
    });
  }

  #need(id: number): Rule {
    const rule = this.#stores.rules.byId(id);
    // The built-in rule is nobody's to change.
    if (rule?.kind !== 'rule') throw new CodedError('rule-gone');
    return rule;
  }
}

/** Known within its rule for good; the demo's own are written out, so that they are the same at every start. */
export function newLeadId(): string {
  return randomUUID().slice(0, 8);
}
