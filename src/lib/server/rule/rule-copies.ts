import { recipientWords } from '../../core/rule/words/recipient-words.ts';
import { CodedError } from '../../core/errors.ts';
import { defaultClosedDay, isDayLevel, type Unit } from '../../core/ring/lead.ts';
import { renameLeads } from '../../core/rule/lead-ids.ts';
import { differenceInWords } from '../../core/rule/words/version-words.ts';
import type { RuleDefinition } from '../../core/rule/model.ts';
import type { Recipient, Step } from '../../core/rule/step-model.ts';
import type { OffsetLead } from '../../core/rule/lead-model.ts';
import { shortMoment } from '../../core/time/format.ts';
import type { RuleVersionView } from '../../view/rules.ts';
import { recordNames } from '../engine/names.ts';
import type { Stores } from '../store/all.ts';
import type { RuleVersion } from '../store/rules.ts';
import type { Actor, Committed, Committer } from '../workspace/commit.ts';
import { newLeadId, type RuleService } from './rules.ts';
import type { Viewer } from '../workspace/viewer.ts';

/** What a copy has of its own. */
export interface CopyInput {
  name: string;
  /** Of its first ring time that counts from a date; null leaves that as it is. */
  lead: { n: number; unit: Unit } | null;
  /** Of its first Tell; null leaves that as it is. */
  to: Recipient | null;
}

/** Versions of a rule, and copies of it. */
export class RuleCopies {
  readonly #stores: Stores;
  readonly #committer: Committer;
  readonly #rules: RuleService;

  constructor(stores: Stores, committer: Committer, rules: RuleService) {
    this.#stores = stores;
    this.#committer = committer;
    this.#rules = rules;
  }

  /** How often a rule has told, and when it last did. */
  told(ruleId: number) {
    return this.#stores.notices.countsOfRule(ruleId);
  }

  /**
   * A rule beside another, as a draft: with another ring time, other people and a name of its own. Its words follow, since days left are
   * computed; its ring times are its own, so what the original has told counts for nothing here.
   * @throws CodedError `rule-gone` or `rule-no-name`
   */
  duplicate(actor: Actor, id: number, { name, lead, to }: CopyInput): Committed<number> {
    const opened = this.#rules.open(id);
    if (!opened) throw new CodedError('rule-gone');
    if (name.trim() === '') throw new CodedError('rule-no-name', {}, 'name');
    const { rule, edited } = opened;
    const definition = withTo(withLead(edited.definition, lead), to);
    const ids = new Map(definition.leads.map(({ id: old }) => [old, newLeadId()]));
    return this.#rules.add(actor, name.trim(), renameLeads(definition, ids), {
      description: rule.description,
      group: rule.group
    });
  }

  /** Whom the first Tell of a rule tells, in words. */
  toldBy(id: number): string {
    const tell = this.#rules.open(id)?.edited.definition.steps.find((step) => step.kind === 'tell');
    const names = recordNames(this.#stores);
    return tell?.kind === 'tell' ? tell.to.map((one) => recipientWords(one, names)).join(', ') : '';
  }

  /** The versions of a rule, the newest first, each with what it says otherwise than the one before. */
  versions(id: number, { zone }: Viewer, now: number): RuleVersionView[] {
    const opened = this.#rules.open(id);
    if (!opened) throw new CodedError('rule-gone');
    const { rule } = opened;
    const names = recordNames(this.#stores);
    const all = this.#stores.rules.versions(id);
    return all
      .map((version, i): RuleVersionView => {
        const before = all[i - 1];
        const latest = this.#stores.changes.latestOf('rule_version', version.id);
        return {
          id: version.id,
          number: version.number,
          stands:
            version.id === rule.liveVersion ? 'live' : version.id === rule.draftVersion ? 'draft' : null,
          who: this.#nameOf(latest?.actorId ?? version.createdBy),
          when: shortMoment(latest?.at ?? version.createdAt, zone, zone.dayOf(now)),
          differences: before ? differenceInWords(before.definition, version.definition, names) : []
        };
      })
      .reverse();
  }

  /**
   * What one version says otherwise than another, whichever of them is the older.
   * @throws CodedError `version-gone`
   */
  differences(id: number, beforeId: number, afterId: number): RuleVersionView['differences'] {
    const [before, after] = [beforeId, afterId].map((one) => this.#stores.rules.version(one));
    if (before?.ruleId !== id || after?.ruleId !== id) throw new CodedError('version-gone');
    return differenceInWords(before.definition, after.definition, recordNames(this.#stores));
  }

  /**
   * Makes an older version the draft, with the ids of its ring times: what has rung by them stays rung.
   * @throws CodedError `rule-gone` or `version-gone`
   */
  restore(actor: Actor, id: number, versionId: number): Committed<void> {
    const opened = this.#rules.open(id);
    if (!opened) throw new CodedError('rule-gone');
    const version: RuleVersion | null = this.#stores.rules.version(versionId);
    if (version?.ruleId !== id) throw new CodedError('version-gone');
    const { rule } = opened;
    const definition = JSON.stringify(version.definition);
    return this.#committer.commit(
      actor,
      `Draft made from version ${version.number} of “${rule.name}”`,
      (writer) => {
        if (rule.draftVersion !== null) writer.update('rule_version', rule.draftVersion, { definition });
        else
          writer.update('rule', id, {
            draft_version: writer.insert('rule_version', {
              rule_id: id,
              number: this.#stores.rules.newestNumber(id) + 1,
              definition,
              created_at: writer.head.at,
              created_by: actor.personId
            })
          });
      }
    );
  }

  #nameOf(personId: number | null): string {
    return personId === null ? 'set-up' : (this.#stores.people.byId(personId)?.name ?? 'a removed person');
  }
}

/** The first ring time that counts from a date takes another distance; its closed-day rule and time follow where they were the usual ones. */
function withLead(definition: RuleDefinition, to: CopyInput['lead']): RuleDefinition {
  const first = definition.leads.find((lead): lead is OffsetLead => lead.kind === 'offset');
  if (!first || !to) return definition;
  const usual = first.closedDay === defaultClosedDay(first.n, first.unit) || !isDayLevel(to.unit);
  const moved: OffsetLead = {
    ...first,
    ...to,
    closedDay: usual ? defaultClosedDay(to.n, to.unit) : first.closedDay,
    time: isDayLevel(to.unit) ? (first.time ?? '09:00') : null
  };
  return { ...definition, leads: definition.leads.map((lead) => (lead === first ? moved : lead)) };
}

function withTo(definition: RuleDefinition, to: Recipient | null): RuleDefinition {
  const first = definition.steps.find(({ kind }) => kind === 'tell');
  if (!first || !to) return definition;
  return {
    ...definition,
    steps: definition.steps.map((step) => (step === first ? ({ ...step, to: [to] } as Step) : step))
  };
}
