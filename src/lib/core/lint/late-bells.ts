import { many } from '../many.ts';
import type { Lint, LintContext } from './model.ts';

/** Notices that would leave when what they announce is over. */
export function lateBells({ notices, definition }: LintContext): Lint[] {
  let late = 0;
  for (const { lateBell, unrung } of notices) if (lateBell && unrung === null) late++;
  if (late === 0) return [];

  return [
    {
      code: 'late bells',
      part: 'ring',
      message: `${many(late, 'notice')} would be sent after the date, because of working hours, leave or a daily limit.`,
      mend:
        definition.ifLate === 'keep'
          ? { does: 'bring forward', words: 'send them earlier, in the last minute they can be told' }
          : null
    }
  ];
}
