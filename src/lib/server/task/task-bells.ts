import { MS_PER_DAY } from '../../core/time/day.ts';
import { inShort, ticksOf } from '../../view/bell-series.ts';
import type { PastBell, TaskBells, WholeTaskBells } from '../../view/task-detail.ts';
import type { NoticeState } from '../store/notices.ts';
import type { ForecastService } from '../tower/forecasts.ts';
import type { Viewer } from '../workspace/viewer.ts';
import type { Workspace } from '../workspace/workspace.ts';

/** How far ahead a task's own bells are listed. */
const AHEAD_DAYS = 400;

/** Of its past so many are listed at once: the last of what was sent, and of what was not. */
const PAST_LISTED = 6;

const WAITING: readonly NoticeState[] = ['planned', 'held', 'folded'];

/** The bells of a task, past and to come, each as the viewer reads it. */
export function bellsOfTask(
  { stores, clock, forecasts }: Workspace & { forecasts: ForecastService },
  taskId: number,
  viewer: Viewer
): WholeTaskBells {
  return {
    coming: forecasts.ofTask(taskId, clock.now() + AHEAD_DAYS * MS_PER_DAY, viewer),
    past: stores.notices
      .ofTask(taskId)
      // What waits until the task goes on has no time of its own, and is not among what comes.
      .filter(({ state, leavesAt }) => !WAITING.includes(state) || leavesAt === null)
      .map((notice) => ({
        bell: forecasts.recorded(notice, viewer),
        became: notice.state === 'held' ? 'held' : isSilent(notice.state) ? 'not sent' : 'sent'
      }))
  };
}

function isSilent(state: NoticeState): boolean {
  return state === 'unrung' || state === 'withdrawn';
}

/** What of them a page shows at once; the rest stands on its line, and comes when it is asked for. @param nowMs the workspace clock */
export function bellsInShort({ coming, past }: WholeTaskBells, nowMs: number): TaskBells {
  const { listed, further, rest } = inShort(coming);
  const last = new Set<PastBell>(
    (['held', 'sent', 'not sent'] as const).flatMap((end) => {
      const all = past
        .filter(({ became }) => became === end)
        .sort((a, b) => a.bell.time.atMs - b.bell.time.atMs);
      return end === 'held' ? all : all.slice(-PAST_LISTED);
    })
  );
  const earlier = past.filter((one) => !last.has(one));
  return {
    coming: listed,
    further,
    past: past.filter((one) => last.has(one)),
    earlier: {
      sent: earlier.filter(({ became }) => became === 'sent').length,
      silent: earlier.filter(({ became }) => became === 'not sent').length
    },
    ...ticksOf([...earlier.map(({ bell }) => bell), ...rest], nowMs)
  };
}
