import { isTest, joinedOf, type Condition, type Test } from './condition.ts';

/** Whether a condition lets through nothing but what is late: then a notice of its rule says so, whenever it rings. */
export function asksForLate(condition: Condition | null): boolean {
  if (condition === null) return false;
  if (isTest(condition)) return isOfLate(condition);
  const { how, parts } = joinedOf(condition);
  if (how === 'all') return parts.some(asksForLate);
  return how === 'any' && parts.length > 0 && parts.every(asksForLate);
}

function isOfLate({ field, op, value }: Test): boolean {
  if (field === 'overdue') return op === 'is yes';
  if (field !== 'days overdue' && field !== 'working days overdue') return false;
  const n = Number(value);
  return op === 'more than' ? n >= 0 : (op === 'at least' || op === 'equals') && n >= 1;
}
