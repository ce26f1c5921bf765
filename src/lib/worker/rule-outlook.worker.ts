import type { RuleForecastView } from '../view/models.ts';
import { openBasis, type RuleBasis, type WrittenRule } from '../view/rule-basis.ts';

/** What the page says to the worker: a basis to go by, or a rule to compute. */
export type ToWorker =
  { is: 'basis'; basis: RuleBasis } | { is: 'compute'; id: number; written: WrittenRule; elapsedMs: number };

/** What the worker answers; a fault is the page's to show. */
export type FromWorker = { id: number; view: RuleForecastView } | { id: number; fault: string };

let compute: ReturnType<typeof openBasis> | null = null;

self.addEventListener('message', ({ data }: MessageEvent<ToWorker>) => {
  if (data.is === 'basis') {
    compute = openBasis(data.basis);
    return;
  }
  const { id, written, elapsedMs } = data;
  const answer = (message: FromWorker) => self.postMessage(message);
  try {
    if (compute) answer({ id, view: compute(written, elapsedMs) });
  } catch (error) {
    answer({ id, fault: error instanceof Error ? error.message : String(error) });
  }
});
