import type { LintCode } from '../src/lib/core/lint/model.ts';
import { blankDefinition, openWatch, type RuleDefinition } from '../src/lib/core/rule/model.ts';
import { blankTell, type Step, type Tell } from '../src/lib/core/rule/step-model.ts';
import { offsetLead, type Lead, type ScheduleLead } from '../src/lib/core/rule/lead-model.ts';
import type { DemoRule } from './scenario.ts';

/** A doubt, a rule in which it shows, and the same rule mended. */
export interface LintPair {
  lint: LintCode;
  shows: DemoRule;
  mended: DemoRule;
}

const tell = (id: string, patch: Partial<Tell> = {}): Tell => ({
  ...blankTell(id),
  name: id,
  to: [{ who: 'owner' }],
  gather: 'per task',
  ...patch
});
const step = (id: string) => ({ id, name: id, description: '', leads: null });
const weekly = (id: string, patch: Partial<ScheduleLead> = {}): Lead => ({
  ...{ kind: 'schedule', id, on: true, only: null, zone: { of: 'workspace' } },
  ...{ rrule: 'FREQ=WEEKLY;BYDAY=FR', start: '2026-01-05', time: '11:00', closedDay: 'later' },
  oncePerDate: false,
  ...patch
});
const due = (value: number) => ({
  ...openWatch(),
  condition: { field: 'due', op: 'within the next days', value } as const
});

function pair(
  lint: LintCode,
  name: string,
  shows: Partial<RuleDefinition>,
  mended: Partial<RuleDefinition>
): LintPair {
  const made = (title: string, patch: Partial<RuleDefinition>): DemoRule => ({
    name: title,
    description: `A draft that shows one kind of doubt: ${lint}.`,
    definition: { ...blankDefinition(), steps: [tell('tell')], ...patch }
  });
  return { lint, shows: made(name, shows), mended: made(`${name}, mended`, { ...shows, ...mended }) };
}

/** Drafts that show each doubt of the editor, each with a mended one beside it; none of them rings. */
export function lintRules(statuses: readonly number[]): LintPair[] {
  return [...ofTheRing(), ...ofSchedules(), ...ofTheRest(statuses)];
}

const afterwards = offsetLead('after', 1, 'workday');

function ofTheRing(): LintPair[] {
  const note = noteStep();
  return [
    pair(
      'late bells',
      'Four hours before the end of the day',
      { leads: [offsetLead('hours', -4, 'hour'), afterwards] },
      { leads: [offsetLead('day', -1, 'workday'), afterwards] }
    ),
    pair(
      'rush',
      'Every open task, one by one',
      {
        leads: [weekly('friday', { rrule: 'FREQ=WEEKLY;BYDAY=MO', oncePerDate: true })],
        steps: [tell('tell', { to: [{ who: 'coordinator' }] })]
      },
      { steps: [tell('tell', { to: [{ who: 'coordinator' }], gather: 'per recipient' })] }
    ),
    pair(
      'loop',
      'Move overdue work to the next week',
      {
        leads: [afterwards],
        steps: [
          {
            ...step('move on'),
            kind: 'do',
            acts: [{ act: 'set due', date: { from: 'today', n: 1, unit: 'workday' }, time: null }],
            ask: null
          }
        ]
      },
      { steps: [note] }
    ),
    pair(
      'follow-ups of follow-ups',
      'Ask about overdue tasks, follow-ups too',
      {
        leads: [afterwards],
        watch: { ...openWatch(), made: true },
        steps: [
          {
            ...step('ask'),
            kind: 'do',
            acts: [
              {
                ...{ act: 'follow-up', name: 'Ask about ‹task›', description: '', owner: { who: 'keeper' } },
                ...{ due: { from: 'today', n: 1, unit: 'workday' }, time: null, priority: null }
              }
            ],
            ask: null
          }
        ]
      },
      { watch: openWatch() }
    )
  ];
}

/** What a schedule misses, or finds again. */
function ofSchedules(): LintPair[] {
  return [
    pair(
      'check rarer than its window',
      'Fridays, tasks due in two days',
      { leads: [weekly('friday', { oncePerDate: true })], watch: due(2) },
      { watch: due(10) }
    ),
    pair(
      'finds the same task again',
      'Fridays, tasks due within a month',
      { leads: [weekly('friday')], watch: due(30) },
      { leads: [weekly('friday', { oncePerDate: true })] }
    ),
    pair(
      'exact day on a schedule with gaps',
      'Every working day, tasks with that reminder date',
      {
        leads: [weekly('daily', { rrule: 'FREQ=DAILY' })],
        watch: { ...openWatch(), condition: { field: 'remind on', op: 'on', value: 'today' } }
      },
      {
        leads: [
          weekly('daily', {
            rrule: 'FREQ=DAILY',
            oncePerDate: true,
            onceFor: { date: 'remind on' },
            since: '2026-03-05'
          })
        ],
        watch: openWatch()
      }
    )
  ];
}

/** What leaves a note instead of changing anything. */
function noteStep(): Step {
  return {
    ...step('note'),
    kind: 'do',
    acts: [{ act: 'comment', text: '‹task› was not changed for a while.' }],
    ask: null
  };
}

function ofTheRest([waiting = 0]: readonly number[]): LintPair[] {
  const archive: Step = { ...step('archive'), kind: 'do', acts: [{ act: 'archive' }], ask: null };
  const note = noteStep();
  return [
    pair(
      'lead longer than the rhythm',
      'Ten days ahead, weekly work too',
      { leads: [offsetLead('ten', -10, 'day'), afterwards] },
      { leads: [offsetLead('two', -2, 'day'), afterwards] }
    ),
    pair(
      'words against the lead',
      'Two ring times, one text',
      {
        leads: [offsetLead('two', -2, 'day'), offsetLead('one', -1, 'day')],
        steps: [tell('tell', { subject: '‹task› is due tomorrow' })]
      },
      { steps: [tell('tell', { subject: '‹task› is ‹days left›' })] }
    ),
    pair(
      'one status of several',
      'Only tasks not started',
      {
        leads: [offsetLead('two', -2, 'workday')],
        watch: { ...openWatch(), condition: { field: 'status', op: 'is', value: waiting } }
      },
      { watch: openWatch() }
    ),
    pair(
      'nothing after the due day',
      'Parked tasks, before their date only',
      { leads: [offsetLead('two', -2, 'day')], watch: { ...openWatch(), seen: ['parked'] } },
      { leads: [offsetLead('two', -2, 'day'), afterwards] }
    ),
    pair(
      'told twice',
      'The owner, and the owner again',
      {
        leads: [offsetLead('two', -2, 'day')],
        steps: [tell('first'), tell('second', { subject: 'Again: ‹task› is ‹days left›' })]
      },
      { steps: [tell('first')] }
    ),
    pair(
      'double channels',
      'By mail and in the app, two days ahead',
      {
        leads: [offsetLead('two', -2, 'day')],
        steps: [tell('tell', { channels: ['mail', 'in-app'] })]
      },
      { steps: [tell('tell')] }
    ),
    pair(
      'channel missing',
      'A text message on the day',
      { leads: [offsetLead('day', 0, 'day'), afterwards], steps: [tell('tell', { channels: ['text'] })] },
      { steps: [tell('tell')] }
    ),
    pair(
      'set by two rules',
      'Archive tasks without changes',
      {
        leads: [offsetLead('stale', 20, 'workday', { anchor: 'last touched' })],
        steps: [archive]
      },
      { steps: [note] }
    )
  ];
}
