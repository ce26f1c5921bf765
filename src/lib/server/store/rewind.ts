import type { RuleDefinition } from '../../core/rule/model.ts';
import type { Db } from '../db/open.ts';

/** What the engine has written down for itself, in an order in which it can be taken away. */
const OF_THE_ENGINE = [
  'reply',
  'message_notice',
  'delivery',
  'message',
  'question_passed',
  'question',
  'run_step',
  'rush',
  'notice',
  'run',
  'ring',
  'plan',
  'replan',
  'schedule_plan',
  'schedule_seat',
  'schedule_owed',
  'turned_on',
  'rule_fault',
  'rule_fault_told',
  'rule_once',
  'not_made_up',
  'chore',
  'engine_state'
] as const;

/** Takes away everything that the engine has done. For copies of a workspace alone. */
export function rewindEngine(copy: Db): void {
  for (const table of OF_THE_ENGINE) copy.prepare(`DELETE FROM ${table}`).run();
}

/** Turns one rule on as it is written, from an instant, and every other off. For copies of a workspace alone. */
export function setOnlyRule(copy: Db, ruleId: number, definition: RuleDefinition, from: number): void {
  copy.prepare(`UPDATE rule SET state = 'off' WHERE id <> ?`).run(ruleId);
  const { top } = copy
    .prepare<[number], { top: number }>(
      'SELECT coalesce(max(number), 0) AS top FROM rule_version WHERE rule_id = ?'
    )
    .get(ruleId)!;
  const { lastInsertRowid } = copy
    .prepare('INSERT INTO rule_version (rule_id, number, definition, created_at) VALUES (?, ?, ?, ?)')
    .run(ruleId, top + 1, JSON.stringify(definition), from);
  copy
    .prepare(
      `UPDATE rule SET state = 'on', live_version = @version, draft_version = NULL, live_at = @from, fault = NULL WHERE id = @ruleId`
    )
    .run({ version: lastInsertRowid, from, ruleId });
}
