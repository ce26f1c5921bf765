import { shortMoment } from '../../core/time/format.ts';
import type { Zone } from '../../core/time/zone.ts';
import type { BehindBellView } from '../../view/behind-bell.ts';
import type { Workspace } from '../workspace/workspace.ts';
import type { InAppMessage } from '../store/in-app.ts';

/** How many stand behind a bell; what is older is found in the Outbox and at its task. */
const MOST = 60;
/** Of the words of what is about no task, so many are shown. */
const LONGEST_WORDS = 280;

/** What stands behind somebody's bell: what is about tasks apart from the rest, newest first. */
export function behindBell(app: Workspace, personId: number, zone: Zone): BehindBellView {
  const now = app.clock.now();
  const today = zone.dayOf(now);
  const all = app.stores.inApp.of(personId, MOST).map((message) => ({
    id: message.id,
    subject: message.subject,
    words: message.tasks > 0 ? '' : wordsOf(message),
    at: shortMoment(message.leavesAt, zone, today),
    isNew: message.seenAt === null,
    href: hrefOf(message),
    aboutTasks: message.tasks > 0
  }));
  return {
    unseen: app.stores.inApp.unseen(personId),
    tasks: all.filter(({ aboutTasks }) => aboutTasks),
    rest: all.filter(({ aboutTasks }) => !aboutTasks)
  };
}

/** Where one leads: to its task, to the list for several, else where its message leads in here. */
function hrefOf({ taskId, tasks, link }: InAppMessage): string | null {
  if (taskId !== null) return `/tasks/${taskId}`;
  if (tasks > 0) return '/tasks';
  return link === '' ? null : new URL(link).pathname;
}

function wordsOf({ text, link }: InAppMessage): string {
  const words = (link === '' ? text : text.replace(link, '')).trim();
  return words.length > LONGEST_WORDS ? `${words.slice(0, LONGEST_WORDS).trimEnd()}…` : words;
}

/** One was looked at, or all of them. @param messageId null for all */
export function seeBehindBell(
  { work, stores, clock }: Workspace,
  personId: number,
  messageId: number | null
): void {
  work.run(() => stores.inApp.see(personId, messageId, clock.now()));
}
