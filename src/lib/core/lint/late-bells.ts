import type { Lint, LintContext } from './model.ts';

/** Notices that would leave when what they announce is over. */
export function lateBells({ notices, definition }: LintContext): Lint[] {
  let late = 0;
  for (const { lateBell, unrung } of notices) if (lateBell && unrung === null) late++;
  if (late === 0) return [];
  const many = late === 1 ? '1 notice would' : `${late} notices would`;
  return [
    {
      code: 'late bells',
      part: 'ring',
      message: `${many} leave when the date is over: working hours, leave or a day’s most carry ${late === 1 ? 'it' : 'them'} past it.`,
      mend:
        definition.ifLate === 'keep'
          ? { does: 'bring forward', words: 'bring them forward to the last minute of reach before' }
          : null
    }
  ];
}
