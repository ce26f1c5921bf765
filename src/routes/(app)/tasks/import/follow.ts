import { readJson } from '$lib/ui/form/send.ts';
/** How far something long about an upload is, in words and from 0 to 1. */
export interface Far {
  text: string;
  part: number;
}

interface Progress {
  phase: string;
  done: number;
  total: number;
}

const WORDS: Readonly<Record<string, string>> = {
  reading: 'Reading the rows',
  checking: 'Checking the rows',
  writing: 'Writing the rows'
};
const ASKED_EVERY_MS = 250;

/** Asks the server how far it is with an upload, again and again. @param isOver asked each time: whether nobody wants to know any more */
export async function followUpload(
  token: string,
  isOver: () => boolean,
  heard: (far: Far) => void
): Promise<void> {
  while (!isOver()) {
    const progress = await howFar(token);
    if (progress && !isOver())
      heard({ text: WORDS[progress.phase]!, part: progress.done / Math.max(progress.total, 1) });
    await new Promise((resolve) => setTimeout(resolve, ASKED_EVERY_MS));
  }
}

/** Null when nothing is under way, or the server does not answer just now: whoever waits for the end of it is told by that. */
async function howFar(token: string): Promise<Progress | null> {
  const said = await readJson<{ progress: Progress | null }>(`/tasks/import/${token}/progress`);
  return said?.progress ?? null;
}
