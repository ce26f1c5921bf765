import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { openWorkspace, type TestWorkspace } from '../support/workspace.ts';

let workspace: TestWorkspace;
beforeEach(async () => {
  workspace = await openWorkspace('2026-03-05T08:00Z');
});
afterEach(() => workspace.close());

const read = (line: string, answers = {}) =>
  workspace.container.quickAdd.read(line, workspace.people.Ines!, answers);
const add = (line: string, answers = {}) => {
  const { result } = workspace.container.quickAdd.add(workspace.coordinator, line, answers);
  return workspace.container.stores.tasks.byId(result.id)!;
};

describe('a line of plain words', () => {
  it.each([
    ['count the bottles', '“count the bottles”, without a date, yours.'],
    ['count the bottles, mon', '“count the bottles”, due Monday 9 March 2026, yours.'],
    [
      'send the log, mon 3pm, for Meera, high',
      '“send the log”, due Monday 9 March 2026 at 15:00 in Lisbon (Monday 9 March 2026 at 20:30 in Kolkata), for Meera, high priority.'
    ],
    [
      'renew it, in Permits, tomorrow, every month, tagged reef',
      '“renew it”, due Friday 6 March 2026, yours, in Permits, tagged reef, repeating every month.'
    ],
    ['call, yesterday', '“call”, due Wednesday 4 March 2026 (already past), yours.'],
    [
      'water the plants, every 2 working days',
      '“water the plants”, without a date, yours, repeating only when it has a date.'
    ]
  ])('“%s” is read back', (line, sentence) => {
    expect(read(line)).toMatchObject({ sentence, questions: [] });
  });

  it('becomes the task that it said, its time on the wall of whoever typed it', () => {
    const task = add('send the log, mon 3pm, for Meera, high, tagged reef');
    expect(task).toMatchObject({
      name: 'send the log',
      ownerId: workspace.people.Meera,
      priority: 'high',
      due: { date: '2026-03-09', time: '15:00', zone: 'Europe/Lisbon' },
      createdBy: workspace.people.Ines
    });
    expect(workspace.container.stores.taskParts.tags(task.id)).toMatchObject([{ name: 'reef' }]);
  });

  it('is not added while something in it can mean several things, and takes what was answered', () => {
    const line = 'count, 04/05';
    expect(read(line).questions).toEqual([
      { about: 'due', question: 'When is it due?', choices: ['Monday 4 May 2026', 'Sunday 5 April 2026'] }
    ]);
    expect(() => add(line)).toThrow('When is it due? Choose an answer first.');
    expect(read(line, { due: 1 })).toMatchObject({
      questions: [],
      sentence: expect.stringContaining('5 April') as string
    });
    expect(add(line, { due: 1 }).due?.date).toBe('2026-04-05');
  });

  it('says as what each piece was taken, and asks about what it did not understand', () => {
    const line = 'call, for Meera, 31.02.';
    expect(read(line)).toMatchObject({
      name: 'call, 31.02.',
      pieces: [{ label: 'Owner', said: 'for Meera', means: 'Meera' }],
      questions: [
        {
          about: 'unclear0',
          question: '31.02. is not a date: February 2026 has 28 days.',
          choices: ['Keep it in the name', 'Leave it out']
        }
      ]
    });
    expect(() => add(line)).toThrow('31.02. is not a date');
    expect(add(line, { unclear0: 1 })).toMatchObject({ name: 'call', due: null });
    expect(add(line, { unclear0: 0 }).name).toBe('call, 31.02.');
  });

  it('needs a name', () => {
    expect(read('  ')).toMatchObject({ name: '', sentence: '' });
    expect(() => add(', mon 3pm')).toThrow('Write the task’s name.');
  });

  it('keeps what is long or of another script as it is', () => {
    expect(add('x'.repeat(2_000)).name).toHaveLength(500);
    expect(add('مراجعة تصريح الغوص, mon').name).toBe('مراجعة تصريح الغوص');
    expect(add('🐚 <b>shells</b>; DROP TABLE task').name).toBe('🐚 <b>shells</b>; DROP TABLE task');
  });
});
