import { lead, rule, tell } from '../definition.fixture.ts';
import { describe, expect, it } from 'vitest';
import { blankDefinition, openWatch, type RuleDefinition } from '../model.ts';
import { type Step } from '../step-model.ts';
import { offsetLead, type Lead } from '../lead-model.ts';
import { BARE_NAMES } from './condition-words.ts';
import { leadWords } from './lead-words.ts';
import { sentenceText, shortSentence, wholeSentence } from './sentence.ts';

const NAMES = { ...BARE_NAMES, project: () => 'Permit renewals' };
const whole = (definition: RuleDefinition) => sentenceText(wholeSentence(definition, NAMES));
const step = (id: string) => ({ id, name: '', description: '', leads: null });

describe('the whole sentence of a rule', () => {
  it('says which tasks, when, whom, how, and whom it never tells', () => {
    const definition = rule({
      watch: {
        ...openWatch(),
        projects: [1],
        phases: ['waiting to start', 'under way', 'stuck on others'],
        priorities: ['high', 'pressing']
      },
      leads: [
        lead({ id: 'c', n: -5 }),
        lead({ n: -1 }),
        lead({ id: 'b', n: -1, unit: 'hour', closedDay: 'as-is', time: null })
      ]
    });
    expect(whole(definition)).toBe(
      'Open tasks in Permit renewals with high or pressing priority · 5 working days and 1 working day before the due date, ' +
        '09:00 where the recipient is (on a closed day the working day before); 1 hour before the due time · tell the owner ' +
        '(only in their working hours; on leave: tell their stand-in, or their manager, or wait; one message per person) · ' +
        'if too late: ring, marked as a late bell · while it is acknowledged: the person who did so gets no overdue notice · ' +
        'while it is stuck on others: its owners get no overdue notice'
    );
    expect(shortSentence(definition, NAMES)).toBe(
      'Open tasks in Permit renewals with high or pressing priority · 5 working days and 1 working day before the due date, ' +
        '09:00 where the recipient is; 1 hour before the due time · tell the owner'
    );
  });

  it('says of each recipient the ring times that it is limited to', () => {
    const leads = [0, 1].map((n) => offsetLead(`${n}`, n, 'workday', { anchor: 'ladder', time: null }));
    const steps = [tell({ to: [{ who: 'owner' }, { who: 'manager', up: 1, as: 'cc', leads: ['1'] }] })];
    const words = whole(rule({ leads, steps, inOrder: false, awayStops: true }));
    expect(words).toContain('level 1 as soon as it is overdue');
    expect(words).toContain('level 2 when it is overdue by 1 working day');
    expect(words).toContain('tell the owner and the owner’s manager (copy), only at level 2 (');
    expect(words).toContain('tell each as soon as possible');
    expect(words).toContain('while the first owner is on leave: the ladder is paused');
  });

  it('says branches, waits with what they do on closed days, what is created and for whom', () => {
    const steps: Step[] = [
      {
        ...step('branch'),
        ...{ kind: 'branch', otherwise: [tell({ to: [{ who: 'keeper' }] })] },
        sides: [
          {
            name: '',
            condition: { field: 'priority', op: 'is', value: 'high' },
            steps: [
              {
                ...step('wait'),
                kind: 'wait',
                n: 2,
                unit: 'day',
                time: '09:00',
                closedDay: 'later',
                regardless: false
              },
              {
                ...step('do'),
                ...{ kind: 'do', ask: { question: 'Ask again?', workingDays: 1, otherwise: 'no' } },
                acts: [
                  {
                    ...{
                      act: 'follow-up',
                      name: 'Ask',
                      description: '',
                      owner: { who: 'keeper' },
                      priority: 'high'
                    },
                    ...{ due: { from: 'today', n: 1, unit: 'workday' }, time: null }
                  }
                ]
              }
            ]
          }
        ]
      }
    ];
    const words = whole(rule({ steps }));
    expect(words).toContain(
      'if priority is high: wait 2 days until 09:00 where the owner is (on a closed day the working day after; ' +
        'continue only if it still matches), then create the follow-up “Ask”, due today + 1 working day ' +
        '(owner: the rule’s keeper; high priority), after asking “Ask again?” (no answer in 1 working day counts as no)'
    );
    expect(words).toContain('else: tell the rule’s keeper');
  });

  it('says where it stops, and what is done about past ring times where that is not the default', () => {
    const definition = rule({
      stop: {
        ...blankDefinition().stop,
        condition: { field: 'priority', op: 'is', value: 'low' },
        afterNotices: 1,
        until: '2026-06-01'
      },
      past: { ...blankDefinition().past, created: 'do not ring' },
      ifLate: 'skip',
      firstRun: '2026-03-09T08:00'
    });
    const words = whole(definition);
    expect(words).toContain('not before 2026-03-09 08:00 workspace time');
    expect(words).toContain('if too late: do not ring');
    expect(words).toContain(
      'stop when priority is low · stop after 1 notice per person · stop after 2026-06-01'
    );
    expect(words).toContain('when a task is added too late: do not ring');
  });

  it('of an unfinished rule says what is missing', () => {
    expect(shortSentence(blankDefinition(), NAMES)).toBe('Open tasks · never rings · tell nobody');
  });

  it('can be read of a rule of many steps: the first level, with the rest inside', () => {
    const inside = Array.from({ length: 38 }, (_, i) => tell({ id: `t${i}` }));
    const branch: Step = {
      ...{ ...step('branch'), kind: 'branch', otherwise: [] },
      sides: [{ name: '', condition: { field: 'priority', op: 'is', value: 'high' }, steps: inside }]
    };
    const steps = wholeSentence(rule({ steps: [branch, tell({ id: 'last' })] }), NAMES).filter(
      ({ of }) => of === 'step'
    );
    expect(steps.map(({ inner }) => inner.length)).toEqual([38, 0]);
  });

  it('keeps names as they were written, with quotes, braces and other scripts', () => {
    for (const name of ['“Harbour” {count} <b>', 'مرفأ مسقط', '‹task›']) {
      const words = sentenceText(
        wholeSentence(rule({ watch: { ...openWatch(), projects: [1] } }), { ...NAMES, project: () => name })
      );
      expect(words).toContain(`Open tasks in ${name} ·`);
    }
  });
});

