import { describe, expect, it } from 'vitest';
import { readLeaveFile } from '../../src/lib/server/in-out/read/leave-file.ts';
import { eachInAWorkspace, workspace } from '../support/rules.ts';

/** Leave of many people from a sheet, and from a calendar (RFC 5545 §3.6.1: DTEND is not included, §3.8.4.1: ATTENDEE). */
eachInAWorkspace();

const look = (text: string, otherwise: number | null = null) =>
  workspace.container.leaveSheet
    .look(readLeaveFile(text), otherwise)
    .map(({ line, name, when, act, problem }) => [line, name, when, act ?? problem]);
const confirm = (text: string, otherwise: number | null = null) =>
  workspace.container.leaveSheet.confirm(workspace.coordinator, readLeaveFile(text), otherwise).result;
const leaveOf = (name: string) =>
  workspace.container.stores.people
    .leaveOf(workspace.people[name]!)
    .map(({ from, until, standInId, note }) => [from, until, standInId, note]);

describe('leave from a sheet', () => {
  const csv =
    'Person,From,Until,Stand-in,Note\nInes,2026-03-09,2026-03-13,Nora,Sailing\nnora@test.example,16/03/2026,,,\n' +
    'Salim,2026-03-20T13:00,2026-03-20,,\nNobody,2026-03-09,,,\nTess,2026-03-13,2026-03-09,,\nTess,soon,,,\nMeera,2026-03-09,,Nobody,\n';

  it('is entered with stand-ins and half days; what cannot be is named by its line', () => {
    expect(look(csv)).toEqual([
      [2, 'Ines', 'Monday 9 March 2026 to Friday 13 March 2026', 'is entered'],
      [3, 'Nora', 'Monday 16 March 2026 to Monday 16 March 2026', 'is entered'],
      [4, 'Salim', 'Friday 20 March 2026, 13:00 to Friday 20 March 2026', 'is entered'],
      [5, 'Nobody', '', 'No person is named “Nobody”.'],
      [6, 'Tess', expect.any(String), expect.stringMatching(/./)],
      [7, 'Tess', '', '“soon” is not a date. Write year-month-day, like 2026-03-05.'],
      [8, 'Meera', expect.any(String), 'No person is named “Nobody”, who would stand in.']
    ]);
    expect(confirm(csv)).toEqual({ added: 3, left: 4 });
    expect(leaveOf('Ines')).toEqual([['2026-03-09', '2026-03-13', workspace.people.Nora, 'Sailing']]);
    expect(leaveOf('Salim')).toEqual([['2026-03-20T13:00', '2026-03-20', null, '']]);
  });

  it('that comes again doubles nothing, and is taken back in one', () => {
    const { container, coordinator } = workspace;
    const { changeId } = container.leaveSheet.confirm(coordinator, readLeaveFile(csv), null);
    expect(
      look(csv)
        .slice(0, 3)
        .map(([, , , what]) => what)
    ).toEqual(Array(3).fill('already entered'));
    expect(() => confirm(csv)).toThrow(expect.objectContaining({ code: 'leave-nothing' }));
    expect(look('person,from,until\nInes,2026-03-12,2026-03-16\n')[0]![3]).toContain('2026-03-09');
    expect(look('person,from,until\nTess,2026-03-12,2026-03-16\nTess,2026-03-16,2026-03-18\n')[1]![3]).toBe(
      'It overlaps line 2.'
    );
    container.committer.undo(changeId, coordinator.personId!);
    expect(leaveOf('Ines')).toEqual([]);
  });

  it('asks for dates that can be read one way alone, and for its columns', () => {
    expect(look('person,from\nInes,03/04/2026\n')[0]![3]).toContain('can be read day first or month first');
    expect(() => look('who is it,when\nInes,2026-03-09\n')).toThrow(
      expect.objectContaining({ code: 'leave-columns' })
    );
    expect(() => look('person,from\n')).toThrow(expect.objectContaining({ code: 'import-header-only' }));
  });
});

describe('leave from a calendar', () => {
  const ics = (events: string) => `BEGIN:VCALENDAR\r\nVERSION:2.0\r\n${events}END:VCALENDAR\r\n`;
  const event = (lines: string) => `BEGIN:VEVENT\r\nUID:${lines.length}\r\n${lines}END:VEVENT\r\n`;

  it('is of who takes part or is named in the title, without the day after the last, on their wall', () => {
    const text = ics(
      event('DTSTART;VALUE=DATE:20260309\r\nDTEND;VALUE=DATE:20260314\r\nSUMMARY:Leave: Ines\r\n') +
        event('DTSTART;VALUE=DATE:20260316\r\nSUMMARY:Away\r\nATTENDEE;CN=N:mailto:nora@test.example\r\n') +
        // 08:30 to 12:00 UTC is 14:00 to 17:30 in Kolkata.
        event('DTSTART:20260310T083000Z\r\nDTEND:20260310T120000Z\r\nSUMMARY:Meera\r\n') +
        event('DTSTART;VALUE=DATE:20260309\r\nSUMMARY:Somebody\r\n') +
        event('DTSTART;VALUE=DATE:20260309\r\nSUMMARY:Tess\r\nSTATUS:CANCELLED\r\n') +
        event('DTSTART;VALUE=DATE:20260309\r\nRRULE:FREQ=SECONDLY\r\nSUMMARY:Tess\r\n')
    );
    expect(look(text).map(([, name, when, what]) => [name, when, what])).toEqual([
      ['Ines', 'Monday 9 March 2026 to Friday 13 March 2026', 'is entered'],
      ['Nora', 'Monday 16 March 2026 to Monday 16 March 2026', 'is entered'],
      ['Meera', 'Tuesday 10 March 2026, 14:00 to Tuesday 10 March 2026, 17:30', 'is entered'],
      ['Somebody', '', 'No person is named “Somebody”.'],
      ['Tess', '', 'The event repeats. Enter each leave separately.']
    ]);
    expect(confirm(text, workspace.people.Salim)).toEqual({ added: 4, left: 1 });
    expect(leaveOf('Salim')).toEqual([['2026-03-09', '2026-03-09', null, 'Somebody']]);
    expect(leaveOf('Meera')).toEqual([['2026-03-10T14:00', '2026-03-10T17:30', null, 'Meera']]);
  });

  it('that is none is refused', () => {
    expect(() => look('BEGIN:VCALENDAR\r\nBEGIN:VEVENT\r\n')).toThrow(
      expect.objectContaining({ code: 'ics-format' })
    );
  });
});
