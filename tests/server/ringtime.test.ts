import { spawnSync } from 'node:child_process';
import { describe, expect, it } from 'vitest';

/** The command as a person starts it: lines in, lines out. */
const bell = (args: string[], input = '') => {
  const { stdout, stderr, status } = spawnSync(process.execPath, ['src/cli/bell.mjs', ...args], { input });
  return { lines: stdout.toString().split('\n').filter(Boolean), stderr: stderr.toString(), status };
};

describe('bell ringtime', () => {
  it('answers line by line; a faulty line answers its own error and the rest goes on', () => {
    const { lines, stderr, status } = bell(
      ['ringtime'],
      [
        '\uFEFF{"id":"a","anchor":"2026-03-05","offset":{"n":-2,"unit":"day"},"time":"08:00","zone":"Asia/Kolkata"}',
        '',
        'not json',
        '{"id":"b","anchor":"2026-02-30"}',
        '{"id":"c","anchor":"2026-03-05","offset":{"n":1.5,"unit":"day"}}',
        '{"id":7,"anchor":"2026-03-07","closedDay":"skip","calendar":{"week":{"mon":["09:00-17:00"]}}}'
      ].join('\n')
    );
    const answers = lines.map((line) => JSON.parse(line) as Record<string, unknown>);
    expect(answers.map(({ id, code, field }) => [id, code, field])).toEqual([
      ['a', undefined, undefined],
      [undefined, 'bad-json', undefined],
      ['b', 'date-impossible', 'anchor'],
      ['c', 'bad-field', 'offset.n'],
      [7, undefined, undefined]
    ]);
    expect(answers[0]).toMatchObject({ instant: '2026-03-03T02:30:00Z' });
    expect(answers[2]!.error).toBe('2026-02-30 is not a date: February 2026 has 28 days.');
    expect(answers[4]).toMatchObject({ instant: null });
    expect([stderr, status]).toEqual(['', 1]);
  });

  it('says on standard error what it cannot do', () => {
    expect(bell(['ringtime', 'no-such-file'])).toMatchObject({ lines: [], status: 2 });
    expect(bell(['rignt']).stderr).toContain('there is no command “rignt”');
    expect(bell([]).stderr).toContain('Usage');
  });
});
