import type { RuleDefinition } from '../../core/rule/model.ts';
import { readDefinition } from '../../core/rule/upgrade.ts';
import type { Db } from '../db/open.ts';

export type RuleState = 'draft' | 'on' | 'off' | 'faulty';

export interface Rule {
  id: number;
  name: string;
  description: string;
  /** Under which name it stands in the list; empty for none. */
  group: string;
  keeperId: number | null;
  state: RuleState;
  position: number;
  /** Made by people, or the built-in one of reminders on tasks. */
  kind: 'rule' | 'reminders';
  liveVersion: number | null;
  draftVersion: number | null;
  /** The change that turned it on. */
  onChange: number | null;
  /** When its live version became live, workspace clock. */
  liveAt: number | null;
  /** Why a faulty one does not ring. */
  fault: string | null;
}

export interface RuleVersion {
  id: number;
  ruleId: number;
  number: number;
  definition: RuleDefinition;
  createdAt: number;
  createdBy: number | null;
}

interface RuleRow {
  id: number;
  name: string;
  description: string;
  group_name: string;
  keeper_id: number | null;
  state: RuleState;
  position: number;
  kind: 'rule' | 'reminders';
  live_version: number | null;
  draft_version: number | null;
  on_change: number | null;
  live_at: number | null;
  fault: string | null;
}

export class RuleStore {
  readonly #all;
  readonly #byId;
  readonly #version;
  readonly #newest;
  readonly #versions;
  readonly #newestOfAll;

  constructor(db: Db) {
    this.#all = db.prepare<[], RuleRow>('SELECT * FROM rule ORDER BY position, id');
    this.#byId = db.prepare<[number], RuleRow>('SELECT * FROM rule WHERE id = ?');
    const version = `SELECT id, rule_id AS ruleId, number, definition, created_at AS createdAt, created_by AS createdBy FROM rule_version`;
    this.#version = db.prepare<[number], Omit<RuleVersion, 'definition'> & { definition: string }>(
      `${version} WHERE id = ?`
    );
    this.#versions = db.prepare<[number], Omit<RuleVersion, 'definition'> & { definition: string }>(
      `${version} WHERE rule_id = ? ORDER BY number`
    );
    this.#newestOfAll = db.prepare<[number], Omit<RuleVersion, 'definition'> & { definition: string }>(
      `${version} ORDER BY id DESC LIMIT ?`
    );
    this.#newest = db.prepare<[number], { number: number | null }>(
      'SELECT max(number) AS number FROM rule_version WHERE rule_id = ?'
    );
  }

  /** In their order, the built-in one first. */
  all(): Rule[] {
    return this.#all.all().map(toRule);
  }

  /** Those that people made. */
  made(): Rule[] {
    return this.all().filter(({ kind }) => kind === 'rule');
  }

  byId(id: number): Rule | null {
    const row = this.#byId.get(id);
    return row ? toRule(row) : null;
  }

  version(id: number): RuleVersion | null {
    const row = this.#version.get(id);
    return row ? { ...row, definition: readDefinition(JSON.parse(row.definition)) } : null;
  }

  versions(ruleId: number): RuleVersion[] {
    return this.#versions
      .all(ruleId)
      .map((row) => ({ ...row, definition: readDefinition(JSON.parse(row.definition)) }));
  }

  /** The versions written last, of whatever rule, newest first. */
  newestVersions(most: number): RuleVersion[] {
    return this.#newestOfAll
      .all(most)
      .map((row) => ({ ...row, definition: readDefinition(JSON.parse(row.definition)) }));
  }

  newestNumber(ruleId: number): number {
    return this.#newest.get(ruleId)?.number ?? 0;
  }
}

function toRule(row: RuleRow): Rule {
  return {
    id: row.id,
    name: row.name,
    description: row.description,
    group: row.group_name,
    keeperId: row.keeper_id,
    state: row.state,
    position: row.position,
    kind: row.kind,
    liveVersion: row.live_version,
    draftVersion: row.draft_version,
    onChange: row.on_change,
    liveAt: row.live_at,
    fault: row.fault
  };
}
