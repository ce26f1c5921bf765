/** A question that is answered by yes or no. */
export interface Question {
  title: string;
  /** What pressing it does: “Leave the page”. */
  yes: string;
  no: string;
}

/** The question that is asked now; null while none is. */
export const asked = $state<{ now: (Question & { answer: (yes: boolean) => void }) | null }>({ now: null });

/** Asks in a dialog of our own, which blocks nothing else of the browser. Escape is no. */
export function ask(question: Question): Promise<boolean> {
  asked.now?.answer(false);
  return new Promise((resolve) => {
    asked.now = {
      ...question,
      answer(yes) {
        asked.now = null;
        resolve(yes);
      }
    };
  });
}
