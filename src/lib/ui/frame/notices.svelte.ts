import { createToaster } from '@skeletonlabs/skeleton-svelte';

/** Says what was done, at the foot of the screen, with its undo for ten seconds: the newest below, none over another. */
export const toaster = createToaster({
  ...{ placement: 'bottom-end', duration: 10_000 },
  ...{ overlap: false, gap: 8, max: 4 }
});

/** The change that Ctrl+Z takes back. */
let latest: { changeId: number; undo: (changeId: number) => void } | null = null;

/** Announces an act that can be undone. */
export function announceDone(title: string, changeId: number, undo: (changeId: number) => void): void {
  latest = { changeId, undo };
  toaster.create({ title, type: 'success', action: { label: 'Undo', onClick: () => undo(changeId) } });
}

/** Announces something that happened, good or not, with nothing to undo. */
export function announce(title: string, type: 'info' | 'error' = 'info', description?: string): void {
  toaster.create({ title, type, description });
}

/** Announces something that leads on to something else. */
export function announceWith(
  title: string,
  label: string,
  onClick: () => void,
  type: 'info' | 'success' = 'info'
): void {
  toaster.create({ title, type, action: { label, onClick } });
}

/** What takes longer is said to be under way, ms. */
const A_MOMENT = 1_000;

/** Says of something under way that it is, where it takes longer than a moment, until it has ended. */
export async function whileUnderWay<T>(title: string, work: Promise<T>): Promise<T> {
  let id: string | undefined;
  const waited = setTimeout(() => {
    id = toaster.create({ title, type: 'info', duration: Infinity });
  }, A_MOMENT);
  try {
    return await work;
  } finally {
    clearTimeout(waited);
    if (id !== undefined) toaster.dismiss(id);
  }
}

/** Takes the latest act back, once. @returns whether there was one */
export function undoLatest(): boolean {
  if (!latest) return false;
  const { changeId, undo } = latest;
  latest = null;
  undo(changeId);
  return true;
}

/** Forgets what could be undone: it has been. */
export function forgetLatest(changeId: number): void {
  if (latest?.changeId === changeId) latest = null;
}
