import type { NoticeKind } from '../../notice/kinds.ts';
import type { CompiledTell } from '../../rule/program.ts';
import type { CompiledLead } from '../facts/compile-lead.ts';

/** Of which kind a notice is: as its Tell says, else by what its lead announces. */
export function noticeKind(
  tell: CompiledTell,
  { lead, anchor, timing, rung, watchesLate }: CompiledLead
): NoticeKind {
  if (tell.step.noticeKind) return tell.step.noticeKind;
  if (lead.kind === 'event') {
    if (lead.event === 'assigned') return 'assigned';
    if (lead.event === 'finished' || lead.event === 'closed') return 'finished';
    return lead.event === 'became overdue' ? 'overdue' : 'reminder';
  }
  if (watchesLate) return 'overdue';
  if (rung) return 'escalation';
  if (anchor !== 'due') return 'reminder';
  if (timing.n > 0 || (lead.kind === 'offset' && lead.repeat !== null && lead.repeat.n > 0)) return 'overdue';
  return timing.n === 0 ? 'due today' : 'reminder';
}

/** Minutes within which a second rule does not tell the same person the same of a task. */
export const ALREADY_TOLD_MS = 60 * 60_000;
