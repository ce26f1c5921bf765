import type { NoticeRecord, NoticeStore } from '../store/notices.ts';

/** What a ladder holds while its task waits for others waits without an end; it is looked at again whenever the task changes. */
export function letWait(notices: NoticeStore, { id, leavesAt, readerId, lateBell, why }: NoticeRecord): void {
  if (leavesAt === null) return;
  const waiting = [...why, { code: 'ladder-waits' as const, params: {} }];
  notices.move(id, { leavesAt: null, readerId, state: 'held', lateBell, why: waiting });
}
