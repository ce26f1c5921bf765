import { ORDINARY_FACTS } from '../forecast/facts/facts.ts';
import { lead, rule, tell } from './definition.fixture.ts';
import { describe, expect, it } from 'vitest';
import { ruleFaults } from './check.ts';
import type { Known } from './known.ts';
import { keepLeadIds, withLeadIds } from './lead-ids.ts';
import { blankDefinition, openWatch, type RuleDefinition, type Watch } from './model.ts';
import { PHASES, PRIORITIES } from '../task/model.ts';
import { compileWatch, inScope } from './watch.ts';

const KNOWN: Known = {
  project: (id) => id === 1,
  person: (id) => id < 10,
  group: (id) => id === 1,
  status: (id) => id < 5,
  section: () => false,
  readers: () => false,
  rule: (id) => id < 5,
  list: () => null,
  field: (id) => (id === 1 ? 'number' : null)
};
const faults = (definition: RuleDefinition, name = 'Permits') =>
  ruleFaults(name, definition, KNOWN).map(({ part, code }) => `${part}: ${code}`);

describe('what keeps a rule from being turned on', () => {
  it('stands at its part', () => {
    expect(faults(rule())).toEqual([]);
    expect(faults(blankDefinition(), ' ')).toEqual([
      'name: rule-no-name',
      'ring: rule-no-lead',
      'tell: rule-no-recipient'
    ]);
    expect(faults(rule({ leads: [lead({ on: false })] }))).toEqual(['ring: rule-no-lead']);
    expect(faults(rule({ watch: { ...rule().watch, projects: [1, 9] } }))).toEqual([
      'watch: rule-names-gone'
    ]);
    expect(faults(rule({ leads: [lead({ time: '25:00' })] }))).toEqual(['ring: time-format']);
    expect(faults(rule({ leads: [lead({ unit: 'hour' })] }))).toEqual(['ring: time-with-elapsed-unit']);
    // A repeat of nothing stands still, and no offset reaches over all the dates.
    for (const repeat of [
      { n: 0, unit: 'day' as const, most: 5 },
      { n: -1, unit: 'day' as const, most: 5 },
      { n: 1, unit: 'day' as const, most: 0 }
    ])
      expect(faults(rule({ leads: [lead({ repeat })] }))).toEqual(['ring: rule-repeat']);
    expect(faults(rule({ leads: [lead({ n: 1_000_000 })] }))).toEqual(['ring: offset-too-large']);
    expect(faults(rule({ steps: [tell({ subject: '', body: '‹taks›' })] }))).toEqual([
      'tell: rule-no-words',
      'tell: field-unknown'
    ]);
  });

  it('is said once where several leads share it', () => {
    const named = { of: 'named', zone: 'Europe/Lisbom' } as const;
    expect(faults(rule({ leads: [lead({ zone: named }), lead({ id: 'b', n: -1, zone: named })] }))).toEqual([
      'ring: zone-unknown'
    ]);
  });
});

describe('lead ids', () => {
  it('are followed by the steps, recipients and leads that name them', () => {
    const edited = rule({
      leads: [lead({ id: 'a', n: -3 }), lead({ id: 'b', n: 1, anchor: 'earlier ring', after: 'a' })],
      steps: [tell({ leads: ['a', 'b'], to: [{ who: 'owner' }, { who: 'manager', up: 1, leads: ['a'] }] })]
    });
    const { leads, steps } = withLeadIds(edited, [lead({ id: 'a', n: -2 })], () => 'c');
    expect(leads.map(({ id }) => id)).toEqual(['c', 'b']);
    expect(leads[1]).toMatchObject({ after: 'c' });
    expect(steps[0]).toMatchObject({ leads: ['c', 'b'], to: [{ who: 'owner' }, { leads: ['c'] }] });
  });

  it('of leads that the version before did not have stay as they were named', () => {
    const kept = keepLeadIds([lead({ id: 'a' }), lead({ id: 'mine', n: 4 })], [lead({ id: 'a' })], () => 'c');
    expect(kept.map(({ id }) => id)).toEqual(['a', 'mine']);
  });

  let made = 0;
  const next = () => `new-${++made}`;

  it('stay through edits of time, zone and closed-day rule, and change with anchor, count or unit', () => {
    const before = [lead({ id: 'a' }), lead({ id: 'b', n: -1 })];
    const edited = keepLeadIds(
      [lead({ id: 'a', time: '08:00', zone: { of: 'owner' } }), lead({ id: 'b', n: -3 })],
      before,
      next
    );
    expect(edited.map(({ id }) => id)).toEqual(['a', 'new-1']);
  });

  it('come back when a lead is changed and changed back', () => {
    const before = [lead({ id: 'a' }), lead({ id: 'draft', n: -3 })];
    expect(keepLeadIds([lead({ id: 'draft', n: -2 })], before, next)[0]!.id).toBe('a');
  });

  it('are never shared by two leads', () => {
    const ids = keepLeadIds([lead(), lead(), lead()], [lead()], next).map(({ id }) => id);
    expect(new Set(ids).size).toBe(3);
  });
});

const compiled = (watch: Watch, keeperId: number | null = null, ofTask = false) =>
  compileWatch({ watch, leads: [] }, keeperId, ORDINARY_FACTS, ofTask);

describe('Watch', () => {
  it('tests project, phase and priority, each by its own list', () => {
    const task = {
      projectId: 1,
      ownerId: 7,
      phase: 'under way',
      priority: 'high',
      private: false,
      aside: null,
      made: null
    } as const;
    const watch = { ...openWatch(), phases: [...PHASES] };
    expect(inScope(compiled(watch, null), task)).toBe(true);
    expect(inScope(compiled({ ...watch, projects: [2] }, null), task)).toBe(false);
    expect(inScope(compiled({ ...watch, projects: [] }, null), { ...task, projectId: null })).toBe(false);
    for (const phase of PHASES)
      expect(inScope(compiled({ ...watch, phases: [phase] }, null), task)).toBe(phase === 'under way');
    for (const priority of PRIORITIES)
      expect(inScope(compiled({ ...watch, priorities: [priority] }, null), task)).toBe(priority === 'high');
  });

  it('never sees a private task, unless its owner keeps the rule', () => {
    const task = {
      projectId: 1,
      ownerId: 7,
      phase: 'under way',
      priority: 'high',
      private: true,
      aside: null,
      made: null
    } as const;
    const watch = { ...openWatch(), phases: [...PHASES] };
    expect(inScope(compiled(watch, null), task)).toBe(false);
    expect(inScope(compiled(watch, 8), task)).toBe(false);
    expect(inScope(compiled(watch, 7), task)).toBe(true);
    expect(inScope(compiled(watch, null), { ...task, ownerId: null })).toBe(false);
    // What people set on the task itself rings.
    expect(inScope(compiled(watch, null, true), task)).toBe(true);
  });

  it('never sees what is parked, archived, binned or of a project that is not open', () => {
    const task = {
      projectId: 1,
      ownerId: 7,
      phase: 'under way',
      priority: 'high',
      private: false,
      made: null
    } as const;
    const watch = compiled({ ...openWatch(), phases: [...PHASES] });
    expect(inScope(watch, { ...task, aside: null })).toBe(true);
    expect(inScope(watch, { ...task, aside: 'parked' })).toBe(false);
  });
});
