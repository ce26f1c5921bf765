import { sentenceText } from '../../src/lib/core/rule/words/sentence.ts';
import { expect, it } from 'vitest';
import type { Condition } from '../../src/lib/core/rule/condition.ts';
import { lead, ruleOf } from '../support/workspace.ts';
import { add, eachInAWorkspace, workspace } from '../support/rules.ts';

/** A rule that is being written: what is not finished foretells nothing, and says so. Thursday 5 March 2026. */
eachInAWorkspace();

const outlook = (patch: { condition?: Condition; ends?: Condition }) => {
  const { rules, outlooks, source } = workspace.container;
  const whole = ruleOf([lead(-1, 'day')]);
  const definition = {
    ...whole,
    watch: { ...whole.watch, condition: patch.condition ?? null },
    stop: { ...whole.stop, condition: patch.ends ?? null }
  };
  const id = rules.add(workspace.coordinator, 'Rule', definition).result;
  const viewer = { zone: source.facts.workspace.zone, personId: workspace.people.Ines! };
  return outlooks.ofRule(id, { name: 'Rule', description: '', definition }, viewer);
};
const priorityIs = (value: string[]): Condition => ({ field: 'priority', op: 'any of', value });

it('a test without a value foretells nothing, counts nothing, and reads back that something is to be chosen', () => {
  add({ dueDate: '2026-03-10', priority: 'high' });
  add({ dueDate: '2026-03-11' });
  const unfinished = outlook({ condition: priorityIs([]) });
  expect(unfinished.faults).toMatchObject([{ part: 'watch', code: 'rule-no-test-value' }]);
  expect(unfinished.counts.bells).toBe(0);
  expect(unfinished).toMatchObject({ watched: 0, outOfEarshot: [], next: [] });
  expect(sentenceText(unfinished.sentence)).toContain('priority is any of …');
  const finished = outlook({ condition: priorityIs(['high']) });
  expect(finished).toMatchObject({ faults: [], watched: 1, counts: { bells: 1 } });
});

it('neither does an end that is not finished', () => {
  add({ dueDate: '2026-03-10' });
  const unfinished = outlook({ ends: priorityIs([]) });
  expect(unfinished.faults.map(({ part }) => part)).toEqual(['stop']);
  expect(unfinished.counts.bells).toBe(0);
});
