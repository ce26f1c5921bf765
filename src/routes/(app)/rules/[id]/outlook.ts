import type { FromWorker, ToWorker } from '$lib/worker/rule-outlook.worker.ts';
import type { RuleForecastView } from '$lib/view/models.ts';
import type { RuleBasis, WrittenRule } from '$lib/view/rule-basis.ts';

/**
 * Computes what a rule would do as it is typed: in a worker of the browser, or by the server where there are too many tasks. A request that
 * is overtaken by a newer one is dropped.
 */
export class OutlookClient {
  readonly #ruleId: number;
  #worker: Worker | null = null;
  #openedAt = 0;
  #opening: Promise<void> | null = null;
  #latest = 0;
  #waiting: { id: number; settle: (answer: FromWorker) => void } | null = null;

  constructor(ruleId: number) {
    this.#ruleId = ruleId;
  }

  /** Reads the basis anew: something else in the workspace has changed. */
  forget(): void {
    this.#opening = null;
  }

  close(): void {
    this.#worker?.terminate();
    this.#worker = null;
  }

  /** @returns null when a newer request has overtaken this one */
  async compute(written: WrittenRule & Record<string, unknown>): Promise<RuleForecastView | null> {
    const id = ++this.#latest;
    await (this.#opening ??= this.#open());
    if (id !== this.#latest) return null;
    if (!this.#worker) return this.#ask(written, id);
    const { name, definition } = written;
    const answer = await this.#send(id, { name, definition });
    if (!answer || id !== this.#latest) return null;
    if ('fault' in answer) throw new Error(answer.fault);
    return answer.view;
  }

  async #open(): Promise<void> {
    const response = await fetch(`/rules/${this.#ruleId}/basis`);
    const basis = response.ok ? ((await response.json()) as RuleBasis | null) : null;
    if (!basis) return this.close();
    if (!this.#worker) {
      const { default: OutlookWorker } = await import('$lib/worker/rule-outlook.worker.ts?worker');
      this.#worker = new OutlookWorker();
      this.#worker.addEventListener('message', ({ data }: MessageEvent<FromWorker>) => {
        if (this.#waiting?.id === data.id) this.#waiting.settle(data);
      });
    }
    this.#openedAt = performance.now();
    this.#worker.postMessage({ is: 'basis', basis } satisfies ToWorker);
  }

  #send(id: number, written: WrittenRule): Promise<FromWorker | null> {
    return new Promise((settle) => {
      this.#waiting = { id, settle };
      const elapsedMs = performance.now() - this.#openedAt;
      // What Svelte keeps is a proxy, which cannot be sent.
      const plain = JSON.parse(JSON.stringify(written)) as WrittenRule;
      this.#worker!.postMessage({ is: 'compute', id, written: plain, elapsedMs } satisfies ToWorker);
    });
  }

  async #ask(written: WrittenRule, id: number): Promise<RuleForecastView | null> {
    const response = await fetch(`/rules/${this.#ruleId}/forecast`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify(written)
    });
    if (!response.ok || id !== this.#latest) return null;
    return (await response.json()) as RuleForecastView;
  }
}