describe('a ring time in words', () => {
  it('of a schedule says on whose calendar a day is closed, and for which date it rings once', () => {
    const schedule: Lead = {
      ...{ kind: 'schedule', id: 's', on: true, only: null, zone: { of: 'owner' }, rrule: 'FREQ=DAILY' },
      ...{ start: '2026-03-02', time: '10:00', closedDay: 'skip', oncePerDate: true, since: '2026-03-05' },
      onceFor: { date: 'remind on' }
    };
    expect(leadWords(schedule)).toBe(
      'every day at 10:00 where the owner is (not on a closed day of the owner’s calendar; ' +
        'once per reminder date, once it has come, from 2026-03-05 on)'
    );
  });

  it('never says “every” for an offset', () => {
    expect(leadWords(lead({ n: -2, unit: 'day' }))).toContain('2 days before the due date');
    expect(leadWords(lead({ n: 0, unit: 'day' }))).toContain('on the due date');
    expect(leadWords(lead({ n: 1, unit: 'month', anchor: 'start', closedDay: 'later' }))).toContain(
      '1 month after the start date'
    );
  });

  it('keeps the order of its words around a name that is written from right to left', () => {
    const tags = ['דחוף', 'a "quoted" {brace}'];
    const words = whole(rule({ watch: { ...openWatch(), tags } }));
    expect(words).toContain('tagged “\u2068דחוף\u2069” or “a "quoted" {brace}” · 2 working days');
  });
});
