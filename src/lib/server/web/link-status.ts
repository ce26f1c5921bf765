import type { ErrorCode } from '../../core/errors.ts';

/** With what a page answers whose link does nothing any more (RFC 9110): it is not ours, has had its time, is not theirs, or there is nothing left to do. */
const STATUS: Partial<Record<ErrorCode, number>> = {
  'link-broken': 404,
  'link-of-a-copy': 404,
  'link-old': 410,
  'link-used': 410,
  'task-gone': 410,
  'task-not-yours': 403,
  'link-task-not-yours': 403,
  'link-task-over': 409
};

/** The status of a page of a link that cannot do what it is for. */
export function linkStatus(code: ErrorCode): number {
  return STATUS[code] ?? 400;
}
