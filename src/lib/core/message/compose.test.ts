import { describe, expect, it } from 'vitest';
import { parseMoment } from '../time/instant.ts';
import { zoneNamed } from '../time/zone.ts';
import { composeMessage, type MessageFacts } from './compose.ts';
import { escapeHtml } from './escape.ts';
import { parseTemplate } from './template.ts';

const LISBON = zoneNamed('Europe/Lisbon');
const HOBART = zoneNamed('Australia/Hobart');

const facts = (
  patch: Partial<MessageFacts> = {},
  task: Partial<MessageFacts['task']> = {}
): MessageFacts => ({
  task: {
    id: 7,
    name: 'Renew the permit',
    due: parseMoment('2026-03-09', LISBON),
    start: null,
    priority: 'high',
    status: 'To do',
    description: '',
    ...task
  },
  projectName: 'Permits',
  ownerName: 'Rui Tavares',
  reader: { name: 'Rui Tavares', zone: LISBON },
  whose: 'own',
  dueAt: Date.parse('2026-03-10T00:00Z'),
  pinnedTo: null,
  startAt: null,
  leavesAt: Date.parse('2026-03-05T09:00Z'),
  link: 'https://bell.example/tasks/7',
  inPlaceOf: null,
  acts: [],
  reason: 'Because it is so.',
  ...patch
});
const subject = (text: string, from: MessageFacts) => composeMessage(text, '', 'Rule', from).subject;

describe('words of a message', () => {
  it('are computed when it leaves, in the reader’s zone', () => {
    const left = (iso: string, zone = LISBON) =>
      subject('‹days left›', facts({ leavesAt: Date.parse(iso), reader: { name: 'A B', zone } }));
    expect(left('2026-03-05T09:00Z')).toBe('due in 4 days');
    expect(left('2026-03-08T23:59Z')).toBe('due tomorrow');
    expect(left('2026-03-09T00:00Z')).toBe('due today');
    expect(left('2026-03-10T00:00Z')).toBe('overdue');
    // In Hobart Monday begins eleven hours earlier.
    expect(left('2026-03-08T13:00Z', HOBART)).toBe('due today');
  });

  it('name no project where there is none', () => {
    const words = '‹task›‹in project› is ‹days left›';
    expect(subject(words, facts())).toBe('Renew the permit in Permits is due in 4 days');
    expect(subject(words, facts({ projectName: null }))).toBe('Renew the permit is due in 4 days');
  });

  it('spell a date out, and a time for both walls where they differ', () => {
    const due = parseMoment('2026-03-09T15:00', LISBON);
    const dueAt = Date.parse('2026-03-09T15:00Z');
    expect(subject('‹due›', facts())).toBe('Monday 9 March 2026');
    expect(subject('‹due›', facts({ dueAt }, { due }))).toBe('Monday 9 March 2026 at 15:00');
    const inHobart = facts({ dueAt, reader: { name: 'T W', zone: HOBART } }, { due });
    expect(subject('‹due›', inHobart)).toBe('Tuesday 10 March 2026 at 02:00 (15:00 in Lisbon)');
  });

  it('a date that is pinned to a place says the place and the reader’s own deadline', () => {
    const pinnedTo = zoneNamed('Asia/Muscat');
    // The 5th ends in Muscat (UTC+4) at 20:00Z.
    const dueAt = Date.parse('2026-03-05T20:00Z');
    const due = parseMoment('2026-03-05', pinnedTo);
    const read = (zone: string) =>
      subject('‹due›', facts({ dueAt, pinnedTo, reader: { name: 'A B', zone: zoneNamed(zone) } }, { due }));
    // The example of the design: 16:00 where it is UTC−4.
    expect(read('America/Halifax')).toBe('Thursday 5 March 2026 in Muscat: by 16:00 your time');
    expect(read('Asia/Kolkata')).toBe(
      'Thursday 5 March 2026 in Muscat: by 01:30 on Friday 6 March 2026 your time'
    );
    expect(read('Asia/Dubai')).toBe('Thursday 5 March 2026');
  });

  it('show their fallback, ours or the author’s, where a value is missing', () => {
    const bare = facts({ projectName: null, ownerName: null, dueAt: null }, { due: null });
    expect(subject('‹project›, ‹owner›, ‹days left›', bare)).toBe('no project, no owner, without a due date');
    expect(subject('‹due, else no date yet›', bare)).toBe('no date yet');
  });

  it('keep a header one line and HTML plain text, whatever a task is called', () => {
    const name = 'Tide\r\nBcc: someone@else.example <script>alert("x")</script>';
    const message = composeMessage('‹task›', '‹task›\n\n‹link›', 'R & D', facts({}, { name }));
    expect(message.subject).not.toMatch(/[\r\n]/);
    expect(message.html).not.toContain('<script>');
    expect(message.html).toContain('R &#38; D');
    expect(message.html).toContain('href="https://bell.example/tasks/7"');
    expect(escapeHtml(`<&">'`)).toBe('&#60;&#38;&#34;&#62;&#39;');
  });

  it('end with the rule and the reason', () => {
    const { text } = composeMessage('s', 'Body', 'Permits', facts());
    expect(text).toBe('Body\n\n-- \nSent by the rule “Permits”. Because it is so.\n');
  });
});

describe('templates', () => {
  it('name the nearest field for one that does not exist', () => {
    expect(() => parseTemplate('‹taks›')).toThrow('There is no merge field ‹taks›. Did you mean ‹task›?');
    expect(() => parseTemplate('‹zzzzzz›')).toThrow('There are ‹task›, ‹project›');
    expect(() => parseTemplate('Dear ‹first name')).toThrow('at “‹first name”');
  });

  it('leave words alone that only look like a language of formulas', () => {
    expect(parseTemplate('{{task}} ${task} <%= task %>')).toEqual(['{{task}} ${task} <%= task %>']);
  });
});
