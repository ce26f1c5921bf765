import type { BellKind } from './models.ts';

/** Kinds whose name in code is not their word. */
const WORDS: Partial<Record<BellKind, string>> = { rung: 'escalation', unrung: 'not sent' };

/** What a kind of bell is called wherever it is read. */
export function bellWord(kind: BellKind): string {
  return WORDS[kind] ?? kind;
}
